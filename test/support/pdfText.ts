import { Piscina } from 'piscina';

// A thread of its own: what reads PDFs puts its own `JSON.parse` and more in place of the engine's, and a
// server tested beside it would then be judged with those.
const reader = new Piscina<Uint8Array, string[]>({
  filename: new URL('./readPdf.mjs', import.meta.url).href,
  minThreads: 0,
  maxThreads: 1,
});

/** The text of a PDF, page by page, as a reader of the page would copy it. */
export const pdfText = (bytes: Uint8Array): Promise<string[]> => reader.run(bytes);
