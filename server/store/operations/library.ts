import { and, asc, eq, ilike, or, sql } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import type { Customer, ListedMachine, MachineRecord } from '#contract/records';
import type { MakerRecord } from '#contract/evidence';
import type { Machine } from '#core/machine';
import type { Database } from '../openStore.ts';
import { coverPhotos, customers, jobs, ledger, machines, makers } from '../schema/index.ts';
import { byName } from './byName.ts';
import { ConflictError, NotFoundError, StateError } from './errors.ts';

const LIST_LIMIT = 500;

/** Matches anywhere in a text, with the pattern's own signs taken literally. */
export const containing = (text: string) => `%${text.replaceAll(/[\\%_]/g, '\\$&')}%`;

export const newId = () => nanoid(12);

/** Customers whose name holds the text, by name. */
export async function listCustomers(db: Database, search: string): Promise<Customer[]> {
  const { id, version, name, contact } = customers;
  return db
    .select({ id, version, name, contact })
    .from(customers)
    .where(ilike(name, containing(search)))
    .orderBy(byName(name))
    .limit(LIST_LIMIT);
}

/** The customer of that very name, or a new one: the counter types faster than it looks up. */
export async function findOrAddCustomer(
  db: Database,
  input: { name: string; contact: string },
): Promise<string> {
  const same = and(
    eq(sql`lower(${customers.name})`, input.name.toLowerCase()),
    eq(customers.contact, input.contact),
  );
  // Two who type the same new customer at one moment take turns, and the second finds the first's.
  const who = JSON.stringify([input.name.toLowerCase(), input.contact]);
  await db.execute(sql`select pg_advisory_xact_lock(hashtextextended(${who}, 0))`);
  const [known] = await db.select({ id: customers.id }).from(customers).where(same).limit(1);
  if (known) return known.id;
  const id = newId();
  await db.insert(customers).values({ id, ...input });
  return id;
}

const machineColumns = {
  id: machines.id,
  version: machines.version,
  machine: machines.machine,
  locators: machines.locators,
  coverMap: machines.coverMap,
  interleave: machines.interleave,
  knownAs: machines.knownAs,
  hasPhoto: sql<boolean>`exists (select 1 from ${coverPhotos} where ${coverPhotos.machineId} = ${machines.id})`,
  provenParts: sql<
    string[]
  >`coalesce((select jsonb_agg(distinct part order by part) from ${ledger}, jsonb_array_elements_text(${ledger.proven}) as part where ${ledger.machineId} = ${machines.id}), '[]'::jsonb)`,
};

/** A machine asked for together with what belongs to it; see {@link machineRecordOf}. */
export const MACHINE_WITH = {
  columns: {
    id: true,
    version: true,
    machine: true,
    locators: true,
    coverMap: true,
    interleave: true,
    knownAs: true,
  },
  with: { photo: { columns: { machineId: true } }, ledger: { columns: { proven: true } } },
} as const;

interface MachineBeside {
  readonly photo: unknown;
  readonly ledger: readonly { readonly proven: readonly string[] }[];
}

/** The record of a machine asked for with {@link MACHINE_WITH}. */
export function machineRecordOf<Row extends MachineBeside>({ photo, ledger: closed, ...row }: Row) {
  const provenParts = [...new Set(closed.flatMap(({ proven }) => proven))].sort();
  return { ...row, hasPhoto: photo !== null, provenParts };
}

/** Machines whose name holds the text, by name, with how many jobs each has had. */
export async function listMachines(
  db: Database,
  { search, knownAs }: { search: string; knownAs?: string | undefined },
): Promise<ListedMachine[]> {
  const counted = db
    .select({ machineId: jobs.machineId, jobs: sql<number>`count(*)::int`.as('jobs') })
    .from(jobs)
    .groupBy(jobs.machineId)
    .as('counted');
  return db
    .select({ ...machineColumns, jobs: sql<number>`coalesce(${counted.jobs}, 0)` })
    .from(machines)
    .leftJoin(counted, eq(counted.machineId, machines.id))
    .where(
      and(
        ilike(machines.name, containing(search)),
        knownAs === undefined
          ? undefined
          : or(
              sql`${machines.knownAs} @> ${JSON.stringify([knownAs])}::jsonb`,
              ofSameBoard(knownAs),
            ),
      ),
    )
    .orderBy(byName(machines.name), asc(machines.id))
    .limit(LIST_LIMIT);
}

