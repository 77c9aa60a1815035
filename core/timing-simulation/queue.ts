const NONE = -1;

/**
 * Requests of one kind that wait at a channel: in order of arrival over all, and bank by bank, with
 * those of a bank that find their row open. An entry keeps its number while it waits.
 */
export class Queue {
  count = 0;
  readonly bank: Int32Array;
  readonly row: Int32Array;
  readonly arrived: Float64Array;
  readonly request: Int32Array;
  /** Which came first: lower is older. */
  readonly order: Float64Array;
  /** The oldest of all, or −1. */
  oldest = NONE;

  /** Of each bank: how many wait, how many of them find their row open, and the oldest of both sorts. */
  readonly waiting: Int32Array;
  readonly hits: Int32Array;
  readonly head: Int32Array;
  readonly firstHit: Int32Array;
  /** Banks somebody waits for, in no order. */
  readonly active: Int32Array;
  activeCount = 0;

  private newest = NONE;
  private arrivals = 0;
  private readonly older: Int32Array;
  private readonly newer: Int32Array;
  private readonly tail: Int32Array;
  private readonly before: Int32Array;
  private readonly after: Int32Array;
  private readonly placeOf: Int32Array;
  private readonly free: Int32Array;

  constructor(
    readonly size: number,
    banks: number,
  ) {
    const entries = () => new Int32Array(size).fill(NONE);
    this.bank = entries();
    this.row = entries();
    this.request = entries();
    this.older = entries();
    this.newer = entries();
    this.before = entries();
    this.after = entries();
    this.arrived = new Float64Array(size);
    this.order = new Float64Array(size);
    this.free = Int32Array.from({ length: size }, (_, entry) => size - 1 - entry);
    this.waiting = new Int32Array(banks);
    this.hits = new Int32Array(banks);
    this.head = new Int32Array(banks).fill(NONE);
    this.tail = new Int32Array(banks).fill(NONE);
    this.firstHit = new Int32Array(banks).fill(NONE);
    this.active = new Int32Array(banks);
    this.placeOf = new Int32Array(banks).fill(NONE);
  }

  /** Takes a request in; there must be room. */
  add(bank: number, row: number, at: number, request: number, isHit: boolean): number {
    const entry = this.free[this.size - 1 - this.count++]!;
    this.bank[entry] = bank;
    this.row[entry] = row;
    this.arrived[entry] = at;
    this.request[entry] = request;
    this.order[entry] = this.arrivals++;
    this.older[entry] = this.newest;
    this.newer[entry] = NONE;
    if (this.newest === NONE) this.oldest = entry;
    else this.newer[this.newest] = entry;
    this.newest = entry;
    const last = this.tail[bank]!;
    this.before[entry] = last;
    this.after[entry] = NONE;
    if (last === NONE) {
      this.head[bank] = entry;
      this.placeOf[bank] = this.activeCount;
      this.active[this.activeCount++] = bank;
    } else this.after[last] = entry;
    this.tail[bank] = entry;
    this.waiting[bank]!++;
    if (isHit && this.hits[bank]!++ === 0) this.firstHit[bank] = entry;
    return entry;
  }

  /** Lets the oldest of a bank that found its row open go. */
  serve(entry: number): void {
    const bank = this.bank[entry]!;
    const row = this.row[entry];
    let next = NONE;
    if (--this.hits[bank]! > 0) {
      next = this.after[entry]!;
      while (this.row[next] !== row) next = this.after[next]!;
    }
    this.firstHit[bank] = next;
    this.waiting[bank]!--;
    this.unlink(entry, bank);
    this.free[this.size - this.count--] = entry;
  }

  private unlink(entry: number, bank: number): void {
    const older = this.older[entry]!;
    const newer = this.newer[entry]!;
    if (older === NONE) this.oldest = newer;
    else this.newer[older] = newer;
    if (newer === NONE) this.newest = older;
    else this.older[newer] = older;
    const before = this.before[entry]!;
    const after = this.after[entry]!;
    if (before === NONE) this.head[bank] = after;
    else this.after[before] = after;
    if (after === NONE) this.tail[bank] = before;
    else this.before[after] = before;
    if (this.head[bank] !== NONE) return;
    const place = this.placeOf[bank]!;
    const last = this.active[--this.activeCount]!;
    this.active[place] = last;
    this.placeOf[last] = place;
    this.placeOf[bank] = NONE;
  }

  /** A row was opened: who waits for it? */
  opened(bank: number, row: number): void {
    let hits = 0;
    let first = NONE;
    for (let entry = this.head[bank]!; entry !== NONE; entry = this.after[entry]!)
      if (this.row[entry] === row && hits++ === 0) first = entry;
    this.hits[bank] = hits;
    this.firstHit[bank] = first;
  }

  /** The row was closed. */
  closed(bank: number): void {
    this.hits[bank] = 0;
    this.firstHit[bank] = NONE;
  }

  /** The oldest of a bank that asks for another row than this, or −1. */
  firstMiss(bank: number, row: number): number {
    let entry = this.head[bank]!;
    while (entry !== NONE && this.row[entry] === row) entry = this.after[entry]!;
    return entry;
  }
}
