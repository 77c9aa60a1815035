import { and, eq } from 'drizzle-orm';
import type { Signed } from '#contract/access';
import type { AskedAnswer, PlaceOrderInput, PlacedAnswer } from '#contract/suppliers';
import type { Database, Write } from '../store/openStore.ts';
import { readShop } from '../store/operations/drawer.ts';
import { StateError } from '../store/operations/errors.ts';
import { findPlaced, storeOrder } from '../store/operations/orders.ts';
import { wantedParts } from '../store/operations/wanted.ts';
import { notePrices, readSupplier } from '../store/operations/suppliers.ts';
import { modules, suppliers } from '../store/schema/index.ts';
import { askArticles, sendOrder } from './service.ts';
import type { Patience } from './service.ts';

/** What buying needs beside a database: writes of its own, signed. */
export interface Buyer {
  readonly db: Database;
  readonly write: Write;
  readonly patience?: Patience | undefined;
}

const withService = <T extends { readonly name: string; readonly serviceUrl: string }>(
  supplier: T,
): T => {
  if (supplier.serviceUrl === '')
    throw new StateError(
      `${supplier.name} has no service to ask.`,
      'Enter its address under Suppliers, or import a price list.',
    );
  return supplier;
};

/**
 * Asks a supplier's service for all its offers and notes what it says. Nobody's save waits meanwhile:
 * the answer is waited for outside the transaction.
 */
export async function askSupplier(
  { db, write, patience }: Buyer,
  id: string,
): Promise<AskedAnswer> {
  const supplier = withService(await readSupplier(db, id));
  const offers = await db
    .select({ id: modules.id, article: modules.article, stock: modules.stock })
    .from(modules)
    .where(eq(modules.supplier, supplier.name));
  const articles = [...new Set(offers.flatMap(({ article }) => (article === '' ? [] : article)))];
  if (articles.length === 0)
    throw new StateError(
      `The catalogue has no article number of ${supplier.name}.`,
      'Enter them with its modules, or import a price list.',
    );
  const { articles: told, currency, tries } = await askArticles(supplier, articles, patience);
  const { terms } = await readShop(db);
  if (currency !== terms.currency)
    throw new StateError(
      `${supplier.name}’s service counts in ${currency}, the shop in ${terms.currency}.`,
      'Ask the supplier for prices in your currency, or import a list.',
    );
  const at = new Date();
  const toldOf = new Map(told.map((one) => [one.article, one]));
  const heard = offers.flatMap(({ id: offerId, article }) => {
    const one = toldOf.get(article);
    return one ? [{ id: offerId, cost: one.cost, stock: one.stock, leadDays: one.leadDays }] : [];
  });
  const { changed } = await write((tx) => notePrices(tx, supplier.name, heard, at));
  return {
    ...{ asked: articles.length, changed, tries, at: at.toISOString() },
    answered: articles.filter((article) => toldOf.has(article)).length,
    soldOut: told.filter(({ stock }) => stock === 0).length,
  };
}

/**
 * Orders parts of accepted quotes: notes them as ordered by hand, or sends them to the supplier's
 * service first and notes what it confirms. The same order sent twice stands once, here and there.
 */
export async function placeOrder(
  { db, write, patience }: Buyer,
  { id, supplier, lines, reference, send, by }: Signed<PlaceOrderInput>,
): Promise<PlacedAnswer> {
  const known = await findPlaced(db, id);
  if (known) return { order: known, refused: [] };
  if (!send)
    return write(async (tx) => {
      const parts = await wantedParts(tx, supplier, lines);
      const whole = parts.map((one) => ({ ...one, leadDays: one.part.leadDays }));
      const order = await storeOrder(tx, {
        ...{ id, supplier, by, reference, isSent: false, parts: whole },
      });
      return { order, refused: [] };
    });
  const [row] = await db.select().from(suppliers).where(eq(suppliers.name, supplier));
  if (!row)
    throw new StateError(
      'These parts name no supplier.',
      'Enter it with them in the catalogue, or order by hand.',
    );
  const wanted = await db.transaction((tx) => wantedParts(tx, supplier, lines));
  const nameless = wanted.find(({ part }) => part.article === '');
  if (nameless)
    throw new StateError(
      `${nameless.part.text} has no article number to order by.`,
      'Enter it in the catalogue, or order by hand.',
    );
  const answer = await sendOrder(
    withService(row),
    id,
    {
      reference: id,
      lines: [...packsByArticle(wanted)].map(([article, packs]) => ({ article, packs })),
    },
    patience,
  );
  const stateOf = new Map(answer.lines.map((one) => [one.article, one]));
  const isConfirmed = ({ part }: (typeof wanted)[number]) =>
    stateOf.get(part.article)?.state === 'confirmed';
  const refused = [
    ...new Set(wanted.filter((one) => !isConfirmed(one)).map(({ part }) => part.article)),
  ];
  const order = await write(async (tx) => {
    const parts = (await stillWanted(tx, supplier, lines, answer.number)).filter(isConfirmed);
    for (const article of refused)
      if (stateOf.get(article)?.state === 'sold out')
        await tx
          .update(modules)
          .set({ stock: 0 })
          .where(and(eq(modules.article, article), eq(modules.supplier, supplier)));
    if (parts.length === 0) return null;
    const whole = parts.map((one) => ({
      ...one,
      leadDays: stateOf.get(one.part.article)?.leadDays ?? null,
    }));
    return storeOrder(tx, {
      ...{ id, supplier, by, reference: answer.number, isSent: true, parts: whole },
    });
  });
  return {
    order,
    refused: refused.map((article) => ({
      article,
      why: stateOf.get(article)?.state ?? 'not answered',
    })),
  };
}

/** The supplier has it by now: what changed meanwhile is said with the number it can be cancelled by. */
async function stillWanted(
  tx: Database,
  supplier: string,
  lines: PlaceOrderInput['lines'],
  number: string,
) {
  try {
    return await wantedParts(tx, supplier, lines);
  } catch (error) {
    if (!(error instanceof StateError)) throw error;
    throw new StateError(
      `${supplier} confirmed it as ${number}, but a line was ordered or given up meanwhile.`,
      `Cancel what is too much there, by ${number}, and note the rest as ordered by hand.`,
    );
  }
}

/** One line an article, as suppliers pack them. */
function packsByArticle(parts: Awaited<ReturnType<typeof wantedParts>>): Map<string, number> {
  const packs = new Map<string, number>();
  for (const { part } of parts)
    packs.set(part.article, (packs.get(part.article) ?? 0) + part.packs);
  return packs;
}
