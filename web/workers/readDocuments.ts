import type { EvidenceDocument, ReadDocument } from '#core/reconciling';
import type { ReadAnswer, ReadRequest } from './readDocuments.worker.ts';

let worker: Worker | undefined;
let tickets = 0;
const waiting = new Map<number, (reads: readonly ReadDocument[]) => void>();

function readerWorker(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL('./readDocuments.worker.ts', import.meta.url), { type: 'module' });
  worker.addEventListener('message', ({ data }: MessageEvent<ReadAnswer>) => {
    waiting.get(data.ticket)?.(data.reads);
    waiting.delete(data.ticket);
  });
  return worker;
}

/** Reads one document off the page's thread. */
export async function readDocumentAside(document: EvidenceDocument): Promise<ReadDocument> {
  const [read] = await readWithPartsAside(document);
  if (!read) throw new Error('expected the document that was sent');
  return read;
}

/** Reads a document and the parts of a collected file, each for itself, off the page's thread. */
export function readWithPartsAside(document: EvidenceDocument): Promise<readonly ReadDocument[]> {
  return new Promise((settle) => {
    const request: ReadRequest = { ticket: ++tickets, document };
    waiting.set(request.ticket, settle);
    readerWorker().postMessage(request);
  });
}
