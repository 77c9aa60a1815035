import type { Cycles } from './timings.ts';
import type { BankLayout } from './addresses.ts';
import type { CommandListener, ControllerChoices } from './types.ts';

const NONE = 0;
const ACT = 1;
const PRE = 2;
const READ = 3;
const WRITE = 4;
const REF = 5;
/** Look again: a refresh falls due before anything else may be given. */
const WAKE = 6;

const CLOSED = -1;
const NEVER = Number.MAX_SAFE_INTEGER;

/** Requests waiting, the oldest first. */
class Queue {
  count = 0;
  readonly bank: Int32Array;
  readonly row: Int32Array;
  readonly arrived: Float64Array;
  readonly request: Int32Array;

  constructor(readonly size: number) {
    this.bank = new Int32Array(size);
    this.row = new Int32Array(size);
    this.arrived = new Float64Array(size);
    this.request = new Int32Array(size);
  }

  add(bank: number, row: number, at: number, request: number): void {
    const last = this.count++;
    this.bank[last] = bank;
    this.row[last] = row;
    this.arrived[last] = at;
    this.request[last] = request;
  }

  remove(at: number): void {
    const last = --this.count;
    this.bank.copyWithin(at, at + 1, last + 1);
    this.row.copyWithin(at, at + 1, last + 1);
    this.arrived.copyWithin(at, at + 1, last + 1);
    this.request.copyWithin(at, at + 1, last + 1);
  }
}

/**
 * One channel (of DDR5: subchannel) with its controller: the command that can be given first is given
 * first, a read or write before others where both can, the older before the younger. Writes are
 * gathered and drained; a row nobody asks for is closed; every rank is refreshed on time, whole.
 */
export class Channel {
  /** When the next command is given, cycles; {@link NEVER} while there is nothing to do. */
  at = NEVER;
  /** Of the last read given: the request, when it arrived, and when its data has come. */
  readRequest = 0;
  readArrived = 0;
  readDone = 0;
  /** Lines moved so far, either way. */
  moved = 0;
  readonly reads: Queue;
  readonly writes: Queue;

  private command = NONE;
  private entry = 0;
  private bank = 0;
  /** The first read or write that can be given, and the first other command. */
  private casTime = NEVER;
  private casEntry = 0;
  private otherTime = NEVER;
  private otherCommand = NONE;
  private otherBank = 0;
  private otherEntry = 0;
  /** When the next rank falls due for refresh. */
  private wake = NEVER;
  /** The oldest has waited too long; `isLocked`: it alone is looked at. */
  private isOld = false;
  private isLocked = false;
  private isDraining = false;
  /** Writes are served now. */
  private drains = false;
  private commandFree = 0;
  private busFree = 0;
  private busRank = -1;
  private busWrote = false;
  private timeoutHint = NEVER;
  private stamp = 0;

  private readonly perRank: number;
  private readonly ageCap: number;
  private readonly timeout: number;
  private readonly rankOf: Int32Array;
  private readonly groupOf: Int32Array;
  private readonly openRow: Int32Array;
  private readonly actReady: Float64Array;
  private readonly preReady: Float64Array;
  private readonly casReady: Float64Array;
  private readonly lastUse: Float64Array;
  /** Requests waiting for each bank, and those of them that find their row open. */
  private readonly readsAt: Int32Array;
  private readonly writesAt: Int32Array;
  private readonly readHits: Int32Array;
  private readonly writeHits: Int32Array;
  private readonly seen: Int32Array;
  private readonly groupAct: Float64Array;
  private readonly groupRead: Float64Array;
  private readonly groupWrite: Float64Array;
  private readonly rankAct: Float64Array;
  private readonly rankRead: Float64Array;
  private readonly rankWrite: Float64Array;
  private readonly lastActs: Float64Array;
  private readonly lastActAt: Int32Array;
  private readonly due: Float64Array;

