import { z } from 'zod';
import { DATE_STYLES, NUMBER_STYLES } from '#core/units';
import { id } from './text.ts';

/** What somebody is in the shop. */
export const ROLES = ['owner', 'technician', 'counter'] as const;
export type Role = (typeof ROLES)[number];

/** Who calls a route: somebody in a role, or nobody known. */
export type Caller = Role | 'signed out';

/**
 * Who may call a route. Every entry of the route table names one of these:
 * - `anyone`: signed out too – what is needed to sign in
 * - `staff`: everybody of the shop – reading, intake, quotes, handing over
 * - `bench`: who opens machines – configurations, evidence, measuring, the machine library
 * - `prices`: who buys and sells – catalogue, suppliers, orders
 * - `owner`: policy, accounts, backups, the month
 */
export const MAY_CALL = {
  anyone: ['signed out', 'owner', 'technician', 'counter'],
  staff: ['owner', 'technician', 'counter'],
  bench: ['owner', 'technician'],
  prices: ['owner', 'counter'],
  owner: ['owner'],
} as const satisfies Readonly<Record<string, readonly Caller[]>>;
export type Access = keyof typeof MAY_CALL;

/** Whether somebody may call what is open to `access`. */
export const mayCall = (caller: Caller, access: Access): boolean =>
  (MAY_CALL[access] as readonly Caller[]).includes(caller);

/** What somebody did, with who it was: by the session, never as typed. */
export type Signed<Input> = Input & { readonly by: string };

/** A role as it is stored and sent. */
export const role = z.enum(ROLES);

/** How a shop writes days and numbers. */
export const writingStyle = z.strictObject({
  dates: z.enum(DATE_STYLES),
  numbers: z.enum(NUMBER_STYLES),
});

/** Where the visitor stands, as every page asks first. */
export const session = z.strictObject({
  /** `no owner`: the first start; somebody has to be the owner before anything else. */
  state: z.enum(['no owner', 'signed out', 'held', 'signed in']),
  person: z.strictObject({ id, name: z.string(), role }).nullable(),
  /** The one job a tablet was let in for. */
  jobId: id.nullable(),
  /** A PIN takes this person’s session over again on this device. */
  hasPin: z.boolean(),
  /** Who can take this device over with a PIN. */
  onDevice: z.array(z.strictObject({ id, name: z.string() })),
  /** A made-up world lets everybody on this machine in as its owner. */
  signsInByItself: z.boolean(),
  /** Minutes without a touch after which the bench is held. */
  holdAfter: z.number().int().nullable(),
  /** How the shop writes days and numbers. */
  writing: writingStyle,
});
export type Session = z.infer<typeof session>;
