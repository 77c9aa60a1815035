import { setFlagsFromString } from 'node:v8';
import { PGlite, protocol } from '@electric-sql/pglite';
import type { QueryOptions, Results, Transaction } from '@electric-sql/pglite';

const { serialize, messages: told } = protocol;

// The engine's program is large, and left to itself what runs it optimises a third of it during the
// start already, for a quarter of the start's time. What is asked often is still optimised, a little later.
setFlagsFromString('--wasm-tiering-budget=18000000');
setFlagsFromString('--wasm-lazy-validation');

/** A question the engine has read and, once it was asked a few times, planned for. */
interface Statement {
  readonly name: string;
  /** Types of what it is given (pg_type). */
  readonly takes: readonly number[];
  readonly fields: readonly { readonly name: string; readonly dataTypeID: number }[];
}

/** Questions kept; a bench asks about two hundred different ones in a day. */
export const MOST_STATEMENTS = 256;
/** Longer ones are rows sent by the hundred, and never the same twice. */
const LONGEST = 16_000;
/** What changes the shape of tables, and with it what a question answers. */
const CHANGES_SHAPE = /\b(?:alter|create|drop)\b/i;
/** Options of a question that leave its text to itself. */
const PLAIN_OPTIONS: ReadonlySet<string> = new Set(['rowMode', 'parsers']);
/** What the engine's program ends a turn with that it goes on after: an error told to whoever asked. */
const HANDLED = 'POSTGRES_MAIN_LONGJMP';
/** Files are durable by what the engine itself does (see DurableFiles). */
const NO_COPY = { syncToFs: false } as const;

/**
 * The engine's program broke off inside a turn: the disk did not take its log, or it came to harm itself.
 * What it had in hand then – locks, half-made pages – is still in hand, so it answers nothing any more.
 */
export class EngineStopped extends Error {
  constructor(cause: unknown) {
    super('the database stopped in the middle of its work', { cause });
  }
}

/** Gets out of the loop the engine is asked in, which takes any error for none: it looks at its status first. */
class WayOut {
  readonly #stopped: EngineStopped;

  constructor(stopped: EngineStopped) {
    this.#stopped = stopped;
  }

  get status(): never {
    throw this.#stopped;
  }
}

/**
 * The embedded engine, asked the way a database server's driver asks: what is asked a second time is
 * read and planned once, and then sent with its values in one step instead of six. For a small question
 * reading and planning took nine tenths of the time (PostgreSQL, extended query protocol).
 */
