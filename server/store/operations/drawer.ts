import { and, asc, eq, isNull } from 'drizzle-orm';
import type { DrawerInput, DrawerRecord, Shop } from '#contract/quotes';
import { DEFAULT_TERMS } from '#core/quoting';
import type { ShopTerms } from '#core/quoting';
import type { Database } from '../openStore.ts';
import { drawer, jobs, shopTerms } from '../schema/index.ts';
import { ConflictError, NotFoundError, StateError } from './errors.ts';
import { newId } from './library.ts';

/** Everything in the drawer, by label. */
export async function listDrawer(db: Database): Promise<DrawerRecord[]> {
  const rows = await db
    .select({ drawer, number: jobs.number })
    .from(drawer)
    .leftJoin(jobs, eq(jobs.id, drawer.reservedFor))
    .orderBy(asc(drawer.label), asc(drawer.id));
  return rows.map(({ drawer: { createdAt: _createdAt, reservedFor, ...row }, number }) => ({
    ...row,
    reservedFor: reservedFor === null || number === null ? null : { jobId: reservedFor, number },
  }));
}

/** Puts a module in. */
export async function addToDrawer(db: Database, input: DrawerInput): Promise<DrawerRecord[]> {
  await db.insert(drawer).values({ id: newId(), ...input });
  return listDrawer(db);
}

/** Changes a module, if it is still at the version the change started from. */
export async function changeInDrawer(
  db: Database,
  id: string,
  { version, ...input }: DrawerInput & { version: number },
): Promise<DrawerRecord[]> {
  const rows = await db
    .update(drawer)
    .set({ ...input, version: version + 1 })
    .where(and(eq(drawer.id, id), eq(drawer.version, version)))
    .returning({ id: drawer.id });
  const all = await listDrawer(db);
  if (rows.length > 0) return all;
  const theirs = all.find((one) => one.id === id);
  if (!theirs) throw new NotFoundError('This module');
  throw new ConflictError('This module', theirs);
}

/** Takes a module out, unless an accepted quote holds it. */
export async function takeFromDrawer(db: Database, id: string): Promise<DrawerRecord[]> {
  const gone = await db
    .delete(drawer)
    .where(and(eq(drawer.id, id), isNull(drawer.reservedFor)))
    .returning({ id: drawer.id });
  const all = await listDrawer(db);
  if (gone.length > 0) return all;
  if (!all.some((one) => one.id === id)) throw new NotFoundError('This module');
  throw new StateError(
    'An accepted quote holds this module.',
    'Take another for that job first, or let it stay.',
  );
}

const SHOP = 'shop';

/** The shop's terms; version 0 until the owner has set any. */
export async function readShop(db: Database): Promise<Shop> {
  const [row] = await db.select().from(shopTerms).where(eq(shopTerms.id, SHOP));
  // Terms set before there was one more of them take what a new shop has.
  return row
    ? { terms: { ...DEFAULT_TERMS, ...row.terms }, version: row.version }
    : { terms: DEFAULT_TERMS, version: 0 };
}

/** Sets the shop's terms, if they are still at the version the change started from. */
export async function changeShop(
  db: Database,
  { terms, version }: { terms: ShopTerms; version: number },
): Promise<Shop> {
  const rows =
    version === 0
      ? await db.insert(shopTerms).values({ id: SHOP, terms }).onConflictDoNothing().returning()
      : await db
          .update(shopTerms)
          .set({ terms, version: version + 1 })
          .where(and(eq(shopTerms.id, SHOP), eq(shopTerms.version, version)))
          .returning();
  if (rows.length === 0) throw new ConflictError('The shop’s terms', await readShop(db));
  return readShop(db);
}
