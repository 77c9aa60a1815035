import { z } from 'zod';
import { SETTINGS } from '#core/machine';
import { machine, placement } from './machine.ts';
import { capacity, memoryModule, rate } from './memory.ts';

/** A verdict in words. */
export const explanation = z.strictObject({
  title: z.string(),
  why: z.string(),
  mend: z.string().optional(),
  source: z.string().optional(),
});

export const operatingPointInput = z.strictObject({
  machine,
  placement,
  setting: z.enum(SETTINGS),
});

const region = z.strictObject({
  channels: z.array(z.string()),
  capacity,
  peak: z.number().describe('GB/s'),
});
const layout = z.strictObject({ reading: z.enum(['zone', 'single']), regions: z.array(region) });
const load = z.strictObject({
  channel: z.string(),
  capacity,
  modules: z.number().int(),
  ranks: z.union([z.number().int(), z.literal('unknown')]),
});
const reason = z.looseObject({ type: z.string() });

const running = z.strictObject({
  type: z.literal('runs'),
  generation: z.string(),
  setting: z.enum(SETTINGS),
  rate,
  timings: z.strictObject({
    cycles: z.record(z.string(), z.number()),
    firstWord: z.number().describe('ns'),
  }),
  voltageMv: z.number(),
  installed: capacity,
  usable: z.strictObject({ low: capacity, high: capacity }),
  loads: z.array(load),
  layouts: z.array(layout).min(1),
  paired: capacity,
  peak: z.number().describe('GB/s'),
  clocks: z.enum(['in step', 'halved', 'unknown']),
  rungs: z.array(
    z.strictObject({
      rule: z.string(),
      limit: z.union([rate, z.enum(['none', 'unknown'])]),
      role: z.enum(['binds', 'slack', 'warning', 'idle']),
      slotIds: z.array(z.string().nullable()).describe('null stands for soldered memory'),
      load: load.optional(),
      liftsTo: rate.optional(),
    }),
  ),
  flags: z.array(reason),
});
const blocked = z.strictObject({ type: z.literal('blocked'), blockers: z.array(reason).min(1) });

/** The operating point with each blocker, rung and flag explained in words. */
export const operatingPointOutput = z.strictObject({
  point: z.discriminatedUnion('type', [running, blocked]),
  explanations: z.array(explanation),
});

export const labelInput = z.strictObject({ text: z.string().max(10_000) });
export const labelOutput = z.strictObject({
  module: memoryModule.optional(),
  count: z.number().int(),
  understood: z.array(z.strictObject({ text: z.string(), meaning: z.string() })),
  findings: z.array(
    explanation.extend({ type: z.string(), severity: z.enum(['error', 'caution', 'note']) }),
  ),
});
