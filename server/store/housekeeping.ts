import type { PGlite } from '@electric-sql/pglite';

/** Quiet time after the last write before anything is tidied, ms. */
const QUIET = 5_000;
/** Writes after which it is no longer put off, however busy the bench is. */
const MOST_WRITES = 2_000;
/** Rows changed or dead in a table before it is worth going through, */
const MOST_STALE = 1_000;

/**
 * What a database server does in the background and the embedded engine leaves undone: writing its
 * log back into the tables, so that it is reused and the next start is quick, and making the room of
 * deleted rows usable again. Done when nothing was written for a while, table by table, so that nobody
 * waits long behind it.
 */
export class Housekeeping {
  readonly #client: PGlite;
  #writes = 0;
  #timer: NodeJS.Timeout | undefined;
  #running: Promise<void> | undefined;
  #isStopped = false;

  constructor(client: PGlite) {
    this.#client = client;
  }

  /** Something was stored. */
  noteWrite(): void {
    if (this.#isStopped) return;
    this.#writes += 1;
    if (this.#writes >= MOST_WRITES) void this.tidy();
    else {
      clearTimeout(this.#timer);
      this.#timer = setTimeout(() => void this.tidy(), QUIET).unref();
    }
  }

  /** Tidies now; a second call meanwhile waits for the first. */
  tidy(): Promise<void> {
    return (this.#running ??= this.#tidy()
      // Nothing is lost by it; it is tried again after the next save.
      .catch(() => undefined)
      .finally(() => (this.#running = undefined)));
  }

  /** Tidies a last time, so that the next start has nothing to catch up with. */
  async stop(): Promise<void> {
    this.#isStopped = true;
    clearTimeout(this.#timer);
    await this.#running;
    // What is not tidied now is at the next start.
    if (this.#writes > 0) await this.#client.exec('checkpoint').catch(() => undefined);
  }

  async #tidy(): Promise<void> {
    this.#writes = 0;
    await this.#client.exec('checkpoint');
    const { rows } = await this.#client.query<{ name: string }>(
      `select quote_ident(relname) as name from pg_stat_user_tables
       where n_dead_tup > $1 or n_mod_since_analyze > $1`,
      [MOST_STALE],
    );
    for (const { name } of rows) {
      if (this.#isStopped) return;
      await this.#client.exec(`vacuum (analyze) ${name}`);
    }
  }
}
