import { z } from 'zod';
import { GRADES, SCHOOLS } from '#core/matching';
import { SETTINGS } from '#core/machine';
import { DRAWER_STATES } from '#core/planning';
import { machine, placement } from './machine.ts';
import { memoryModule } from './memory.ts';
import { explanation } from './computing.ts';
import { id } from './text.ts';

/** Money in whole minor units of the shop's currency. */
export const minor = z
  .number('Enter an amount.')
  .int('An amount is in whole minor units.')
  .min(-100_000_000)
  .max(100_000_000, 'That is no price for memory.');
export const price = minor.min(0, 'A price is 0 or more.');

const unitSource = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('kept'), from: id }),
  z.strictObject({ type: z.literal('offer'), offerId: id, copy: z.number().int().min(0).max(64) }),
  z.strictObject({ type: z.literal('drawer'), drawerId: id }),
]);

/** A module of a plan in its slot, and where it comes from. */
export const plannedUnit = z.strictObject({ slotId: id, source: unitSource, module: memoryModule });

/** What makes a plan: all else is computed from it. */
export const planChoice = z.strictObject({
  units: z.array(plannedUnit).max(32).readonly(),
  setting: z.enum(SETTINGS),
});

/** What a search depends on. Limits bound the work, not the shop. */
export const planQuery = z.strictObject({
  machine,
  fitted: placement,
  need: z.number().min(0).max(4096).optional().describe('GiB, margin included'),
  budget: price.optional(),
  school: z.enum(SCHOOLS),
  capacityFirst: z.boolean().default(false),
  memoryTestPassed: z.boolean().default(false),
  settings: z.tuple([z.enum(SETTINGS)], z.enum(SETTINGS)).default(['standard', 'profile']),
  offers: z
    .array(
      z.strictObject({
        ...{ id, module: memoryModule },
        units: z.number().int().min(1).max(16).describe('modules in the pack'),
        price: z.union([price, z.literal('unknown')]),
        stock: z.union([z.number().int().min(0), z.literal('unknown')]).default('unknown'),
        verified: z.boolean().default(false),
      }),
    )
    .max(2000, 'A search takes 2,000 offers at most.'),
  drawer: z
    .array(
      z.strictObject({
        ...{ id, module: memoryModule },
        state: z.enum(DRAWER_STATES),
        price: price.default(0),
      }),
    )
    .max(500)
    .default([]),
  credit: z.record(z.string(), minor).default({}).describe('for a pulled module, by its slot'),
  labour: price.default(0),
});

/** A query to be answered by the server, which stops at a deadline. */
export const planSearchInput = z.strictObject({
  query: planQuery,
  deadlineMs: z.number().int().min(50).max(30_000).default(10_000),
});

const plan = z.strictObject({
  id: z.string(),
  setting: z.enum(SETTINGS),
  units: z.array(z.strictObject({ slotId: z.string(), source: unitSource })),
  purchases: z.array(z.strictObject({ offerId: id, packs: z.number().int() })),
  drawer: z.array(id),
  pulled: z.array(z.string()),
  moved: z.array(z.string()),
  cost: z.strictObject({ parts: minor, labour: minor, credit: minor, net: minor }),
  worth: z.strictObject({
    cost: minor,
    usable: z.number().describe('GiB'),
    bandwidth: z.number().describe('GB/s where the need reaches'),
    grade: z.enum(GRADES),
    displaced: z.number().int(),
    freeSlots: z.number().int(),
  }),
});

export const planSearchOutput = z.strictObject({
  /** False when the deadline passed: then these are the best found so far. */
  complete: z.boolean(),
  considered: z.number().int(),
  plans: z.array(plan).describe('none is at least as good in all six objectives as another'),
  excluded: z.array(
    z.strictObject({ id, from: z.enum(['offer', 'drawer']), reasons: z.array(explanation) }),
  ),
});

export type PlanChoice = z.infer<typeof planChoice>;
