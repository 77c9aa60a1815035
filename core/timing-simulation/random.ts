/** A small generator of even random numbers, the same from the same seed. */
export class Random {
  private state: number;

  constructor(seed: number) {
    this.state = (seed ^ 0x9e3779b9) >>> 0;
  }

  /** 0 ≤ n < 1, from 32 random bits. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let mixed = this.state;
    mixed = Math.imul(mixed ^ (mixed >>> 15), mixed | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  }

  /** A whole number from 0, below a limit that may pass 32 bits. */
  below(limit: number): number {
    const bits = limit > 2 ** 32 ? this.next() + this.next() / 2 ** 32 : this.next();
    return Math.min(limit - 1, Math.floor(bits * limit));
  }
}
