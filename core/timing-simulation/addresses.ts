import { MODELS } from './models.ts';
import type { ControllerChoices, MemorySystem } from './types.ts';

/** How the banks of one rank lie. */
export interface BankLayout {
  readonly groups: number;
  readonly perGroup: number;
  /** Lines of 64 bytes in a row. */
  readonly columns: number;
  /** Bank-group bits below the columns. */
  readonly lowGroupBits: number;
}

/** Banks of a rank, by generation and chip (JESD79-3, -4, -5). */
export function bankLayout({
  generation,
  chipWidth,
  density,
}: Pick<MemorySystem, 'generation' | 'chipWidth' | 'density'>): BankLayout {
  const { groups, perGroup, columns, lowGroupBits } = MODELS[generation];
  return {
    groups: groups(chipWidth >= 16),
    perGroup: perGroup(density),
    ...{ columns, lowGroupBits },
  };
}

const LINE_BYTES = 64;

/**
 * Where lines lie: over the channels of their zone in turns, and within a channel over bank groups,
 * banks and ranks, so that neighbours can be fetched side by side. Every bit of a row stirs the bank
 * it is in: patterns with large strides would else meet in one bank.
 */
export class AddressMap {
  /** Of the line decoded last. Channel counts subchannels of DDR5 each as one. */
  channel = 0;
  bank = 0;
  row = 0;

  readonly channels: number;
  /** Banks of each channel, over all its ranks. */
  readonly banks: readonly number[];
  readonly lines: number;
  private readonly zones: readonly (readonly number[])[];
  private readonly ranks: readonly number[];
  private readonly layout: BankLayout;
  private readonly subs: number;
  private readonly granule: number;
  private readonly subGranule: number;
  private readonly ends: readonly number[];
  /** First local line of each zone on each channel. */
  private readonly bases: readonly (readonly number[])[];

  constructor(
    system: MemorySystem,
    choices: Pick<ControllerChoices, 'channelGranule' | 'subchannelGranule'>,
  ) {
    this.layout = bankLayout(system);
    this.zones = system.zones.map(({ channels }) => channels);
    this.ranks = system.ranks;
    this.subs = MODELS[system.generation].subchannels;
    this.granule = Math.max(1, choices.channelGranule / LINE_BYTES);
    this.subGranule = Math.max(1, choices.subchannelGranule / LINE_BYTES);
    this.channels = system.ranks.length * this.subs;
    const perRank = this.layout.groups * this.layout.perGroup;
    this.banks = system.ranks.flatMap((ranks) =>
      Array.from({ length: this.subs }, () => ranks * perRank),
    );
    const used = system.ranks.map(() => 0);
    const bases: number[][] = [];
    const ends: number[] = [];
    let end = 0;
    for (const { channels, lines } of system.zones) {
      bases.push([...used]);
      for (const channel of channels)
        used[channel] = (used[channel] ?? 0) + Math.ceil(lines / channels.length);
      end += lines;
      ends.push(end);
    }
    this.bases = bases;
    this.ends = ends;
    this.lines = end;
  }

  /** Finds the place of a line; it stands in {@link channel}, {@link bank} and {@link row}. */
  decode(line: number): void {
    let zone = 0;
    while (zone < this.ends.length - 1 && line >= this.ends[zone]!) zone++;
    const own = this.zones[zone]!;
    const within = zone === 0 ? line : line - this.ends[zone - 1]!;
    const turn = Math.floor(within / this.granule);
    const ways = own.length;
    const block = Math.floor(turn / ways);
    // Turned by the block's own digits: large strides reach every channel.
    const at = ways === 1 ? 0 : turned(turn - block * ways, block, ways);
    const channel = own[at]!;
    let local = this.bases[zone]![channel]! + block * this.granule + (within - turn * this.granule);
    let sub = 0;
    if (this.subs === 2) {
      const half = Math.floor(local / this.subGranule);
      const pair = Math.floor(half / 2);
      sub = turned(half - pair * 2, pair, 2);
      local = pair * this.subGranule + (local - half * this.subGranule);
    }
    this.channel = channel * this.subs + sub;
    this.place(local, this.ranks[channel]!);
  }

  /** Low to high: low bank-group bits, columns, other bank-group bits, banks, ranks, rows. */
  private place(local: number, ranks: number): void {
    const { groups, perGroup, columns, lowGroupBits } = this.layout;
    const low = 1 << lowGroupBits;
    const above = Math.floor(local / low);
    const lowGroup = local - above * low;
    // Rows of a channel, of all its banks: below 32 bits for any module there is.
    const rowOfAll = Math.floor(above / columns) | 0;
    const highGroups = groups >> lowGroupBits;
    const highGroup = rowOfAll % highGroups;
    const ofBank = (rowOfAll / highGroups) | 0;
    const bank = ofBank % perGroup;
    const ofRank = (ofBank / perGroup) | 0;
    const rank = ofRank % ranks;
    const row = (ofRank / ranks) | 0;
    const group = ((highGroup << lowGroupBits) | lowGroup) ^ folded(row, groups);
    this.row = row;
    this.bank = (rank * groups + group) * perGroup + (bank ^ folded(row >> 1, perGroup));
  }
}

/** All binary digits of a number folded into a power of two, so that each of them counts. */
function folded(value: number, into: number): number {
  if (into === 1) return 0;
  const bits = 31 - Math.clz32(into);
  let rest = value;
  let sum = 0;
  while (rest > 0) {
    sum ^= rest & (into - 1);
    rest >>>= bits;
  }
  return sum;
}

/** A place in a turn, moved on by the digits of the turn's number: which way a turn begins. */
function turned(place: number, block: number, ways: number): number {
  const high = Math.floor(block / 2 ** 31);
  const low = block - high * 2 ** 31;
  if ((ways & (ways - 1)) === 0) return place ^ folded(low, ways) ^ folded(high, ways);
  let rest = low;
  let sum = high;
  while (rest > 0) {
    sum += rest % ways;
    rest = (rest / ways) | 0;
  }
  return (place + sum) % ways;
}
