import { and, desc, eq, inArray, isNull, lt, or, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { PlacedOrder, Receipt, ReceiptInput } from '#contract/suppliers';
import { writeLabel } from '#core/memory';
import { sharesOf } from '#core/quoting';
import { dayOf, daysLater } from '#core/units';
import type { Database } from '../openStore.ts';
import {
  customers,
  drawer,
  jobs,
  orderLines,
  orders,
  snapshots,
  suppliers,
} from '../schema/index.ts';
import { addEvent } from './changeJobs.ts';
import { NotFoundError, StateError } from './errors.ts';
import { newId } from './library.ts';
import type { WantedPart } from './wanted.ts';

const DAY_MS = 86_400_000;
const dayAfter = (days: number | null) =>
  days === null ? null : daysLater(dayOf(Date.now()), days);

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
    const prices = sharesOf(line.price, units);
    const costs = line.cost === null ? [] : sharesOf(line.cost, units);
    const rows = Array.from({ length: packs * units }, (_, at) => ({
      ...{ id: newId(), label: writeLabel(module), state: 'untested' as const, isNew: true, place },
      // Modules of one pack know one another again.
      module:
        units === 1
          ? module
          : { ...module, kitId: `${line.id}.${line.received - packs + Math.floor(at / units)}` },
      price: prices[at % units] ?? line.price,
      cost: costs[at % units] ?? null,
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
