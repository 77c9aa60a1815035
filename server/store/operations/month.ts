import { and, eq, gte, inArray, isNull, lt, max, min, or, sql } from 'drizzle-orm';
import type { MonthAnswer } from '#contract/month';
import { moduleText } from '#core/explaining';
import { writeLabel } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { monthOf } from '#core/month';
import type { JobFact, Marks, MoneyFact, ReturnFact, SoldModule } from '#core/month';
import type { Placement } from '#core/machine';
import { valueOf } from '#core/stock';
import { dayOf } from '#core/units';
import { nextStep } from '#core/walk';
import type { Database } from '../openStore.ts';
import {
  customers,
  drawer,
  jobEvents,
  jobs,
  machines,
  makers,
  orderLines,
  quotes,
  returns,
  snapshots,
} from '../schema/index.ts';
import { labelsBeyond } from './drawer.ts';
import { isAny } from './isAny.ts';
import { readFacts } from './jobFacts.ts';

/** First and following first moment of a month at the shop's own clock. */
function periodOf(month: string) {
  const [year = 0, number = 1] = month.split('-').map(Number);
  return { from: new Date(year, number - 1, 1), to: new Date(year, number, 1) };
}

/** A month of the shop, counted from what is stored. */
export async function readMonth(
  db: Database,
  month: string,
  now = new Date(),
): Promise<MonthAnswer> {
  const { from, to } = periodOf(month);
  const yearAgo = new Date(to.getFullYear() - 1, to.getMonth(), 1);
  const found = await db
    .select({
      id: jobs.id,
      number: jobs.number,
      customerName: customers.name,
      machineName: machines.name,
      deadline: jobs.deadline,
      openedAt: jobs.openedAt,
      closedAt: jobs.closedAt,
      hasNeed: sql<boolean>`${jobs.need} is not null`,
    })
    .from(jobs)
    .innerJoin(customers, eq(customers.id, jobs.customerId))
    .innerJoin(machines, eq(machines.id, jobs.machineId))
    // What was handed over in the year before is what modules of the year were sold in.
    .where(or(isNull(jobs.closedAt), gte(jobs.closedAt, yearAgo)));
  const inMonth = found.filter(
    ({ openedAt, closedAt }) => closedAt === null || (closedAt >= from && openedAt < to),
  );
  const soldIn = found.filter(({ closedAt }) => closedAt && closedAt >= yearAgo && closedAt < to);
  const nameOf = await makerNames(db);
  const sold = await readSold(db, soldIn, nameOf);
  const facts = await readJobFacts(db, inMonth, sold);
  const period = { from: from.getTime(), to: to.getTime() };
  const figures = monthOf({
    ...{ period, now: now.getTime(), dayOf, jobs: facts },
    returns: await readReturns(db, yearAgo, to, nameOf),
    soldInYear: [...sold.values()].flat(),
  });
  // As JSON: the schema of the answer is plain, without the core's readonly types.
  const plain = JSON.parse(JSON.stringify(figures)) as typeof figures;
  return {
    ...(plain as unknown as MonthAnswer),
    ...{ month, from: from.toISOString(), to: to.toISOString(), isOver: now >= to },
    drawer: await drawerAt(db, now < to ? now : to),
  };
}

async function makerNames(db: Database) {
  const names = new Map((await db.select().from(makers)).map(({ key, name }) => [key, name]));
  return ({ maker }: MemoryModule) => (maker === undefined ? '' : (names.get(maker) ?? maker));
}

const partOf = (module: MemoryModule) => module.partNumber ?? moduleText(module);

type FoundJob = Pick<JobFact, 'id' | 'number' | 'customerName' | 'deadline'> & {
  readonly machineName: string;
  readonly openedAt: Date;
  readonly closedAt: Date | null;
  readonly hasNeed: boolean;
};