export class Engine extends PGlite {
  /** By text, the one longest unused first; without a statement, it was asked but once. */
  readonly #known = new Map<string, Statement | undefined>();
  /** Statements the engine need no longer keep. */
  #dropped: string[] = [];
  #made = 0;
  /** How often tables changed their shape. */
  #shapes = 0;
  #stopped: EngineStopped | undefined;
  #tellStopped: (stopped: EngineStopped) => void = () => undefined;
  /** Told when the engine has stopped. */
  readonly stopped = new Promise<EngineStopped>((tell) => (this.#tellStopped = tell));

  /** An engine that is ready to be asked; options as of {@link PGlite.create}. */
  static async open(options: ConstructorParameters<typeof PGlite>[0]): Promise<Engine> {
    const engine = new Engine(options);
    await engine.waitReady;
    engine.#watch();
    return engine;
  }

  /** Has no turn of the program that broke off taken for an answer. */
  #watch(): void {
    const program = this.Module as unknown as { _PostgresMainLoopOnce: () => void };
    const turn = program._PostgresMainLoopOnce;
    program._PostgresMainLoopOnce = () => {
      try {
        turn();
      } catch (error) {
        if ((error as { status?: unknown }).status === this[HANDLED]) throw error;
        this.#stopped = new EngineStopped(error);
        this.#tellStopped(this.#stopped);
        // oxlint-disable-next-line typescript/only-throw-error -- nothing else gets out of there
        throw new WayOut(this.#stopped);
      }
    };
  }

  override execProtocolRawSync(message: Uint8Array): Uint8Array {
    if (this.#stopped) throw this.#stopped;
    return super.execProtocolRawSync(message);
  }

  /** One that has stopped can be asked for nothing, not even to end well. */
  override async close(): Promise<void> {
    if (!this.#stopped) await super.close();
  }

  override async unlisten(...own: Parameters<PGlite['unlisten']>): Promise<void> {
    if (!this.#stopped) await super.unlisten(...own);
  }

  override async query<T>(
    text: string,
    values?: unknown[],
    options?: QueryOptions,
  ): Promise<Results<T>> {
    if (!this.#isKnown(text, options)) return super.query<T>(text, values, options);
    await this._checkReady();
    return this._runExclusiveTransaction(() => this.#ask<T>(text, values, options));
  }

  /**
   * A question without values, whose answer is of no interest.
   *
   * @param begin - told when its turn has come: it follows whatever was committed by then
   */
  async ask(text: string, begin: () => void): Promise<void> {
    await this._checkReady();
    await this._runExclusiveTransaction(() => {
      begin();
      return this.#ask(text);
    });
  }

  override async exec(text: string, options?: QueryOptions): Promise<Results[]> {
    if (CHANGES_SHAPE.test(text)) this.#forget();
    return super.exec(text, options);
  }

  override transaction<T>(run: (tx: Transaction) => Promise<T>): Promise<T> {
    return super.transaction(async (tx) => {
      const query = tx.query.bind(tx);
      const exec = tx.exec.bind(tx);
      const shapes = this.#shapes;
      tx.query = <R>(text: string, values?: unknown[], options?: QueryOptions) =>
        !tx.closed && this.#isKnown(text, options)
          ? this.#ask<R>(text, values, options)
          : query<R>(text, values, options);
      tx.exec = (text: string, options?: QueryOptions) => {
        if (CHANGES_SHAPE.test(text)) this.#forget();
        return exec(text, options);
      };
      try {
        return await run(tx);
      } finally {
        // What was read meanwhile holds for tables that may be taken back.
        if (this.#shapes !== shapes) this.#forget();
      }
    });
  }

  /** Whether a question is worth keeping; from its second time on. */
  #isKnown(text: string, options?: QueryOptions): boolean {
    if (options && Object.keys(options).some((name) => !PLAIN_OPTIONS.has(name))) return false;
    const isKnown = this.#known.has(text);
    if (!isKnown && CHANGES_SHAPE.test(text)) {
      this.#forget();
      return false;
    }
    if (!isKnown && text.length > LONGEST) return false;
    const statement = this.#known.get(text);
    this.#known.delete(text);
    this.#known.set(text, statement);
    if (this.#known.size > MOST_STATEMENTS) {
      const [oldest] = this.#known;
      if (oldest?.[1]) this.#dropped.push(oldest[1].name);
      if (oldest) this.#known.delete(oldest[0]);
    }
    return isKnown;
  }

  #forget(): void {
    this.#shapes += 1;
    for (const statement of this.#known.values()) if (statement) this.#dropped.push(statement.name);
    this.#known.clear();
  }

  #ask<T>(text: string, values: unknown[] = [], { rowMode, parsers }: QueryOptions = {}) {
    return this.runExclusive(async (): Promise<Results<T>> => {
      const statement = this.#known.get(text) ?? (await this.#prepare(text));
      const written = values.map((value, at) => this.#written(value, statement.takes[at]));
      const answer = await this.#send(
        serialize.bind({ statement: statement.name, values: written }),
        serialize.execute(),
      );
      const readers = statement.fields.map(
        ({ dataTypeID }) => parsers?.[dataTypeID] ?? this.parsers[dataTypeID],
      );
      const read = (field: string | null, at: number): unknown => {
        const reader = readers[at];
        return field === null || !reader ? field : reader(field, statement.fields[at]?.dataTypeID);
      };
      const rows: unknown[] = [];
      let tag = '';
      for (const one of answer)
        if (one instanceof told.DataRowMessage)
          rows.push(
            rowMode === 'array'
              ? one.fields.map(read)
              : Object.fromEntries(
                  one.fields.map((field, at) => [statement.fields[at]?.name, read(field, at)]),
                ),
          );
        else if (one instanceof told.CommandCompleteMessage) tag = one.text;
      const [command = ''] = tag.split(' ');
      const count = Number.parseInt(tag.split(' ').at(-1) ?? '', 10);
      return {
        ...{ rows: rows as Results<T>['rows'], fields: [...statement.fields], command },
        affectedRows: command === 'SELECT' || Number.isNaN(count) ? 0 : count,
        ...(Number.isNaN(count) ? {} : { rowCount: count }),
      };
    });
  }

  async #prepare(text: string): Promise<Statement> {
    const name = `q${(this.#made += 1)}`;
    const closing = this.#dropped.map((one) => serialize.close({ type: 'S', name: one }));
    this.#dropped = [];
    const answer = await this.#send(
      ...closing,
      serialize.parse({ name, text }),
      serialize.describe({ type: 'S', name }),
    );
    let statement: Statement = { name, takes: [], fields: [] };
    for (const one of answer)
      if (one instanceof told.ParameterDescriptionMessage)
        statement = { ...statement, takes: one.dataTypeIDs };
      else if (one instanceof told.RowDescriptionMessage)
        statement = {
          ...statement,
          fields: one.fields.map(({ name, dataTypeID }) => ({ name, dataTypeID })),
        };
    this.#known.set(text, statement);
    return statement;
  }

  #written(value: unknown, type = 0): string | null {
    if (value === null || value === undefined) return null;
    const writer = this.serializers[type];
    // oxlint-disable-next-line typescript/no-base-to-string -- as the engine does by itself
    return writer ? writer(value) : String(value);
  }

  /** Sends messages as one, with the sync that ends them even if one of them fails. */
  #send(...messages: readonly Uint8Array[]) {
    return this.execProtocolStream(Buffer.concat([...messages, serialize.sync()]), NO_COPY);
  }
}
