import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Session } from '#contract/access';
import { compareNames } from '#core/units';
import type { Database } from '../store/openStore.ts';
import { NotFoundError, StateError } from '../store/operations/errors.ts';
import { newId } from '../store/operations/library.ts';
import { readWriting } from '../store/operations/drawer.ts';
import { accounts, failedSignIns, jobs, sessions, tabletLinks } from '../store/schema/index.ts';
import { addOwner, hasOwner } from './accounts.ts';
import {
  AccessError,
  noOwnerYet,
  signedOut,
  stalePin,
  tooManyTries,
  wrongPassword,
  wrongPin,
} from './errors.ts';
import { digestOf, hashSecret, isSecret, newToken } from './secrets.ts';
import { HOLD_AFTER_MIN } from './visit.ts';
import type { Actor, Visit } from './visit.ts';

/** Wrong passwords in a row for one name before it is locked, and for how long. */
const MOST_TRIES = 10;
export const LOCK_MIN = 15;
const LOCK_MS = LOCK_MIN * 60_000;
const MOST_PIN_TRIES = 5;

/** Where the visitor stands. */
export async function readSession(db: Database, visit: Visit): Promise<Session> {
  const { actor, held, device } = visit;
  const person = actor ?? held;
  const own = {
    person: person ? { id: person.accountId, name: person.name, role: person.role } : null,
    jobId: person?.tablet?.jobId ?? null,
    ...{ hasPin: visit.hasPin, signsInByItself: visit.signsInByItself },
    writing: await readWriting(db),
    holdAfter: visit.hasPin ? HOLD_AFTER_MIN : null,
    onDevice: device === undefined ? [] : await withPin(db, device),
  };
  if (actor) return { state: 'signed in', ...own };
  if (held) return { state: 'held', ...own };
  return { state: (await hasOwner(db)) ? 'signed out' : 'no owner', ...own };
}

async function withPin(db: Database, device: string) {
  const people = await db
    .selectDistinct({ id: accounts.id, name: accounts.name })
    .from(sessions)
    .innerJoin(accounts, eq(accounts.id, sessions.accountId))
    .where(
      and(
        eq(sessions.deviceDigest, device),
        isNotNull(sessions.pinHash),
        eq(accounts.isActive, true),
      ),
    );
  return people.sort((a, b) => compareNames(a.name, b.name));
}

/** What a session says right after it was begun, whatever the request itself came with. */
async function begun(
  db: Database,
  visit: Visit,
  device: string,
  actor: Actor,
  hasPin: boolean,
): Promise<Session> {
  return readSession(db, { ...visit, actor, held: undefined, device, hasPin });
}

/** Begins a session of an account on the visitor’s device; its earlier one there is over. */
async function begin(
  db: Database,
  visit: Visit,
  account: typeof accounts.$inferSelect,
  tablet?: NonNullable<Actor['tablet']>,
): Promise<Session> {
  const token = newToken();
  const device = visit.markDevice();
  const id = newId();
  await db.transaction(async (tx) => {
    // Rotated: whoever held the token from before is out.
    const before = visit.actor?.sessionId ?? visit.held?.sessionId;
    if (before !== undefined && (visit.actor ?? visit.held)?.accountId === account.id)
      await tx.delete(sessions).where(eq(sessions.id, before));
    await tx.insert(sessions).values({
      ...{ id, tokenDigest: digestOf(token), accountId: account.id, deviceDigest: device },
      device: visit.deviceName,
      jobId: tablet?.jobId ?? null,
    });
  });
  visit.admit(token);
  const { name, role } = account;
  return begun(
    db,
    visit,
    device,
    { accountId: account.id, name, role, sessionId: id, tablet },
    false,
  );
}

/**
 * Makes the first owner, on the machine the bench runs on.
 *
 * @throws StateError where somebody owns it already
 */
