import type { BankLayout } from './addresses.ts';
import type { Cycles } from './timings.ts';

/** No row is open. */
export const CLOSED = -1;
/** Later than anything. */
export const NEVER = Number.MAX_SAFE_INTEGER;

/**
 * The banks of a channel: which rows are open, and from when each command may be given by every rule of
 * the standard. Times in cycles.
 */
export class Banks {
  readonly count: number;
  readonly perRank: number;
  readonly rankOf: Int32Array;
  readonly openRow: Int32Array;
  readonly preReady: Float64Array;
  readonly actReady: Float64Array;
  /** When a row was last opened or used. */
  readonly lastUse: Float64Array;

  private readonly groupOf: Int32Array;
  private readonly casReady: Float64Array;
  private readonly groupAct: Float64Array;
  private readonly groupRead: Float64Array;
  private readonly groupWrite: Float64Array;
  private readonly rankAct: Float64Array;
  private readonly rankRead: Float64Array;
  private readonly rankWrite: Float64Array;
  /** The last four rows opened in a rank, and which of them is the first. */
  private readonly lastActs: Float64Array;
  private readonly lastActAt: Int32Array;
  private busFree = 0;
  private busRank = -1;
  private busWrote = false;

  constructor(
    ranks: number,
    { groups, perGroup }: BankLayout,
    private readonly t: Cycles,
  ) {
    this.perRank = groups * perGroup;
    this.count = ranks * this.perRank;
    const banks = { length: this.count };
    this.rankOf = Int32Array.from(banks, (_, bank) => Math.floor(bank / this.perRank));
    this.groupOf = Int32Array.from(banks, (_, bank) => Math.floor(bank / perGroup));
    this.openRow = new Int32Array(this.count).fill(CLOSED);
    this.actReady = new Float64Array(this.count);
    this.preReady = new Float64Array(this.count);
    this.casReady = new Float64Array(this.count);
    this.lastUse = new Float64Array(this.count);
    this.groupAct = new Float64Array(ranks * groups);
    this.groupRead = new Float64Array(ranks * groups);
    this.groupWrite = new Float64Array(ranks * groups);
    this.rankAct = new Float64Array(ranks);
    this.rankRead = new Float64Array(ranks);
    this.rankWrite = new Float64Array(ranks);
    this.lastActs = new Float64Array(ranks * 4).fill(-NEVER);
    this.lastActAt = new Int32Array(ranks);
  }

  /** When a bank’s open row may be read or written, from a slot of the command bus on. */
  casAt(bank: number, isWrite: boolean, slot: number): number {
    const { t } = this;
    const rank = this.rankOf[bank]!;
    const group = this.groupOf[bank]!;
    let when = slot;
    const ofBank = this.casReady[bank]!;
    if (ofBank > when) when = ofBank;
    const ofGroup = (isWrite ? this.groupWrite : this.groupRead)[group]!;
    if (ofGroup > when) when = ofGroup;
    const ofRank = (isWrite ? this.rankWrite : this.rankRead)[rank]!;
    if (ofRank > when) when = ofRank;
    // The data must find the bus free, and turned round.
    let free = this.busFree;
    if (this.busRank >= 0 && this.busRank !== rank) free += t.rankGap;
    if (isWrite && !this.busWrote && this.busRank >= 0)
      free = Math.max(free, this.busFree + t.readWriteGap);
    const early = free - (isWrite ? t.cwl : t.cl);
    return early > when ? early : when;
  }

  /** When a row may be opened. */
  actAt(bank: number, slot: number): number {
    const rank = this.rankOf[bank]!;
    let when = slot;
    const ofBank = this.actReady[bank]!;
    if (ofBank > when) when = ofBank;
    const ofGroup = this.groupAct[this.groupOf[bank]!]!;
    if (ofGroup > when) when = ofGroup;
    const ofRank = this.rankAct[rank]!;
    if (ofRank > when) when = ofRank;
    // The fifth row in a window waits for the first of the four to leave it.
    const fourth = this.lastActs[rank * 4 + this.lastActAt[rank]!]! + this.t.faw;
    return fourth > when ? fourth : when;
  }

  /** When a row may be closed. */
  preAt(bank: number, slot: number): number {
    const ready = this.preReady[bank]!;
    return ready > slot ? ready : slot;
  }

  /** A row is opened. */
  open(at: number, bank: number, row: number): void {
    const { t } = this;
    const rank = this.rankOf[bank]!;
    this.openRow[bank] = row;
    this.casReady[bank] = at + t.rcd;
    this.preReady[bank] = at + t.ras;
    this.actReady[bank] = at + t.rc;
    this.lastUse[bank] = at;
    this.groupAct[this.groupOf[bank]!] = at + t.rrdLong;
    this.rankAct[rank] = at + t.rrdShort;
    const next = this.lastActAt[rank]!;
    this.lastActs[rank * 4 + next] = at;
    this.lastActAt[rank] = (next + 1) % 4;
  }

  /** A row is closed. */
  close(at: number, bank: number): void {
    this.openRow[bank] = CLOSED;
    this.actReady[bank] = Math.max(this.actReady[bank]!, at + this.t.rp);
  }

  /** A whole rank is refreshed. */
  refresh(at: number, rank: number): void {
    this.actReady.fill(at + this.t.rfc, rank * this.perRank, (rank + 1) * this.perRank);
  }

  /**
   * A line is read or written.
   *
   * @returns when its data is over
   */
  transfer(at: number, bank: number, isWrite: boolean): number {
    const { t } = this;
    const rank = this.rankOf[bank]!;
    const group = this.groupOf[bank]!;
    const end = at + (isWrite ? t.cwl : t.cl) + t.burst;
    this.lastUse[bank] = at;
    this.busFree = end;
    this.busRank = rank;
    this.busWrote = isWrite;
    raise(this.preReady, bank, isWrite ? end + t.wr : at + t.rtp);
    raise(this.rankWrite, rank, at + t.ccdShort);
    raise(this.groupWrite, group, at + (isWrite ? t.ccdLongWrite : t.ccdLong));
    raise(this.rankRead, rank, isWrite ? end + t.wtrShort : at + t.ccdShort);
    raise(this.groupRead, group, isWrite ? end + t.wtrLong : at + t.ccdLong);
    return end;
  }
}

function raise(times: Float64Array, at: number, to: number): void {
  if (to > times[at]!) times[at] = to;
}
