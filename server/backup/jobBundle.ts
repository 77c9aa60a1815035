import { eq, sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { job as jobSchema } from '#contract/records';
import type { Job } from '#contract/records';
import { newestChange } from '../store/migrate.ts';
import type { Database } from '../store/openStore.ts';
import { noteNothing } from '../store/who.ts';
import { addEvent } from '../store/operations/changeJobs.ts';
import { StateError } from '../store/operations/errors.ts';
import { fillLedger } from '../store/operations/ledger.ts';
import { readJob } from '../store/operations/readJobs.ts';
import { jobs } from '../store/schema/index.ts';
import { readArchive } from './archive.ts';
import { putRows, query, readRows, rowsOf, tablesOf } from './content.ts';
import type { Row } from './content.ts';
import { ArchiveError } from './format.ts';
import type { BenchContent } from './format.ts';

/** Largest bundle, unpacked: a job's files, and photos of its cover. */
const MOST_BYTES = 64 * 2 ** 20;
/** Keys of the bench it came from, and what another bench works out anew. */
const LEFT_OUT = new Set([
  'tickets',
  'ledger',
  'drawer',
  'deeds',
  'sessions',
  'tablet_links',
  'audit',
]);

/** One job with its customer, its machine and all that was noted of it. */
export async function readJobBundle(db: Database, jobId: string): Promise<BenchContent> {
  await readJob(db, jobId);
  const parent = (column: string) =>
    sql`(select ${sql.identifier(column)} from jobs where id = ${jobId})`;
  return readRows(db, (table, columns): SQL | undefined => {
    if (LEFT_OUT.has(table)) return undefined;
    if (table === 'jobs') return sql`t.id = ${jobId}`;
    if (table === 'customers') return sql`t.id = ${parent('customer_id')}`;
    if (table === 'machines') return sql`t.id = ${parent('machine_id')}`;
    if (table === 'cover_photos') return sql`t.machine_id = ${parent('machine_id')}`;
    return columns.includes('job_id') ? sql`t.job_id = ${jobId}` : undefined;
  });
}

const NO_JOB = new StateError(
  'The file holds no job as a bench writes it.',
  'Save the job anew where it comes from.',
);

/** Tables whose row may be here already, from an earlier job of the same customer or machine. */
const SHARED: Readonly<Record<string, string>> = {
  customers: 'id',
  machines: 'id',
  cover_photos: 'machine_id',
};

/**
 * Takes a job in from another bench, under the next number here. Its customer and machine stay as they
 * are where they are known already.
 *
 * @throws StateError where the file is no job, is damaged, or its job is here already
 */
export async function putJobBundle(db: Database, bytes: Uint8Array): Promise<Job> {
  const { content } = await readArchive(bytes, newestChange(), {
    ...{ format: 'tembrix-job', mostBytes: MOST_BYTES },
  }).catch((error: unknown) => {
    throw error instanceof ArchiveError ? new StateError(error.message, error.mend) : error;
  });
  return db.transaction(async (tx) => {
    await noteNothing(tx);
    const known = await tablesOf(tx);
    const given = new Map(content.tables.map((table) => [table.name, table]));
    const [own, ...more] = (given.get('jobs')?.text ?? '').split('\n');
    const { id } = JSON.parse(own || '{}') as { id?: unknown };
    if (typeof id !== 'string' || more.length > 0) throw NO_JOB;
    for (const name of given.keys()) {
      const columns = known.get(name);
      const isPart = columns?.some((one) => one.name === 'job_id') && !LEFT_OUT.has(name);
      if (!isPart && name !== 'jobs' && !(name in SHARED)) throw NO_JOB;
    }
    const [here] = await tx.select({ number: jobs.number }).from(jobs).where(eq(jobs.id, id));
    if (here)
      throw new StateError(
        `This job is here already, as number ${String(here.number).padStart(4, '0')}.`,
        'Open that one.',
      );
    for (const [name, columns] of known) {
      const table = given.get(name);
      if (!table || table.text === '') continue;
      const serial = columns.filter(({ sequence }) => sequence !== null).map((one) => one.name);
      // Nothing may be slipped into another job of this bench.
      const rows = inOrder(rowsOf(table.text.split('\n'), columns, content.files), serial);
      if (rows.some((row) => 'job_id' in row && row.job_id !== id)) throw NO_JOB;
      const key = SHARED[name];
      const added = key === undefined ? rows : await unknownHere(tx, name, key, rows);
      for (const row of added) {
        for (const column of serial) Reflect.deleteProperty(row, column);
        // Machines taken in together stay together where they were.
        for (const column of ['batch_id', 'batch_position', 'batch_size'])
          Reflect.deleteProperty(row, column);
      }
      if (added.length > 0) await putRows(tx, name, columns, added);
    }
    await addEvent(tx, id, 'imported', 'Taken in from another bench');
    await fillLedger(tx);
    const taken = jobSchema.safeParse(await readJob(tx, id));
    if (!taken.success) throw NO_JOB;
    return taken.data;
  });
}

/** Rows in the order they were written where they came from. */
const inOrder = (rows: Row[], [serial]: readonly string[]): Row[] =>
  serial === undefined
    ? rows
    : rows.sort((one, other) => Number(one[serial]) - Number(other[serial]));

async function unknownHere(tx: Database, name: string, key: string, rows: Row[]): Promise<Row[]> {
  const found = await query<{ key: string }>(
    tx,
    sql`select ${sql.identifier(key)} as key from ${sql.identifier(name)}
        where ${sql.identifier(key)} in (${sql.join(
          rows.map((row) => sql`${row[key]}`),
          sql`, `,
        )})`,
  );
  const here = new Set(found.map((one) => one.key));
  return rows.filter((row) => !here.has(String(row[key])));
}
