import { readWithParts } from '#core/reconciling';
import type { EvidenceDocument, ReadDocument } from '#core/reconciling';

/** One document to be read, with the number its answer carries. */
export interface ReadRequest {
  readonly ticket: number;
  readonly document: EvidenceDocument;
}
/** What became of it. */
export interface ReadAnswer {
  readonly ticket: number;
  /** The document itself, then the parts of a collected file. */
  readonly reads: readonly ReadDocument[];
}

// Documents are answered one by one, so that a page shows the first while the hundredth is read.
self.addEventListener('message', ({ data }: MessageEvent<ReadRequest>) => {
  const answer: ReadAnswer = { ticket: data.ticket, reads: readWithParts(data.document) };
  self.postMessage(answer);
});
