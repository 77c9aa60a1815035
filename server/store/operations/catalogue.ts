import { and, asc, eq, getTableColumns, ilike, inArray, or, sql } from 'drizzle-orm';
import type { ModuleInput, ModuleRecord } from '#contract/records';
import type { Database } from '../openStore.ts';
import { modules } from '../schema/index.ts';
import { ConflictError, NotFoundError, StateError } from './errors.ts';
import { containing, newId } from './library.ts';

/** A catalogue is searched on the page; more than this belongs into a supplier's own system. */
const CATALOGUE_LIMIT = 10_000;

const { createdAt: _createdAt, ...moduleColumns } = getTableColumns(modules);
type ModuleRow = Omit<typeof modules.$inferSelect, 'createdAt'>;
const recordOf = ({ pricedAt, ...row }: ModuleRow): ModuleRecord => ({
  ...row,
  pricedAt: pricedAt.toISOString(),
});

/** Modules whose label, supplier or article holds the text, by label. */
export async function listModules(db: Database, search: string): Promise<ModuleRecord[]> {
  const pattern = containing(search);
  const rows = await db
    .select(moduleColumns)
    .from(modules)
    .where(
      search === ''
        ? undefined
        : or(
            ilike(modules.label, pattern),
            ilike(modules.supplier, pattern),
            ilike(modules.article, pattern),
          ),
    )
    .orderBy(asc(modules.label), asc(modules.id))
    .limit(CATALOGUE_LIMIT);
  return rows.map(recordOf);
}

/** Adds a module to the catalogue. */
export async function createModule(db: Database, input: ModuleInput): Promise<ModuleRecord> {
  const [row] = await db
    .insert(modules)
    .values({ id: newId(), ...input })
    .returning(moduleColumns);
  if (!row) throw new Error('expected the inserted module back');
  return recordOf(row);
}

/** Changes a module, if it is still at the version the change started from. */
export async function changeModule(
  db: Database,
  id: string,
  { version, ...input }: ModuleInput & { version: number },
): Promise<ModuleRecord> {
  const [row] = await db
    .update(modules)
    .set({ ...input, version: version + 1, pricedAt: new Date() })
    .where(and(eq(modules.id, id), eq(modules.version, version)))
    .returning(moduleColumns);
  if (row) return recordOf(row);
  const [theirs] = await db.select(moduleColumns).from(modules).where(eq(modules.id, id));
  if (!theirs) throw new NotFoundError('This module');
  throw new ConflictError('This module', recordOf(theirs));
}

/** Takes a module out of the catalogue. Quotes that were issued keep what they say. */
export async function removeModule(db: Database, id: string): Promise<ModuleRecord[]> {
  const gone = await db.delete(modules).where(eq(modules.id, id)).returning({ id: modules.id });
  if (gone.length === 0) throw new NotFoundError('This module');
  return listModules(db, '');
}

const ROWS_AT_ONCE = 500;

/** Adds modules, and changes those that carry an id: all of them or none. */
export async function importModules(
  db: Database,
  list: readonly (ModuleInput & { id?: string | undefined })[],
): Promise<ModuleRecord[]> {
  return db.transaction(async (tx) => {
    const named = list.flatMap(({ id }) => id ?? []);
    if (new Set(named).size < named.length)
      throw new StateError('One id stands in two rows.', 'Keep one of them.', 'modules');
    const known = new Set(
      (await tx.select({ id: modules.id }).from(modules).where(inArray(modules.id, named))).map(
        (row) => row.id,
      ),
    );
    const stranger = named.find((id) => !known.has(id));
    if (stranger !== undefined)
      throw new StateError(
        `The catalogue has no entry “${stranger}”.`,
        'Leave the id empty to add it as new.',
        'modules',
      );
    for (const { id, ...input } of list)
      if (id !== undefined)
        await tx
          .update(modules)
          .set({ ...input, version: sql`${modules.version} + 1`, pricedAt: new Date() })
          .where(eq(modules.id, id));
    const fresh = list.filter(({ id }) => id === undefined);
    for (let at = 0; at < fresh.length; at += ROWS_AT_ONCE)
      await tx
        .insert(modules)
        .values(fresh.slice(at, at + ROWS_AT_ONCE).map((input) => ({ ...input, id: newId() })));
    return listModules(tx, '');
  });
}