export async function setUp(
  db: Database,
  visit: Visit,
  { name, password }: { name: string; password: string },
): Promise<Session> {
  if (!visit.isLocal)
    throw new StateError(
      'The first owner is entered on the machine the bench runs on.',
      'Open http://127.0.0.1 there, with the port it was started on.',
    );
  const owner = await addOwner(db, name, password);
  return begin(db, visit, owner);
}

/**
 * Signs in by name and password. Tries are counted before the password is looked at, so that a thousand
 * at one moment are no more than a thousand in a row.
 */
export async function signIn(
  db: Database,
  visit: Visit,
  { name, password }: { name: string; password: string },
): Promise<Session> {
  if (!(await hasOwner(db))) throw noOwnerYet();
  const key = name.trim().toLowerCase();
  await countTry(db, key);
  const [account] = await db
    .select()
    .from(accounts)
    .where(and(sql`lower(${accounts.name}) = ${key}`, eq(accounts.isActive, true)));
  if (!(await isSecret(account?.passwordHash, password)) || !account) throw wrongPassword();
  await db.delete(failedSignIns).where(eq(failedSignIns.name, key));
  return begin(db, visit, account);
}

/** Counts a try for a name, unless it is locked. */
async function countTry(db: Database, name: string): Promise<void> {
  const now = new Date();
  const [row] = await db
    .insert(failedSignIns)
    .values({ name, count: 1, lastAt: now })
    .onConflictDoUpdate({
      target: failedSignIns.name,
      set: {
        // After the lock one begins anew; a clock set back must not lock anybody for longer.
        count: sql`case when abs(extract(epoch from (${now.toISOString()}::timestamptz - ${failedSignIns.lastAt})) * 1000) > ${LOCK_MS} then 1 else ${failedSignIns.count} + 1 end`,
        // Tries while it is locked do not make the lock longer.
        lastAt: sql`case when ${failedSignIns.count} >= ${MOST_TRIES} and abs(extract(epoch from (${now.toISOString()}::timestamptz - ${failedSignIns.lastAt})) * 1000) <= ${LOCK_MS} then ${failedSignIns.lastAt} else ${now.toISOString()}::timestamptz end`,
      },
    })
    .returning();
  if (!row || row.count <= MOST_TRIES) return;
  const left = LOCK_MS - Math.abs(now.getTime() - row.lastAt.getTime());
  throw tooManyTries(Math.max(1, Math.ceil(left / 60_000)));
}

/** Takes a device over with the PIN somebody set on it; the session goes on under a new token. */
export async function takeOver(
  db: Database,
  visit: Visit,
  { accountId, pin }: { accountId: string; pin: string },
): Promise<Session> {
  if (visit.device === undefined) throw stalePin();
  const { device } = visit;
  const own = and(
    eq(sessions.accountId, accountId),
    eq(sessions.deviceDigest, device),
    isNotNull(sessions.pinHash),
    isNull(sessions.jobId),
  );
  // Counted first, as a password’s tries are.
  const [row] = await db
    .update(sessions)
    .set({ pinFailures: sql`${sessions.pinFailures} + 1` })
    .where(own)
    .returning();
  const [account] = row
    ? await db
        .select()
        .from(accounts)
        .where(and(eq(accounts.id, row.accountId), eq(accounts.isActive, true)))
    : [];
  if (!row || !account) throw stalePin();
  const isTried = row.pinFailures > MOST_PIN_TRIES;
  if (isTried || !(await isSecret(row.pinHash ?? undefined, pin))) {
    const left = MOST_PIN_TRIES - row.pinFailures;
    if (left <= 0)
      await db
        .update(sessions)
        .set({ pinHash: null, pinFailures: 0, heldAt: new Date() })
        .where(eq(sessions.id, row.id));
    throw wrongPin(Math.max(0, left));
  }
  const token = newToken();
  await db
    .update(sessions)
    .set({ tokenDigest: digestOf(token), heldAt: null, pinFailures: 0, seenAt: new Date() })
    .where(eq(sessions.id, row.id));
  visit.admit(token);
  const { name, role } = account;
  return begun(
    db,
    visit,
    device,
    { accountId, name, role, sessionId: row.id, tablet: undefined },
    true,
  );
}

