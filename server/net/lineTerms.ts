import { and, eq } from 'drizzle-orm';
import type { DoorTerms } from '#contract/measuring';
import type { Database } from '../store/openStore.ts';
import { StateError } from '../store/operations/errors.ts';
import { doorTerms } from '../store/schema/index.ts';
import { ownAddresses } from './addresses.ts';

/** What listens beyond loopback: the door of the measuring page, and the bench itself. */
export type LineName = 'door' | 'bench';

/** Terms of a line as they stand, with their version; 0 while nobody touched them. */
export interface LineTerms {
  readonly terms: DoorTerms;
  readonly version: number;
}

/** The terms of a line; `untouched` until somebody says otherwise. */
export async function readTerms(
  db: Database,
  name: LineName,
  untouched: DoorTerms,
): Promise<LineTerms> {
  const [row] = await db.select().from(doorTerms).where(eq(doorTerms.id, name));
  if (!row) return { terms: untouched, version: 0 };
  const { isOpen, address, port, version } = row;
  return { terms: { isOpen, address, port }, version };
}

/**
 * Saves the terms of a line, if they are still at the version the change started from.
 *
 * @returns whether they were
 * @throws StateError where it is to open at an address this computer does not have
 */
export async function saveTerms(
  db: Database,
  name: LineName,
  terms: DoorTerms,
  version: number,
): Promise<boolean> {
  if (terms.isOpen && !ownAddresses().some(({ address }) => address === terms.address))
    throw new StateError(
      `This computer has no address ${terms.address || '(none chosen)'}.`,
      'Choose one of those listed.',
      'terms.address',
    );
  const saved =
    version === 0
      ? await db
          .insert(doorTerms)
          .values({ id: name, ...terms })
          .onConflictDoNothing()
          .returning()
      : await db
          .update(doorTerms)
          .set({ ...terms, version: version + 1 })
          .where(and(eq(doorTerms.id, name), eq(doorTerms.version, version)))
          .returning();
  return saved.length > 0;
}
