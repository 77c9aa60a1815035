import { z } from 'zod';
import { photoInput } from './bench.ts';
import { CLAIM_FIELDS, DOCUMENT_KINDS } from '#core/reconciling';
import { id, line, moment } from './text.ts';

/** Largest evidence file, in bytes; the readers take no larger one. */
export const EVIDENCE_LIMIT = 4 * 2 ** 20;

const base64 = z
  .base64('The content is not base64.')
  .max(
    Math.ceil((EVIDENCE_LIMIT * 4) / 3) + 4,
    'A file has 4 MB at most; tables and images have a few kB.',
  );

/** A place of a device: a slot's id, or null where nobody has said. */
const slotIds = z.array(z.string().max(40).nullable()).max(256);

/** One piece of evidence as it comes in: a file, or what was typed, as it is. */
const evidenceFields = z.strictObject({
  kind: z.enum(DOCUMENT_KINDS),
  name: line('the name of the file', 200),
  base64,
  slotIds,
  photo: photoInput.shape.base64
    .optional()
    .describe('What a label was read off, or typed from: a JPEG, PNG or WebP'),
});
export const evidenceInput = evidenceFields.refine(
  ({ kind, photo }) => kind !== 'photo' || photo !== undefined,
  { path: ['photo'], message: 'A label read off a photo comes with the photo.' },
);

/** Evidence as it is listed: its content never changes, and is asked for once, by itself. */
export const evidenceRecord = evidenceFields.omit({ base64: true, photo: true }).extend({
  id,
  by: z.string(),
  addedAt: moment,
  size: z.number().int().nonnegative().describe('Of the content and its photo, in bytes'),
  hasPhoto: z.boolean(),
});

/** What one piece of evidence consists of. */
export const evidenceContent = z.strictObject({ base64 });

/** Which evidence to believe about a field of a slot. Decisions are only ever added. */
export const decisionInput = z.strictObject({
  slotId: z.string().min(1).max(40),
  field: z.enum(CLAIM_FIELDS),
  evidenceId: id,
});
export const decisionRecord = decisionInput.extend({
  id: z.number().int(),
  by: z.string(),
  at: moment,
});

/** All evidence of a job with what was decided. */
export const jobEvidence = z.strictObject({
  documents: z.array(evidenceRecord),
  decisions: z.array(decisionRecord),
});

/** A maker's standard code with the shop's own name for it. */
export const makerInput = z.strictObject({ name: line('the name', 60) });
export const makerRecord = makerInput.extend({
  key: z.string().regex(/^\d{1,3}-[0-9A-F]{2}$/, 'A code is bank and code, such as 3-4F.'),
});

export type EvidenceInput = z.infer<typeof evidenceInput>;
export type EvidenceContent = z.infer<typeof evidenceContent>;
export type EvidenceRecord = z.infer<typeof evidenceRecord>;
export type DecisionInput = z.infer<typeof decisionInput>;
export type JobEvidence = z.infer<typeof jobEvidence>;
export type MakerRecord = z.infer<typeof makerRecord>;
