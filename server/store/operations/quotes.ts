import { and, desc, eq, inArray, isNull } from 'drizzle-orm';
import { queryForJob } from '#contract/jobPlan';
import { jobChange, jobGrounds, jobKinds } from '#contract/jobPromise';
import { changeName, jobMachine, snapshotOf } from '#contract/jobProof';
import type { Quote, QuoteAnswerInput, QuoteInput } from '#contract/quotes';
import type { Job } from '#contract/records';
import {
  explainObjection,
  limitLine,
  money,
  partText,
  promiseText,
  slotNames,
  shortDay,
  stockText,
} from '#core/explaining';
import { assess, isImpossible, kitOf } from '#core/planning';
import type { Plan, PlanQuery } from '#core/planning';
import { comparedOf, gainOfLimit, limitsOf, madeOf, promiseOf } from '#core/promising';
import { sumQuote, wholeLines } from '#core/quoting';
import type { PricedPart } from '#core/quoting';
import { dayOf, daysLater } from '#core/units';
import { simulateChange } from '../../simulating/simulateChange.ts';
import type { Database } from '../openStore.ts';
import { drawer, quotes, snapshots } from '../schema/index.ts';
import { listModules } from './catalogue.ts';
import { addEvent, requireOpen } from './changeJobs.ts';
import { freeHeld, listDrawer, readShop } from './drawer.ts';
import { NotFoundError, StateError } from './errors.ts';
import { readShares } from './ledger.ts';
import { newId } from './library.ts';

/** Quotes of a job, the latest first. */
export async function listQuotes(db: Database, jobId: string): Promise<Quote[]> {
  const rows = await db
    .select()
    .from(quotes)
    .where(eq(quotes.jobId, jobId))
    .orderBy(desc(quotes.number));
  return rows.map(
    ({ answer, answeredBy, answeredAt, answerNote, issuedAt, orders: _orders, ...row }): Quote => ({
      ...row,
      lines: wholeLines(row.lines, row.total),
      issuedAt: issuedAt.toISOString(),
      answer:
        answer && answeredBy !== null && answeredAt
          ? { what: answer, by: answeredBy, at: answeredAt.toISOString(), note: answerNote ?? '' }
          : null,
    }),
  );
}

type Choice = Pick<QuoteInput, 'units' | 'setting'>;

/** Of a quote written down later than it was given. */
interface Issuing {
  readonly issuedAt?: Date;
  /** Without, what is promised comes from the assumed figures. */
  readonly isSimulated?: boolean;
}

/**
 * Issues a quote for a plan. The plan is weighed anew on what the catalogue, the drawer and the
 * shop's terms say now, and refused where it no longer holds or costs something else.
 */
export async function issueQuote(
  db: Database,
  jobId: string,
  { note, expected, withLimits, ...choice }: QuoteInput,
  { issuedAt = new Date(), isSimulated = true }: Issuing = {},
): Promise<Quote[]> {
  // Before the transaction: nobody waits for its seconds.
  const simulated = isSimulated ? await simulateChoice(db, jobId, choice) : undefined;
  const limits = withLimits ? await limitsLines(db, jobId, choice) : undefined;
  return db.transaction(async (tx) => {
    const { job, query, plan, terms, modules, stock } = await weighAnew(tx, jobId, choice);
    if (plan.cost.net !== expected)
      throw new StateError(
        `The plan now costs ${money(plan.cost.net, terms.currency)}, not ${money(expected, terms.currency)}.`,
        'Prices or terms have changed since; look at the plan again and issue the quote anew.',
        'expected',
      );
    const offers = modules.filter(({ id }) => plan.purchases.some((one) => one.offerId === id));
    const parts: PricedPart[] = [
      ...offers.map(({ id, module, units, price, leadDays }) => ({
        ...{ id, price: price ?? 0, text: partText(module, units) },
        leadDays: leadDays ?? undefined,
      })),
      ...stock.map(({ id, module, price, state, isNew }) => ({
        ...{ id, price, leadDays: 0 },
        text: `${partText(module, 1)}, ${stockText(state, isNew)}`,
      })),
    ];
    const machine = jobMachine(job);
    const nameOf = slotNames(machine);
    const sum = sumQuote(plan, parts, query.credit, terms, {
      labour: 'Opening, fitting, testing',
      pulled: (slotId) => `For the module pulled from ${nameOf(slotId)}`,
    });
    const [latest] = await tx
      .select({ number: quotes.number })
      .from(quotes)
      .where(eq(quotes.jobId, jobId))
      .orderBy(desc(quotes.number))
      .limit(1);
    const number = (latest?.number ?? 0) + 1;
    await tx.insert(quotes).values({
      ...{ id: newId(), jobId, number, issuedAt, note, choice },
      validUntil: daysLater(dayOf(issuedAt), terms.validDays),
      lines: [...sum.lines],
      ...{ total: sum.total, tax: sum.tax, taxPercent: terms.taxPercent },
      currency: terms.currency,
      leadDays: sum.leadDays ?? null,
      promise: {
        ...(await promiseFor(tx, job, query, plan, simulated)),
        ...(limits && { limits }),
      },
      orders: plan.purchases.flatMap(({ offerId, packs }) => {
        const offer = offers.find(({ id }) => id === offerId);
        if (!offer) return [];
        const { supplier, article, module, units, price, cost, leadDays } = offer;
        const text = partText(module, units);
        return [
          { supplier, article, text, packs, each: price ?? 0, leadDays, module, units, cost },
        ];
      }),
    });
    await addEvent(
      tx,
      jobId,
      'quoted',
      `Quote ${number} issued: ${money(sum.total, terms.currency)}`,
      issuedAt,
    );
    return listQuotes(tx, jobId);
  });
}

