import {
  and,
  asc,
  count,
  desc,
  eq,
  gt,
  ilike,
  inArray,
  isNotNull,
  isNull,
  lt,
  or,
  sql,
} from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { Signed } from '#contract/access';
import type { DrawerRecord, GoneRecord, WayOut } from '#contract/drawer';
import type {
  CountAnswer,
  CountInput,
  CountRecord,
  CountTaken,
  GonePage,
  StockPage,
  StockQuery,
  StockValueAnswer,
} from '#contract/stockKeeping';
import { countDifferences, valueOf } from '#core/stock';
import { compareNames } from '#core/units';
import type { Database } from '../openStore.ts';
import { drawer, jobs, stockCounts } from '../schema/index.ts';
import { changePiece, goneOf, pieceOf, pieces, readPiece } from './drawer.ts';
import { ConflictError, NotFoundError, StateError } from './errors.ts';
import { containing, newId } from './library.ts';

/** Where a page went to, as the next one is asked for: the last row's keys. */
const keyAfter = (...keys: readonly string[]) => JSON.stringify(keys);

function keysOf(after: string | undefined): [string, string] | undefined {
  if (after === undefined) return undefined;
  try {
    const [first, second] = JSON.parse(after) as unknown[];
    if (typeof first === 'string' && typeof second === 'string') return [first, second];
  } catch {
    // Said below.
  }
  throw new StateError('This page does not follow another.', 'Start from the first one.', 'after');
}

const totalOf = async (db: Database, where: SQL | undefined): Promise<number> => {
  const [row] = await db.select({ total: count() }).from(drawer).where(where);
  return row?.total ?? 0;
};

const heldWords = (search: string) =>
  search === ''
    ? undefined
    : or(
        ilike(drawer.label, containing(search)),
        ilike(drawer.origin, containing(search)),
        ilike(drawer.serial, containing(search)),
      );

/** A page of the modules in stock, by label. */
export async function listStock(
  db: Database,
  { search, place, state, after, limit }: StockQuery,
): Promise<StockPage> {
  const where = and(
    isNull(drawer.gone),
    heldWords(search),
    place === undefined ? undefined : eq(drawer.place, place),
    state === undefined
      ? undefined
      : state === 'reserved'
        ? isNotNull(drawer.reservedFor)
        : state === 'free'
          ? isNull(drawer.reservedFor)
          : eq(drawer.state, state),
  );
  const keys = keysOf(after);
  const follows =
    keys && or(gt(drawer.label, keys[0]), and(eq(drawer.label, keys[0]), gt(drawer.id, keys[1])));
  const rows = await pieces(db)
    .where(and(where, follows))
    .orderBy(asc(drawer.label), asc(drawer.id))
    .limit(limit);
  const last = rows.length === limit ? rows.at(-1)?.piece : undefined;
  return {
    pieces: rows.map(pieceOf),
    next: last ? keyAfter(last.label, last.id) : null,
    total: await totalOf(db, where),
  };
}

/** A page of the modules that left, the latest first. */
export async function listGone(
  db: Database,
  { search, after, limit }: Pick<StockQuery, 'search' | 'after' | 'limit'>,
): Promise<GonePage> {
  const where = and(isNotNull(drawer.gone), heldWords(search));
  const keys = keysOf(after);
  if (keys && Number.isNaN(Date.parse(keys[0]))) keysOf('[]');
  const at = keys && new Date(keys[0]);
  const follows =
    keys && at && or(lt(drawer.goneAt, at), and(eq(drawer.goneAt, at), gt(drawer.id, keys[1])));
  const rows = await pieces(db)
    .where(and(where, follows))
    .orderBy(desc(drawer.goneAt), asc(drawer.id))
    .limit(limit);
  const last = rows.length === limit ? rows.at(-1)?.piece : undefined;
  return {
    pieces: rows.map(goneOf),
    next: last ? keyAfter(last.goneAt?.toISOString() ?? '', last.id) : null,
    total: await totalOf(db, where),
  };
}

/** What the modules in stock are worth, and where they lie. */
export async function readStockValue(db: Database): Promise<StockValueAnswer> {
  const rows = await db
    .select({
      state: drawer.state,
      price: drawer.price,
      cost: drawer.cost,
      isReserved: sql<boolean>`${drawer.reservedFor} is not null`,
      place: drawer.place,
    })
    .from(drawer)
    .where(isNull(drawer.gone));
  const byPlace = new Map<string, number>();
  for (const { place } of rows) byPlace.set(place, (byPlace.get(place) ?? 0) + 1);
  const places = [...byPlace].map(([place, number]) => ({ place, pieces: number }));
  return { ...valueOf(rows), places: places.sort((a, b) => compareNames(a.place, b.place)) };
}

interface Leaving {
  readonly how: WayOut;
  readonly note: string;
  readonly version: number;
}

/** A module leaves stock. What an open job holds is let go first, by somebody who means it. */
export async function letGo(
  db: Database,
  id: string,
  { how, note, version }: Leaving,
): Promise<GoneRecord> {
  const { reservedFor } = await readPiece(db, id);
  if (reservedFor)
    throw new StateError(
      `Job ${String(reservedFor.number).padStart(4, '0')} holds this module.`,
      'Let it go first, or use another for that job.',
    );
  await changePiece(db, { id, version }, { gone: how, goneAt: new Date(), goneNote: note });
  const [row] = await pieces(db).where(eq(drawer.id, id));
  if (!row) throw new NotFoundError('This module');
  return goneOf(row);
}