  constructor(
    private readonly index: number,
    private readonly ranks: number,
    layout: BankLayout,
    private readonly t: Cycles,
    private readonly choices: ControllerChoices,
    private readonly listener: CommandListener | undefined,
    /** Looks at everything anew with each request, as a check of the shorter way. */
    private readonly rescans = false,
  ) {
    const { groups, perGroup } = layout;
    this.perRank = groups * perGroup;
    const banks = ranks * this.perRank;
    this.reads = new Queue(choices.queue);
    this.writes = new Queue(choices.queue);
    this.ageCap = (choices.ageCap * 1000) / t.clock;
    this.timeout = Math.round((choices.pageTimeout * 1000) / t.clock);
    this.rankOf = Int32Array.from({ length: banks }, (_, bank) => Math.floor(bank / this.perRank));
    this.groupOf = Int32Array.from({ length: banks }, (_, bank) => Math.floor(bank / perGroup));
    this.openRow = new Int32Array(banks).fill(CLOSED);
    this.actReady = new Float64Array(banks);
    this.preReady = new Float64Array(banks);
    this.casReady = new Float64Array(banks);
    this.lastUse = new Float64Array(banks);
    this.readsAt = new Int32Array(banks);
    this.writesAt = new Int32Array(banks);
    this.readHits = new Int32Array(banks);
    this.writeHits = new Int32Array(banks);
    this.seen = new Int32Array(banks);
    this.groupAct = new Float64Array(ranks * groups);
    this.groupRead = new Float64Array(ranks * groups);
    this.groupWrite = new Float64Array(ranks * groups);
    this.rankAct = new Float64Array(ranks);
    this.rankRead = new Float64Array(ranks);
    this.rankWrite = new Float64Array(ranks);
    this.lastActs = new Float64Array(ranks * 4).fill(-NEVER);
    this.lastActAt = new Int32Array(ranks);
    // Channels refresh together, ranks by turns: staggered channels would each stop all cores.
    this.due = Float64Array.from({ length: ranks }, (_, rank) =>
      choices.refreshes ? Math.floor((t.refi * (rank + 1)) / ranks) : NEVER,
    );
  }

  /** Whether another request of this kind finds room. */
  hasRoom(isWrite: boolean): boolean {
    const queue = isWrite ? this.writes : this.reads;
    return queue.count < queue.size;
  }

  /**
   * Takes a request. It alone is weighed against what was to come next, unless it changes what the
   * others may do.
   */
  take(isWrite: boolean, bank: number, row: number, now: number, request: number): void {
    const queue = isWrite ? this.writes : this.reads;
    const waiting = isWrite ? this.writesAt : this.readsAt;
    const hits = isWrite ? this.writeHits : this.readHits;
    const isHit = this.openRow[bank] === row;
    const others = (waiting[bank] ?? 0) - (hits[bank] ?? 0);
    queue.add(bank, row, now, request);
    waiting[bank] = (waiting[bank] ?? 0) + 1;
    if (isHit) hits[bank] = (hits[bank] ?? 0) + 1;
    const didDrain = this.drains;
    const isSpared = this.command === PRE && this.bank === bank;
    if (this.chooseQueue() !== didDrain || isSpared || this.rescans) {
      this.decide(now);
      return;
    }
    if (isWrite !== this.drains || this.isLocked) return;
    const rank = this.rankOf[bank] ?? 0;
    const due = this.due[rank] ?? NEVER;
    const slot = Math.max(this.commandFree, now);
    if (due <= slot) return;
    if (isHit) {
      const when = this.casAt(bank, rank, isWrite, slot);
      if (when >= due || when >= this.casTime) return;
      this.casTime = when;
      this.casEntry = queue.count - 1;
    } else {
      // An older one already asks for another row of this bank.
      if (others > 0) return;
      const isOpen = this.openRow[bank] !== CLOSED;
      if (isOpen && (hits[bank] ?? 0) > 0 && !this.isOld) return;
      const when = isOpen ? Math.max(slot, this.preReady[bank] ?? 0) : this.actAt(bank, rank, slot);
      if (when >= due || when >= this.otherTime) return;
      this.otherTime = when;
      this.otherCommand = isOpen ? PRE : ACT;
      this.otherBank = bank;
      this.otherEntry = queue.count - 1;
    }
    this.settle(slot);
  }

