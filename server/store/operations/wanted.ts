import { and, eq, inArray, isNull, notInArray } from 'drizzle-orm';
import type { OrderLine } from '#contract/quotes';
import { compareNames } from '#core/units';
import type { Database } from '../openStore.ts';
import type { OrderPart } from '../schema/quotes.ts';
import { customers, jobs, modules, orderLines, quotes, snapshots } from '../schema/index.ts';
import { StateError } from './errors.ts';

/** Accepted quotes whose jobs are open and not fitted yet. */
async function acceptedQuotes(db: Database) {
  const fitted = db
    .select({ jobId: snapshots.jobId })
    .from(snapshots)
    .where(eq(snapshots.kind, 'as-fitted'));
  return db
    .select({ quote: quotes, number: jobs.number, customerName: customers.name })
    .from(quotes)
    .innerJoin(jobs, eq(jobs.id, quotes.jobId))
    .innerJoin(customers, eq(customers.id, jobs.customerId))
    .where(
      and(eq(quotes.answer, 'accepted'), isNull(jobs.closedAt), notInArray(quotes.jobId, fitted)),
    );
}

/** Parts of accepted quotes that nobody has ordered yet, by supplier. */
export async function listOrders(db: Database): Promise<OrderLine[]> {
  const rows = await acceptedQuotes(db);
  const ordered = await db
    .select({ quoteId: orderLines.quoteId, at: orderLines.quotePart, packs: orderLines.packs })
    .from(orderLines)
    .where(
      and(
        isNull(orderLines.cancelledAt),
        inArray(
          orderLines.quoteId,
          rows.map(({ quote }) => quote.id),
        ),
      ),
    );
  const left = (quoteId: string, at: number, packs: number) =>
    ordered
      .filter((one) => one.quoteId === quoteId && one.at === at)
      .reduce((rest, one) => rest - one.packs, packs);
  return rows
    .flatMap(({ quote, number, customerName }) =>
      quote.orders.map(({ module: _module, units: _units, cost, ...part }, at): OrderLine => ({
        ...{ ...part, quoteId: quote.id, at, cost: cost ?? null },
        packs: left(quote.id, at, part.packs),
        ...{ jobId: quote.jobId, jobNumber: number, customerName },
        acceptedAt: (quote.answeredAt ?? quote.issuedAt).toISOString(),
      })),
    )
    .filter(({ packs }) => packs > 0)
    .sort((a, b) => compareNames(a.supplier, b.supplier) || a.jobNumber - b.jobNumber);
}

/** A part to be ordered, with what it is. */
export interface WantedPart {
  readonly quoteId: string;
  readonly at: number;
  readonly jobId: string;
  readonly part: OrderPart & Required<Pick<OrderPart, 'module' | 'units'>>;
}

/** Parts of accepted quotes by where they stand in them. Throws StateError for what is none any more. */
export async function wantedParts(
  db: Database,
  supplier: string,
  wanted: readonly { readonly quoteId: string; readonly at: number }[],
): Promise<WantedPart[]> {
  // Held until the transaction ends: two who order the same part of a quote take turns.
  await db
    .select({ id: quotes.id })
    .from(quotes)
    .where(
      inArray(
        quotes.id,
        wanted.map(({ quoteId }) => quoteId),
      ),
    )
    .orderBy(quotes.id)
    .for('update');
  const open = await listOrders(db);
  const rows = await acceptedQuotes(db);
  const found: WantedPart[] = [];
  for (const { quoteId, at } of wanted) {
    const line = open.find((one) => one.quoteId === quoteId && one.at === at);
    const part = rows.find(({ quote }) => quote.id === quoteId)?.quote.orders[at];
    if (!line || !part || part.supplier !== supplier)
      throw new StateError(
        'A line of this order is not to be ordered any more.',
        'It was ordered meanwhile, or the job went another way. Look at the list again.',
        'lines',
      );
    found.push({
      quoteId,
      at,
      jobId: line.jobId,
      part: await wholePart(db, { ...part, packs: line.packs }),
    });
  }
  return found;
}

/** Earlier quotes did not keep what is in a pack: the catalogue still knows. */
async function wholePart(db: Database, part: OrderPart): Promise<WantedPart['part']> {
  const { module, units } = part;
  if (module && units !== undefined) return { ...part, module, units };
  const [known] = await db
    .select({ module: modules.module, units: modules.units, cost: modules.cost })
    .from(modules)
    .where(and(eq(modules.supplier, part.supplier), eq(modules.article, part.article)))
    .limit(1);
  if (!known)
    throw new StateError(
      `Nobody knows any more what is in a pack of ${part.text}.`,
      'It left the catalogue. Order it by hand, and put it into the drawer by its label when it is here.',
      'lines',
    );
  return { ...part, module: known.module, units: known.units, cost: part.cost ?? known.cost };
}