/** The plan of an open job on what the catalogue, the drawer and the terms say now. */
async function weighAnew(db: Database, jobId: string, choice: Choice) {
  const job = await requireOpen(db, jobId);
  const { terms } = await readShop(db);
  const modules = await listModules(db, '');
  const stock = await listDrawer(db, job.machine.machine.generations);
  const query = queryForJob(job, modules, stock, terms);
  return { job, query, terms, modules, stock, plan: weigh(job, query, choice, terms.currency) };
}

/** Both sides simulated, and what was; nothing where nobody knows how that memory is timed. */
async function simulateChoice(db: Database, jobId: string, choice: Choice) {
  const { job, plan } = await weighAnew(db, jobId, choice);
  const change = jobChange(job, plan);
  const compared = change && comparedOf(change);
  return compared && { of: JSON.stringify(compared), profiles: await simulateChange(compared) };
}

/** What limits the machine, each thing changed alone, in the words of a quote. */
async function limitsLines(db: Database, jobId: string, choice: Choice): Promise<string[]> {
  const { job, query, terms } = await weighAnew(db, jobId, choice);
  const found = snapshotOf(job, 'as-found');
  const limits = found && limitsOf(query, found);
  const { shares } = await readShares(db);
  const { leading } = jobKinds(
    job,
    shares.map(({ refitted }) => refitted),
  );
  if (!limits || !leading) return [];
  const lines: string[] = [];
  for (const limit of limits.limits) {
    if (limit.state !== 'to gain') continue;
    const profiles = limit.compared && (await simulateChange(limit.compared));
    const gain = profiles && gainOfLimit(limits.point, leading, profiles, job.drawCap ?? undefined);
    lines.push(limitLine(limit, gain, limit.means && money(limit.means.cost.net, terms.currency)));
  }
  return lines;
}

/** What the quote says, with the figures a proof is held against. */
async function promiseFor(
  db: Database,
  job: Job,
  query: PlanQuery,
  plan: Plan,
  simulated: Awaited<ReturnType<typeof simulateChoice>>,
): Promise<Quote['promise']> {
  const change = jobChange(job, plan);
  // Where nobody knows how that memory is timed, or something changed while it was simulated, it is reckoned.
  const isSame = change && simulated && simulated.of === JSON.stringify(comparedOf(change));
  const { shares } = await readShares(db);
  const kinds = shares.map(({ refitted }) => refitted);
  const grounds = jobGrounds(job, kinds);
  const promise =
    change && promiseOf(change, { ...grounds, profiles: isSame ? simulated.profiles : undefined });
  const text = promiseText(query, plan, promise);
  if (!promise) return text;
  const { simulated: told, gains } = madeOf(promise);
  const figures = {
    of: changeName(change.machine, change.before, change.after),
    ...{ simulated: told, gains: [...gains] },
  };
  return { ...text, figures };
}