  /** Whether writes are served now. */
  private chooseQueue(): boolean {
    const { count } = this.writes;
    if (count >= this.choices.drainFrom) this.isDraining = true;
    else if (count <= this.choices.drainTo) this.isDraining = false;
    this.drains = this.isDraining || (this.reads.count === 0 && count >= this.choices.idleDrain);
    return this.drains;
  }

  /** Looks at everything anew: which command comes next, and when. */
  private decide(now: number): void {
    const slot = Math.max(this.commandFree, now);
    this.casTime = NEVER;
    this.otherTime = NEVER;
    this.otherCommand = NONE;
    this.refreshNext(slot);
    const isWrite = this.chooseQueue();
    const queue = isWrite ? this.writes : this.reads;
    const hits = isWrite ? this.writeHits : this.readHits;
    // Counted from the last command, so that nothing that arrives makes another old.
    this.isOld = queue.count > 0 && this.commandFree - (queue.arrived[0] ?? 0) > this.ageCap;
    this.isLocked = this.isOld && this.isSpared(queue.bank[0] ?? 0, slot);
    const last = this.isLocked ? 1 : queue.count;
    const stamp = ++this.stamp;
    for (let one = 0; one < last; one++) {
      const bank = queue.bank[one] ?? 0;
      const open = this.openRow[bank] ?? CLOSED;
      const isHit = open === queue.row[one];
      if (!isHit && this.seen[bank] === stamp) continue;
      const rank = this.rankOf[bank] ?? 0;
      const due = this.due[rank] ?? NEVER;
      if (due <= slot) continue;
      if (isHit) {
        const when = this.casAt(bank, rank, isWrite, slot);
        if (when < due && when < this.casTime) {
          this.casTime = when;
          this.casEntry = one;
          // Nothing can come before it.
          if (when === slot) break;
        }
        continue;
      }
      this.seen[bank] = stamp;
      // Those that find the row open come first, unless this one has waited too long.
      if (open !== CLOSED && (hits[bank] ?? 0) > 0 && !this.isOld) continue;
      const when =
        open === CLOSED ? this.actAt(bank, rank, slot) : Math.max(slot, this.preReady[bank] ?? 0);
      if (when >= due || when >= this.otherTime) continue;
      this.otherTime = when;
      this.otherCommand = open === CLOSED ? ACT : PRE;
      this.otherBank = bank;
      this.otherEntry = one;
    }
    this.settle(slot);
  }

  /** Ranks whose refresh is due: their rows are closed one by one, then they are refreshed. */
  private refreshNext(slot: number): void {
    this.wake = NEVER;
    for (let rank = 0; rank < this.ranks; rank++) {
      const due = this.due[rank] ?? NEVER;
      if (due > slot) {
        if (due < this.wake) this.wake = due;
        continue;
      }
      let ready = slot;
      let closing = -1;
      for (let one = rank * this.perRank; one < (rank + 1) * this.perRank; one++) {
        if (this.openRow[one] !== CLOSED) {
          if (closing < 0 || (this.preReady[one] ?? 0) < (this.preReady[closing] ?? 0))
            closing = one;
        } else if ((this.actReady[one] ?? 0) > ready) ready = this.actReady[one] ?? 0;
      }
      const when = closing < 0 ? ready : Math.max(slot, this.preReady[closing] ?? 0);
      if (when >= this.otherTime) continue;
      this.otherTime = when;
      this.otherCommand = closing < 0 ? REF : PRE;
      this.otherBank = closing < 0 ? rank * this.perRank : closing;
    }
  }

