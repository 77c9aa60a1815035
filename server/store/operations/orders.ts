import { and, desc, eq, inArray, isNull, lt, notInArray, or, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { OrderLine } from '#contract/quotes';
import type { PlacedOrder, Receipt, ReceiptInput } from '#contract/suppliers';
import { writeLabel } from '#core/memory';
import type { Database } from '../openStore.ts';
import type { OrderPart } from '../schema/quotes.ts';
import {
  customers,
  drawer,
  jobs,
  modules,
  orderLines,
  orders,
  quotes,
  snapshots,
  suppliers,
} from '../schema/index.ts';
import { addEvent } from './changeJobs.ts';
import { NotFoundError, StateError } from './errors.ts';
import { newId } from './library.ts';

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
    .sort((a, b) => a.supplier.localeCompare(b.supplier) || a.jobNumber - b.jobNumber);
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

const DAY_MS = 86_400_000;
const dayAfter = (days: number | null) =>
  days === null ? null : new Date(Date.now() + days * DAY_MS).toISOString().slice(0, 10);

/** An order as it is stored. */
export interface NewOrder {
  readonly id: string;
  readonly supplier: string;
  readonly by: string;
  readonly reference: string;
  readonly isSent: boolean;
  readonly parts: readonly (WantedPart & { readonly leadDays: number | null })[];
}

/** Stores an order whose parts were looked up in the same transaction. */
export async function storeOrder(db: Database, order: NewOrder): Promise<PlacedOrder> {
  const { id, supplier, by, reference, isSent, parts } = order;
  const [owner] = await db
    .select({ id: suppliers.id })
    .from(suppliers)
    .where(eq(suppliers.name, supplier));
  // Parts nobody named a supplier for are bought somewhere all the same.
  const supplierId = owner?.id ?? (await unnamed(db));
  await db.insert(orders).values({ id, supplierId, by, reference, isSent });
  await db.insert(orderLines).values(
    parts.map(({ quoteId, at, jobId, part, leadDays }) => ({
      ...{ id: newId(), orderId: id, quoteId, quotePart: at, forJob: jobId },
      ...{ article: part.article, text: part.text, module: part.module, units: part.units },
      ...{ packs: part.packs, cost: part.cost ?? null, price: part.each },
      expectedOn: dayAfter(leadDays),
    })),
  );
  const placed = await readPlaced(db, id);
  for (const jobId of new Set(parts.map((one) => one.jobId))) {
    const texts = parts
      .filter((one) => one.jobId === jobId)
      .map(({ part }) => `${part.packs} × ${part.text}`);
    await addEvent(db, jobId, 'ordered', `Ordered: ${texts.join(', ')}`);
  }
  return placed;
}

async function unnamed(db: Database): Promise<string> {
  const id = 'unnamed';
  await db.insert(suppliers).values({ id, name: 'No supplier named' }).onConflictDoNothing();
  return id;
}

/** Orders that came whole stay on the list this long. */
const SHOWN_DAYS = 30;

/** Orders on their way, the oldest first, then those that came lately. */
export async function listPlacedOrders(db: Database): Promise<PlacedOrder[]> {
  const isOpen = sql`exists (select 1 from ${orderLines} where ${orderLines.orderId} = ${orders.id}
    and ${orderLines.cancelledAt} is null and ${orderLines.received} < ${orderLines.packs})`;
  const recent = new Date(Date.now() - SHOWN_DAYS * DAY_MS);
  const placed = await placedWhere(
    db,
    or(isOpen, sql`${orders.placedAt} > ${recent.toISOString()}::timestamptz`),
  );
  const isOnItsWay = ({ lines }: PlacedOrder) =>
    lines.some(({ isCancelled, received, packs }) => !isCancelled && received < packs);
  return [
    ...placed.filter(isOnItsWay).sort((a, b) => a.number - b.number),
    ...placed.filter((one) => !isOnItsWay(one)),
  ];
}

/** One order. Throws NotFoundError. */
export async function readPlaced(db: Database, id: string): Promise<PlacedOrder> {
  const [order] = await placedWhere(db, eq(orders.id, id));
  if (!order) throw new NotFoundError('This order');
  return order;
}

/** The order of an id, if it was placed already. */
export async function findPlaced(db: Database, id: string): Promise<PlacedOrder | undefined> {
  return (await placedWhere(db, eq(orders.id, id)))[0];
}

async function placedWhere(db: Database, where: SQL | undefined): Promise<PlacedOrder[]> {
  const rows = await db
    .select({ order: orders, supplier: suppliers.name })
    .from(orders)
    .innerJoin(suppliers, eq(suppliers.id, orders.supplierId))
    .where(where)
    .orderBy(desc(orders.number));
  const lines = await db
    .select({ line: orderLines, number: jobs.number, customerName: customers.name })
    .from(orderLines)
    .leftJoin(jobs, eq(jobs.id, orderLines.forJob))
    .leftJoin(customers, eq(customers.id, jobs.customerId))
    .where(
      inArray(
        orderLines.orderId,
        rows.map(({ order }) => order.id),
      ),
    )
    .orderBy(orderLines.text, orderLines.id);
  return rows.map(({ order: { id, number, placedAt, by, reference, isSent }, supplier }) => {
    const own = lines.filter(({ line }) => line.orderId === id);
    const days = own.map(({ line }) => line.expectedOn);
    return {
      ...{ id, number, supplier, placedAt: placedAt.toISOString(), by, reference, isSent },
      expectedOn: days.includes(null) ? null : (days.map(String).sort().at(-1) ?? null),
      lines: own.map(({ line, number: jobNumber, customerName }) => ({
        ...{ id: line.id, article: line.article, text: line.text, units: line.units },
        ...{ packs: line.packs, received: line.received, cost: line.cost },
        isCancelled: line.cancelledAt !== null,
        job:
          line.forJob === null || jobNumber === null
            ? null
            : { jobId: line.forJob, number: jobNumber, customerName: customerName ?? '' },
      })),
    };
  });
}

/**
 * Takes in what came of an order. Each module becomes one in stock, held for the job it was
 * ordered for while that is open and not fitted, free otherwise.
 */
export async function receiveOrder(
  db: Database,
  id: string,
  { lines, place }: ReceiptInput,
): Promise<Receipt> {
  const order = await readPlaced(db, id);
  const pieces: string[] = [];
  for (const { lineId, packs, cost } of lines) {
    const [line] = await db
      .update(orderLines)
      .set({
        received: sql`${orderLines.received} + ${packs}`,
        ...(cost === undefined ? {} : { cost }),
      })
      .where(
        and(
          eq(orderLines.id, lineId),
          eq(orderLines.orderId, id),
          isNull(orderLines.cancelledAt),
          sql`${orderLines.received} + ${packs} <= ${orderLines.packs}`,
        ),
      )
      .returning();
    if (!line) throw notToCome(order, lineId);
    const isWanted = line.forJob !== null && (await isStillWanted(db, line.forJob));
    const { module, units } = line;
    const rows = Array.from({ length: packs * units }, (_, at) => ({
      ...{ id: newId(), label: writeLabel(module), state: 'untested' as const, isNew: true, place },
      // Modules of one pack know one another again.
      module:
        units === 1
          ? module
          : { ...module, kitId: `${line.id}.${line.received - packs + Math.floor(at / units)}` },
      price: Math.round(line.price / units),
      cost: line.cost === null ? null : Math.round(line.cost / units),
      ...{ origin: `order ${order.number}`, supplier: order.supplier, orderLineId: line.id },
      reservedFor: isWanted ? line.forJob : null,
    }));
    await db.insert(drawer).values(rows);
    pieces.push(...rows.map((row) => row.id));
    if (line.forJob !== null)
      await addEvent(db, line.forJob, 'received', `Came: ${packs} × ${line.text}`);
  }
  return { order: await readPlaced(db, id), pieces };
}

function notToCome(order: PlacedOrder, lineId: string): StateError | NotFoundError {
  const line = order.lines.find((one) => one.id === lineId);
  if (!line) return new NotFoundError('This line of the order');
  if (line.isCancelled)
    return new StateError(
      `${line.text} was cancelled.`,
      'If it came all the same, put it into the drawer by its label.',
      'lines',
    );
  return new StateError(
    `Of ${line.text}, ${line.packs - line.received} of ${line.packs} are still to come.`,
    'If more came, put the rest into the drawer by its label.',
    'lines',
  );
}

async function isStillWanted(db: Database, jobId: string): Promise<boolean> {
  const [job] = await db
    .select({ closedAt: jobs.closedAt, fitted: snapshots.jobId })
    .from(jobs)
    .leftJoin(snapshots, and(eq(snapshots.jobId, jobs.id), eq(snapshots.kind, 'as-fitted')))
    .where(eq(jobs.id, jobId));
  return job?.closedAt === null && job.fitted === null;
}

/** Cancels what has not come of lines of an order; what came of them stays ordered. */
export async function cancelOrderLines(
  db: Database,
  id: string,
  lineIds: readonly string[],
): Promise<PlacedOrder> {
  const rows = await db
    .update(orderLines)
    .set({
      packs: sql`case when ${orderLines.received} > 0 then ${orderLines.received} else ${orderLines.packs} end`,
      cancelledAt: sql`case when ${orderLines.received} > 0 then null else now() end`,
    })
    .where(
      and(
        eq(orderLines.orderId, id),
        inArray(orderLines.id, [...lineIds]),
        isNull(orderLines.cancelledAt),
        lt(orderLines.received, orderLines.packs),
      ),
    )
    .returning({ forJob: orderLines.forJob, text: orderLines.text });
  const order = await readPlaced(db, id);
  if (rows.length === 0)
    throw new StateError('None of these is still to come.', 'Look at the order again.', 'lineIds');
  for (const { forJob, text } of rows)
    if (forJob !== null) await addEvent(db, forJob, 'ordered', `Order cancelled: ${text}`);
  return order;
}
