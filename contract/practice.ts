import { z } from 'zod';
import { CAUSES, SYMPTOMS } from '#core/diagnosing';
import type { CauseKind } from '#core/diagnosing';
import { SETTINGS } from '#core/machine';
import { QUESTIONS, RULES } from '#core/practice';
import type { Exercise } from '#core/practice';
import { coverMap } from './bench.ts';
import { machine } from './machine.ts';
import { memoryModule } from './memory.ts';
import { price } from './planning.ts';
import { id, line, moment, note, version, versionOrNone } from './text.ts';

/** What an exercise file calls itself, and the newest version of the format. */
export const EXERCISE_FORMAT = 'tembrix-exercise';
/** See {@link EXERCISE_FORMAT}. */
export const EXERCISE_VERSION = 1;
/** Largest exercise file, bytes. */
export const EXERCISE_FILE_LIMIT = 256 * 1024;

/** What an exercise is called in addresses and files. */
export const exerciseId = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{1,59}$/, 'A name for addresses: small letters, figures and dashes.');

const gigabytes = z.number().min(0).max(16_384);
const setting = z.enum(SETTINGS);
const causeKind = z.enum(Object.keys(CAUSES) as [CauseKind, ...CauseKind[]]);
const text = note('the answer', 400).optional();

const hiddenFault = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('not seated'), slotId: id }),
  z.strictObject({ kind: z.literal('dirty contacts'), pieceId: id }),
  z.strictObject({
    kind: z.literal('bad module'),
    pieceId: id,
    shows: z.enum(['errors', 'not seen', 'no start']),
  }),
  z.strictObject({ kind: z.literal('dead slot'), slotId: id }),
  z.strictObject({
    kind: z.enum(['lead left off', 'stale settings', 'profile unstable', 'mixed timings', 'heat']),
  }),
  z.strictObject({
    kind: z.enum(['firmware outdated', 'density not supported']),
    upTo: gigabytes,
  }),
  z.strictObject({ kind: z.literal('start option'), usable: gigabytes }),
  z.strictObject({ kind: z.literal('not the memory'), shows: z.enum(['crashes', 'no start']) }),
]);

const goal = z.strictObject({
  usable: gigabytes.optional(),
  rate: z.number().min(100).max(20_000).optional(),
  paired: z.union([gigabytes, z.literal('all')]).optional(),
  narrowChips: z.boolean().optional(),
  tested: z.boolean().optional(),
  measured: z.boolean().optional(),
  budget: price.optional(),
  finding: causeKind.optional(),
});

const fields = z.strictObject({
  id: exerciseId,
  title: line('a title', 80),
  level: z.literal([1, 2, 3, 4]),
  teaches: z.array(z.enum(RULES)).min(1, 'Say which rule it teaches.').max(6),
  customer: z.strictObject({
    says: line('what the customer says', 600),
    answers: z.strictObject(
      Object.fromEntries(QUESTIONS.map((one) => [one, text])) as Record<
        (typeof QUESTIONS)[number],
        typeof text
      >,
    ),
  }),
  machine,
  cover: coverMap.optional(),
  pieces: z
    .array(
      z.strictObject({
        id,
        module: memoryModule,
        sticker: line('the sticker', 120).optional(),
        at: id,
      }),
    )
    .max(16, 'Sixteen modules at most.'),
  offers: z
    .array(
      z.strictObject({
        id,
        module: memoryModule,
        units: z.number().int().min(1).max(4),
        price,
        days: z.number().int().min(0).max(60),
      }),
    )
    .max(16, 'Sixteen offers at most.'),
  setting,
  faults: z.array(hiddenFault).max(8),
  firmware: z.strictObject({
    showsClock: z.boolean(),
    phantoms: z.array(line('the slot', 40)).max(8),
  }),
  record: z.strictObject({ placement: z.record(id, id), setting }).optional(),
  symptom: z.enum(SYMPTOMS).optional(),
  moved: z.boolean(),
  goal: goal.optional(),
});

