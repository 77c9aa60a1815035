import type { Response } from 'express';
import type { Logger } from 'pino';
import { here, toldChange } from '#contract/live';
import type { Here, HereInput, ToldChange } from '#contract/live';
import type { Store } from '../store/openStore.ts';

/** Every screen hears from us at least so often; what is silent longer is gone. */
export const BEAT_MS = 15_000;
/** Whoever does not say again where they are is no longer there. */
const HERE_FOR_MS = 75_000;

/** Changes kept for pages that have read what was stored and do not listen yet. */
const MOST_KEPT = 200;

const CHANGES = 'tembrix_changes';
const PRESENCE = 'tembrix_presence';

/** A screen that listens. */
export interface Screen {
  readonly tab: string;
  /** A tablet hears of its one job alone. */
  readonly jobId: string | undefined;
  /** How long its page had been there when it dialled, ms; `undefined` where there is no page. */
  readonly shownForMs: number | undefined;
  /** Whether whoever opened it may still hear. */
  readonly mayHear: () => Promise<boolean>;
  readonly response: Response;
}

/**
 * Tells screens what was stored, and where people are. It hears of both through the database, so that
 * several processes on one are one bench.
 */
export class LiveHub {
  readonly #screens = new Set<Screen>();
  readonly #people = new Map<string, Here & { readonly until: number }>();
  readonly #stops: (() => Promise<void>)[] = [];
  #beat: ReturnType<typeof setInterval> | undefined;
  /** The last changes, and when they were heard of. */
  #kept: { readonly at: number; readonly change: ToldChange }[] = [];
  /** What was said until then is no longer known here. */
  #unknownUntil: number;

  constructor(
    private readonly store: Pick<Store, 'db' | 'listen' | 'tell'>,
    private readonly log: Logger,
    private readonly beatMs = BEAT_MS,
    private readonly now: () => number = () => performance.now(),
  ) {
    this.#unknownUntil = now();
  }

  async start(): Promise<void> {
    this.#stops.push(
      await this.store.listen(CHANGES, (payload) => this.#onChange(payload)),
      await this.store.listen(PRESENCE, (payload) => this.#onPresence(payload)),
    );
    this.#beat = setInterval(() => void this.#onBeat(), this.beatMs).unref();
  }

  async stop(): Promise<void> {
    clearInterval(this.#beat);
    for (const screen of this.#screens) screen.response.end();
    this.#screens.clear();
    for (const stop of this.#stops) await stop();
  }

  /** Takes a screen in, and tells it who is where, and what was stored since its page was opened. */
  add(screen: Screen): void {
    const { response } = screen;
    response.status(200).set({
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      // A proxy that gathers answers would hold them back.
      'X-Accel-Buffering': 'no',
    });
    response.flushHeaders();
    this.#screens.add(screen);
    send(screen, 'beat', this.beatMs);
    this.#catchUp(screen);
    for (const { until: _until, ...one } of this.#people.values())
      if (concerns(screen, one.jobId)) send(screen, 'here', one);
    response.on('close', () => {
      this.#screens.delete(screen);
      if (this.#people.has(screen.tab)) void this.#leave(screen.tab);
    });
  }

  /**
   * What a page read may be older than what was stored before it listened. It counts its own time, so that
   * no two clocks are compared; that its dialling takes a while is made up for, since it reads nothing
   * before its program has come to it the same way.
   */
  #catchUp(screen: Screen): void {
    if (screen.shownForMs === undefined) return;
    const since = this.now() - screen.shownForMs;
    if (since < this.#unknownUntil) return send(screen, 'missed', null);
    const told = new Set<string>();
    for (const { at, change } of this.#kept) {
      const words = JSON.stringify(change);
      if (at < since || told.has(words) || !concerns(screen, change.job)) continue;
      told.add(words);
      send(screen, 'change', change);
    }
  }

  #keep(change: ToldChange | undefined): void {
    const at = this.now();
    if (!change) {
      this.#kept = [];
      this.#unknownUntil = at;
      return;
    }
    this.#kept.push({ at, change });
    if (this.#kept.length > MOST_KEPT) this.#unknownUntil = this.#kept.shift()?.at ?? at;
  }

  /** Tells all screens of all processes that everything may be another. */
  async sayAllChanged(): Promise<void> {
    const all: ToldChange = { job: null, table: '*', tab: null };
    await this.store.tell(CHANGES, JSON.stringify(all));
  }

  /** Tells all processes where somebody is. */
  async say(input: HereInput, name: string): Promise<void> {
    await this.store.tell(PRESENCE, JSON.stringify({ ...input, name } satisfies Here));
  }

  async #leave(tab: string): Promise<void> {
    const gone = { tab, jobId: null, step: '', draft: null };
    await this.say(gone, '').catch((error: unknown) => {
      this.log.debug({ err: error }, 'nobody was told that a screen went');
    });
  }

  #onChange(payload: string | undefined): void {
    const change = payload === undefined ? undefined : parsed(payload, toldChange);
    this.#keep(change);
    for (const screen of this.#screens) {
      // Something may have been said while the line was down: look at everything again.
      if (!change) send(screen, 'missed', null);
      else if (concerns(screen, change.job)) send(screen, 'change', change satisfies ToldChange);
    }
  }

  #onPresence(payload: string | undefined): void {
    const one = payload === undefined ? undefined : parsed(payload, here);
    if (!one) return;
    if (one.jobId === null) this.#people.delete(one.tab);
    else this.#people.set(one.tab, { ...one, until: Date.now() + HERE_FOR_MS });
    for (const screen of this.#screens)
      if (one.jobId === null || concerns(screen, one.jobId)) send(screen, 'here', one);
  }

  async #onBeat(): Promise<void> {
    const now = Date.now();
    for (const [tab, { until }] of this.#people)
      // Beyond any time to come, the clock was set back.
      if (until < now || until > now + HERE_FOR_MS) await this.#leave(tab);
    for (const screen of this.#screens) {
      const may = await screen.mayHear().catch(() => true);
      if (may) send(screen, 'beat', this.beatMs);
      else screen.response.end();
    }
  }
}

const concerns = ({ jobId }: Screen, job: string | null): boolean =>
  jobId === undefined || job === null || job === jobId;

function send({ response }: Screen, event: string, data: unknown): void {
  if (!response.writableEnded) response.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
}

function parsed<T>(
  payload: string,
  schema: { safeParse: (value: unknown) => { success: boolean; data?: T } },
): T | undefined {
  try {
    return schema.safeParse(JSON.parse(payload)).data;
  } catch {
    return undefined;
  }
}
