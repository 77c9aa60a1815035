import { eq } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { queryForJob } from '#contract/jobPlan';
import { snapshotOf } from '#contract/jobProof';
import { pointText } from '#core/explaining';
import { unpackCollected } from '#core/inventory';
import { operatingPoint } from '#core/operating-point';
import { workingSet } from '#core/need';
import { assess, recogniseUnits } from '#core/planning';
import { fingerprint } from '#core/proving';
import { dayOf, daysLater } from '#core/units';
import type { Placement, Setting } from '#core/machine';
import type { Database } from '../server/store/openStore.ts';
import { addBenchNote } from '../server/store/operations/bench.ts';
import { listModules } from '../server/store/operations/catalogue.ts';
import { listDrawer, readShop } from '../server/store/operations/drawer.ts';
import { answerQuote, issueQuote } from '../server/store/operations/quotes.ts';
import { readJob } from '../server/store/operations/readJobs.ts';
import { addMemoryTest } from '../server/store/operations/faults.ts';
import { closeJob } from '../server/store/operations/changeJobs.ts';
import { hashSecret } from '../server/access/secrets.ts';
import {
  accounts,
  customers,
  drawer,
  evidence,
  jobEvents,
  jobs,
  machines,
  makers,
  measurements,
  modules,
  shopTerms,
  snapshots,
  suppliers,
} from '../server/store/schema/index.ts';
import { COVERS } from './covers.ts';
import { JOBS } from './jobs.ts';
import { watched } from './documents.ts';
import type { DemoJob } from './job.ts';
import { MACHINES } from './machines.ts';
import { MAKERS } from './makers.ts';
import { CONTACTS, DRAWER, MARKET, SHOP_TERMS, costOf, moduleOfLine } from './market.ts';

/** Who works there; the first is whom the demo lets everybody in as. */
export const PEOPLE = [
  { name: 'Ottoline V.', role: 'owner' },
  { name: 'Bram Oddmund', role: 'technician' },
  { name: 'Isolde Quill', role: 'counter' },
] as const;
/** Of all of them: it is a made-up shop. */
export const DEMO_PASSWORD = 'ferry lantern tide';

const HOUR_MS = 3_600_000;
/** Who signs on the made-up bench. */
const BENCH = PEOPLE[0].name;

/** Puts the demo world into an empty database, dated back from now; closing is the server's own. */
export async function seedDemo(db: Database, now: Date): Promise<void> {
  const ids: Record<string, string> = {};
  for (const key of Object.keys(MACHINES)) ids[key] = nanoid(12);
  for (const [key, machine] of Object.entries(MACHINES))
    await db.insert(machines).values({
      ...{ id: ids[key] ?? key, name: machine.name, machine },
      coverMap: COVERS[key as keyof typeof MACHINES] ?? null,
    });
  for (const { verifiedOn = [], ...line } of MARKET)
    await db.insert(modules).values({
      ...line,
      ...{ id: nanoid(12), module: moduleOfLine(line.label), cost: costOf(line) },
      pricedAt: new Date(now.getTime() - 3 * 24 * HOUR_MS),
      verifiedOn: verifiedOn.map((key) => ids[key] ?? key),
    });
  for (const [name, contact] of Object.entries(CONTACTS))
    await db.update(suppliers).set({ contact }).where(eq(suppliers.name, name));
  for (const one of DRAWER)
    await db.insert(drawer).values({ ...one, id: nanoid(12), module: moduleOfLine(one.label) });
  for (const { name, role } of PEOPLE)
    await db
      .insert(accounts)
      .values({
        ...{ id: nanoid(12), name, role },
        passwordHash: await hashSecret(DEMO_PASSWORD),
      })
      // A bench may have its owner before it is filled.
      .onConflictDoNothing();
  await db.insert(shopTerms).values({ id: 'shop', terms: SHOP_TERMS });
  for (const [key, name] of Object.entries(MAKERS)) await db.insert(makers).values({ key, name });
  for (const job of JOBS) await seedJob(db, job, ids[job.machine] ?? '', now);
}

