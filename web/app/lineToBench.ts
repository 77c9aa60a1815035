/** What a line does with what it hears. */
export interface LineTerms {
  readonly onEvent: (event: string, data: unknown) => void;
  /** It stands; `isAgain` after it was down. */
  readonly onOpen: (isAgain: boolean) => void;
}

const RETRY_MS = 2000;
/** Silent for so many beats, a line is dead, whatever the browser thinks of it. */
const BEATS = 2.5;

/**
 * A stream of server-sent events that is there whenever somebody looks: closed while the tab is out of
 * sight – a browser has few connections for one address – and opened again when it is seen, when the
 * machine wakes, or when the server is back.
 */
export class LineToBench {
  #source: EventSource | undefined;
  #hadOne = false;
  #silence: ReturnType<typeof setTimeout> | undefined;
  #beatMs = 15_000;
  readonly #onSight = () => {
    if (document.visibilityState === 'visible') this.#open();
    else this.#hangUp();
  };

  constructor(
    /** Where to dial: the first time, and after it was down. */
    private readonly address: (isAgain: boolean) => string,
    private readonly events: readonly string[],
    private readonly terms: LineTerms,
  ) {
    document.addEventListener('visibilitychange', this.#onSight);
    this.#onSight();
  }

  close(): void {
    document.removeEventListener('visibilitychange', this.#onSight);
    this.#hangUp();
  }

  #hangUp(): void {
    clearTimeout(this.#silence);
    this.#source?.close();
    this.#source = undefined;
  }

  #listenFor(ms: number, then: () => void): void {
    clearTimeout(this.#silence);
    this.#silence = setTimeout(then, ms);
  }

  #open(): void {
    if (this.#source) return;
    const source = new EventSource(this.address(this.#hadOne));
    this.#source = source;
    const redial = () => {
      this.#hangUp();
      this.#open();
    };
    source.onopen = () => {
      this.terms.onOpen(this.#hadOne);
      this.#hadOne = true;
      this.#listenFor(this.#beatMs * BEATS, redial);
    };
    // The browser dials again by itself, but not after a refusal.
    source.onerror = () => {
      this.#hangUp();
      this.#listenFor(RETRY_MS, () => this.#onSight());
    };
    for (const event of this.events)
      source.addEventListener(event, ({ data }: MessageEvent<string>) => {
        const value: unknown = JSON.parse(data);
        if (event === 'beat' && typeof value === 'number') this.#beatMs = value;
        this.#listenFor(this.#beatMs * BEATS, redial);
        this.terms.onEvent(event, value);
      });
  }
}
