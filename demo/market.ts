import type { MemoryModule } from '#core/memory';
import { USUAL_ACTIVITIES } from '#core/need';
import { DEFAULT_WRITING } from '#core/units';
import type { MACHINES } from './machines.ts';
import { moduleOf } from './parts.ts';

/** One line of a supplier's list, as the bench typed it. Prices in minor units, tax included. */
export interface MarketLine {
  readonly label: string;
  readonly supplier: string;
  readonly article: string;
  readonly units?: number;
  readonly price: number | null;
  readonly stock?: number | null;
  readonly leadDays?: number;
  readonly verifiedOn?: readonly (keyof typeof MACHINES)[];
}

const MAINLAND = 'Mainland parts hall';
const QUAY = 'Quayside electronics';
const BARGE = 'Barge & Bit surplus';

type Row = readonly [
  label: string,
  article: string,
  price: number | null,
  stock: number | null,
  units?: number,
  verifiedOn?: readonly (keyof typeof MACHINES)[],
];

const lines = (supplier: string, leadDays: number, rows: readonly Row[]): MarketLine[] =>
  rows.map(([label, article, price, stock, units = 1, verifiedOn = []]) => ({
    ...{ label, supplier, article, price, stock, units, leadDays, verifiedOn },
  }));

/** What three made-up suppliers offer, from DDR2 to compression modules. */
export const MARKET: readonly MarketLine[] = [
  ...lines(MAINLAND, 3, [
    ['8GB 1Rx8 PC4-2666V-SA1-11 PV-8S26', 'M-1081', 2190, 12],
    ['16GB 2Rx8 PC4-2666V-SE1-11 ORL-16S26', 'M-1161', 3990, 6],
    ['16GB 2Rx8 PC4-3200AA-SE1-11 ORL-16S32', 'M-1162', 8190, 5, 2],
    ['4GB 1Rx16 PC4-2400T-SC0-11 PV-4S24', 'M-1041', 1290, 20, 1, ['ferrySmall']],
    ['8GB 1Rx8 PC4-2400T-SA1-11 PV-8S24', 'M-1082', 2090, 8, 1, ['ferrySmall', 'choirLaptop']],
    ['8GB 1Rx8 PC4-2666V-UA2-11 KB-8U26', 'M-2081', 2290, 9, 1, ['archiveDesktop']],
    ['8GB 1Rx8 PC4-2666V-UA2-11 KB-8U26', 'M-2082', 8390, 3, 4, ['archiveDesktop']],
    ['16GB 2Rx8 PC4-2666V-UB1-11 KB-16U26', 'M-2161', 7990, 4, 2],
    ['16GB 1Rx8 PC4-3200AA-UA3-11 PV-16U32', 'M-2162', 3890, 10],
    ['16GB 1Rx8 PC4-3200AA-UA3-11 PV-16U32', 'M-2163', 7590, 5, 2],
    ['16GB 1Rx8 PC5-5600B-UA0-1010 KB-16U56', 'M-3161', 5490, 8, 1, ['cadBoard']],
    ['16GB 1Rx8 PC5-5600B-UA0-1010 KB-16U56', 'M-3162', 10_590, 6, 2, ['cadBoard']],
    ['32GB 2Rx8 PC5-5600B-UB0-1010 KB-32U56', 'M-3321', 20_990, 3, 2, ['cadBoard']],
    ['48GB 2Rx8 PC5-5600B-UB0-1010 KB-48U56', 'M-3481', 33_900, 2, 2],
    ['16GB 2Rx8 PC4-2933Y-RE2-12 SW-16R29', 'M-4161', 4900, 16],
    ['32GB 2Rx4 PC4-2933Y-RB2-12 SW-32R29', 'M-4321', 9200, 8],
    ['32GB 2Rx4 PC4-2933Y-RB2-12 SW-32R29', 'M-4322', 34_900, 2, 4],
    ['24GB 1Rx8 PC5-5200B-SA0-1010 ORL-24S52', 'M-5241', 8290, 4],
    ['16GB 1Rx8 PC5-5600B-SA0-1010 ORL-16S56', 'M-5161', 5390, 7],
    ['32GB 2Rx8 PC5-5600B-SB0-1010 ORL-32S56', 'M-5321', 10_290, null],
  ]),
  ...lines(QUAY, 1, [
    ['2x8GB DDR4-3600 CL18-22-22-42 1.35V DIMM TV-8G36', 'Q-36K', 5290, 4, 2, ['gameBoard']],
    ['2x16GB DDR4-3600 CL18-22-22-42 1.35V DIMM TV-16G36', 'Q-36L', 9490, 3, 2, ['gameBoard']],
    ['2x16GB DDR4-3200 CL16-18-18-38 1.35V DIMM TV-16G32', 'Q-32L', 8490, 5, 2],
    ['8GB 1Rx8 PC4-2666V-UA2-11 PV-8U26', 'Q-8U', 2390, 6],
    ['8GB 1Rx16 PC4-3200AA-UC1-11 QL-8U32', 'Q-8X', 1990, 11],
    ['16GB 2Rx8 PC4-2666V-SE1-11 ORL-16S26', 'Q-16S', 4150, 2],
    ['32GB 2Rx8 PC4-3200AA-SE1-11 ORL-32S32', 'Q-32S', 7890, 3],
    ['2x32GB DDR5-6000 CL30-38-38-96 1.35V DIMM TV-32G60', 'Q-60', 24_900, 2, 2],
    ['8GB 2Rx8 PC3L-12800S-11-13-F3 TD-8L16', 'Q-8L', 2490, 5, 1, ['chessLaptop']],
    ['4GB 1Rx8 PC3L-12800S-11-13-B4 TD-4L16', 'Q-4L', 1390, 9],
  ]),
  ...lines(BARGE, 7, [
    ['1GB 2Rx8 PC2-6400U-666 TD-1U08', 'B-17', 490, 40],
    ['2GB 2Rx8 PC2-6400U-666 TD-2U08', 'B-18', 890, 12],
    ['4GB 1Rx8 PC4-2133P-SA0-10 QL-4S21', 'B-31', 790, 15],
    ['8GB 2Rx8 PC4-2133P-UB0-10 QL-8U21', 'B-33', 1390, 7],
    ['8GB 1Rx8 PC4-2400T-UA1-11 QL-8U24', 'B-34', 1690, 10],
    ['16GB 2Rx8 PC4-2400T-UB1-11 QL-16U24', 'B-35', 2990, 3, 3],
    ['16GB 2Rx4 PC4-2400T-RB1-11 SW-16R24', 'B-41', 2690, 24],
    ['8GB 1Rx8 PC5-4800B-SA0-1010 PV5-08S', 'B-51', 2490, null],
    ['8GB 2Rx8 PC3-12800S-11-11-F3 TD-8S16', 'B-22', 1290, 6],
  ]),
  // Known to the bench, not for sale now.
  ...lines('', 0, [['64GB 2Rx4 PC4-2933Y-RB2-12 SW-64R29', '', null, null]]),
];

