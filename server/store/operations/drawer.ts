import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { DrawerInput, DrawerRecord, GoneRecord } from '#contract/drawer';
import { snapshotOf } from '#contract/jobProof';
import type { Shop } from '#contract/quotes';
import type { Job } from '#contract/records';
import type { Placement } from '#core/machine';
import { writeLabel } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { DEFAULT_TERMS } from '#core/quoting';
import type { ShopTerms } from '#core/quoting';
import { writeAs } from '#core/units';
import type { Writing } from '#core/units';
import type { Database } from '../openStore.ts';
import { drawer, jobs, quotes, shopLogos, shopTerms } from '../schema/index.ts';
import { ConflictError, NotFoundError } from './errors.ts';
import { newId } from './library.ts';

const holding = alias(jobs, 'holding');
const pulling = alias(jobs, 'pulling');
const taking = alias(jobs, 'taking');

/** Rows of the drawer with the jobs they speak of. */
export const pieces = (db: Database) =>
  db
    .select({
      piece: drawer,
      heldFor: holding.number,
      pulledIn: pulling.number,
      goneJob: taking.number,
    })
    .from(drawer)
    .leftJoin(holding, eq(holding.id, drawer.reservedFor))
    .leftJoin(pulling, eq(pulling.id, drawer.pulledIn))
    .leftJoin(taking, eq(taking.id, drawer.goneJob))
    .$dynamic();
type PieceRow = Awaited<ReturnType<typeof pieces>>[number];

const ofJob = (jobId: string | null, number: number | null) =>
  jobId === null || number === null ? null : { jobId, number };

/** A row as it is sent. */
export function pieceOf({ piece, heldFor, pulledIn }: PieceRow): DrawerRecord {
  const { id, version, label, module, state, price, cost, origin, place, isNew, supplier } = piece;
  const { serial } = piece;
  return {
    ...{ id, version, label, module, state, price, cost, origin, place, isNew, supplier },
    serial,
    createdAt: piece.createdAt.toISOString(),
    pulledIn: ofJob(piece.pulledIn, pulledIn),
    reservedFor: ofJob(piece.reservedFor, heldFor),
  };
}

/** A row that left stock, as it is sent. */
export function goneOf(row: PieceRow): GoneRecord {
  const { gone, goneAt, goneJob, goneNote } = row.piece;
  if (gone === null || !goneAt) throw new Error('expected a module that left stock');
  return {
    ...pieceOf(row),
    gone: {
      ...{ how: gone, at: goneAt.toISOString(), note: goneNote },
      job: ofJob(goneJob, row.goneJob),
    },
  };
}

/**
 * Everything in stock, by label.
 *
 * @param generations - only of these: a machine takes no other, and a shop's stock is of all
 */
export async function listDrawer(
  db: Database,
  generations?: readonly string[],
): Promise<DrawerRecord[]> {
  const isTaken = generations && inArray(sql`${drawer.module} ->> 'generation'`, [...generations]);
  const rows = await pieces(db)
    .where(and(isNull(drawer.gone), isTaken))
    .orderBy(asc(drawer.label), asc(drawer.id));
  return rows.map(pieceOf);
}

/** One module in stock. Throws NotFoundError for one that left, or never was. */
export async function readPiece(db: Database, id: string): Promise<DrawerRecord> {
  const [row] = await pieces(db).where(and(eq(drawer.id, id), isNull(drawer.gone)));
  if (!row) throw new NotFoundError('This module');
  return pieceOf(row);
}

/** Puts a module in. */
export async function addToDrawer(db: Database, input: DrawerInput): Promise<DrawerRecord> {
  const id = newId();
  await db.insert(drawer).values({ id, ...input });
  return readPiece(db, id);
}

/**
 * Changes a module in stock, if it is still at the version the change started from.
 *
 * @param set - columns beside the version
 */
export async function changePiece(
  db: Database,
  { id, version }: { readonly id: string; readonly version: number },
  set: Partial<typeof drawer.$inferInsert>,
): Promise<void> {
  const rows = await db
    .update(drawer)
    .set({ ...set, version: version + 1 })
    .where(and(eq(drawer.id, id), eq(drawer.version, version), isNull(drawer.gone)))
    .returning({ id: drawer.id });
  if (rows.length === 0) throw new ConflictError('This module', await readPiece(db, id));
}

