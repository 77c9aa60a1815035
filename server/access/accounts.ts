import { and, count, desc, eq, max, ne, sql } from 'drizzle-orm';
import type { Account, AccountChange, NewAccount, OpenSession } from '#contract/accounts';
import type { Session } from '#contract/access';
import type { Database } from '../store/openStore.ts';
import { byName } from '../store/operations/byName.ts';
import { ConflictError, NotFoundError, StateError } from '../store/operations/errors.ts';
import { newId } from '../store/operations/library.ts';
import { accounts, failedSignIns, jobs, sessions } from '../store/schema/index.ts';
import { notAllowed, signedOut, wrongPassword } from './errors.ts';
import { digestOf, hashSecret, isSecret, newToken, weaknessOf } from './secrets.ts';
import { readSession } from './signIn.ts';
import type { Actor, Visit } from './visit.ts';

/** Any number, the same in every process: changes of who owns the bench take turns. */
const OWNER_LOCK = 4_870_002;
const takeTurns = (tx: Database) => tx.execute(sql`select pg_advisory_xact_lock(${OWNER_LOCK})`);

/** Whether anybody owns the bench yet. */
export async function hasOwner(db: Database): Promise<boolean> {
  const found = await db.select({ id: accounts.id }).from(accounts).limit(1);
  return found.length > 0;
}

async function keptPassword(password: string, name: string): Promise<string> {
  const weakness = weaknessOf(password, name);
  if (weakness !== undefined)
    throw new StateError(
      `This password is too easily guessed. ${weakness}`,
      'Take three or four words that have nothing to do with one another.',
      'password',
    );
  return hashSecret(password);
}

/**
 * The first owner.
 *
 * @throws StateError where there is one
 */
export async function addOwner(
  db: Database,
  name: string,
  password: string,
): Promise<typeof accounts.$inferSelect> {
  const passwordHash = await keptPassword(password, name);
  return db.transaction(async (tx) => {
    await takeTurns(tx);
    if (await hasOwner(tx))
      throw new StateError('This bench has an owner already.', 'Sign in instead.');
    const [owner] = await tx
      .insert(accounts)
      .values({ id: newId(), name, role: 'owner', passwordHash })
      .returning();
    if (!owner) throw new Error('expected the owner to be added');
    return owner;
  });
}

/** Everybody of the shop, those who left last. */
export async function listAccounts(db: Database): Promise<Account[]> {
  const rows = await db
    .select({ account: accounts, seenAt: max(sessions.seenAt), sessions: count(sessions.id) })
    .from(accounts)
    .leftJoin(sessions, eq(sessions.accountId, accounts.id))
    .groupBy(accounts.id)
    .orderBy(desc(accounts.isActive), byName(accounts.name));
  return rows.map(({ account: { passwordHash: _secret, createdAt, ...rest }, seenAt, ...row }) => ({
    ...rest,
    createdAt: createdAt.toISOString(),
    seenAt: seenAt?.toISOString() ?? null,
    sessions: row.sessions,
  }));
}

async function refuseTaken(db: Database, name: string, except?: string): Promise<void> {
  const same = sql`lower(${accounts.name}) = ${name.toLowerCase()}`;
  const [taken] = await db
    .select({ id: accounts.id })
    .from(accounts)
    .where(except === undefined ? same : and(same, ne(accounts.id, except)));
  if (taken)
    throw new StateError(
      `Somebody is called ${name} already.`,
      'Add a letter: records are signed with the name.',
      'name',
    );
}

/** Adds somebody. */
export async function addAccount(
  db: Database,
  { name, role, password }: NewAccount,
): Promise<Account[]> {
  await refuseTaken(db, name);
  const passwordHash = await keptPassword(password, name);
  await db.insert(accounts).values({ id: newId(), name, role, passwordHash });
  return listAccounts(db);
}

/**
 * Changes name or role, or closes an account. Somebody stays owner, whoever changes whom at one moment.
 *
 * @throws StateError where nobody would be owner any more
 */
