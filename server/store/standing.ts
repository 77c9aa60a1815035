import { sql } from 'drizzle-orm';
import type { Database } from './openStore.ts';

/**
 * Runs a change of rows that otherwise stand for good: a backup taken in place of what is here, or a
 * person's data taken out on request. Nothing of it is noted or told row by row.
 */
export async function withoutGuards(
  tx: Database,
  tables: readonly string[],
  run: () => Promise<void>,
): Promise<void> {
  for (const table of tables)
    await tx.execute(sql`alter table ${sql.identifier(table)} disable trigger user`);
  await run();
  // Deferred checks of the rows come first: a table with some pending cannot be altered.
  await tx.execute(sql`set constraints all immediate`);
  for (const table of tables)
    await tx.execute(sql`alter table ${sql.identifier(table)} enable trigger user`);
}
