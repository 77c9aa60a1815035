import { sql } from 'drizzle-orm';
import type { Database } from './openStore.ts';

/**
 * Tells a transaction who it is for: what triggers note is signed with it, and the tab it came from is
 * not told of its own change.
 */
export async function sayWho(tx: Database, who = '', tab = ''): Promise<void> {
  await tx.execute(
    sql`select set_config('tembrix.who', ${who}, true), set_config('tembrix.tab', ${tab.slice(0, 40)}, true)`,
  );
}

/** What follows in a transaction is taken in from elsewhere, and was noted there. */
export async function noteNothing(tx: Database): Promise<void> {
  await tx.execute(sql`select set_config('tembrix.quiet', 'on', true)`);
}