/** Modules each job put into its machine, by job. */
async function readSold(
  db: Database,
  list: readonly FoundJob[],
  makerOf: (module: MemoryModule) => string,
): Promise<Map<string, SoldModule[]>> {
  const ids = list.map(({ id }) => id);
  const rows = await db
    .select({ jobId: snapshots.jobId, kind: snapshots.kind, placement: snapshots.placement })
    .from(snapshots)
    .where(and(isAny(snapshots.jobId, ids), inArray(snapshots.kind, ['as-found', 'as-fitted'])));
  const bought = await db
    .select({ jobId: quotes.jobId, orders: quotes.orders })
    .from(quotes)
    .where(and(isAny(quotes.jobId, ids), eq(quotes.answer, 'accepted')));
  const placements = new Map(rows.map((row) => [`${row.jobId} ${row.kind}`, row.placement]));
  const sold = new Map<string, SoldModule[]>();
  for (const { id, machineName } of list) {
    const fitted = placements.get(`${id} as-fitted`) ?? {};
    const added = addedModules(fitted, placements.get(`${id} as-found`) ?? {});
    const orders = bought.filter(({ jobId }) => jobId === id).flatMap((one) => one.orders);
    sold.set(
      id,
      added.map((module) => ({
        ...{ part: partOf(module), maker: makerOf(module), machine: machineName },
        supplier:
          orders.find((order) => order.module && writeLabel(order.module) === writeLabel(module))
            ?.supplier ?? '',
      })),
    );
  }
  return sold;
}

function addedModules(fitted: Placement, found: Placement): MemoryModule[] {
  const left = labelsBeyond(fitted, found);
  return Object.values(fitted).flatMap((module) => {
    const at = module ? left.indexOf(writeLabel(module)) : -1;
    return module && at >= 0 && left.splice(at, 1).length > 0 ? [module] : [];
  });
}

async function readJobFacts(
  db: Database,
  list: readonly FoundJob[],
  sold: ReadonlyMap<string, readonly SoldModule[]>,
): Promise<JobFact[]> {
  const ids = list.map(({ id }) => id);
  const events = await db
    .select({
      jobId: jobEvents.jobId,
      type: jobEvents.type,
      first: min(jobEvents.at),
      last: max(jobEvents.at),
    })
    .from(jobEvents)
    .where(
      and(
        isAny(jobEvents.jobId, ids),
        inArray(jobEvents.type, ['as-found', 'as-fitted', 'received']),
      ),
    )
    .groupBy(jobEvents.jobId, jobEvents.type);
  const issued = await db
    .select()
    .from(quotes)
    .where(isAny(quotes.jobId, ids))
    .orderBy(quotes.jobId, quotes.number);
  const costOf = await readCosts(db, ids);
  const facts = await readFacts(db, ids);
  const eventsOf = byJob(events);
  const quotesOf = byJob(issued);
  return list.map(({ id, number, customerName, deadline, openedAt, closedAt, hasNeed }) => {
    const own = quotesOf.get(id) ?? [];
    const accepted = own.find(({ answer }) => answer === 'accepted');
    const event = (type: string) => eventsOf.get(id)?.find((one) => one.type === type);
    const marks: Marks = {
      opened: openedAt.getTime(),
      found: event('as-found')?.first?.getTime(),
      quoted: own[0]?.issuedAt.getTime(),
      accepted: accepted?.answeredAt?.getTime(),
      received: event('received')?.last?.getTime(),
      fitted: event('as-fitted')?.first?.getTime(),
      closed: closedAt?.getTime(),
    };
    const stands = facts.get(id);
    const next = stands && nextStep({ ...stands, hasNeed, closed: closedAt !== null });
    return {
      ...{ id, number, customerName, deadline, marks },
      next: closedAt === null ? (next?.step ?? null) : null,
      sold: sold.get(id) ?? [],
      quotes: own.map(({ issuedAt, validUntil, answer, answerNote }, at) => ({
        ...{ issuedAt: issuedAt.getTime(), validUntil, isLatest: at === own.length - 1 },
        ...{ answer: answer ?? undefined, reason: answerNote ?? '' },
      })),
      money: accepted && closedAt !== null ? moneyOf(accepted, costOf(id, accepted)) : null,
    };
  });
}

