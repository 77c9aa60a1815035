import { z } from 'zod';
import { role } from './access.ts';
import { id, line, moment, version } from './text.ts';

/** Longer is safer than odder; the longest anybody types. */
const LEAST_LETTERS = 10;

const name = line('the name', 60);
/** A password to be set. Whether it is too easily guessed is judged beside the name. */
export const newPassword = z
  .string()
  .min(LEAST_LETTERS, `Take at least ${LEAST_LETTERS} letters; three words are easy to keep.`)
  .max(200, 'A password has 200 letters at most.');
/** A password as somebody types it to come in. */
const typedPassword = z.string().min(1, 'Enter the password.').max(200);
/** A short code for one device; the password stays what lets one in. */
export const pin = z.string().regex(/^\d{4,8}$/, 'A PIN has 4 to 8 digits.');

export const setUpInput = z.strictObject({ name, password: newPassword });
export const signInInput = z.strictObject({ name, password: typedPassword });
export const takeOverInput = z.strictObject({ accountId: id, pin: z.string().max(20) });
export const passwordChange = z.strictObject({ old: typedPassword, password: newPassword });
/** What a tablet shows from the code on the bench screen. */
export const joinInput = z.strictObject({ token: z.string().min(20).max(100) });

/** Somebody of the shop. */
export const account = z.strictObject({
  ...{ id, version, name: z.string(), role },
  isActive: z.boolean(),
  createdAt: moment,
  /** When they were last here; null = not within a month. */
  seenAt: moment.nullable(),
  /** How many devices they are signed in on. */
  sessions: z.number().int(),
});
export const newAccount = z.strictObject({ name, role, password: newPassword });
export const accountChange = z.strictObject({ version, name, role, isActive: z.boolean() });

/** One device somebody is signed in on. */
export const openSession = z.strictObject({
  id,
  device: z.string(),
  since: moment,
  seenAt: moment,
  isThis: z.boolean(),
  hasPin: z.boolean(),
  /** A tablet let in for one job. */
  job: z.strictObject({ id, number: z.number().int() }).nullable(),
});

/** A way in for a tablet: opened once, within minutes. */
export const tabletLink = z.strictObject({
  /** To open or to scan; null while no other device can reach the bench. */
  address: z.url().nullable(),
  expiresAt: moment,
});

export type Account = z.infer<typeof account>;
export type AccountChange = z.infer<typeof accountChange>;
export type NewAccount = z.infer<typeof newAccount>;
export type OpenSession = z.infer<typeof openSession>;
export type TabletLink = z.infer<typeof tabletLink>;
