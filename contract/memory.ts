import { z } from 'zod';
import {
  BUFFERINGS,
  COMMAND_TIMES,
  FORM_FACTORS,
  GENERATIONS,
  MODULE_BOUNDS,
  isBuildableCapacity,
} from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { RATE_RANGE } from '#core/units';
import type { DataRate, Gibibytes } from '#core/units';
import { line } from './text.ts';

/** A data rate by its trade name, MT/s. The cast gives the checked number its unit. */
export const rate = z
  .number('Enter a rate in MT/s.')
  .min(RATE_RANGE.min, `A rate is ${RATE_RANGE.min} MT/s or more.`)
  .max(RATE_RANGE.max, `A rate is ${RATE_RANGE.max} MT/s or less.`) as unknown as z.ZodType<
  DataRate,
  number
>;

/** A capacity in GiB. */
export const capacity = z
  .number('Enter a size in GB.')
  .min(0, 'A size is 0 GB or more.')
  .max(MODULE_BOUNDS.capacity, 'A size is 16,384 GB or less.') as unknown as z.ZodType<
  Gibibytes,
  number
>;

const { millivolts: rail, text } = MODULE_BOUNDS;
const cycles = z.number().int().min(1).max(MODULE_BOUNDS.cycles);
const millivolts = z.number().int().min(rail.min).max(rail.max);

const timings = z.strictObject({
  cl: cycles,
  trcd: cycles.optional(),
  trp: cycles.optional(),
  tras: z.number().int().min(1).max(MODULE_BOUNDS.rasCycles).optional(),
});

const picoseconds = z.number().int().min(1).max(MODULE_BOUNDS.timePs);

/** A memory module; capacities that do not exist are refused. */
export const memoryModule: z.ZodType<MemoryModule> = z
  .strictObject({
    maker: line('the maker', text).optional(),
    partNumber: line('the part number', text).optional(),
    generation: z.enum(GENERATIONS),
    formFactor: z.enum(FORM_FACTORS),
    buffering: z.enum(BUFFERINGS),
    ecc: z.boolean(),
    capacity,
    ranks: z.union([z.number().int().min(1).max(MODULE_BOUNDS.ranks), z.literal('unknown')]),
    chipWidth: z.union([z.literal([4, 8, 16, 32]), z.literal('unknown')]),
    rate,
    timings,
    timesPs: z
      .strictObject({
        cl: picoseconds.optional(),
        trcd: picoseconds.optional(),
        trp: picoseconds.optional(),
        tras: picoseconds.optional(),
      })
      .optional(),
    commandTimesPs: z.partialRecord(z.enum(COMMAND_TIMES), picoseconds).optional(),
    supportedCls: z.array(cycles).min(1).max(MODULE_BOUNDS.supportedCls).optional(),
    voltagesMv: z.array(millivolts).min(1).max(4),
    profile: z.strictObject({ rate, timings, voltageMv: millivolts }).optional(),
    kitId: line('the pack', text).optional(),
    channels: z.number().int().min(1).max(2).optional(),
    assumed: z.array(z.enum(['rate', 'timings', 'form factor', 'buffering'])).optional(),
  })
  .refine((module) => isBuildableCapacity(module.capacity), {
    path: ['capacity'],
    error:
      'No module has this size. Sizes are powers of two, or three times one: 12, 24, 48, 96 GB; with unlike ranks a few more, as 10 GB of 8 and 2.',
  });
