import { asc, eq, ilike, sql } from 'drizzle-orm';
import type { Erased, HeldCustomer } from '#contract/customerData';
import type { Database } from '../openStore.ts';
import { customers, jobs } from '../schema/index.ts';
import { withoutGuards } from '../standing.ts';
import { readBench } from './bench.ts';
import { byName } from './byName.ts';
import { NotFoundError, StateError } from './errors.ts';
import { readEvidence, readEvidenceContent } from './evidence.ts';
import { containing } from './library.ts';
import { listQuotes } from './quotes.ts';
import { readJob } from './readJobs.ts';

const ERASED = 'Erased customer';
const LISTED = 200;

const held = {
  id: customers.id,
  name: customers.name,
  contact: customers.contact,
  createdAt: customers.createdAt,
  // Spelled out: a column of the outer query would be taken for one of the inner.
  jobs: sql<number>`(select count(*)::int from jobs j where j.customer_id = customers.id)`,
  openJobs: sql<number>`(select count(*)::int from jobs j where j.customer_id = customers.id and j.closed_at is null)`,
  files: sql<number>`(select count(*)::int from evidence e join jobs j on j.id = e.job_id where j.customer_id = customers.id)`,
};

/** Customers whose name holds the text, with what is held of each. */
export async function listHeldCustomers(db: Database, search: string): Promise<HeldCustomer[]> {
  const rows = await db
    .select(held)
    .from(customers)
    .where(ilike(customers.name, containing(search)))
    .orderBy(byName(customers.name), asc(customers.id))
    .limit(LISTED);
  return rows.map(({ createdAt: _createdAt, ...row }) => ({
    ...row,
    isErased: row.name.startsWith(ERASED),
  }));
}

/** Everything the shop holds of a customer, to be handed to them. Throws NotFoundError. */
export async function customerData(db: Database, id: string): Promise<object> {
  const [customer] = await db
    .select({ name: customers.name, contact: customers.contact, since: customers.createdAt })
    .from(customers)
    .where(eq(customers.id, id));
  if (!customer) throw new NotFoundError('This customer');
  const own = await db
    .select({ id: jobs.id })
    .from(jobs)
    .where(eq(jobs.customerId, id))
    .orderBy(asc(jobs.number));
  const list = [];
  for (const { id: jobId } of own) {
    const { documents } = await readEvidence(db, jobId);
    const files = [];
    for (const { id: evidenceId } of documents)
      files.push(await readEvidenceContent(db, jobId, evidenceId));
    list.push({
      job: await readJob(db, jobId),
      quotes: await listQuotes(db, jobId),
      bench: await readBench(db, jobId),
      ...{ documents, files },
    });
  }
  return { customer, jobs: list };
}

/** Tables that hold a person's name or files, and stand for good otherwise. */
const GUARDED = [
  ...['customers', 'jobs', 'job_events', 'quotes', 'evidence', 'decisions', 'bench_log'],
  ...['measurements', 'memory_tests', 'returns', 'audit'],
];

/**
 * Erases a customer on request. Jobs stay as nobody's, with what was fitted, measured and proven; the
 * name, the contact, what they said, and the files of their machines go.
 *
 * @throws StateError where a job of theirs is open, or the name given is not theirs
 */
export async function eraseCustomer(
  tx: Database,
  id: string,
  name: string,
  backupsSince: (at: Date) => readonly string[],
): Promise<Erased> {
  await tx.select({ id: customers.id }).from(customers).where(eq(customers.id, id)).for('update');
  const [customer] = await tx.select(held).from(customers).where(eq(customers.id, id));
  if (!customer) throw new NotFoundError('This customer');
  if (customer.name !== name)
    throw new StateError(
      'This is not how the customer is called.',
      'Type the name as it stands.',
      'name',
    );
  if (customer.openJobs > 0)
    throw new StateError(
      'A job of this customer is open.',
      'Hand it over first: until then their data is needed.',
    );
  const own = sql`(select id from jobs where customer_id = ${id})`;
  /** The name wherever it stands in a text, and the contact. */
  const bare = (column: string) => {
    const text = sql`${sql.identifier(column)}`;
    const nameless = sql`replace(${text}, ${customer.name}, 'the customer')`;
    return customer.contact.length < 4
      ? nameless
      : sql`replace(${nameless}, ${customer.contact}, 'the contact')`;
  };
  await withoutGuards(tx, GUARDED, async () => {
    for (const [table, ...columns] of [
      ['job_events', 'text'],
      ['measurements', 'conditions', 'test'],
      ['memory_tests', 'conditions'],
      ['returns', 'reason'],
    ] as const)
      for (const column of columns)
        await tx.execute(
          sql`update ${sql.identifier(table)} set ${sql.identifier(column)} = ${bare(column)} where job_id in ${own}`,
        );
    await tx.execute(
      sql`update bench_log set note = ${sql`replace(note::text, ${JSON.stringify(customer.name).slice(1, -1)}, 'the customer')::jsonb`} where job_id in ${own}`,
    );
    await tx.execute(
      sql`update quotes set note = '', answer_note = case when answer_note is null then null else '' end,
            answered_by = case when answered_by is null then null else 'the customer' end
          where job_id in ${own}`,
    );
    await tx.execute(sql`delete from decisions where job_id in ${own}`);
    await tx.execute(sql`delete from evidence where job_id in ${own}`);
    await tx.execute(
      sql`update audit set what = ${bare('what')}, before = null, after = null
          where job_id in ${own} and subject in ('job', 'customer')`,
    );
    await tx.execute(
      sql`update jobs set complaint = 'erased', work = '', condition = '', version = version + 1
          where customer_id = ${id}`,
    );
    await tx.execute(
      sql`update customers set name = ${`${ERASED} ${id}`}, contact = '', version = version + 1
          where id = ${id}`,
    );
  });
  // Answers kept for lost connections hold whole jobs.
  await tx.execute(sql`delete from deeds`);
  return {
    ...{ jobs: customer.jobs, files: customer.files },
    backups: [...backupsSince(customer.createdAt)],
  };
}
