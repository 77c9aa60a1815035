import type { Signed } from '#contract/access';
import { and, asc, eq, sql } from 'drizzle-orm';
import { EVIDENCE_LIMIT } from '#contract/evidence';
import type {
  DecisionInput,
  EvidenceContent,
  EvidenceInput,
  JobEvidence,
} from '#contract/evidence';
import { unpackCollected } from '#core/inventory';
import { digestOf } from '../../digest.ts';
import type { Database } from '../openStore.ts';
import { pictureFrom, pictureType } from '../picture.ts';
import { decisions, evidence } from '../schema/index.ts';
import { addEvent, requireOpen } from './changeJobs.ts';
import { NotFoundError, StateError } from './errors.ts';
import { newId } from './library.ts';
import { readJob } from './readJobs.ts';

/** All files of a job together: a hundred of the largest would not fit a page's memory. */
const JOB_LIMIT = 8 * EVIDENCE_LIMIT;

/** What is listed of a piece of evidence; its bytes are not fetched for that. */
const listed = {
  ...{ id: evidence.id, kind: evidence.kind, name: evidence.name, slotIds: evidence.slotIds },
  ...{ by: evidence.by, addedAt: evidence.addedAt },
  size: sql<number>`octet_length(${evidence.content}) + coalesce(octet_length(${evidence.photo}), 0)`,
  hasPhoto: sql<boolean>`${evidence.photo} is not null`,
};

/** All evidence of a job, in the order it came, and what was decided. */
export async function readEvidence(db: Database, jobId: string): Promise<JobEvidence> {
  await readJob(db, jobId);
  const rows = await db
    .select(listed)
    .from(evidence)
    .where(eq(evidence.jobId, jobId))
    .orderBy(asc(evidence.addedAt), asc(evidence.id));
  const decided = await db
    .select()
    .from(decisions)
    .where(eq(decisions.jobId, jobId))
    .orderBy(asc(decisions.id));
  return {
    documents: rows.map(({ addedAt, ...row }) => ({ ...row, addedAt: addedAt.toISOString() })),
    decisions: decided.map(({ jobId: _jobId, at, ...row }) => ({ ...row, at: at.toISOString() })),
  };
}

const ofJob = (jobId: string, id: string) => and(eq(evidence.id, id), eq(evidence.jobId, jobId));

/** The bytes of one piece, as they came. */
export async function readEvidenceContent(
  db: Database,
  jobId: string,
  id: string,
): Promise<EvidenceContent> {
  const [row] = await db
    .select({ content: evidence.content })
    .from(evidence)
    .where(ofJob(jobId, id));
  if (!row) throw new NotFoundError('This evidence');
  return { base64: Buffer.from(row.content).toString('base64') };
}

/** The photo a label was read off. Throws NotFoundError. */
export async function readEvidencePhoto(db: Database, jobId: string, id: string) {
  const [row] = await db.select({ content: evidence.photo }).from(evidence).where(ofJob(jobId, id));
  const content = row?.content;
  const type = content ? pictureType(content) : undefined;
  if (!content || type === undefined) throw new NotFoundError('This photo');
  return { type, content };
}

