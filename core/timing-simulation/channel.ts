import type { BankLayout } from './addresses.ts';
import { Banks, CLOSED, NEVER } from './banks.ts';
import { Queue } from './queue.ts';
import type { Cycles } from './timings.ts';
import type { CommandListener, ControllerChoices } from './types.ts';

const NONE = 0;
const ACT = 1;
const PRE = 2;
const READ = 3;
const WRITE = 4;
const REF = 5;
/** Look again: a refresh falls due before anything else may be given. */
const WAKE = 6;

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

  private readonly banks: Banks;
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
  /** Of two at once the older goes first; a refresh before all. */
  private otherOrder = NEVER;
  /** When the next rank falls due for refresh. */
  private wake = NEVER;
  /** The oldest has waited too long; `isLocked`: it alone is looked at. */
  private isOld = false;
  private isLocked = false;
  private isDraining = false;
  /** Writes are served now. */
  private drains = false;
  private commandFree = 0;
  private timeoutHint = NEVER;

  private readonly ageCap: number;
  private readonly timeout: number;
  /** When each rank is to be refreshed. */
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
    this.banks = new Banks(ranks, layout, t);
    this.reads = new Queue(choices.queue, this.banks.count);
    this.writes = new Queue(choices.queue, this.banks.count);
    this.ageCap = (choices.ageCap * 1000) / t.clock;
    this.timeout = Math.round((choices.pageTimeout * 1000) / t.clock);
    // Channels refresh together, ranks by turns: staggered channels would each stop all cores.
    this.due = Float64Array.from({ length: ranks }, (_, rank) =>
      choices.refreshes ? Math.floor((t.refi * (rank + 1)) / ranks) : NEVER,
    );
    // A channel nobody asks for yet is refreshed all the same.
    this.decide(0);
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
    const open = this.banks.openRow[bank]!;
    const isHit = open === row;
    const others = queue.waiting[bank]! - queue.hits[bank]!;
    const entry = queue.add(bank, row, now, request, isHit);
    const didDrain = this.drains;
    const isSpared = this.command === PRE && this.bank === bank;
    if (this.chooseQueue() !== didDrain || isSpared || this.rescans) {
      this.decide(now);
      return;
    }
    if (isWrite !== this.drains || this.isLocked) return;
    const due = this.due[this.banks.rankOf[bank]!]!;
    const slot = Math.max(this.commandFree, now);
    if (due <= slot) return;
    if (isHit) {
      const when = this.banks.casAt(bank, isWrite, slot);
      if (when >= due || when >= this.casTime) return;
      this.casTime = when;
      this.casEntry = entry;
    } else {
      // An older one already asks for another row of this bank.
      if (others > 0) return;
      if (open !== CLOSED && queue.hits[bank]! > 0 && !this.isOld) return;
      const when = this.rowAt(bank, open, slot);
      if (when >= due || when >= this.otherTime) return;
      this.setOther(when, open, bank, entry, queue);
    }
    this.settle(slot);
  }

  /** When a bank that has another row open, or none, may go on with a row that is asked for. */
  private rowAt(bank: number, open: number, slot: number): number {
    return open === CLOSED ? this.banks.actAt(bank, slot) : this.banks.preAt(bank, slot);
  }

  private setOther(when: number, open: number, bank: number, entry: number, queue: Queue): void {
    this.otherTime = when;
    this.otherCommand = open === CLOSED ? ACT : PRE;
    this.otherBank = bank;
    this.otherEntry = entry;
    this.otherOrder = queue.order[entry]!;
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
    this.otherOrder = NEVER;
    this.refreshNext(slot);
    const isWrite = this.chooseQueue();
    const queue = isWrite ? this.writes : this.reads;
    const { oldest } = queue;
    // Counted from the last command, so that nothing that arrives makes another old.
    this.isOld = oldest >= 0 && this.commandFree - queue.arrived[oldest]! > this.ageCap;
    this.isLocked = this.isOld && this.isSpared(queue.bank[oldest]!, slot);
    if (this.isLocked) this.weigh(queue, queue.bank[oldest]!, isWrite, slot, oldest);
    else
      for (let one = 0; one < queue.activeCount; one++)
        this.weigh(queue, queue.active[one]!, isWrite, slot, -1);
    this.settle(slot);
  }

  /** Weighs what waits for a bank, or one request alone, against the best so far. */
  private weigh(queue: Queue, bank: number, isWrite: boolean, slot: number, alone: number): void {
    const { banks } = this;
    const due = this.due[banks.rankOf[bank]!]!;
    if (due <= slot) return;
    const open = banks.openRow[bank]!;
    const hit = queue.firstHit[bank]!;
    if (hit >= 0 && (alone < 0 || alone === hit)) {
      const when = banks.casAt(bank, isWrite, slot);
      const isFirst =
        when < this.casTime ||
        (when === this.casTime && queue.order[hit]! < queue.order[this.casEntry]!);
      if (when < due && isFirst) {
        this.casTime = when;
        this.casEntry = hit;
      }
      // Those that find the row open come first, unless one has waited too long.
      if (!this.isOld || alone >= 0) return;
    }
    const entry = alone >= 0 ? alone : hit >= 0 ? queue.firstMiss(bank, open) : queue.head[bank]!;
    if (entry < 0) return;
    const when = this.rowAt(bank, open, slot);
    const isFirst =
      when < this.otherTime || (when === this.otherTime && queue.order[entry]! < this.otherOrder);
    if (when < due && isFirst) this.setOther(when, open, bank, entry, queue);
  }

  /** Ranks whose refresh is due: their rows are closed one by one, then they are refreshed. */
  private refreshNext(slot: number): void {
    this.wake = NEVER;
    const { banks } = this;
    for (let rank = 0; rank < this.ranks; rank++) {
      const due = this.due[rank]!;
      if (due > slot) {
        if (due < this.wake) this.wake = due;
        continue;
      }
      let ready = slot;
      let closing = -1;
      for (let one = rank * banks.perRank; one < (rank + 1) * banks.perRank; one++) {
        if (banks.openRow[one] !== CLOSED) {
          if (closing < 0 || banks.preReady[one]! < banks.preReady[closing]!) closing = one;
        } else if (banks.actReady[one]! > ready) ready = banks.actReady[one]!;
      }
      const when = closing < 0 ? ready : banks.preAt(closing, slot);
      if (when >= this.otherTime) continue;
      this.otherTime = when;
      this.otherCommand = closing < 0 ? REF : PRE;
      this.otherBank = closing < 0 ? rank * banks.perRank : closing;
      this.otherOrder = -1;
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
      this.bank = (this.drains ? this.writes : this.reads).bank[this.casEntry]!;
    } else {
      this.at = this.otherTime;
      this.command = this.otherCommand;
      this.entry = this.otherEntry;
      this.bank = this.otherBank;
    }
    if (this.timeoutHint < this.at) {
      const idle = this.idleBank(slot);
      if (idle >= 0) {
        const left = this.banks.lastUse[idle]! + this.timeout;
        const when = Math.max(this.banks.preAt(idle, slot), left);
        if (when < this.at && when < this.due[this.banks.rankOf[idle]!]!) {
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
    const { at, command, bank } = this;
    switch (command) {
      case ACT:
        this.open(at, bank);
        break;
      case PRE:
        this.close(at, bank);
        break;
      case READ:
      case WRITE:
        this.transfer(at, bank, command === WRITE);
        break;
      case REF:
        this.refresh(at, bank);
        break;
      default:
        break;
    }
    this.decide(at);
    return command === READ;
  }

  private open(at: number, bank: number): void {
    const queue = this.drains ? this.writes : this.reads;
    const row = queue.row[this.entry]!;
    this.banks.open(at, bank, row);
    this.reads.opened(bank, row);
    this.writes.opened(bank, row);
    this.commandFree = at + this.t.commandSlots;
    if (at + this.timeout < this.timeoutHint) this.timeoutHint = at + this.timeout;
    this.listener?.(at, this.index, 'ACT', bank, row, queue.request[this.entry]!);
  }

  private close(at: number, bank: number): void {
    const row = this.banks.openRow[bank]!;
    this.banks.close(at, bank);
    this.reads.closed(bank);
    this.writes.closed(bank);
    this.commandFree = at + 1;
    this.listener?.(at, this.index, 'PRE', bank, row, -1);
  }

  private refresh(at: number, bank: number): void {
    const rank = this.banks.rankOf[bank]!;
    this.banks.refresh(at, rank);
    this.due[rank]! += this.t.refi;
    this.commandFree = at + 1;
    this.listener?.(at, this.index, 'REF', bank, CLOSED, -1);
  }

  private transfer(at: number, bank: number, isWrite: boolean): void {
    const queue = isWrite ? this.writes : this.reads;
    const { entry } = this;
    const request = queue.request[entry]!;
    const end = this.banks.transfer(at, bank, isWrite);
    if (at + this.timeout < this.timeoutHint) this.timeoutHint = at + this.timeout;
    this.commandFree = at + this.t.commandSlots;
    this.moved++;
    if (!isWrite) {
      this.readRequest = request;
      this.readArrived = queue.arrived[entry]!;
      this.readDone = end;
    }
    this.listener?.(at, this.index, isWrite ? 'WR' : 'RD', bank, queue.row[entry]!, request);
    queue.serve(entry);
  }

  /** Whether a bank’s rank is not about to be refreshed. */
  private isSpared(bank: number, slot: number): boolean {
    return this.due[this.banks.rankOf[bank]!]! > slot;
  }

  /** The open row that has been left alone longest, or none; keeps when the next one may fall due. */
  private idleBank(slot: number): number {
    const { openRow, lastUse, count } = this.banks;
    let found = -1;
    let least = NEVER;
    for (let bank = 0; bank < count; bank++) {
      if (openRow[bank] === CLOSED) continue;
      if (this.reads.hits[bank]! + this.writes.hits[bank]! > 0) continue;
      if (!this.isSpared(bank, slot)) continue;
      const when = lastUse[bank]! + this.timeout;
      if (when < least) {
        found = bank;
        least = when;
      }
    }
    this.timeoutHint = least;
    return found;
  }
}
