import { z } from 'zod';
import { SYMPTOMS } from '#core/diagnosing';
import { explainCoverFault } from '#core/explaining';
import {
  COVERINGS,
  COVER_LIMITS,
  PURPOSES,
  READINGS,
  SCREW_DRIVES,
  findCoverFaults,
} from '#core/fitting';
import type { CoverMap } from '#core/fitting';
import { SETTINGS } from '#core/machine';
import { TEST_KINDS } from '#core/proving';
import { placement } from './machine.ts';
import { memoryModule } from './memory.ts';
import { id, line, moment, note, serial, version } from './text.ts';

const millimetres = z.number().min(0).max(COVER_LIMITS.largest);
const spot = { id, x: millimetres, y: millimetres };
const side = (what: string) =>
  z
    .number()
    .min(COVER_LIMITS.smallest, `The ${what} is ${COVER_LIMITS.smallest} mm or more.`)
    .max(COVER_LIMITS.largest, `The ${what} is ${COVER_LIMITS.largest} mm or less.`);

/** A cover with its fasteners, clips and cables; each fault is reported at its part. */
export const coverMap: z.ZodType<CoverMap> = z
  .strictObject({
    width: side('width'),
    height: side('height'),
    parts: z
      .array(
        z.discriminatedUnion('kind', [
          z.strictObject({
            ...{ kind: z.literal('fastener'), ...spot },
            drive: z.enum(SCREW_DRIVES),
            size: note('the bit', 8),
            length: z.union([
              z
                .number()
                .min(0.5, 'A screw is 0.5 mm long or more.')
                .max(COVER_LIMITS.longest, `A screw is ${COVER_LIMITS.longest} mm long or less.`),
              z.literal('unknown'),
            ]),
            captive: z.boolean(),
            under: z.enum(COVERINGS),
          }),
          z.strictObject({ kind: z.literal('clip'), ...spot }),
          z.strictObject({ kind: z.literal('cable'), ...spot, what: line('which lead', 40) }),
        ]),
      )
      .max(COVER_LIMITS.parts, `A cover has ${COVER_LIMITS.parts} parts at most.`),
    note: note('the note', 500),
  })
  .superRefine((map, context) => {
    for (const fault of findCoverFaults(map)) {
      const { title, mend = '' } = explainCoverFault(fault);
      const path = fault.path.split('.').map((key) => (/^\d+$/.test(key) ? Number(key) : key));
      context.addIssue({ code: 'custom', path, message: `${title}. ${mend}` });
    }
  });

/** How a controller spreads addresses over channels. */
export const interleave = z.strictObject({
  granule: z
    .number()
    .int()
    .min(64, 'A turn is 64 bytes or more.')
    .max(2 ** 30)
    .refine((value) => Number.isInteger(Math.log2(value)), 'A turn is a power of two, in bytes.'),
  order: z
    .array(z.string().regex(/^[A-P]$/))
    .min(1)
    .max(16),
});

/** Largest photo of a cover, in bytes; the page makes larger ones smaller before they are sent. */
export const PHOTO_LIMIT = 700_000;
export const photoInput = z.strictObject({
  base64: z
    .base64('The photo is not base64.')
    .max(
      Math.ceil((PHOTO_LIMIT * 4) / 3) + 4,
      'A photo has 700 kB at most. Make it smaller: 1400 pixels wide is plenty.',
    ),
});

const slotId = z.string().min(1).max(40);
const effect = z.discriminatedUnion('type', [
  z.strictObject({ type: z.literal('slot'), slotId, module: memoryModule.nullable() }),
  z.strictObject({ type: z.literal('setting'), setting: z.enum(SETTINGS) }),
]);
const value = z.union([z.number().min(0).max(1e6), z.boolean(), z.array(slotId).max(64)]);

/** Notes as they come in. What a tick does to the machine is worked out by the server. */
const plainNotes = [
  z.strictObject({
    type: z.literal('begin'),
    purpose: z.enum(PURPOSES),
    slotIds: z.array(slotId).max(64),
  }),
  z.strictObject({ type: z.literal('sits'), placement, setting: z.enum(SETTINGS) }),
  z.strictObject({ type: z.literal('reading'), kind: z.enum(READINGS), value }),
  z.strictObject({ type: z.literal('symptom'), symptom: z.enum(SYMPTOMS), handsIn: z.boolean() }),
  z.strictObject({
    type: z.literal('seen'),
    checkId: line('the check', 200),
    outcome: line('the outcome', 80),
  }),
  z.strictObject({ type: z.literal('undo'), of: id }),
] as const;
const tick = z.strictObject({ type: z.literal('tick'), stepId: z.string().min(1).max(80) });
export const benchInput = z.strictObject({
  id: id.describe('made by the client: a note sent twice stands once'),
  note: z.discriminatedUnion('type', [tick, ...plainNotes]),
});
export const benchEntry = z.strictObject({
  ...{ id, by: z.string(), at: moment },
  note: z.discriminatedUnion('type', [tick.extend({ effect: effect.optional() }), ...plainNotes]),
});

/** A job's bench log, in order, with whose the pulled modules are. */
export const benchLog = z.strictObject({
  entries: z.array(benchEntry),
  pulledTo: z.enum(['drawer', 'customer']),
});

const whole = z.number().int().min(0);
/** A memory test, as typed or as its file tells. */
export const memoryTestInput = z.strictObject({
  kind: z.enum(TEST_KINDS),
  minutes: z.number().min(0).max(100_000, 'A test takes 100,000 minutes at most.'),
  passes: whole.max(100_000),
  errors: whole.max(1e9),
  tool: note('the tool', 80),
  conditions: note('the conditions', 300),
});
export const memoryTest = memoryTestInput.extend({
  ...{ id, by: z.string(), at: moment, fingerprint: z.string(), setting: z.enum(SETTINGS) },
});

/** Where a module sent back stands. */
export const RETURN_STATES = ['to send', 'sent', 'replaced', 'refunded', 'refused'] as const;
export const returnInput = z.strictObject({
  slotId,
  module: memoryModule,
  supplier: note('the supplier', 80),
  serial: serial.default(''),
  reason: line('the reason', 300),
});
export const returnRecord = returnInput.extend({
  ...{ id, version, jobId: id, jobNumber: z.number().int(), by: z.string(), at: moment },
  state: z.enum(RETURN_STATES),
});

export type BenchInput = z.infer<typeof benchInput>;
export type BenchLog = z.infer<typeof benchLog>;
export type Interleave = z.infer<typeof interleave>;
export type MemoryTestInput = z.infer<typeof memoryTestInput>;
export type MemoryTestRecord = z.infer<typeof memoryTest>;
export type ReturnInput = z.infer<typeof returnInput>;
export type ReturnRecord = z.infer<typeof returnRecord>;
export type ReturnState = (typeof RETURN_STATES)[number];