/** Adds evidence as it came. The same bytes of the same kind and place twice are one. */
export async function addEvidence(
  db: Database,
  jobId: string,
  documents: readonly Signed<EvidenceInput>[],
): Promise<JobEvidence> {
  return db.transaction(async (tx) => {
    await requireOpen(tx, jobId);
    // The engine tells what is the same: many files of megabytes stay where they are.
    const known = await tx
      .select({ ...listed, digest: sql<string>`encode(sha256(${evidence.content}), 'hex')` })
      .from(evidence)
      .where(eq(evidence.jobId, jobId));
    const seen = new Set(known.map(identity));
    const added = documents
      .flatMap(withParts)
      .map((one) => ({ ...one, digest: digestOf(one.content) }))
      .filter((one) => !seen.has(identity(one)) && seen.add(identity(one)));
    const size =
      known.reduce((sum, one) => sum + one.size, 0) +
      added.reduce((sum, { content, photo }) => sum + content.length + (photo?.length ?? 0), 0);
    if (size > JOB_LIMIT)
      throw new StateError(
        `The files of this job would be ${Math.round(size / 2 ** 20)} MB together.`,
        `Leave out what is no inventory: ${JOB_LIMIT / 2 ** 20} MB is the most.`,
        'documents',
      );
    const start = Date.now();
    for (const [at, { digest: _digest, ...one }] of added.entries())
      await tx.insert(evidence).values({
        ...{ id: newId(), jobId, ...one },
        // One transaction has one time; a list keeps its order by a millisecond each.
        addedAt: new Date(start + at),
      });
    const [first] = added;
    if (first)
      await addEvent(
        tx,
        jobId,
        'evidence',
        `${first.by} added ${added.length === 1 ? first.name : `${added.length} files`}`,
      );
    return readEvidence(tx, jobId);
  });
}

/** As it came; behind a collected file its parts, so that each can be placed and believed by itself. */
function withParts({ base64, photo, ...one }: Signed<EvidenceInput>) {
  const content = Buffer.from(base64, 'base64');
  const picture = photo === undefined ? null : pictureFrom(photo, 'documents').content;
  if (one.kind !== 'file') return [{ ...one, content, photo: picture }];
  return unpackCollected({ name: one.name, bytes: content }).map(({ name, bytes }) => ({
    ...{ ...one, name, content: Buffer.from(bytes), photo: picture },
  }));
}

type Identified = Pick<EvidenceInput, 'kind' | 'name' | 'slotIds'> & { readonly digest: string };

const identity = ({ kind, name, digest, slotIds }: Identified) =>
  JSON.stringify([kind, name, digest, kind === 'file' ? null : slotIds]);

/** Says which slots a document's devices are from. */
export async function placeEvidence(
  db: Database,
  jobId: string,
  id: string,
  { slotIds, by }: Signed<Pick<EvidenceInput, 'slotIds'>>,
): Promise<JobEvidence> {
  return db.transaction(async (tx) => {
    const job = await requireOpen(tx, jobId);
    const { slots } = job.machine.machine;
    const stray = slotIds.find(
      (slotId) => slotId !== null && !slots.some((slot) => slot.id === slotId),
    );
    if (stray !== undefined)
      throw new StateError(
        `The machine has no slot “${stray}”.`,
        'Choose one of its slots.',
        'slotIds',
      );
    const [row] = await tx
      .update(evidence)
      .set({ slotIds })
      .where(ofJob(jobId, id))
      .returning({ name: evidence.name });
    if (!row) throw new NotFoundError('This evidence');
    const names = slotIds.map(
      (slotId) => slots.find((slot) => slot.id === slotId)?.printedName ?? '–',
    );
    await addEvent(tx, jobId, 'evidence', `${by} put ${row.name} to ${names.join(', ')}`);
    return readEvidence(tx, jobId);
  });
}

/** Records whom a person believes. */
export async function decideEvidence(
  db: Database,
  jobId: string,
  inputs: readonly Signed<DecisionInput>[],
): Promise<JobEvidence> {
  return db.transaction(async (tx) => {
    const job = await requireOpen(tx, jobId);
    const { slots } = job.machine.machine;
    for (const input of inputs) {
      const [document] = await tx
        .select({ name: evidence.name })
        .from(evidence)
        .where(ofJob(jobId, input.evidenceId));
      if (!document) throw new NotFoundError('This evidence');
      const slot = slots.find(({ id }) => id === input.slotId);
      if (!slot)
        throw new StateError(
          `The machine has no slot “${input.slotId}”.`,
          'Choose one of its slots.',
          'slotId',
        );
      await tx.insert(decisions).values({ jobId, ...input });
      await addEvent(
        tx,
        jobId,
        'decided',
        `${input.by} believes ${document.name} on ${input.field} of ${slot.printedName}`,
      );
    }
    return readEvidence(tx, jobId);
  });
}