/** Changes what is noted of a module, if it is still at the version the change started from. */
export async function changeInDrawer(
  db: Database,
  id: string,
  { version, ...input }: DrawerInput & { version: number },
): Promise<DrawerRecord> {
  await changePiece(db, { id, version }, input);
  return readPiece(db, id);
}

/** Labels of some modules, without those of others: as many of a kind as are more. */
export function labelsBeyond(placement: Placement, others: Placement): string[] {
  const labels = Object.values(placement).flatMap((module) => (module ? [writeLabel(module)] : []));
  for (const other of Object.values(others)) {
    const at = other ? labels.indexOf(writeLabel(other)) : -1;
    if (at >= 0) labels.splice(at, 1);
  }
  return labels;
}

/**
 * What a job holds and has fitted is sold: what the accepted quote put into a slot that holds its kind
 * now, and as many more of a kind as sit in the machine and did not sit there before; a spare stays.
 *
 * @param by - the entry of the bench log it was done with, by which it is undone
 */
export async function sellFitted(
  db: Database,
  job: Pick<Job, 'id' | 'snapshots'>,
  placement: Placement,
  by: string | null,
): Promise<void> {
  const held = await db
    .select({ id: drawer.id, module: drawer.module })
    .from(drawer)
    .where(and(eq(drawer.reservedFor, job.id), isNull(drawer.gone)));
  if (held.length === 0) return;
  const planned = await fittedAsQuoted(db, job.id, placement);
  const beyond = labelsBeyond(placement, snapshotOf(job, 'as-found')?.placement ?? {});
  // One that took the place of its like adds none of its kind; any other is among those beyond.
  const take = (module: MemoryModule) => {
    const at = beyond.indexOf(writeLabel(module));
    return at >= 0 && beyond.splice(at, 1).length > 0;
  };
  const quoted = held.filter(({ id }) => planned.has(id));
  for (const { module } of quoted) take(module);
  const used = [...quoted, ...held.filter(({ id, module }) => !planned.has(id) && take(module))];
  if (used.length === 0) return;
  await db
    .update(drawer)
    .set({ gone: 'sold', goneAt: new Date(), goneJob: job.id, goneBy: by })
    .where(
      inArray(
        drawer.id,
        used.map(({ id }) => id),
      ),
    );
}

/** Modules in stock that the accepted quote put into slots which hold their kind. */
async function fittedAsQuoted(
  db: Database,
  jobId: string,
  placement: Placement,
): Promise<ReadonlySet<string>> {
  const [accepted] = await db
    .select({ choice: quotes.choice })
    .from(quotes)
    .where(and(eq(quotes.jobId, jobId), eq(quotes.answer, 'accepted')))
    .orderBy(desc(quotes.number))
    .limit(1);
  const fitted = (accepted?.choice.units ?? []).flatMap(({ slotId, module, source }) => {
    const sits = placement[slotId];
    const isThere = sits && writeLabel(sits) === writeLabel(module);
    return source.type === 'drawer' && isThere ? [source.drawerId] : [];
  });
  return new Set(fitted);
}

/** What a job holds and does not use after all is free for others. */
export async function freeHeld(db: Database, jobId: string): Promise<void> {
  await db
    .update(drawer)
    .set({ reservedFor: null })
    .where(and(eq(drawer.reservedFor, jobId), isNull(drawer.gone)));
}

const SHOP = 'shop';

/** The shop's terms; version 0 until the owner has set any. */
export async function readShop(db: Database): Promise<Shop> {
  const [row] = await db.select().from(shopTerms).where(eq(shopTerms.id, SHOP));
  const [logo] = await db.select({ id: shopLogos.id }).from(shopLogos);
  const hasLogo = logo !== undefined;
  // Terms set before there was one more of them take what a new shop has.
  const terms = { ...DEFAULT_TERMS, ...row?.terms };
  // What is worded for the customer reads the terms first, and is written as they say.
  writeAs(terms);
  return { terms, version: row?.version ?? 0, hasLogo };
}

/** How the shop writes days and numbers; asked by every page, so the sign is left out. */
export async function readWriting(db: Database): Promise<Writing> {
  const [row] = await db
    .select({ terms: shopTerms.terms })
    .from(shopTerms)
    .where(eq(shopTerms.id, SHOP));
  const { dates, numbers } = { ...DEFAULT_TERMS, ...row?.terms };
  return { dates, numbers };
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
