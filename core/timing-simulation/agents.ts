import { Random } from './random.ts';
import type { Workload } from './types.ts';

/** Lines of a page: sequential reading goes on at random where one ends (4 KiB). */
const PAGE_LINES = 64;
/** Lines of a run of the desktop mixture. */
const RUN_LINES = 8;
/** A write array is far from the read ones, as three arrays are. */
const STREAMS = { stream: 1, triad: 3, graphics: 4 } as const;

/** Something that asks for lines: a core, or a graphics unit. */
export class Agent {
  /** Of the request made last. */
  line = 0;
  isWrite = false;
  /** Cycles from it to the next at the earliest. */
  pause = 0;
  /** Waits for its own last reply before it asks again. */
  readonly underWay: number;

  private readonly random: Random;
  private readonly pages: Float64Array;
  private readonly offsets: Int32Array;
  private turn = 0;
  private left = 0;

  /**
   * @param from - first line it may ask for
   * @param lines - how many there are
   * @param pace - cycles between requests, of what is throttled
   */
  constructor(
    private readonly kind: Workload,
    seed: number,
    private readonly from: number,
    private readonly lines: number,
    underWay: number,
    private readonly pace = 0,
  ) {
    this.random = new Random(seed);
    this.underWay = underWay;
    const streams = kind in STREAMS ? STREAMS[kind as keyof typeof STREAMS] : 1;
    this.pages = Float64Array.from({ length: streams }, () => this.anyPage());
    this.offsets = Int32Array.from({ length: streams }, () => this.random.below(PAGE_LINES));
    this.pause = pace;
  }

  /** Makes the next request; it stands in {@link line}, {@link isWrite} and {@link pause}. */
  next(): void {
    switch (this.kind) {
      case 'stream':
      case 'triad':
        this.onAndOn(this.kind === 'triad' && this.turn === 2);
        break;
      case 'graphics':
        // Three parts read (pictures, shapes), one written (the frame).
        this.onAndOn(this.turn === 3);
        break;
      case 'desktop':
        this.mixture();
        break;
      default:
        this.line = this.anyLine();
        this.isWrite = false;
    }
  }

  private onAndOn(isWrite: boolean): void {
    const stream = this.turn;
    this.turn = (stream + 1) % this.pages.length;
    this.line = (this.pages[stream] ?? 0) + (this.offsets[stream] ?? 0);
    this.isWrite = isWrite;
    const next = (this.offsets[stream] ?? 0) + 1;
    if (next === PAGE_LINES) this.pages[stream] = this.anyPage();
    this.offsets[stream] = next % PAGE_LINES;
  }

  /** Short runs and single lines, a quarter of them written, with pauses for thought. */
  private mixture(): void {
    if (this.left === 0) {
      this.left = this.random.next() < 0.5 ? RUN_LINES : 1;
      this.line = this.anyLine();
      this.pause = Math.floor(this.random.next() * 2 * this.pace);
    } else {
      this.line = this.line + 1 < this.from + this.lines ? this.line + 1 : this.from;
      this.pause = 0;
    }
    this.left--;
    this.isWrite = this.random.next() < 0.25;
  }

  private anyLine(): number {
    return this.from + this.random.below(this.lines);
  }

  private anyPage(): number {
    const pages = Math.max(1, Math.floor(this.lines / PAGE_LINES));
    return this.from + this.random.below(pages) * PAGE_LINES;
  }
}
