import { z } from 'zod';
import {
  POWER_MODES,
  PROBE_BOUNDS,
  PROBE_ENGINES,
  PROBE_LENGTHS,
  PROBE_MARKS,
} from '#core/proving';
import { id, moment, versionOrNone } from './text.ts';

const { threads, rate, reply, runs } = PROBE_BOUNDS;

const gigabytes = z
  .number()
  .min(rate.least, `A transfer is ${rate.least} GB/s or more.`)
  .max(rate.most, `A transfer is ${rate.most} GB/s or less.`);
const nanoseconds = z
  .number()
  .min(reply.least, `A reply takes ${reply.least} ns or more.`)
  .max(reply.most, `A reply takes ${reply.most} ns or less.`);
const series = (figure: z.ZodNumber) =>
  z
    .array(figure)
    .min(runs.least, `A series has ${runs.least} runs or more.`)
    .max(runs.most, `A series has ${runs.most} runs or fewer.`);
const threadCount = z
  .number()
  .int()
  .min(1)
  .max(threads, `A machine has ${threads} threads at most.`);

/** A result as its fields are named now: the multiply-add kernel had another name once. */
export function currentResult(result: unknown): unknown {
  if (typeof result !== 'object' || result === null || !('triad' in result)) return result;
  const { triad: multiplyAdd, ...rest } = result;
  return { multiplyAdd, ...rest };
}

/** What a carry code holds of a result. */
export const probeEssence = z.strictObject({
  length: z.enum(PROBE_LENGTHS),
  engine: z.enum(PROBE_ENGINES),
  threads: threadCount,
  marks: z.array(z.enum(PROBE_MARKS)).max(PROBE_MARKS.length),
  read: series(gigabytes),
  multiplyAdd: series(gigabytes),
  reply: series(nanoseconds),
});

/** A whole result, as the measuring page sends and saves it. */
export const probeResult = probeEssence.extend({
  id: z.string().regex(/^[0-9a-f]{32}$/, 'A result’s id is 32 digits and letters a to f.'),
  isolated: z.boolean(),
  footprint: z.number().min(1).max(1_048_576).describe('MiB'),
  ramp: z
    .array(z.strictObject({ threads: threadCount, rate: gigabytes }))
    .min(1)
    .max(12),
  copy: series(gigabytes),
  random: z
    .array(z.strictObject({ chains: z.number().int().min(1).max(64), rate: gigabytes }))
    .max(8),
  steps: z
    .array(z.strictObject({ kib: z.number().int().min(1).max(16_777_216), ns: nanoseconds }))
    .max(16),
  pattern: z
    .strictObject({
      mib: z.number().min(0).max(16_777_216),
      rounds: z.number().int().min(0).max(1_000_000),
      seconds: z.number().min(0).max(86_400),
      wrong: z.number().int().min(0),
    })
    .nullable(),
});

/** What the measuring page posts: a token and a result, nothing else. */
export const probePost = z.strictObject({ token: z.string().min(8).max(64), result: probeResult });

const side = z.enum(['as-found', 'as-fitted']);

/** Which side is measured, and how the machine is fed. */
const sitting = z.strictObject({
  kind: side,
  power: z.enum(POWER_MODES).default('unknown'),
});

/** What a link brings: a result of the measuring page, or the collected file of a machine. */
export const TICKET_BRINGS = ['result', 'files'] as const;

/** A link is asked for: what it brings, which side it measures, and how the machine is fed. */
export const ticketInput = sitting.extend({ brings: z.enum(TICKET_BRINGS).default('result') });

/** A link to the measuring page. The token itself is told once, when the link is made. */
export const ticket = z.strictObject({
  id,
  brings: z.enum(TICKET_BRINGS),
  kind: side,
  power: z.enum(POWER_MODES),
  by: z.string(),
  createdAt: moment,
  expiresAt: moment,
  state: z.enum(['waiting', 'used', 'expired']),
});
export const madeTicket = ticket.extend({
  token: z.string(),
  /** Address for other machines; null while the measuring door is shut. */
  link: z.string().nullable(),
});

/** A result brought by hand: a typed code, or the page's file. */
export const carriedInput = sitting.extend({
  code: z.string().max(100).optional(),
  file: z.unknown().optional(),
});

/** Ways a result came to the job. */
export const RESULT_WAYS = ['sent', 'code', 'file', 'simulated'] as const;

/** A result on record, with what sat in the machine. */
export const probeRecord = z.strictObject({
  id: z.string(),
  kind: side,
  way: z.enum(RESULT_WAYS),
  by: z.string(),
  at: moment,
  fingerprint: z.string(),
  result: z.union([probeResult, probeEssence]),
});

/** Tricks of a simulated machine. */
export const SIMULATED_FAULTS = ['none', 'one channel', 'still rising'] as const;
export const simulateInput = sitting.extend({ fault: z.enum(SIMULATED_FAULTS) });

/** Where the measuring page can be reached from other machines. */
export const doorTerms = z.strictObject({
  isOpen: z.boolean(),
  address: z.string().max(60),
  port: z
    .number('Enter a number.')
    .int('Enter a whole number.')
    .min(1024, 'A port is 1024 or more.')
    .max(65_535, 'A port is 65535 or less.'),
});
export const door = z.strictObject({
  terms: doorTerms,
  version: z.number().int(),
  /** Addresses of this computer that others may reach. */
  addresses: z.array(z.strictObject({ address: z.string(), name: z.string() })),
  /** Where it listens now; null while shut. */
  url: z.string().nullable(),
  /** Why it is shut although it should be open. */
  fault: z.string().nullable(),
});
export const doorInput = z.strictObject({ terms: doorTerms, version: versionOrNone });

export type ProbePost = z.infer<typeof probePost>;
export type Ticket = z.infer<typeof ticket>;
export type MadeTicket = z.infer<typeof madeTicket>;
export type TicketInput = z.infer<typeof ticketInput>;
export type SittingInput = z.infer<typeof sitting>;
export type CarriedInput = z.infer<typeof carriedInput>;
export type ProbeRecord = z.infer<typeof probeRecord>;
export type SimulateInput = z.infer<typeof simulateInput>;
export type ResultWay = (typeof RESULT_WAYS)[number];
export type Door = z.infer<typeof door>;
export type DoorTerms = z.infer<typeof doorTerms>;