/** The same board in a machine of another name: the end of the firmware’s name for it. */
const ofSameBoard = (knownAs: string) =>
  sql`exists (select 1 from jsonb_array_elements_text(${machines.knownAs}) as kept(called)
    where right(called, ${knownAs.length - knownAs.indexOf(' | ')}) = ${knownAs.slice(knownAs.indexOf(' | '))})`;

/** Keeps what a firmware calls a machine, so that the next one is known by its files. */
export async function rememberFirmware(db: Database, id: string, knownAs: string): Promise<void> {
  const name = JSON.stringify([knownAs]);
  await db
    .update(machines)
    .set({ knownAs: sql`${machines.knownAs} || ${name}::jsonb` })
    .where(and(eq(machines.id, id), sql`not ${machines.knownAs} @> ${name}::jsonb`));
}

/** One machine. Throws NotFoundError. */
export async function readMachine(db: Database, id: string): Promise<MachineRecord> {
  const [row] = await db.select(machineColumns).from(machines).where(eq(machines.id, id));
  if (!row) throw new NotFoundError('This machine');
  return row;
}

/** Adds a machine to the library. */
export async function createMachine(db: Database, machine: Machine): Promise<MachineRecord> {
  const id = newId();
  await db.insert(machines).values({ id, name: machine.name, machine });
  return readMachine(db, id);
}

/** Changes a machine, if it is still at the version the change started from. */
export async function changeMachine(
  db: Database,
  id: string,
  { machine, version }: { machine: Machine; version: number },
): Promise<MachineRecord> {
  const [row] = await db
    .update(machines)
    .set({ machine, name: machine.name, version: version + 1 })
    .where(and(eq(machines.id, id), eq(machines.version, version)))
    .returning(machineColumns);
  if (!row) throw new ConflictError('This machine', await readMachine(db, id));
  return row;
}

/** Remembers where a firmware's name for a place belongs on a machine; null forgets it. */
export async function rememberLocator(
  db: Database,
  id: string,
  { key, slotId }: { key: string; slotId: string | null },
): Promise<MachineRecord> {
  const { machine } = await readMachine(db, id);
  const isPlace =
    slotId === null || slotId === 'none' || machine.slots.some((slot) => slot.id === slotId);
  if (!isPlace)
    throw new StateError(
      `The machine has no slot “${slotId}”.`,
      'Choose one of its slots.',
      'slotId',
    );
  const [row] = await db
    .update(machines)
    .set({
      locators:
        slotId === null
          ? sql`${machines.locators} - ${key}::text`
          : sql`${machines.locators} || jsonb_build_object(${key}::text, ${slotId}::text)`,
    })
    .where(eq(machines.id, id))
    .returning(machineColumns);
  if (!row) throw new NotFoundError('This machine');
  return row;
}

/** The maker register, by code. */
export async function listMakers(db: Database): Promise<MakerRecord[]> {
  return db.select().from(makers).orderBy(asc(makers.key));
}

/** Names a maker code; the last name counts. */
export async function nameMaker(db: Database, key: string, name: string): Promise<MakerRecord[]> {
  await db
    .insert(makers)
    .values({ key, name })
    .onConflictDoUpdate({ target: makers.key, set: { name } });
  return listMakers(db);
}

/** Takes a name back; the code stays one. */
export async function forgetMaker(db: Database, key: string): Promise<MakerRecord[]> {
  await db.delete(makers).where(eq(makers.key, key));
  return listMakers(db);
}
