import type { Database } from './openStore.ts';

const kept = new WeakMap<Database, Map<string, unknown>>();
/** Texts by name; they are the same for whatever connection. */
const texts = new Map<string, unknown>();

/** The part of a question about several tables that writes its text, and how its answer is read. */
interface Writer {
  _toSQL?: () => unknown;
}

/**
 * A question asked again and again, prepared once for each database. Building the text of one about several
 * tables takes longer than answering it, so that is done once for all: a transaction is a database of its own.
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
  const known = own.get(name) as Query | undefined;
  if (known) return known;
  const question = build(db);
  // The query builder has no public way to prepare a text again on another connection.
  const writer = question as unknown as Writer;
  const write = writer._toSQL?.bind(writer);
  if (write)
    writer._toSQL = () => {
      const text = texts.get(name) ?? write();
      texts.set(name, text);
      return text;
    };
  const query = question.prepare(name);
  own.set(name, query);
  return query;
}
