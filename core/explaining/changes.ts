import type { MemoryModule } from '../memory/index.ts';
import { moduleText } from './fitting.ts';
import { money } from './money.ts';
import { gb, list } from './words.ts';

/** A field of something that was changed, with what it was and what it is; `null` = nothing. */
export interface NotedChange {
  readonly subject: string;
  /** The row, as people call it. */
  readonly what: string;
  /** A column, and the part of it where it has several: `consents.openCase`. */
  readonly field: string;
  readonly before: unknown;
  readonly after: unknown;
}

/** Subjects of changes, as they are chosen from and read. */
export const CHANGE_SUBJECTS = {
  price: 'Prices',
  plan: 'Plans',
  quote: 'Quotes',
  verdict: 'Verdicts',
  job: 'Terms of jobs',
  stock: 'Stock',
  supplier: 'Suppliers',
  account: 'Accounts',
  settings: 'Settings',
  customer: 'Customers',
} as const;
export type ChangeSubject = keyof typeof CHANGE_SUBJECTS;

const FIELDS: Readonly<Record<string, string>> = {
  dataBackedUp: 'Consent: data backed up',
  openCase: 'Consent: opening the case',
  warrantySeal: 'Consent: warranty seal',
  need: 'Need',
  budget: 'Budget',
  deadline: 'Deadline',
  margin: 'Margin on the need',
  school: 'Matching school',
  capacity_first: 'Room before speed',
  draw_cap: 'Bandwidth the work draws',
  dead_slots: 'Slots not to be used',
  machine_id: 'Machine',
  'result.headline': 'Verdict',
  total: 'Total',
  answer: 'Answer',
  price: 'Price',
  cost: 'Cost',
  supplier: 'Supplier',
  article: 'Article',
  units: 'Modules in a pack',
  state: 'State',
  place: 'Place',
  reserved_for: 'Held for a job',
  gone: 'Left stock',
  gone_note: 'Why it left',
  packs: 'Packs ordered',
  received: 'Packs received',
  cancelled_at: 'Order cancelled',
  contact: 'Contact',
  service_url: 'Address of its service',
  marginPercent: 'Margin on parts',
  roundPricesTo: 'Prices rounded to',
  labelSheet: 'Labels',
  needMargin: 'Margin on the need of new jobs',
  dates: 'How days are written',
  numbers: 'How numbers are written',
  activities: 'Usual activities',
  name: 'Name',
  role: 'Role',
  is_active: 'Account open',
  password: 'Password',
  setting: 'Planned firmware setting',
  is_open: 'Measuring door open',
  address: 'Address',
  port: 'Port',
  currency: 'Currency',
  taxPercent: 'Tax',
  creditPerGb: 'Credit for pulled modules, a GB',
  validDays: 'Days a quote holds',
  warranty: 'Warranty',
  paper: 'Paper',
  labour: 'Labour',
  data: 'Data',
};

const AMOUNTS = new Set(['budget', 'total', 'price', 'cost', 'creditPerGb', 'roundPricesTo']);
const UNITS: Readonly<Record<string, string>> = {
  taxPercent: ' %',
  marginPercent: ' %',
  validDays: ' days',
  draw_cap: ' GB/s',
};

/**
 * What was changed, in words: the field, and both sides of it.
 *
 * @param currency - amounts are in its minor units
 */
export function explainChange(
  { subject, field, what, before, after }: NotedChange,
  currency: string,
): { readonly title: string; readonly from: string; readonly to: string } {
  const [column = '', ...parts] = field.split('.');
  const part = parts.join('.');
  const key = FIELDS[field] === undefined && part !== '' ? part : field;
  const name = column === 'placement' ? `Planned in ${part}` : (FIELDS[key] ?? key);
  const text = (value: unknown) => valueText(key, value, currency);
  // That a password is new is all that is kept of it.
  if (field === 'password') return { title: `${name} of ${what}`, from: '', to: 'set anew' };
  const row = subject === 'quote' ? `quote ${what}` : what;
  return {
    title: row === '' ? name : `${name}, ${row}`,
    from: text(before),
    to: text(after),
  };
}

function valueText(key: string, value: unknown, currency: string): string {
  if (value === null || value === undefined || value === '') return 'none';
  if (AMOUNTS.has(key) && typeof value === 'number') return money(value, currency);
  if (key === 'need' && typeof value === 'number') return gb(value);
  if (key === 'margin' && typeof value === 'number') return `${Math.round(value * 100)} %`;
  if (key === 'labour' && typeof value === 'object')
    return list(
      Object.entries(value).map(([kind, amount]) => `${kind} ${money(Number(amount), currency)}`),
    );
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) return value.length === 0 ? 'none' : list(value.map(String));
  if (isModule(value)) return moduleText(value);
  if (typeof value === 'number' || typeof value === 'string') return `${value}${UNITS[key] ?? ''}`;
  return JSON.stringify(value);
}

const isModule = (value: unknown): value is MemoryModule =>
  typeof value === 'object' && value !== null && 'capacity' in value && 'generation' in value;