export async function changeAccount(
  db: Database,
  actor: Actor,
  id: string,
  { version, ...change }: AccountChange,
): Promise<Account[]> {
  return db.transaction(async (tx) => {
    await takeTurns(tx);
    await refuseTaken(tx, change.name, id);
    const [self] = await tx.select().from(accounts).where(eq(accounts.id, actor.accountId));
    // Somebody else may have changed that while this request waited.
    if (self?.role !== 'owner' || !self.isActive) throw notAllowed(actor.name, 'an owner');
    const [changed] = await tx
      .update(accounts)
      .set({ ...change, version: version + 1 })
      .where(and(eq(accounts.id, id), eq(accounts.version, version)))
      .returning();
    if (!changed) {
      const theirs = (await listAccounts(tx)).find((one) => one.id === id);
      if (!theirs) throw new NotFoundError('This account');
      throw new ConflictError('This account', theirs);
    }
    const [owner] = await tx
      .select({ id: accounts.id })
      .from(accounts)
      .where(and(eq(accounts.role, 'owner'), eq(accounts.isActive, true)))
      .limit(1);
    if (!owner)
      throw new StateError(
        `${changed.name} is the only owner.`,
        'Make somebody else owner first.',
        change.isActive ? 'role' : 'isActive',
      );
    if (!change.isActive) await tx.delete(sessions).where(eq(sessions.accountId, id));
    return listAccounts(tx);
  });
}

/** Gives somebody a new password: it unlocks the name, and signs their devices out. */
export async function setPassword(db: Database, id: string, password: string): Promise<Account[]> {
  const [known] = await db.select().from(accounts).where(eq(accounts.id, id));
  if (!known) throw new NotFoundError('This account');
  const passwordHash = await keptPassword(password, known.name);
  await db
    .update(accounts)
    .set({ passwordHash, version: sql`${accounts.version} + 1` })
    .where(eq(accounts.id, id));
  await db.delete(sessions).where(eq(sessions.accountId, id));
  await db.delete(failedSignIns).where(eq(failedSignIns.name, known.name.toLowerCase()));
  return listAccounts(db);
}

/** Changes one’s own password; one’s other devices, and every PIN, are over. */
export async function changePassword(
  db: Database,
  visit: Visit,
  { old, password }: { old: string; password: string },
): Promise<Session> {
  const { actor } = visit;
  if (!actor || actor.tablet) throw signedOut();
  const [own] = await db.select().from(accounts).where(eq(accounts.id, actor.accountId));
  if (!(await isSecret(own?.passwordHash, old))) throw wrongPassword();
  const passwordHash = await keptPassword(password, actor.name);
  const token = newToken();
  await db.transaction(async (tx) => {
    await tx.update(accounts).set({ passwordHash }).where(eq(accounts.id, actor.accountId));
    await tx
      .delete(sessions)
      .where(
        and(
          eq(sessions.accountId, actor.accountId),
          actor.sessionId === undefined ? undefined : ne(sessions.id, actor.sessionId),
        ),
      );
    if (actor.sessionId !== undefined)
      await tx
        .update(sessions)
        .set({ tokenDigest: digestOf(token), pinHash: null, pinFailures: 0 })
        .where(eq(sessions.id, actor.sessionId));
  });
  if (actor.sessionId !== undefined) visit.admit(token);
  return readSession(db, { ...visit, hasPin: false });
}

/** Where somebody is signed in, this device first. */
export async function listSessions(db: Database, actor: Actor): Promise<OpenSession[]> {
  const rows = await db
    .select({ session: sessions, number: jobs.number })
    .from(sessions)
    .leftJoin(jobs, eq(jobs.id, sessions.jobId))
    .where(eq(sessions.accountId, actor.accountId))
    .orderBy(desc(sessions.seenAt));
  return rows
    .map(({ session: { id, device, createdAt, seenAt, pinHash, jobId }, number }) => ({
      ...{ id, device, since: createdAt.toISOString(), seenAt: seenAt.toISOString() },
      ...{ isThis: id === actor.sessionId, hasPin: pinHash !== null },
      job: jobId === null || number === null ? null : { id: jobId, number },
    }))
    .sort((a, b) => Number(b.isThis) - Number(a.isThis));
}

/** Ends one of somebody’s own sessions. */
export async function endSession(db: Database, actor: Actor, id: string): Promise<OpenSession[]> {
  const gone = await db
    .delete(sessions)
    .where(and(eq(sessions.id, id), eq(sessions.accountId, actor.accountId)))
    .returning({ id: sessions.id });
  if (gone.length === 0) throw new NotFoundError('This session');
  return listSessions(db, actor);
}
