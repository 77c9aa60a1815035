import type { ApiFailure } from '../app/api.ts';

/** A refusal of the server, with its reasons. */
export type Refusal = Extract<ApiFailure, { type: 'problem' }>;

/** Where saves stand. `left` counts those not through yet. */
export type SaveState =
  | { readonly type: 'idle' }
  | { readonly type: 'saving'; readonly left: number }
  | { readonly type: 'waiting'; readonly left: number }
  | { readonly type: 'failed'; readonly failure: Refusal }
  | { readonly type: 'done' };

/** What a queue asks of its surroundings. */
export interface SaveHost<Arg, Result> {
  readonly send: (arg: Arg) => Promise<Result>;
  /**
   * A later save as it has to be sent once an earlier one is through: of the same row it carries the
   * version that one gave it.
   */
  readonly renew: (later: Arg, sent: Arg, result: Result) => Arg;
  readonly onState: (state: SaveState) => void;
  readonly onDone: (result: Result) => void;
  /** Settles when the server may be asked again. */
  readonly whenOnline: () => Promise<void>;
}

interface Waiting<Arg> {
  arg: Arg;
  readonly settle: (isThrough: boolean) => void;
}

/**
 * Sends saves one after another in the order they were made. While the server is away they wait; one
 * that is refused is told and does not hold up the others.
 */
export class SaveQueue<Arg, Result> {
  readonly #host: SaveHost<Arg, Result>;
  readonly #waiting: Waiting<Arg>[] = [];
  #failure: Refusal | undefined;
  #isRunning = false;

  constructor(host: SaveHost<Arg, Result>) {
    this.#host = host;
  }

  /** Settles when this save is through, as true, or refused, as false. */
  add(arg: Arg): Promise<boolean> {
    if (!this.#isRunning) this.#failure = undefined;
    const settled = new Promise<boolean>((settle) => this.#waiting.push({ arg, settle }));
    this.#say(this.#isRunning ? undefined : 'saving');
    if (!this.#isRunning) void this.#run();
    return settled;
  }

  #last: 'saving' | 'waiting' = 'saving';
  #say(type: 'saving' | 'waiting' = this.#last): void {
    this.#last = type;
    this.#host.onState({ type, left: this.#waiting.length });
  }

  async #run(): Promise<void> {
    this.#isRunning = true;
    for (let next = this.#waiting[0]; next; next = this.#waiting[0]) {
      this.#say('saving');
      const { arg, settle } = next;
      try {
        const result = await this.#host.send(arg);
        this.#waiting.shift();
        for (const later of this.#waiting) later.arg = this.#host.renew(later.arg, arg, result);
        settle(true);
        this.#host.onDone(result);
      } catch (error) {
        const failure = error as ApiFailure;
        if (failure.type !== 'problem') {
          this.#say('waiting');
          await this.#host.whenOnline();
          continue;
        }
        this.#waiting.shift();
        this.#failure ??= failure;
        settle(false);
      }
    }
    this.#isRunning = false;
    this.#host.onState(
      this.#failure ? { type: 'failed', failure: this.#failure } : { type: 'done' },
    );
  }
}

/** What a save that goes by a row's version looks like. */
interface Versioned {
  readonly body: { readonly version: number };
}

const isVersioned = (arg: unknown): arg is Versioned =>
  typeof (arg as Partial<Versioned> | undefined)?.body?.version === 'number';

/** What names the row a save is for: all of it but its body. */
const rowOf = (arg: unknown): string => JSON.stringify({ ...(arg as object), body: undefined });

/** The version a row has by the answer to a save of it; most answers are the row itself. */
export function versionOfRow(result: unknown): number | undefined {
  const { version } = (result ?? {}) as { version?: unknown };
  return typeof version === 'number' ? version : undefined;
}

/**
 * A later save of the same row, with the version the earlier one led to. One made from another version
 * stays as it is: somebody else's change lies between, and the server is to say so.
 */
export function renewed<Arg, Result>(
  later: Arg,
  sent: Arg,
  result: Result,
  versionIn: (result: Result, sent: Arg) => number | undefined,
): Arg {
  if (!isVersioned(later) || !isVersioned(sent) || rowOf(later) !== rowOf(sent)) return later;
  const version = versionIn(result, sent);
  if (version === undefined || later.body.version !== sent.body.version) return later;
  return { ...later, body: { ...later.body, version } };
}