  /** Chooses between the first read or write, the first other command, an idle row, and waiting. */
  private settle(slot: number): void {
    const length = this.otherCommand === ACT ? this.t.commandSlots : 1;
    // A read or write goes first, unless another command is over before it.
    if (this.casTime < this.otherTime + length) {
      this.at = this.casTime;
      this.command = this.drains ? WRITE : READ;
      this.entry = this.casEntry;
      this.bank = (this.drains ? this.writes : this.reads).bank[this.casEntry] ?? 0;
    } else {
      this.at = this.otherTime;
      this.command = this.otherCommand;
      this.entry = this.otherEntry;
      this.bank = this.otherBank;
    }
    if (this.timeoutHint < this.at) {
      const idle = this.idleBank(slot);
      if (idle >= 0) {
        const left = (this.lastUse[idle] ?? 0) + this.timeout;
        const when = Math.max(slot, this.preReady[idle] ?? 0, left);
        if (when < this.at && when < (this.due[this.rankOf[idle] ?? 0] ?? NEVER)) {
          this.at = when;
          this.command = PRE;
          this.bank = idle;
        }
      }
    }
    if (this.wake <= this.at) {
      this.at = this.wake;
      this.command = WAKE;
    }
  }

  /** Gives the command that was settled. True where it was a read, whose data comes at {@link readDone}. */
  give(): boolean {
    const { at, command, bank, t } = this;
    const rank = this.rankOf[bank] ?? 0;
    switch (command) {
      case ACT:
        this.open(at, bank, rank);
        break;
      case PRE:
        this.close(at, bank);
        break;
      case READ:
      case WRITE:
        this.transfer(at, bank, rank, command === WRITE);
        break;
      case REF:
        for (let one = rank * this.perRank; one < (rank + 1) * this.perRank; one++)
          this.actReady[one] = at + t.rfc;
        this.due[rank] = (this.due[rank] ?? 0) + t.refi;
        this.commandFree = at + 1;
        this.listener?.(at, this.index, 'REF', bank, CLOSED, -1);
        break;
      default:
        break;
    }
    this.decide(at);
    return command === READ;
  }

  private casAt(bank: number, rank: number, isWrite: boolean, slot: number): number {
    const { t } = this;
    const group = this.groupOf[bank] ?? 0;
    let when = Math.max(slot, this.casReady[bank] ?? 0);
    const ofGroup = (isWrite ? this.groupWrite : this.groupRead)[group] ?? 0;
    if (ofGroup > when) when = ofGroup;
    const ofRank = (isWrite ? this.rankWrite : this.rankRead)[rank] ?? 0;
    if (ofRank > when) when = ofRank;
    // The data must find the bus free, and turned round.
    let free = this.busFree;
    if (this.busRank >= 0 && this.busRank !== rank) free += t.rankGap;
    if (isWrite && !this.busWrote && this.busRank >= 0)
      free = Math.max(free, this.busFree + t.readWriteGap);
    const early = free - (isWrite ? t.cwl : t.cl);
    return early > when ? early : when;
  }

  private actAt(bank: number, rank: number, slot: number): number {
    let when = Math.max(
      slot,
      this.actReady[bank] ?? 0,
      this.groupAct[this.groupOf[bank] ?? 0] ?? 0,
    );
    const ofRank = this.rankAct[rank] ?? 0;
    if (ofRank > when) when = ofRank;
    // The fifth row in a window waits for the first of the four to leave it.
    const fourth = (this.lastActs[rank * 4 + (this.lastActAt[rank] ?? 0)] ?? 0) + this.t.faw;
    return fourth > when ? fourth : when;
  }

  private open(at: number, bank: number, rank: number): void {
    const { t } = this;
    const queue = this.drains ? this.writes : this.reads;
    const row = queue.row[this.entry] ?? 0;
    this.openRow[bank] = row;
    this.casReady[bank] = at + t.rcd;
    this.preReady[bank] = at + t.ras;
    this.actReady[bank] = at + t.rc;
    this.lastUse[bank] = at;
    this.groupAct[this.groupOf[bank] ?? 0] = at + t.rrdLong;
    this.rankAct[rank] = at + t.rrdShort;
    const next = this.lastActAt[rank] ?? 0;
    this.lastActs[rank * 4 + next] = at;
    this.lastActAt[rank] = (next + 1) % 4;
    this.readHits[bank] = hitsOf(this.reads, bank, row);
    this.writeHits[bank] = hitsOf(this.writes, bank, row);
    this.commandFree = at + t.commandSlots;
    if (at + this.timeout < this.timeoutHint) this.timeoutHint = at + this.timeout;
    this.listener?.(at, this.index, 'ACT', bank, row, queue.request[this.entry] ?? -1);
  }

