import { and, eq } from 'drizzle-orm';
import type { Interleave } from '#contract/bench';
import type { MachineRecord } from '#contract/records';
import type { CoverMap } from '#core/fitting';
import type { Database } from '../openStore.ts';
import { pictureFrom } from '../picture.ts';
import { coverPhotos, machines } from '../schema/index.ts';
import { ConflictError, NotFoundError } from './errors.ts';
import { readMachine } from './library.ts';

interface Cover {
  readonly coverMap?: CoverMap | null | undefined;
  readonly interleave?: Interleave | null | undefined;
  readonly version: number;
}

/** Saves how a machine's cover opens, if the machine is still at the version it started from. */
export async function saveCover(
  db: Database,
  id: string,
  { coverMap, interleave, version }: Cover,
): Promise<MachineRecord> {
  const rows = await db
    .update(machines)
    .set({
      ...(coverMap === undefined ? {} : { coverMap }),
      ...(interleave === undefined ? {} : { interleave }),
      version: version + 1,
    })
    .where(and(eq(machines.id, id), eq(machines.version, version)))
    .returning({ id: machines.id });
  const now = await readMachine(db, id);
  if (rows.length === 0) throw new ConflictError('This machine', now);
  return now;
}

/** Saves the photo of a machine's cover; the last one counts. */
export async function savePhoto(db: Database, id: string, base64: string): Promise<MachineRecord> {
  await readMachine(db, id);
  const fields = pictureFrom(base64, 'base64');
  await db
    .insert(coverPhotos)
    .values({ machineId: id, ...fields })
    .onConflictDoUpdate({ target: coverPhotos.machineId, set: fields });
  return readMachine(db, id);
}

/** Removes the photo. */
export async function removePhoto(db: Database, id: string): Promise<MachineRecord> {
  await db.delete(coverPhotos).where(eq(coverPhotos.machineId, id));
  return readMachine(db, id);
}

/** The photo of a machine's cover. Throws NotFoundError. */
export async function readPhoto(db: Database, id: string) {
  const [row] = await db.select().from(coverPhotos).where(eq(coverPhotos.machineId, id));
  if (!row) throw new NotFoundError('This photo');
  return row;
}
