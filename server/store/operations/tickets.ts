import { and, desc, eq, isNull } from 'drizzle-orm';
import { customAlphabet } from 'nanoid';
import type { Signed } from '#contract/access';
import type { MadeTicket, Ticket, TicketInput } from '#contract/measuring';
import { digestOf } from '../../digest.ts';
import type { Database } from '../openStore.ts';
import { tickets } from '../schema/index.ts';
import { addEvent, printOf, requireOpen } from './changeJobs.ts';
import { TokenError } from './errors.ts';
import { newId } from './library.ts';

/** How long a link is good for. */
const TICKET_MINUTES = 60;

/**
 * Links are typed on machines without a camera: 12 small letters and digits that cannot be taken
 * for one another, 59 bits. With an hour to live and 30 tries a minute nobody guesses one.
 */
const newToken = customAlphabet('23456789abcdefghjkmnpqrstvwxyz', 12);

/** Makes a link to the measuring page. The token is told here once; its digest alone is kept. */
export async function makeTicket(
  db: Database,
  jobId: string,
  { brings, kind, power, by }: Signed<TicketInput>,
  doorUrl: string | null,
): Promise<MadeTicket> {
  return db.transaction(async (tx) => {
    // Refuses where nothing is on record that could be measured; files come before anything is.
    if (brings === 'result') await printOf(tx, jobId, kind);
    else await requireOpen(tx, jobId);
    const token = newToken().replaceAll(/(.{4})(?=.)/g, '$1-');
    const expiresAt = new Date(Date.now() + TICKET_MINUTES * 60_000);
    const [row] = await tx
      .insert(tickets)
      .values({
        id: newId(),
        jobId,
        brings,
        kind,
        power,
        by,
        digest: tokenDigest(token),
        expiresAt,
      })
      .returning();
    if (!row) throw new Error('expected the ticket just inserted');
    const what =
      brings === 'files'
        ? 'Link for a collected file made'
        : `Link to the measuring page made for ${kind}`;
    await addEvent(tx, jobId, 'measuring', `${what} (${by})`);
    return { ...ticketOf(row), token, link: doorUrl && `${doorUrl}/#${token}` };
  });
}

/** Hyphens and capitals are no matter: it may have been typed. */
const tokenDigest = (token: string): string =>
  digestOf(token.toLowerCase().replaceAll(/[^a-z0-9]/g, ''));

function ticketOf({ createdAt, expiresAt, resultId, ...row }: typeof tickets.$inferSelect): Ticket {
  const { id, brings, kind, power, by } = row;
  const state =
    resultId !== null ? 'used' : expiresAt.getTime() < Date.now() ? 'expired' : 'waiting';
  const times = { createdAt: createdAt.toISOString(), expiresAt: expiresAt.toISOString() };
  return { id, brings, kind, power, by, ...times, state };
}

/** Links of a job, the latest first. */
export async function listTickets(db: Database, jobId: string): Promise<Ticket[]> {
  const rows = await db
    .select()
    .from(tickets)
    .where(eq(tickets.jobId, jobId))
    .orderBy(desc(tickets.createdAt))
    .limit(20);
  return rows.map(ticketOf);
}

/** Makes a link useless before its time; a used one stays as it is. */
export async function withdrawTicket(db: Database, jobId: string, id: string): Promise<Ticket[]> {
  await db
    .update(tickets)
    .set({ expiresAt: new Date(0) })
    .where(and(eq(tickets.id, id), eq(tickets.jobId, jobId), isNull(tickets.resultId)));
  return listTickets(db, jobId);
}

/**
 * Uses a ticket for what was brought. It is good for one; the same sent again is taken for said, since
 * its answer may have been lost on the way.
 */
export async function useTicket(
  db: Database,
  token: string,
  brings: Ticket['brings'],
  broughtId: string,
) {
  const own = and(eq(tickets.digest, tokenDigest(token)), eq(tickets.brings, brings));
  const [known] = await db.select().from(tickets).where(own);
  if (!known)
    throw new TokenError(404, 'This link is not known here.', 'Ask at the bench for a new one.');
  if (known.resultId === broughtId) return { ...known, isRepeated: true };
  if (known.resultId !== null)
    throw new TokenError(
      409,
      `This link has brought its ${brings === 'files' ? 'file' : 'result'} already.`,
      'Ask at the bench for a new one; each brings one.',
    );
  if (known.expiresAt.getTime() < Date.now())
    throw new TokenError(
      410,
      `This link is older than ${TICKET_MINUTES} minutes.`,
      'Ask at the bench for a new one, or carry what it was for there.',
    );
  // Two posts at once: only one finds the ticket unused.
  const taken = await db
    .update(tickets)
    .set({ resultId: broughtId })
    .where(and(own, isNull(tickets.resultId)))
    .returning({ id: tickets.id });
  if (taken.length === 0)
    throw new TokenError(409, 'This link has just been used.', 'Ask at the bench for a new one.');
  return { ...known, isRepeated: false };
}