function byJob<T extends { readonly jobId: string }>(rows: readonly T[]): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const row of rows) {
    const own = groups.get(row.jobId);
    if (own) own.push(row);
    else groups.set(row.jobId, [row]);
  }
  return groups;
}

type QuoteRow = typeof quotes.$inferSelect;

function moneyOf({ lines, taxPercent }: QuoteRow, cost: number | null): MoneyFact {
  const sum = (...kinds: readonly string[]) =>
    lines
      .filter(({ kind }) => kinds.includes(kind))
      .reduce((total, { each, quantity }) => total + each * quantity, 0);
  return {
    ...{ parts: Math.round(sum('part', 'drawer')), labour: Math.round(sum('labour')) },
    ...{ credit: Math.round(-sum('credit')), taxPercent, cost },
  };
}

/** What the parts of a quote cost the shop: as billed, else as ordered, else as listed. */
async function readCosts(db: Database, ids: readonly string[]) {
  const billed = await db
    .select({
      quoteId: orderLines.quoteId,
      part: orderLines.quotePart,
      packs: orderLines.packs,
      cost: orderLines.cost,
    })
    .from(orderLines)
    .where(and(isAny(orderLines.forJob, ids), isNull(orderLines.cancelledAt)));
  const used = await db
    .select({ jobId: drawer.goneJob, cost: drawer.cost })
    .from(drawer)
    .where(and(isAny(drawer.goneJob, ids), isNull(drawer.orderLineId)));
  return (jobId: string, { id, orders, lines }: QuoteRow): number | null => {
    const parts = orders.map(({ packs, cost }, at) => {
      const own = billed.filter((one) => one.quoteId === id && one.part === at);
      if (own.length === 0) return cost == null ? null : cost * packs;
      return own.reduce<number | null>(
        (total, one) => (total === null || one.cost === null ? null : total + one.cost * one.packs),
        0,
      );
    });
    const own = used.filter((one) => one.jobId === jobId);
    const fromDrawer = lines.filter(({ kind }) => kind === 'drawer').length;
    const costs = [...parts, ...own.map(({ cost }) => cost)];
    if (own.length < fromDrawer || costs.includes(null)) return null;
    return costs.reduce<number>((total, cost) => total + (cost ?? 0), 0);
  };
}

async function readReturns(
  db: Database,
  from: Date,
  to: Date,
  makerOf: (module: MemoryModule) => string,
): Promise<ReturnFact[]> {
  const rows = await db
    .select({
      returned: returns,
      number: jobs.number,
      customerName: customers.name,
      machine: machines.name,
    })
    .from(returns)
    .innerJoin(jobs, eq(jobs.id, returns.jobId))
    .innerJoin(customers, eq(customers.id, jobs.customerId))
    .innerJoin(machines, eq(machines.id, jobs.machineId))
    .where(and(gte(returns.at, from), lt(returns.at, to)));
  return rows.map(({ returned, number, customerName, machine }) => ({
    ...{ part: partOf(returned.module), maker: makerOf(returned.module), machine },
    ...{ supplier: returned.supplier, fault: returned.reason, at: returned.at.getTime() },
    job: { id: returned.jobId, number, customerName },
  }));
}

/** The value of what lay in the drawer at a moment, at today's prices. */
async function drawerAt(db: Database, at: Date) {
  const rows = await db
    .select({
      state: drawer.state,
      price: drawer.price,
      cost: drawer.cost,
      isReserved: sql<boolean>`${drawer.reservedFor} is not null`,
    })
    .from(drawer)
    .where(and(lt(drawer.createdAt, at), or(isNull(drawer.gone), gte(drawer.goneAt, at))));
  return valueOf(rows);
}
