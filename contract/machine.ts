import { z } from 'zod';
import { explainMachineFault } from '#core/explaining';
import {
  BATTERIES,
  COVERS,
  ECC_TRAITS,
  MACHINE_KINDS,
  MAXIMA_SOURCES,
  SLOT_LIMIT,
  UNEVEN_TRAITS,
  UNKNOWN_ACCESS,
  findMachineFaults,
} from '#core/machine';
import type { Machine, Placement } from '#core/machine';
import { BUFFERINGS, FORM_FACTORS, GENERATIONS } from '#core/memory';
import { capacity, memoryModule, rate } from './memory.ts';
import { id, line } from './text.ts';

const unknown = z.literal('unknown');
const orUnknown = <T extends z.ZodType>(known: T) => z.union([known, unknown]);
const range = z.strictObject({ low: capacity, high: capacity });
const channel = z.string().regex(/^[A-P]$/, 'A channel is one letter, A to P.');
const slotId = z
  .string()
  .min(1)
  .max(40)
  .refine(
    (value) => value !== 'none' && value !== 'unknown',
    'A slot id is not "none" or "unknown".',
  );
const ranks = z.number().int().min(1).max(64);

/** A machine without contradictions; each is reported at the field it stands in. */
export const machine: z.ZodType<Machine> = z
  .strictObject({
    name: line('the name of the machine'),
    kind: z.enum(MACHINE_KINDS),
    generations: z.array(z.enum(GENERATIONS)).min(1),
    formFactor: z.enum(FORM_FACTORS),
    bufferings: z.array(z.enum(BUFFERINGS)).min(1),
    ecc: z.enum(ECC_TRAITS),
    channels: z.array(channel).max(16),
    channelBits: z.number().int().min(16).max(128),
    slots: z
      .array(
        z.strictObject({
          id: slotId,
          printedName: line('the printed name', 40),
          colour: line('the colour', 20).optional(),
          channels: z.array(channel).max(2),
          maxCapacity: capacity.optional().describe('GiB, where it differs from maxPerSlot'),
        }),
      )
      // Far above the real limit, which is a fault with a mend; this one only bounds the work.
      .max(SLOT_LIMIT * 4),
    soldered: z.array(z.strictObject({ channel, part: memoryModule })).max(16),
    fillOrder: orUnknown(z.array(z.array(slotId)).max(SLOT_LIMIT)),
    requiredFirstSlot: z.union([slotId, z.literal('none'), unknown]),
    maxPerSlot: orUnknown(capacity),
    maxTotal: orUnknown(capacity),
    // Machines described before these were asked for know neither.
    maximaFrom: z.enum(MAXIMA_SOURCES).default('unknown'),
    maxRanksPerModule: orUnknown(ranks),
    maxRanksPerChannel: orUnknown(ranks),
    voltagesMv: z.array(z.number().int().min(500).max(3000)).min(1).max(4),
    nonBinary: z.enum(['yes', 'no', 'unknown']),
    rateTable: z
      .array(
        z.strictObject({
          modulesPerChannel: z.number().int().min(1).max(8),
          ranksPerChannel: z.number().int().min(1).max(64),
          rate,
        }),
      )
      .max(64),
    controllerLimit: orUnknown(rate),
    firmwareCap: z.union([rate, z.literal('none'), unknown]),
    profiles: z.strictObject({
      support: z.enum(['yes', 'no', 'unknown']),
      ceiling: z.union([rate, z.literal('none'), unknown]),
    }),
    unevenChannels: z.enum(UNEVEN_TRAITS),
    sync: z.strictObject({
      limit: z.union([rate, z.literal('none'), unknown]),
      fabricClock: orUnknown(z.boolean()),
    }),
    graphicsCarveOut: range,
    osLimit: z.union([range, z.literal('none')]),
    verifiedParts: orUnknown(z.array(line('the part number', 60)).max(5000)),
    access: z
      .strictObject({
        cover: z.enum(COVERS),
        screws: orUnknown(z.number().int().min(0).max(60)),
        hiddenFasteners: z.enum(['yes', 'no', 'unknown']),
        battery: z.enum(BATTERIES),
        memoryAt: line('where the memory sits', 120),
      })
      .default(UNKNOWN_ACCESS),
  })
  .superRefine((value, context) => {
    for (const fault of findMachineFaults(value)) {
      const { title, mend = '' } = explainMachineFault(fault);
      const path = fault.path.split('.').map((key) => (/^\d+$/.test(key) ? Number(key) : key));
      context.addIssue({ code: 'custom', path, message: `${title}. ${mend}` });
    }
  });

/** Modules by slot. */
export const placement: z.ZodType<Placement> = z.record(id, memoryModule.optional());