/** The plan as it stands now. Throws StateError with what would mend it. */
function weigh(job: Job, query: PlanQuery, { units, setting }: Choice, currency: string): Plan {
  const machine = query.machine;
  const found = snapshotOf(job, 'as-found')?.placement ?? {};
  // Modules are taken from the records, not from what the page sent.
  const real = units.map((unit) => {
    const { source, slotId } = unit;
    const offer = source.type === 'offer' && query.offers.find(({ id }) => id === source.offerId);
    const stored =
      source.type === 'kept'
        ? found[source.from]
        : source.type === 'drawer'
          ? query.drawer.find(({ id }) => id === source.drawerId)?.module
          : offer && offer.module;
    if (!stored)
      throw new StateError(
        'A module of this plan is no longer to be had.',
        'It was withdrawn from the catalogue, taken from the drawer or held for another job. Plan again.',
        `units.${slotId}`,
      );
    const kitId =
      source.type === 'offer' && offer && offer.units > 1
        ? kitOf(source.offerId, source.copy)
        : undefined;
    return { ...unit, module: source.type === 'kept' ? stored : { ...stored, kitId } };
  });
  const { plan, objections } = assess({ ...query, machine }, real, setting);
  const [first] = objections
    .filter(isImpossible)
    .flatMap((one) => explainObjection(one, query, currency, () => 'The module'));
  if (first) throw new StateError(`${first.title}.`, first.mend ?? 'Plan again.', 'units');
  return plan;
}

/**
 * Records an answer. A yes makes the quote's plan the job's plan and holds its drawer modules, and
 * lets go of what an earlier yes held.
 */
export async function answerQuote(
  db: Database,
  jobId: string,
  quoteId: string,
  { what, by, note }: QuoteAnswerInput,
  answeredAt = new Date(),
): Promise<Quote[]> {
  return db.transaction(async (tx) => {
    await requireOpen(tx, jobId);
    const own = and(eq(quotes.id, quoteId), eq(quotes.jobId, jobId));
    const [row] = await tx.select().from(quotes).where(own);
    if (!row) throw new NotFoundError('This quote');
    if (row.answer)
      throw new StateError(
        `Quote ${row.number} was answered already: ${row.answer}.`,
        'Issue a new version for a new answer.',
      );
    const [later] = await tx
      .select({ number: quotes.number })
      .from(quotes)
      .where(eq(quotes.jobId, jobId))
      .orderBy(desc(quotes.number))
      .limit(1);
    if (later && later.number > row.number)
      throw new StateError(
        `Quote ${row.number} was replaced by quote ${later.number}.`,
        `Answer quote ${later.number}.`,
      );
    if (what === 'accepted') await takeAsPlan(tx, jobId, row, answeredAt);
    await tx
      .update(quotes)
      .set({ answer: what, answeredBy: by, answeredAt, answerNote: note })
      .where(own);
    await addEvent(tx, jobId, 'quoted', `Quote ${row.number} ${what} by ${by}`, answeredAt);
    return listQuotes(tx, jobId);
  });
}

async function takeAsPlan(
  tx: Database,
  jobId: string,
  { choice, validUntil, number }: typeof quotes.$inferSelect,
  at: Date,
): Promise<void> {
  if (dayOf(at) > validUntil)
    throw new StateError(
      `Quote ${number} held until ${shortDay(validUntil)}.`,
      'Issue it anew: prices may have changed.',
    );
  const wanted = choice.units.flatMap(({ source }) =>
    source.type === 'drawer' ? [source.drawerId] : [],
  );
  await freeHeld(tx, jobId);
  if (wanted.length > 0) {
    const held = await tx
      .update(drawer)
      .set({ reservedFor: jobId })
      .where(and(inArray(drawer.id, wanted), isNull(drawer.reservedFor), isNull(drawer.gone)))
      .returning({ id: drawer.id });
    if (held.length < wanted.length)
      throw new StateError(
        'A drawer module of this quote is gone or held for another job.',
        'Plan again and issue a new version.',
      );
  }
  const placement = Object.fromEntries(choice.units.map(({ slotId, module }) => [slotId, module]));
  const fields = { placement, setting: choice.setting, savedAt: at };
  const own = and(eq(snapshots.jobId, jobId), eq(snapshots.kind, 'planned'));
  const [known] = await tx.select({ version: snapshots.version }).from(snapshots).where(own);
  if (known)
    await tx
      .update(snapshots)
      .set({ ...fields, version: known.version + 1 })
      .where(own);
  else await tx.insert(snapshots).values({ jobId, kind: 'planned', ...fields });
  // A later yes replaces an earlier one.
  await tx
    .update(quotes)
    .set({ answer: 'change asked' })
    .where(and(eq(quotes.jobId, jobId), eq(quotes.answer, 'accepted')));
}
