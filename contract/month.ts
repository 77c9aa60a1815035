import { z } from 'zod';
import { QUOTE_STANDS, RETURNS_BY, STRETCHES } from '#core/month';
import type { ReturnsBy } from '#core/month';
import { STEPS } from '#core/walk';
import { route } from './route.ts';
import { id, moment } from './text.ts';

const job = z.strictObject({ id, number: z.number().int(), customerName: z.string() });
const timed = job.extend({ hours: z.number() });
const spread = z.strictObject({
  ...{ jobs: z.number().int(), median: z.number(), low: z.number(), high: z.number() },
});
const share = z.strictObject({
  ...{ of: z.number().int(), share: z.number(), low: z.number(), high: z.number() },
});
const stretch = z.strictObject({ spread: spread.optional(), jobs: z.array(timed) });
const returnRow = z.strictObject({
  ...{ name: z.string(), back: z.number().int(), sold: z.number().int().optional() },
  ...{ share: share.optional(), jobs: z.array(job) },
});
const amount = z.number().int();

/** A month of the shop, every figure with the jobs behind it; see `monthOf` of the core. */
export const month = z.strictObject({
  month: z.string().describe('YYYY-MM, at the shop’s own clock'),
  from: moment,
  to: moment,
  isOver: z.boolean(),
  opened: z.array(job),
  closed: z.array(job),
  turnRound: z.strictObject({
    whole: stretch.describe('hours'),
    stretches: z.array(stretch.extend({ stretch: z.enum(STRETCHES) })),
  }),
  waiting: z.array(z.strictObject({ step: z.enum(STEPS), jobs: z.array(timed) })),
  quotes: z.strictObject({
    issued: z.number().int(),
    stands: z.array(z.strictObject({ stand: z.enum(QUOTE_STANDS), jobs: z.array(job) })),
    acceptedShare: share.optional(),
    reasons: z.array(z.strictObject({ reason: z.string(), job })),
  }),
  promises: z.strictObject({
    kept: z.array(job),
    missed: z.array(job.extend({ days: z.number().int() })),
    keptShare: share.optional(),
    withoutDay: z.number().int(),
  }),
  returns: z.strictObject({
    inMonth: z.array(job.extend({ part: z.string(), fault: z.string() })),
    soldInYear: z.number().int(),
    inYear: z.strictObject(
      Object.fromEntries(RETURNS_BY.map((by) => [by, z.array(returnRow)])) as Record<
        ReturnsBy,
        z.ZodArray<typeof returnRow>
      >,
    ),
  }),
  money: z.strictObject({
    ...{ parts: amount, labour: amount, credit: amount, earnedOnParts: amount },
    costUnknown: z.array(job),
    jobs: z.array(job.extend({ paid: amount })),
    withoutQuote: z.array(job),
  }),
  /** Of the drawer at the end of the month, or now while it lasts. */
  drawer: z.strictObject({
    ...{ pieces: amount, cost: amount, withoutCost: amount, price: amount },
    ...{ withoutPrice: amount, unsound: amount, reserved: amount },
  }),
});

/** The owner's month. */
export const monthRoutes = {
  readMonth: route('get', '/month/{month}', 'owner', 'A month of the shop', month, {
    params: z.strictObject({
      month: z
        .string()
        .regex(/^20\d{2}-(?:0[1-9]|1[0-2])$/, 'A month is written as 2026-05.')
        .describe('YYYY-MM'),
    }),
  }),
} as const;

export type MonthAnswer = z.infer<typeof month>;
