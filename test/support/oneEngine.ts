import { sql } from 'drizzle-orm';
import { query } from '../../server/backup/content.ts';
import { openStore } from '../../server/store/openStore.ts';
import type { Store, StorePlace } from '../../server/store/openStore.ts';

/** Engines of this process that no test uses now; to start one takes a second, to empty one a tenth. */
const idle: Store[] = [];

/** Leaves a database as it was when it was made; what guards its rows is told to look away meanwhile. */
async function empty({ db }: Store): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.execute(sql`set local session_replication_role = replica`);
    const tables = await query<{ name: string }>(
      tx,
      sql`select quote_ident(tablename) as name from pg_tables where schemaname = 'public'`,
    );
    const isFilled = tables.map(
      ({ name }) => sql`select ${name} as name where exists (select 1 from ${sql.raw(name)})`,
    );
    const filled = await query<{ name: string }>(tx, sql.join(isFilled, sql` union all `));
    const names = filled.map(({ name }) => name).join(', ');
    if (names !== '') await tx.execute(sql.raw(`truncate ${names} restart identity cascade`));
  });
}

/** An empty embedded database for one bench; once that is stopped, the next one has it. */
export async function emptyEngine(): Promise<StorePlace> {
  const kept = idle.pop();
  if (kept) await empty(kept);
  const store = kept ?? (await openStore({ type: 'memory' }));
  const close = async () => {
    await Promise.resolve(idle.push(store));
  };
  return { type: 'open', store: { ...store, close } };
}