const HERE = { gone: null, goneAt: null, goneJob: null, goneNote: '', goneBy: null };

/** A module is here after all: as it was, free. */
export async function takeBack(db: Database, id: string, version: number): Promise<DrawerRecord> {
  const rows = await db
    .update(drawer)
    .set({ ...HERE, version: version + 1 })
    .where(and(eq(drawer.id, id), eq(drawer.version, version), isNotNull(drawer.gone)))
    .returning({ id: drawer.id });
  if (rows.length > 0) return readPiece(db, id);
  const [row] = await pieces(db).where(eq(drawer.id, id));
  if (!row) throw new NotFoundError('This module');
  throw new ConflictError('This module', pieceOf(row));
}

/** Holds a module for an open job by its number, or lets it go. */
export async function holdPiece(
  db: Database,
  id: string,
  { jobNumber, version }: { readonly jobNumber: number | null; readonly version: number },
): Promise<DrawerRecord> {
  const piece = await readPiece(db, id);
  if (jobNumber === null) await changePiece(db, { id, version }, { reservedFor: null });
  else {
    const [job] = await db
      .select({ id: jobs.id, closedAt: jobs.closedAt })
      .from(jobs)
      .where(eq(jobs.number, jobNumber));
    const name = String(jobNumber).padStart(4, '0');
    if (!job)
      throw new StateError(`There is no job ${name}.`, 'Look it up on the bench.', 'jobNumber');
    if (job.closedAt)
      throw new StateError(`Job ${name} is closed.`, 'Open it again first.', 'jobNumber');
    if (piece.state === 'faulty' || piece.state === 'suspect')
      throw new StateError(`This module is ${piece.state}.`, 'Test it and change its state first.');
    if (piece.reservedFor && piece.reservedFor.jobId !== job.id)
      throw new StateError(
        `Job ${String(piece.reservedFor.number).padStart(4, '0')} holds this module.`,
        'Let it go there first.',
      );
    await changePiece(db, { id, version }, { reservedFor: job.id });
  }
  return readPiece(db, id);
}

async function compared(db: Database, { place, scanned }: CountInput) {
  const rows = await db
    .select({ id: drawer.id, label: drawer.label, place: drawer.place, gone: drawer.gone })
    .from(drawer);
  return {
    rows: new Map(rows.map((row) => [row.id, row])),
    result: countDifferences(rows, place ?? undefined, scanned),
  };
}

/** What was scanned against what should be there. Changes nothing. */
export async function compareCount(db: Database, input: CountInput): Promise<CountAnswer> {
  const { rows, result } = await compared(db, input);
  const named = (id: string) => {
    const { label = '', place = '', gone = null } = rows.get(id) ?? {};
    return { id, label, place, gone };
  };
  const lying = (id: string) => {
    const { gone: _gone, ...piece } = named(id);
    return piece;
  };
  return {
    ...{ expected: result.expected, found: result.found, twice: result.twice },
    missing: result.missing.map(lying),
    elsewhere: result.elsewhere.map(({ id }) => lying(id)),
    back: result.back.map(({ id, gone }) => ({ ...lying(id), gone: gone as WayOut })),
    strange: [...result.strange],
  };
}

/**
 * Takes a count over, on what the records say at that moment: what lay elsewhere lies here now, what
 * had left is back, and what is missing is suspect, or written off where that was said.
 */
export async function takeCount(
  db: Database,
  { place, scanned, writeOff, by }: Signed<CountTaken>,
): Promise<CountRecord> {
  const { rows, result } = await compared(db, { place, scanned });
  const set = async (ids: readonly string[], values: Partial<typeof drawer.$inferInsert>) => {
    if (ids.length === 0) return;
    await db
      .update(drawer)
      .set({ ...values, version: sql`${drawer.version} + 1` })
      .where(inArray(drawer.id, [...ids]));
  };
  const here = place === null ? {} : { place };
  if (place !== null)
    await set(
      result.elsewhere.map(({ id }) => id),
      here,
    );
  await set(
    result.back.map(({ id }) => id),
    // Nobody knows where it was meanwhile.
    { ...HERE, ...here, state: 'suspect', reservedFor: null },
  );
  const lost = new Set(writeOff);
  const held = [...lost].find((id) => !result.missing.includes(id));
  if (held !== undefined)
    throw new StateError(
      `${rows.get(held)?.label ?? 'A module'} is not missing any more.`,
      'Compare the count again: something was changed meanwhile.',
      'writeOff',
    );
  await set([...lost], {
    ...{ gone: 'written off', goneAt: new Date(), goneNote: 'not found at a count' },
    reservedFor: null,
  });
  await set(
    result.missing.filter((id) => !lost.has(id)),
    { state: 'suspect' },
  );
  const [row] = await db
    .insert(stockCounts)
    .values({
      ...{ id: newId(), by, place, expected: result.expected, found: result.found },
      ...{ missing: result.missing.length, back: result.back.length },
      moved: place === null ? 0 : result.elsewhere.length,
    })
    .returning();
  if (!row) throw new Error('expected the count back');
  return { ...row, at: row.at.toISOString() };
}

const COUNTS_LISTED = 50;

/** The latest counts. */
export async function listCounts(db: Database): Promise<CountRecord[]> {
  const rows = await db
    .select()
    .from(stockCounts)
    .orderBy(desc(stockCounts.at))
    .limit(COUNTS_LISTED);
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}
