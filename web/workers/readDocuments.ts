import type { EvidenceDocument, ReadDocument } from '#core/reconciling';
import { Asked } from './asked.ts';

const worker = new Asked<EvidenceDocument, readonly ReadDocument[]>(
  () => new Worker(new URL('./readDocuments.worker.ts', import.meta.url), { type: 'module' }),
);

/**
 * Reads a document and the parts of a collected file, each for itself, off the page's thread.
 *
 * @throws NoAnswer
 */
export const readWithPartsAside = (document: EvidenceDocument): Promise<readonly ReadDocument[]> =>
  worker.ask(document);

/**
 * Reads one document off the page's thread.
 *
 * @throws NoAnswer
 */
export async function readDocumentAside(document: EvidenceDocument): Promise<ReadDocument> {
  const [read] = await readWithPartsAside(document);
  if (!read) throw new Error('expected the document that was sent');
  return read;
}