async function seedJob(db: Database, job: DemoJob, machineId: string, now: Date): Promise<void> {
  const id = nanoid(12);
  const machine = MACHINES[job.machine];
  let hours = 0;
  const opened = now.getTime() - job.daysAgo * 24 * HOUR_MS;
  const next = () => new Date(Math.min(now.getTime(), opened + hours++ * HOUR_MS));
  const event = (type: string, text: string, at: Date) =>
    db.insert(jobEvents).values({ jobId: id, type, text, at });

  // Machines taken in together belong to one customer.
  const [known] = await db.select().from(customers).where(eq(customers.name, job.customer.name));
  const customerId = known?.id ?? nanoid(12);
  if (!known) await db.insert(customers).values({ id: customerId, ...job.customer });
  const openedAt = next();
  const { complaint, need, intake, batch } = job;
  await db.insert(jobs).values({
    ...{ id, customerId, machineId, complaint, ...intake, ...batch },
    ...(need ? { needInput: need, need: workingSet(need)?.need } : {}),
    ...(job.readyInDays === undefined ? {} : { deadline: daysLater(dayOf(now), job.readyInDays) }),
    ...{ openedAt, changedAt: openedAt },
  });
  await event('opened', `Opened for ${job.customer.name}: ${machine.name}`, openedAt);
  // As it is stored when it is dropped: a collected file with its parts behind it.
  const brought = job.evidence ?? [];
  const isWatched = brought.some(({ name }) => name === 'collected.json');
  const found = job.configurations['as-found']?.placement;
  const documents = [
    ...brought,
    ...(isWatched || !found ? [] : [watched(machine, found, need)]),
  ].flatMap((one) =>
    unpackCollected({ name: one.name, bytes: one.content }).map(({ name, bytes }) => ({
      ...{ ...one, name, content: bytes },
    })),
  );
  for (const one of documents) {
    const addedAt = new Date(next().getTime());
    await db.insert(evidence).values({
      ...{ id: nanoid(12), jobId: id, ...one, addedAt },
      slotIds: [...one.slotIds],
      by: BENCH,
    });
    await event('evidence', `${BENCH} added ${one.name}`, addedAt);
  }
  for (const kind of ['as-found', 'planned', 'as-fitted'] as const) {
    const told = job.configurations[kind];
    if (!told) continue;
    // The customer said yes to what is planned before it was fitted.
    const isQuoted = kind === 'as-fitted' && job.isClosed === true && !job.batch;
    const configuration = isQuoted
      ? await agree(db, id, { issuedAt: next(), isSimulated: false })
      : told;
    const savedAt = next();
    await db.insert(snapshots).values({ jobId: id, kind, ...configuration, savedAt });
    const words = { 'as-found': 'Found', planned: 'Planned', 'as-fitted': 'Fitted' }[kind];
    const point = operatingPoint(machine, configuration.placement, configuration.setting);
    await event(kind, `${words}: ${pointText(point)}`, savedAt);
    for (const measurement of job.measurements.filter((one) => one.kind === kind)) {
      const print = fingerprint(machine, configuration.placement);
      await db
        .insert(measurements)
        .values({ id: nanoid(12), jobId: id, ...measurement, fingerprint: print, takenAt: next() });
    }
  }
  if (job.isAgreed) await agree(db, id, { issuedAt: new Date() });
  for (const test of job.memoryTests ?? [])
    await addMemoryTest(db, id, { ...test, by: BENCH }, next());
  for (const note of job.bench ?? [])
    await addBenchNote(db, id, { id: nanoid(12), by: BENCH, note });
  if (job.isClosed) await closeJob(db, id, 1, next());
}

/** Quotes what is planned, as the bench would, and lets the customer say yes; returns what was sold. */
async function agree(
  db: Database,
  jobId: string,
  when: { readonly issuedAt: Date; readonly isSimulated?: boolean },
): Promise<{ placement: Placement; setting: Setting }> {
  const job = await readJob(db, jobId);
  const { terms } = await readShop(db);
  const modules = await listModules(db, '');
  const query = queryForJob(job, modules, await listDrawer(db), terms);
  const { placement = {}, setting = 'standard' } = snapshotOf(job, 'planned') ?? {};
  // As the market sells it, down to the last field.
  const sold = Object.entries(placement).map(([slotId, module]) => {
    const offer = modules.find((one) => one.module.partNumber === module?.partNumber);
    return [slotId, offer?.module ?? module] as const;
  });
  const units = recogniseUnits(query, Object.fromEntries(sold));
  const { plan } = assess(query, units, setting);
  const wanted = { note: '', expected: plan.cost.net, withLimits: false };
  const [quote] = await issueQuote(db, jobId, { units: [...units], setting, ...wanted }, when);
  const answer = { what: 'accepted', by: job.customer.name, note: '' } as const;
  await answerQuote(db, jobId, quote?.id ?? '', answer, when.issuedAt);
  return { placement: Object.fromEntries(sold), setting };
}
