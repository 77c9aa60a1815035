import { Piscina } from 'piscina';

// A thread of its own: what reads PDFs puts its own `JSON.parse` and more in place of the engine's, and a
// server tested beside it would then be judged with those.
const reader = new Piscina<Uint8Array, string[][]>({
  filename: new URL('./readPdf.mjs', import.meta.url).href,
  minThreads: 0,
  maxThreads: 1,
});

/** The lines of a PDF, page by page. */
export const pdfLines = async (bytes: Uint8Array): Promise<string[][]> =>
  (await reader.run(bytes)).map((lines) => lines.map((line) => line.replaceAll(/\s+/g, ' ')));

/** The text of a PDF, page by page, as a reader of the page would copy it. */
export const pdfText = async (bytes: Uint8Array): Promise<string[]> =>
  (await pdfLines(bytes)).map((lines) => lines.join(' '));