/** Holds the bench: this session waits for its PIN or a password. Without a PIN it is signed out. */
export async function holdBench(db: Database, visit: Visit): Promise<Session> {
  const { actor } = visit;
  if (!actor?.sessionId) return readSession(db, visit);
  if (!visit.hasPin) return signOut(db, visit);
  await db.update(sessions).set({ heldAt: new Date() }).where(eq(sessions.id, actor.sessionId));
  return readSession(db, { ...visit, actor: undefined, held: actor });
}

/** Ends this device’s session. */
export async function signOut(db: Database, visit: Visit): Promise<Session> {
  const id = (visit.actor ?? visit.held)?.sessionId;
  if (id !== undefined) await db.delete(sessions).where(eq(sessions.id, id));
  visit.dismiss();
  return readSession(db, { ...visit, actor: undefined, held: undefined, hasPin: false });
}

/** Sets or forgets the PIN of this session on this device. */
export async function setPin(db: Database, visit: Visit, pin: string | null): Promise<Session> {
  const { actor } = visit;
  if (!actor) throw signedOut();
  if (actor.sessionId === undefined || actor.tablet)
    throw new StateError(
      'A PIN belongs to somebody signed in here with a password.',
      'Sign in with name and password first.',
    );
  if (pin !== null && new Set(pin).size === 1)
    throw new StateError('One figure again and again is no PIN.', 'Mix the figures.', 'pin');
  const pinHash = pin === null ? null : await hashSecret(pin);
  await db
    .update(sessions)
    .set({ pinHash, pinFailures: 0 })
    .where(eq(sessions.id, actor.sessionId));
  return readSession(db, { ...visit, hasPin: pin !== null });
}

/** How long a code for a tablet is good. */
const LINK_MIN = 10;

/** A code that lets one tablet in for a job, as whoever asks; told once. */
export async function makeTabletLink(
  db: Database,
  actor: Actor,
  jobId: string,
): Promise<{ token: string; expiresAt: string }> {
  const [job] = await db.select({ closedAt: jobs.closedAt }).from(jobs).where(eq(jobs.id, jobId));
  if (!job) throw new NotFoundError('This job');
  if (job.closedAt)
    throw new StateError('This job is closed.', 'Open it again before a tablet works on it.');
  const token = newToken();
  const expiresAt = new Date(Date.now() + LINK_MIN * 60_000);
  await db.insert(tabletLinks).values({
    ...{ tokenDigest: digestOf(token), accountId: actor.accountId, jobId, expiresAt },
  });
  return { token, expiresAt: expiresAt.toISOString() };
}

/** Lets a tablet in for the job of a code; the code is then used up. */
export async function joinJob(db: Database, visit: Visit, token: string): Promise<Session> {
  const [link] = await db
    .delete(tabletLinks)
    .where(eq(tabletLinks.tokenDigest, digestOf(token)))
    .returning();
  const now = Date.now();
  const isGood =
    link !== undefined &&
    link.expiresAt.getTime() > now &&
    // Made in a future the clock has left again: nobody knows how old it is.
    link.expiresAt.getTime() - now <= LINK_MIN * 60_000;
  const [row] = isGood
    ? await db
        .select({ account: accounts, machineId: jobs.machineId, closedAt: jobs.closedAt })
        .from(accounts)
        .innerJoin(jobs, eq(jobs.id, link.jobId))
        .where(and(eq(accounts.id, link.accountId), eq(accounts.isActive, true)))
    : [];
  if (!isGood || !row || row.closedAt)
    throw new AccessError({
      ...{ type: 'about:blank#used-code', title: 'This code is used up', status: 403 },
      detail: `A code lets one tablet in, within ${LINK_MIN} minutes.`,
      mend: 'Show a new one on the bench screen: “Open on a tablet”.',
    });
  return begin(db, visit, row.account, { jobId: link.jobId, machineId: row.machineId });
}
