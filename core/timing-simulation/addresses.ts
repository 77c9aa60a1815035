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
  private readonly layout: BankLayout;
  private readonly subs: number;
  private readonly granule: number;
  private readonly subGranule: number;
  private readonly ends: readonly number[];
  /** First local line of each zone on each channel. */
  private readonly bases: readonly (readonly number[])[];

  constructor(
    private readonly system: MemorySystem,
    choices: Pick<ControllerChoices, 'channelGranule' | 'subchannelGranule'>,
  ) {
    this.layout = bankLayout(system);
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
    while (zone < this.ends.length - 1 && line >= (this.ends[zone] ?? 0)) zone++;
    const own = this.system.zones[zone]?.channels ?? [];
    const first = zone === 0 ? 0 : (this.ends[zone - 1] ?? 0);
    const turn = Math.floor((line - first) / this.granule);
    const ways = own.length;
    const block = Math.floor(turn / ways);
    // Turned by a sum of the block's own digits: large strides reach every channel.
    const at = ways === 1 ? 0 : (turn + stirred(block, ways)) % ways;
    const channel = own[at] ?? 0;
    let local =
      (this.bases[zone]?.[channel] ?? 0) + block * this.granule + ((line - first) % this.granule);
    let sub = 0;
    if (this.subs === 2) {
      const half = Math.floor(local / this.subGranule);
      const pair = Math.floor(half / 2);
      sub = (half + stirred(pair, 2)) % 2;
      local = pair * this.subGranule + (local % this.subGranule);
    }
    this.channel = channel * this.subs + sub;
    this.place(local, this.system.ranks[channel] ?? 1);
  }

  /** Low to high: low bank-group bits, columns, other bank-group bits, banks, ranks, rows. */
  private place(local: number, ranks: number): void {
    const { groups, perGroup, columns, lowGroupBits } = this.layout;
    const low = 2 ** lowGroupBits;
    const lowGroup = local % low;
    let rest = Math.floor(Math.floor(local / low) / columns);
    const highGroups = groups / low;
    const highGroup = rest % highGroups;
    rest = Math.floor(rest / highGroups);
    const bank = rest % perGroup;
    rest = Math.floor(rest / perGroup);
    const rank = rest % ranks;
    const row = Math.floor(rest / ranks);
    const group = (highGroup * low + lowGroup) ^ folded(row, groups);
    const stirredBank = bank ^ folded(Math.floor(row / 2), perGroup);
    this.row = row;
    this.bank = (rank * groups + group) * perGroup + stirredBank;
  }
}

/** All binary digits of a number folded into a power of two, so that each of them counts. */
function folded(value: number, into: number): number {
  if (into === 1) return 0;
  let [rest, sum] = [value, 0];
  while (rest > 0) {
    sum ^= rest % into;
    rest = Math.floor(rest / into);
  }
  return sum;
}

/** The digits of a number to some base, added up: which way a turn begins. */
function stirred(value: number, base: number): number {
  let [rest, sum] = [value, 0];
  while (rest > 0) {
    sum += rest % base;
    rest = Math.floor(rest / base);
  }
  return sum;
}
