import { and, eq, sql } from 'drizzle-orm';
import { parse } from 'cookie';
import type { CookieOptions, Request, Response } from 'express';
import type { Role } from '#contract/access';
import type { Database } from '../store/openStore.ts';
import { prepared } from '../store/prepared.ts';
import { accounts, jobs, sessions } from '../store/schema/index.ts';
import { LOCAL_KEY_HEADER, isLocalKey } from './localKey.ts';
import { signedOut } from './errors.ts';
import { digestOf, newToken } from './secrets.ts';

/** Who asks, as they signed in. */
export interface Actor {
  readonly accountId: string;
  readonly name: string;
  readonly role: Role;
  /** None where a made-up world let them in by itself. */
  readonly sessionId: string | undefined;
  /** The one job a tablet was let in for, and its machine. */
  readonly tablet: { readonly jobId: string; readonly machineId: string } | undefined;
}

/** A request with whoever makes it. */
export interface Visit {
  readonly actor: Actor | undefined;
  /** Somebody is signed in, but the bench waits for a PIN or a password. */
  readonly held: Actor | undefined;
  readonly hasPin: boolean;
  /** Digest of the device’s own cookie; `undefined` where it has none yet. */
  readonly device: string | undefined;
  /** What the device calls itself, in short. */
  readonly deviceName: string;
  /** A made-up world lets everybody on this machine in as its owner. */
  readonly signsInByItself: boolean;
  /** On the machine the bench runs on, under one of its own names. */
  readonly isLocal: boolean;
  /** Gives the device its cookie, and answers with its digest. */
  readonly markDevice: () => string;
  /** Gives the browser the cookie of a session. */
  readonly admit: (token: string) => void;
  /** Takes the cookie of the session back. */
  readonly dismiss: () => void;
}

/** Whom the door lets in without a session. */
export interface DoorTerms {
  /** Everybody on this machine, as the owner of a made-up shop. */
  readonly isDemo: boolean;
  /** Programs of this machine that show it, as the owner. */
  readonly localKey: string;
}

/** Who asks; routes for people signed in have somebody. */
export function actorOf({ actor }: Visit): Actor {
  if (!actor) throw signedOut();
  return actor;
}

const DAY_MS = 86_400_000;
/** A session nobody used for this long is over. */
export const SESSION_DAYS = 30;
/** A device keeps its mark for a year after its last sign-in. */
const DEVICE_DAYS = 365;
/** A bench with a PIN is held when nobody touched it for this long. */
export const HOLD_AFTER_MIN = 10;
const HOLD_AFTER_MS = HOLD_AFTER_MIN * 60_000;
/** How often a session’s last use is written down. */
const TOUCH_MS = 60_000;

const LOOPBACK = /^(?:127\.|::1$|::ffff:127\.)/;
const LOCAL_NAME = /^(?:localhost|127\.0\.0\.1|\[::1\])(?::\d+)?$/i;

/** Of the port, so that two benches on one machine keep apart: cookies know names, not ports. */
const cookieNames = ({ socket: { localPort } }: Request) => ({
  session: `tembrix-session-${localPort}`,
  device: `tembrix-device-${localPort}`,
});

/** What a browser says it runs on, in words; nothing is made of it but a line in a list. */
export function deviceNameOf(agent: string): string {
  if (/iPad|Tablet|Android(?!.*Mobile)/i.test(agent)) return 'Tablet';
  if (/Mobile|iPhone/i.test(agent)) return 'Phone';
  return agent === '' || !/^Mozilla/.test(agent) ? 'Program' : 'Computer';
}

/**
 * Whoever makes a request, by its cookies. A session is of one device: its cookie without the device's
 * own is somebody else's, and ends it.
 *
 */
