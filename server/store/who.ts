import { sql } from 'drizzle-orm';
import type { Database, Write } from './openStore.ts';

/** Whose transaction it is: what triggers note is signed with it. */
export interface Writer {
  /** Nobody where the bench does something by itself. */
  readonly who?: string | undefined;
  /** The tab it came from, which is not told of its own change. */
  readonly tab?: string | undefined;
}

/**
 * Tells a transaction whose it is.
 *
 * @param settings - what else holds for this transaction alone: one question costs as much as another
 */
export async function sayWho(
  tx: Database,
  { who = '', tab = '' }: Writer = {},
  settings: Readonly<Record<string, string>> = {},
): Promise<void> {
  const all = { ...settings, 'tembrix.who': who, 'tembrix.tab': tab.slice(0, 40) };
  const set = Object.entries(all).map(([name, value]) => sql`set_config(${name}, ${value}, true)`);
  await tx.execute(sql`select ${sql.join(set, sql`, `)}`);
}

/** Writes of an engine that waits for the disk by itself. */
export const signedWrite =
  (db: Database): Write =>
  (run, by) =>
    db.transaction(async (tx) => {
      await sayWho(tx, by);
      return run(tx);
    });

/** What follows in a transaction is taken in from elsewhere, and was noted there. */
export async function noteNothing(tx: Database): Promise<void> {
  await tx.execute(sql`select set_config('tembrix.quiet', 'on', true)`);
}
