import type { EvidenceDocument, ReadDocument } from '#core/reconciling';
import type { ReadAnswer, ReadRequest } from './readDocuments.worker.ts';

let worker: Worker | undefined;
let tickets = 0;
const waiting = new Map<number, (read: ReadDocument) => void>();

function readerWorker(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL('./readDocuments.worker.ts', import.meta.url), { type: 'module' });
  worker.addEventListener('message', ({ data }: MessageEvent<ReadAnswer>) => {
    waiting.get(data.ticket)?.(data.read);
    waiting.delete(data.ticket);
  });
  return worker;
}

/** Reads one document off the page's thread. */
export function readDocumentAside(document: EvidenceDocument): Promise<ReadDocument> {
  return new Promise((settle) => {
    const request: ReadRequest = { ticket: ++tickets, document };
    waiting.set(request.ticket, settle);
    readerWorker().postMessage(request);
  });
}