/** What a pack costs the made-up shop, without tax: a quarter is earned on it. */
export const costOf = ({ price }: MarketLine): number | null =>
  price === null ? null : Math.round(price / 1.5);

/** Whom to call there. */
export const CONTACTS: Readonly<Record<string, string>> = {
  [MAINLAND]: 'Order by eight, on the morning ferry the third day. Ask for counter two.',
  [QUAY]: 'Own service; collects until six.',
  [BARGE]: 'Saturdays at the slip, cash. No returns without the sticker.',
};

/** Used modules in the drawer, with where they came from. */
export const DRAWER: readonly {
  readonly label: string;
  readonly state: 'tested' | 'untested' | 'faulty';
  readonly price: number;
  readonly cost?: number;
  readonly place?: string;
  readonly origin: string;
}[] = [
  {
    label: '4GB 1Rx16 PC4-2400T-SC0-11 PV-4S24',
    state: 'tested',
    price: 500,
    cost: 160,
    place: 'Laptop tray',
    origin: 'Choir laptop, left of the pair',
  },
  {
    label: '4GB 1Rx16 PC4-2400T-SC0-11 PV-4S24',
    state: 'tested',
    price: 500,
    cost: 160,
    place: 'Laptop tray',
    origin: 'Choir laptop, right of the pair',
  },
  {
    label: '8GB 1Rx8 PC4-2400T-SA1-11 PV-8S24',
    state: 'tested',
    price: 1000,
    cost: 320,
    place: 'Laptop tray',
    origin: 'Breakwater choir, after the upgrade',
  },
  {
    label: '8GB 1Rx8 PC4-2666V-UA2-11 PV-8U26',
    state: 'untested',
    price: 900,
    origin: 'Harbour master, desktop scrapped',
  },
  {
    label: '8GB 1Rx8 PC4-2666V-UA2-11 QL-8U26',
    state: 'faulty',
    price: 0,
    origin: 'Errors in test, kept for the return',
  },
  {
    label: '4GB 1Rx8 PC3L-12800S-11-13-B4 TD-4L16',
    state: 'tested',
    price: 400,
    origin: 'Chess club, after the upgrade',
  },
  {
    label: '16GB 1Rx8 PC5-5600B-UA0-1010 KB-16U56',
    state: 'tested',
    price: 3500,
    cost: 1900,
    place: 'Shelf over the bench',
    origin: 'Boatyard, spare',
  },
];

/** Maker codes behind the part numbers' letters, as inventories of the same parts carry them. */
const MAKER_OF: Readonly<Record<string, string>> = { PV: '121-C8', KB: '122-13', ORL: '121-4A' };

/** The module of a line, with the maker its part number stands for. */
export function moduleOfLine(label: string): MemoryModule {
  const module = moduleOf(label);
  const letters = module.partNumber?.split('-')[0] ?? '';
  return { ...module, ...(MAKER_OF[letters] ? { maker: MAKER_OF[letters] } : {}) };
}

/** What the made-up shop charges. */
export const SHOP_TERMS = {
  name: 'Tolvarra Ferry Repairs',
  address: 'Ticket hall, ferry terminal\nTolvarra',
  currency: 'EUR',
  taxPercent: 20,
  labour: {
    desktop: 2800,
    'small desktop': 3200,
    laptop: 3900,
    workstation: 4500,
    'all-in-one': 5500,
  },
  creditPerGb: 40,
  validDays: 14,
  warranty: 'five years on memory we sold, against this page; used modules one year.',
  paper: 'A4',
  marginPercent: 25,
  roundPricesTo: 10,
  labelSheet: 'a4-24',
  school: 'balanced',
  needMargin: 0.25,
  activities: [...USUAL_ACTIVITIES, { name: 'Tide tables and chart plotting', low: 2, high: 6 }],
  ...DEFAULT_WRITING,
} as const;
