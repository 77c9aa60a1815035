import type { Signed } from '#contract/access';
import { eq } from 'drizzle-orm';
import type { Job, NewJob } from '#contract/records';
import { workingSet } from '#core/need';
import type { Database } from '../openStore.ts';
import { customers, jobs } from '../schema/index.ts';
import { addEvent, saveSnapshot } from './changeJobs.ts';
import { readShop } from './drawer.ts';
import { NotFoundError } from './errors.ts';
import { addEvidence } from './evidence.ts';
import {
  createMachine,
  findOrAddCustomer,
  newId,
  readMachine,
  rememberFirmware,
} from './library.ts';
import { readJob } from './readJobs.ts';

/**
 * Opens a job for a known or a new customer and machine, with the files that came along and what they
 * say is fitted: all of it or nothing. For a batch one job for each machine, all with the same intake;
 * files and what was found go to the first, which is returned.
 */
export async function openJob(
  db: Database,
  {
    customer,
    count,
    machineId,
    newMachine,
    knownAs,
    documents,
    found,
    by,
    ...intake
  }: Signed<NewJob>,
): Promise<Job> {
  return db.transaction(async (tx) => {
    const machine =
      newMachine === undefined
        ? await readMachine(tx, machineId ?? '')
        : await createMachine(tx, newMachine);
    if (knownAs !== undefined) await rememberFirmware(tx, machine.id, knownAs);
    const customerId = 'id' in customer ? customer.id : await findOrAddCustomer(tx, customer);
    const [known] = await tx.select().from(customers).where(eq(customers.id, customerId));
    if (!known) throw new NotFoundError('This customer');
    const { needInput } = intake;
    // What is stored as the need is summed here, never taken from a client.
    const need = needInput && { need: workingSet(needInput)?.need ?? null };
    const fields = Object.fromEntries(
      Object.entries({ ...intake, ...need }).filter(([, value]) => value !== undefined),
    ) as Pick<NewJob, 'complaint'>;
    const batchId = count > 1 ? newId() : undefined;
    const { terms } = await readShop(tx);
    const usual = { school: terms.school, margin: terms.needMargin };
    const ids = Array.from({ length: count }, newId);
    for (const [at, id] of ids.entries()) {
      const batch = batchId && { batchId, batchPosition: at + 1, batchSize: count };
      await tx
        .insert(jobs)
        .values({ id, customerId, machineId: machine.id, ...usual, ...fields, ...batch });
      const place = batchId ? `, ${at + 1} of ${count}` : '';
      await addEvent(tx, id, 'opened', `Opened for ${known.name}: ${machine.machine.name}${place}`);
    }
    const [first = ''] = ids;
    if (documents.length > 0)
      await addEvidence(
        tx,
        first,
        documents.map((one) => ({ ...one, by })),
      );
    if (found) await saveSnapshot(tx, first, 'as-found', { ...found, by, version: 0 });
    return readJob(tx, first);
  });
}
