import { nanoid } from 'nanoid';
import { pointText } from '#core/explaining';
import { operatingPoint } from '#core/operating-point';
import { readLabel } from '#core/memory';
import { fingerprint } from '#core/proving';
import type { Database } from '../server/store/openStore.ts';
import { closeJob } from '../server/store/operations/changeJobs.ts';
import {
  customers,
  jobEvents,
  jobs,
  machines,
  measurements,
  modules,
  snapshots,
} from '../server/store/schema/index.ts';
import { CATALOGUE, JOBS } from './jobs.ts';
import type { DemoJob } from './jobs.ts';
import { MACHINES } from './machines.ts';

const HOUR_MS = 3_600_000;

/** Puts the demo world into an empty database, dated back from now; closing is the server's own. */
export async function seedDemo(db: Database, now: Date): Promise<void> {
  const ids: Record<string, string> = {};
  for (const key of Object.keys(MACHINES)) ids[key] = nanoid(12);
  for (const [key, machine] of Object.entries(MACHINES))
    await db.insert(machines).values({ id: ids[key] ?? key, name: machine.name, machine });
  for (const label of CATALOGUE) {
    const { module } = readLabel(label);
    if (module) await db.insert(modules).values({ id: nanoid(12), label, module });
  }
  for (const job of JOBS) await seedJob(db, job, ids[job.machine] ?? '', now);
}

async function seedJob(db: Database, job: DemoJob, machineId: string, now: Date): Promise<void> {
  const [customerId, id] = [nanoid(12), nanoid(12)];
  const machine = MACHINES[job.machine];
  let hours = 0;
  const opened = now.getTime() - job.daysAgo * 24 * HOUR_MS;
  const next = () => new Date(Math.min(now.getTime(), opened + hours++ * HOUR_MS));
  const event = (type: string, text: string, at: Date) =>
    db.insert(jobEvents).values({ jobId: id, type, text, at });

  await db.insert(customers).values({ id: customerId, ...job.customer });
  const openedAt = next();
  const { complaint, need, memoryTestPassed = false } = job;
  await db.insert(jobs).values({
    id,
    customerId,
    machineId,
    complaint,
    need,
    memoryTestPassed,
    openedAt,
    changedAt: openedAt,
  });
  await event('opened', `Opened for ${job.customer.name}: ${machine.name}`, openedAt);
  for (const kind of ['as-found', 'planned', 'as-fitted'] as const) {
    const configuration = job.configurations[kind];
    if (!configuration) continue;
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
  if (job.isClosed) await closeJob(db, id, 1);
}
