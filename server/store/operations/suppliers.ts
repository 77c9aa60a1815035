import { and, count, eq, inArray, max, sql } from 'drizzle-orm';
import type { PriceListInput, SupplierRecord } from '#contract/suppliers';
import { priceFromCost } from '#core/stock';
import type { PricingRule } from '#core/stock';
import type { Database } from '../openStore.ts';
import { modules, suppliers } from '../schema/index.ts';
import { byName } from './byName.ts';
import { readShop } from './drawer.ts';
import { ConflictError, NotFoundError, StateError } from './errors.ts';
import { newId } from './library.ts';

/** Suppliers by name, each with how many offers the catalogue has of it. */
export async function listSuppliers(db: Database): Promise<SupplierRecord[]> {
  const rows = await db
    .select({ supplier: suppliers, offers: count(modules.id), pricedAt: max(modules.pricedAt) })
    .from(suppliers)
    .leftJoin(modules, eq(modules.supplier, suppliers.name))
    .groupBy(suppliers.id)
    .orderBy(byName(suppliers.name));
  return rows.map(({ supplier, offers, pricedAt }) => {
    const { id, version, name, contact, serviceUrl, serviceKey, columns } = supplier;
    return {
      ...{ id, version, name, contact, serviceUrl, offers, columns },
      hasKey: serviceKey !== '',
      pricedAt: pricedAt?.toISOString() ?? null,
    };
  });
}

interface SupplierGiven {
  readonly name: string;
  readonly contact: string;
  readonly serviceUrl: string;
  readonly serviceKey?: string | undefined;
}

async function refuseSameName(db: Database, name: string, but = ''): Promise<void> {
  const [same] = await db
    .select({ id: suppliers.id, name: suppliers.name })
    .from(suppliers)
    .where(eq(sql`lower(${suppliers.name})`, name.toLowerCase()));
  if (same && same.id !== but)
    throw new StateError(`There is a supplier “${same.name}” already.`, 'Change that one.', 'name');
}

/** Adds a supplier. */
export async function addSupplier(db: Database, input: SupplierGiven): Promise<SupplierRecord[]> {
  await refuseSameName(db, input.name);
  await db.insert(suppliers).values({ id: newId(), ...input });
  return listSuppliers(db);
}

/** Changes a supplier, if it is still at the version the change started from; offers follow a new name. */
export async function changeSupplier(
  db: Database,
  id: string,
  { version, ...input }: SupplierGiven & { readonly version: number },
): Promise<SupplierRecord[]> {
  await refuseSameName(db, input.name, id);
  const [before] = await db.select().from(suppliers).where(eq(suppliers.id, id)).for('update');
  if (!before) throw new NotFoundError('This supplier');
  if (before.version !== version) {
    const theirs = (await listSuppliers(db)).find((one) => one.id === id);
    throw new ConflictError('This supplier', theirs);
  }
  await db
    .update(suppliers)
    .set({ ...input, version: version + 1 })
    .where(eq(suppliers.id, id));
  if (before.name !== input.name)
    await db
      .update(modules)
      .set({ supplier: input.name, version: sql`${modules.version} + 1` })
      .where(eq(modules.supplier, before.name));
  return listSuppliers(db);
}

/** The supplier of an id. Throws NotFoundError. */
export async function readSupplier(db: Database, id: string) {
  const [row] = await db.select().from(suppliers).where(eq(suppliers.id, id));
  if (!row) throw new NotFoundError('This supplier');
  return row;
}

/** What was heard of an offer. */
export interface HeardPrice {
  readonly id: string;
  readonly cost: number;
  readonly stock?: number | null | undefined;
  readonly leadDays?: number | null | undefined;
}

const ROWS_AT_ONCE = 500;

/**
 * Notes what a supplier says of its offers, and makes prices of costs where the shop does.
 *
 * @returns how many changed in anything but their age, and how many have another price now
 */
export async function notePrices(
  db: Database,
  supplier: string,
  heard: readonly HeardPrice[],
  pricedAt = new Date(),
): Promise<{ changed: number; repriced: number }> {
  const { terms } = await readShop(db);
  const known = new Map(
    (
      await db
        .select({
          id: modules.id,
          cost: modules.cost,
          price: modules.price,
          stock: modules.stock,
          leadDays: modules.leadDays,
        })
        .from(modules)
        .where(eq(modules.supplier, supplier))
    ).map((row) => [row.id, row]),
  );
  const stranger = heard.find(({ id }) => !known.has(id));
  if (stranger)
    throw new StateError(
      'The catalogue was changed meanwhile: an offer of the list is not of this supplier any more.',
      'Read the list again.',
    );
  let changed = 0;
  let repriced = 0;
  const rows = heard.flatMap(({ id, cost, stock, leadDays }) => {
    const was = known.get(id);
    if (!was) return [];
    const price = priceFromCost(cost, terms) ?? was.price;
    const now = {
      ...{ id, cost, price },
      stock: stock === undefined ? was.stock : stock,
      lead_days: leadDays === undefined ? was.leadDays : leadDays,
    };
    if (price !== was.price) repriced++;
    if (
      cost !== was.cost ||
      price !== was.price ||
      now.stock !== was.stock ||
      now.lead_days !== was.leadDays
    )
      changed++;
    return [now];
  });
  for (let at = 0; at < rows.length; at += ROWS_AT_ONCE)
    await db.execute(sql`
      update modules set cost = n.cost, price = n.price, stock = n.stock, lead_days = n.lead_days,
        priced_at = ${pricedAt.toISOString()}::timestamptz, version = modules.version + 1
      from jsonb_to_recordset(${JSON.stringify(rows.slice(at, at + ROWS_AT_ONCE))}::jsonb)
        as n (id text, cost int, price int, stock int, lead_days int)
      where modules.id = n.id`);
  return { changed, repriced };
}

/** Takes a price list over: all of it or nothing. Its columns are remembered for the next one. */
export async function takePriceList(
  db: Database,
  id: string,
  { columns, changes, additions }: PriceListInput,
): Promise<{ changed: number; added: number; repriced: number }> {
  const supplier = await readSupplier(db, id);
  const { terms } = await readShop(db);
  const result = await notePrices(db, supplier.name, changes);
  await refuseKnown(db, supplier.name, additions);
  const fresh = additions.map(({ stock = null, leadDays = null, ...one }) => ({
    ...{ ...one, stock, leadDays, id: newId(), supplier: supplier.name },
    price: priceFromCost(one.cost, terms satisfies PricingRule),
  }));
  for (let at = 0; at < fresh.length; at += ROWS_AT_ONCE)
    await db.insert(modules).values(fresh.slice(at, at + ROWS_AT_ONCE));
  await db
    .update(suppliers)
    .set({ columns, version: supplier.version + 1 })
    .where(eq(suppliers.id, id));
  return { ...result, added: fresh.length };
}

async function refuseKnown(
  db: Database,
  supplier: string,
  additions: PriceListInput['additions'],
): Promise<void> {
  if (additions.length === 0) return;
  const articles = additions.map(({ article }) => article);
  const [known] = await db
    .select({ article: modules.article })
    .from(modules)
    .where(and(eq(modules.supplier, supplier), inArray(modules.article, articles)))
    .limit(1);
  if (known || new Set(articles).size < articles.length)
    throw new StateError(
      `Article ${known?.article ?? 'of two rows'} is in the catalogue already.`,
      'Read the list again: it was added meanwhile.',
      'additions',
    );
}