export async function visitOf(
  db: Database,
  request: Request,
  response: Response,
  { isDemo, localKey }: DoorTerms,
): Promise<Visit> {
  const names = cookieNames(request);
  const cookies = parse(request.headers.cookie ?? '');
  const token = cookies[names.session];
  const deviceToken = cookies[names.device];
  const device = deviceToken === undefined ? undefined : digestOf(deviceToken);
  const remote = request.socket.remoteAddress ?? '';
  // Whoever comes through a proxy comes from its loopback, whatever name they ask for.
  const isForwarded = 'x-forwarded-for' in request.headers || 'forwarded' in request.headers;
  const isLocal =
    LOOPBACK.test(remote) && LOCAL_NAME.test(request.headers.host ?? '') && !isForwarded;
  const options: CookieOptions = {
    ...{ httpOnly: true, sameSite: 'strict' as const, path: '/' },
    secure: request.protocol === 'https' || request.headers['x-forwarded-proto'] === 'https',
  };
  // A screen that says where it is says so by itself: nobody touched it for that.
  const isTouched = !request.path.startsWith('/live');
  const known =
    token === undefined ? undefined : await readSession(db, digestOf(token), device, isTouched);
  const isProgram = isLocal && isLocalKey(localKey, request.get(LOCAL_KEY_HEADER));
  const byItself = isProgram || (isDemo && isLocal && !known) ? await firstOwner(db) : undefined;
  const isHeld = known?.isHeld === true;
  return {
    actor: isHeld ? undefined : (known?.actor ?? byItself),
    held: isHeld ? known.actor : undefined,
    hasPin: known?.hasPin === true,
    device,
    deviceName: deviceNameOf(request.headers['user-agent'] ?? ''),
    signsInByItself: isDemo && isLocal,
    isLocal,
    markDevice: () => {
      const mark = deviceToken ?? newToken();
      response.cookie(names.device, mark, { ...options, maxAge: DEVICE_DAYS * DAY_MS });
      return digestOf(mark);
    },
    admit: (fresh) =>
      void response.cookie(names.session, fresh, { ...options, maxAge: SESSION_DAYS * DAY_MS }),
    dismiss: () => void response.clearCookie(names.session, options),
  };
}

/** A session with whose it is, and the job of a tablet. */
const sessionByToken = (db: Database) =>
  db
    .select({
      // Asked at every request: nothing but what is judged by.
      session: {
        ...{ id: sessions.id, seenAt: sessions.seenAt, heldAt: sessions.heldAt },
        ...{ deviceDigest: sessions.deviceDigest, jobId: sessions.jobId },
        hasPin: sql<boolean>`${sessions.pinHash} is not null`,
      },
      account: { id: accounts.id, name: accounts.name, role: accounts.role },
      closedAt: jobs.closedAt,
      machineId: jobs.machineId,
    })
    .from(sessions)
    .innerJoin(accounts, eq(accounts.id, sessions.accountId))
    .leftJoin(jobs, eq(jobs.id, sessions.jobId))
    .where(and(eq(sessions.tokenDigest, sql.placeholder('digest')), eq(accounts.isActive, true)));

async function readSession(
  db: Database,
  digest: string,
  device: string | undefined,
  isTouched: boolean,
) {
  const [row] = await prepared(db, 'session', sessionByToken).execute({ digest });
  if (!row) return undefined;
  const { session, account, machineId } = row;
  const now = Date.now();
  const idle = now - session.seenAt.getTime();
  const isOver =
    session.deviceDigest !== device ||
    idle > SESSION_DAYS * DAY_MS ||
    (session.jobId !== null && row.closedAt !== null);
  if (isOver) {
    await db.delete(sessions).where(eq(sessions.id, session.id));
    return undefined;
  }
  const { hasPin } = session;
  const isHeld = session.heldAt !== null || (hasPin && idle > HOLD_AFTER_MS);
  // A clock set back leaves a last use to come; it is written anew then, too.
  if (isTouched && !isHeld && Math.abs(idle) > TOUCH_MS)
    await db
      .update(sessions)
      .set({ seenAt: new Date(now) })
      .where(eq(sessions.id, session.id));
  const actor: Actor = {
    ...{ accountId: account.id, name: account.name, role: account.role, sessionId: session.id },
    tablet:
      session.jobId === null || machineId === null
        ? undefined
        : { jobId: session.jobId, machineId },
  };
  return { actor, hasPin, isHeld };
}

/** Whether whoever opened a stream may still hear it: it lasts longer than any request. */
export async function isStillIn(db: Database, { actor }: Visit): Promise<boolean> {
  if (!actor || actor.sessionId === undefined) return actor !== undefined;
  const [row] = await db
    .select({ heldAt: sessions.heldAt, jobId: sessions.jobId, closedAt: jobs.closedAt })
    .from(sessions)
    .innerJoin(accounts, eq(accounts.id, sessions.accountId))
    .leftJoin(jobs, eq(jobs.id, sessions.jobId))
    .where(and(eq(sessions.id, actor.sessionId), eq(accounts.isActive, true)));
  return row !== undefined && row.heldAt === null && (row.jobId === null || row.closedAt === null);
}

async function firstOwner(db: Database): Promise<Actor | undefined> {
  const [owner] = await db
    .select()
    .from(accounts)
    .where(and(eq(accounts.role, 'owner'), eq(accounts.isActive, true)))
    .orderBy(accounts.createdAt)
    .limit(1);
  return (
    owner && {
      ...{ accountId: owner.id, name: owner.name, role: owner.role },
      ...{ sessionId: undefined, tablet: undefined },
    }
  );
}