/** Slots and pieces it names that there are not, each said at its place. */
function checkNames(exercise: z.infer<typeof fields>, context: z.RefinementCtx): void {
  const slots = new Set(exercise.machine.slots.map((slot) => slot.id));
  const pieces = new Set(exercise.pieces.map((piece) => piece.id));
  const refuse = (path: (string | number)[], message: string) =>
    context.addIssue({ code: 'custom', path, message });
  const slot = (name: string, path: (string | number)[]) => {
    if (!slots.has(name))
      refuse(path, `The machine has no slot “${name}”. It has ${[...slots].join(', ')}.`);
  };
  const piece = (name: string, path: (string | number)[]) => {
    if (!pieces.has(name))
      refuse(path, `There is no module “${name}”. There are ${[...pieces].join(', ')}.`);
  };
  const taken = new Set<string>();
  exercise.pieces.forEach(({ at }, index) => {
    if (at === 'drawer') return;
    slot(at, ['pieces', index, 'at']);
    if (taken.has(at)) refuse(['pieces', index, 'at'], `Slot “${at}” holds two modules.`);
    taken.add(at);
  });
  if (pieces.size < exercise.pieces.length)
    refuse(['pieces'], 'Two modules have the same id. Give each its own.');
  if (new Set(exercise.offers.map((offer) => offer.id)).size < exercise.offers.length)
    refuse(['offers'], 'Two offers have the same id. Give each its own.');
  exercise.faults.forEach((fault, index) => {
    if ('slotId' in fault) slot(fault.slotId, ['faults', index, 'slotId']);
    if ('pieceId' in fault) piece(fault.pieceId, ['faults', index, 'pieceId']);
  });
  for (const [slotId, pieceId] of Object.entries(exercise.record?.placement ?? {})) {
    slot(slotId, ['record', 'placement', slotId]);
    piece(pieceId, ['record', 'placement', slotId]);
  }
}

/** One machine to practise on; what is inside does not show until it is found. */
export const exercise: z.ZodType<Exercise> = fields.superRefine(checkNames);

/** An exercise as a file: the same with the format’s name and version. */
export const exerciseFile = fields
  .extend({
    format: z.literal(EXERCISE_FORMAT, 'This is no exercise file.'),
    version: z.literal(
      EXERCISE_VERSION,
      `This file is of another version of the format; this Tembrix reads version ${EXERCISE_VERSION}. Update Tembrix, or export the exercise again.`,
    ),
  })
  .superRefine((file, context) => checkNames(file, context));

/** The exercise of a file that was checked. */
export function exerciseOf({
  format: _format,
  version: _version,
  ...rest
}: z.infer<typeof exerciseFile>): Exercise {
  return rest;
}

/** An exercise as its file has it. */
export const fileOf = (one: Exercise) => ({
  format: EXERCISE_FORMAT,
  version: EXERCISE_VERSION,
  ...one,
});

/** Where an exercise comes from: it came with Tembrix, from a file, or from a closed job. */
export const EXERCISE_SOURCES = ['shipped', 'file', 'job'] as const;

/** An exercise as it is listed. */
export const listedExercise = z.strictObject({
  id: exerciseId,
  title: z.string(),
  level: z.number().int(),
  teaches: z.array(z.enum(RULES)),
  says: z.string(),
  source: z.enum(EXERCISE_SOURCES),
});

/** An exercise with all that is in it. */
export const heldExercise = z.strictObject({
  source: z.enum(EXERCISE_SOURCES),
  version: versionOrNone.describe('0: it came with Tembrix and cannot be changed'),
  exercise,
});

/** What an author changes; what is inside stays. */
export const exerciseChange = z.strictObject({
  version,
  ...fields.pick({ title: true, level: true, teaches: true, customer: true }).shape,
  goal,
});

/** One walk through an exercise to its end. */
export const practiceRunInput = z.strictObject({
  exerciseId,
  solved: z.boolean(),
  minutes: z.number().min(0).max(100_000),
  parMinutes: z.number().min(0).max(100_000),
  spent: z.number().int().min(0),
  acts: z.number().int().min(0).max(5000),
  unsafe: z.number().int().min(0).max(5000),
});
/** The same with when it was. */
export const practiceRun = practiceRunInput.extend({ id, by: z.string(), at: moment });

export type ListedExercise = z.infer<typeof listedExercise>;
export type HeldExercise = z.infer<typeof heldExercise>;
export type PracticeRun = z.infer<typeof practiceRun>;
export type PracticeRunInput = z.infer<typeof practiceRunInput>;
