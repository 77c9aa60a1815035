import type { Database } from './openStore.ts';

const kept = new WeakMap<Database, Map<string, unknown>>();

/**
 * A question asked again and again, with its text built once for each database: building it takes
 * longer than answering it. A transaction, which is a database of its own, builds it anew.
 *
 * @param name - one for each text; a database server keeps its plan under it
 */
export function prepared<Query>(
  db: Database,
  name: string,
  build: (db: Database) => { prepare: (name: string) => Query },
): Query {
  const own = kept.get(db) ?? new Map<string, unknown>();
  kept.set(db, own);
  const query = (own.get(name) as Query | undefined) ?? build(db).prepare(name);
  own.set(name, query);
  return query;
}
