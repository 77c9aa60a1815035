import { z } from 'zod';
import { INVENTORY_KINDS } from '#core/inventory';
import { BUFFERINGS, FORM_FACTORS, GENERATIONS } from '#core/memory';
import { DRIVES } from '#core/need';
import { POWER_MODES } from '#core/proving';
import { explanation } from './computing.ts';
import { EVIDENCE_LIMIT } from './evidence.ts';
import { machine, placement } from './machine.ts';
import { capacity, memoryModule, rate } from './memory.ts';
import { line } from './text.ts';

/** Files of one machine, read together. Their kinds are detected. */
export const inventoryInput = z.strictObject({
  files: z
    .array(
      z.strictObject({
        name: line('the name of the file', 200),
        base64: z
          .base64('The content is not base64.')
          // Larger files are taken and refused by the reader, with a mend.
          .max(EVIDENCE_LIMIT * 4)
          .describe('The file as it is'),
      }),
    )
    .min(1, 'Send one file or more.')
    .max(200, 'Send 200 files at most.'),
});

const makerCode = z.strictObject({ bank: z.number().int(), code: z.number().int() });

const deviceClaim = z.strictObject({
  locator: z.string().optional(),
  bankLocator: z.string().optional(),
  state: z.enum(['module', 'empty', 'unknown']),
  soldered: z.boolean().optional(),
  capacity: capacity.optional().describe('GiB'),
  generation: z.enum(GENERATIONS).optional(),
  formFactor: z.enum(FORM_FACTORS).optional(),
  buffering: z.enum(BUFFERINGS).optional(),
  ecc: z.boolean().optional(),
  ranks: z.number().optional(),
  chipWidth: z.number().optional(),
  ratedShown: z.number().optional().describe('As printed: MT/s, or MHz from older producers'),
  configuredShown: z.number().optional().describe('As printed: MT/s or MHz'),
  voltageMv: z.number().optional(),
  maker: makerCode.optional(),
  makerName: z.string().optional(),
  partNumber: z.string().optional(),
  serial: z.string().optional(),
  interleavePosition: z.number().optional(),
  module: memoryModule.optional(),
  verified: z.boolean(),
  array: z.number().optional(),
});

const board = z.strictObject({
  systemMaker: z.string().optional(),
  systemName: z.string().optional(),
  systemVersion: z.string().optional(),
  boardName: z.string().optional(),
  processors: z.number().optional(),
  maxTotal: capacity.optional(),
  places: z.number().optional(),
  errorCorrection: z.boolean().optional(),
  interleaves: z.enum(['yes', 'no', 'unknown']),
});

const spdImage = z.looseObject({
  offset: z.number(),
  length: z.number(),
  generation: z.enum(GENERATIONS),
  times: z.record(z.string(), z.number()).describe('ps, by the standard’s names'),
  supportedCls: z.array(z.number()),
  rate: rate.optional(),
  checksums: z.array(
    z.strictObject({
      block: z.string(),
      state: z.enum(['good', 'wrong', 'unwritten', 'missing']),
      stored: z.number(),
      computed: z.number(),
    }),
  ),
  verified: z.boolean(),
});

const told = <T extends z.ZodType>(value: T) =>
  z.strictObject({ value, from: z.string().describe('The command or file it was read from') });

/** What a collected file says of the running system. */
const system = z.strictObject({
  peak: told(
    z.strictObject({
      gib: z.number().describe('GiB'),
      paging: z.boolean().describe('It was short meanwhile: a lower bound'),
      watchedSeconds: z.number(),
    }),
  ).optional(),
  visible: told(z.number().describe('GiB')).optional(),
  graphics: told(z.number().describe('GiB')).optional(),
  bits: told(z.union([z.literal(32), z.literal(64)])).optional(),
  drive: told(z.enum(DRIVES)).optional(),
  power: told(z.enum(POWER_MODES)).optional(),
});

const finding = explanation.extend({
  type: z.string(),
  severity: z.enum(['error', 'caution', 'note']),
  place: z.string(),
});

/** What the files say, each for itself, and all together as one picture. */
export const inventoryOutput = z.strictObject({
  files: z.array(
    z.strictObject({
      name: z.string(),
      kind: z.enum(INVENTORY_KINDS),
      devices: z.array(deviceClaim),
      board: board.optional(),
      images: z.array(spdImage).optional(),
      system: system.optional(),
      findings: z.array(finding),
    }),
  ),
  /** Absent where no file names the places for memory. */
  picture: z
    .strictObject({
      machine,
      placement,
      guesses: z.array(explanation),
      questions: z.array(explanation),
      headline: z.string().describe('What runs, in one line'),
      grade: z.string().optional(),
      explanations: z.array(explanation),
    })
    .optional(),
});
