import { eq, lt, sql } from 'drizzle-orm';
import { digestOf } from '../../digest.ts';
import type { Database } from '../openStore.ts';
import { deeds } from '../schema/index.ts';
import { StateError } from './errors.ts';

/** What a request was answered with. */
export interface Answered {
  readonly status: number;
  readonly body: unknown;
}

/** How long an answer is kept for whoever did not get it. */
const KEPT_FOR = sql`interval '3 days'`;

/** A request as its key remembers it. */
export const requestDigest = (method: string, address: string, body: unknown): string =>
  digestOf(JSON.stringify([method, address, body ?? null]));

/**
 * Does something once for a key: whoever sends the same again, because the answer was lost, gets the
 * first answer. Two at the same moment wait for one another at the key's row.
 *
 * @param tx - the transaction the deed itself is part of: both stand, or neither
 * @throws StateError when the key stood for another request
 */
export async function once(
  tx: Database,
  key: string,
  request: string,
  run: () => Promise<Answered>,
): Promise<Answered> {
  const taken = await tx
    .insert(deeds)
    .values({ key, request })
    .onConflictDoNothing()
    .returning({ key: deeds.key });
  if (taken.length === 0) {
    const [known] = await tx.select().from(deeds).where(eq(deeds.key, key));
    if (known?.request !== request || known.status === null)
      throw new StateError(
        'This key was used for another request.',
        'Send it again with a key of its own.',
      );
    return { status: known.status, body: known.answer };
  }
  const answered = await run();
  await tx
    .update(deeds)
    .set({ status: answered.status, answer: answered.body })
    .where(eq(deeds.key, key));
  return answered;
}

/** Forgets answers nobody will ask for any more. */
export async function forgetOldDeeds(db: Database): Promise<void> {
  await db.delete(deeds).where(lt(deeds.at, sql`now() - ${KEPT_FOR}`));
}