  /** Whether a bank’s rank is not about to be refreshed. */
  private isSpared(bank: number, slot: number): boolean {
    return (this.due[this.rankOf[bank] ?? 0] ?? NEVER) > slot;
  }

  private close(at: number, bank: number): void {
    const row = this.openRow[bank] ?? CLOSED;
    this.openRow[bank] = CLOSED;
    this.actReady[bank] = Math.max(this.actReady[bank] ?? 0, at + this.t.rp);
    this.readHits[bank] = 0;
    this.writeHits[bank] = 0;
    this.commandFree = at + 1;
    this.listener?.(at, this.index, 'PRE', bank, row, -1);
  }

  private transfer(at: number, bank: number, rank: number, isWrite: boolean): void {
    const { t } = this;
    const queue = isWrite ? this.writes : this.reads;
    const hits = isWrite ? this.writeHits : this.readHits;
    const group = this.groupOf[bank] ?? 0;
    const request = queue.request[this.entry] ?? -1;
    const end = at + (isWrite ? t.cwl : t.cl) + t.burst;
    hits[bank] = (hits[bank] ?? 1) - 1;
    const waiting = isWrite ? this.writesAt : this.readsAt;
    waiting[bank] = (waiting[bank] ?? 1) - 1;
    this.lastUse[bank] = at;
    if (at + this.timeout < this.timeoutHint) this.timeoutHint = at + this.timeout;
    this.busFree = end;
    this.busRank = rank;
    this.busWrote = isWrite;
    this.commandFree = at + t.commandSlots;
    this.moved++;
    const ready = isWrite ? end + t.wr : at + t.rtp;
    if (ready > (this.preReady[bank] ?? 0)) this.preReady[bank] = ready;
    if (isWrite) {
      raise(this.rankWrite, rank, at + t.ccdShort);
      raise(this.groupWrite, group, at + t.ccdLongWrite);
      raise(this.rankRead, rank, end + t.wtrShort);
      raise(this.groupRead, group, end + t.wtrLong);
    } else {
      raise(this.rankRead, rank, at + t.ccdShort);
      raise(this.groupRead, group, at + t.ccdLong);
      raise(this.rankWrite, rank, at + t.ccdShort);
      raise(this.groupWrite, group, at + t.ccdLong);
      this.readRequest = request;
      this.readArrived = queue.arrived[this.entry] ?? 0;
      this.readDone = end;
    }
    this.listener?.(
      at,
      this.index,
      isWrite ? 'WR' : 'RD',
      bank,
      queue.row[this.entry] ?? 0,
      request,
    );
    queue.remove(this.entry);
  }

  /** The open row that has been left alone longest, or none; keeps when the next one may fall due. */
  private idleBank(slot: number): number {
    let [found, least] = [-1, NEVER];
    for (let bank = 0; bank < this.openRow.length; bank++) {
      if (this.openRow[bank] === CLOSED) continue;
      if ((this.readHits[bank] ?? 0) + (this.writeHits[bank] ?? 0) > 0) continue;
      if ((this.due[this.rankOf[bank] ?? 0] ?? NEVER) <= slot) continue;
      const when = (this.lastUse[bank] ?? 0) + this.timeout;
      if (when < least) [found, least] = [bank, when];
    }
    this.timeoutHint = least;
    return found;
  }
}

function raise(times: Float64Array, at: number, to: number): void {
  if (to > (times[at] ?? 0)) times[at] = to;
}

function hitsOf(queue: Queue, bank: number, row: number): number {
  let hits = 0;
  for (let one = 0; one < queue.count; one++)
    if (queue.bank[one] === bank && queue.row[one] === row) hits++;
  return hits;
}
