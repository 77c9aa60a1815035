import { createRequire } from 'node:module';
import pdfmake from 'pdfmake';
import type { TDocumentDefinitions } from 'pdfmake/interfaces.js';

const require = createRequire(import.meta.url);
const fontFile = (weight: 400 | 700) =>
  require.resolve(
    `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
  );

/** A document as PDF bytes, in the one type that ships with the app (named `Tag`). */
export async function makePdf(document: TDocumentDefinitions): Promise<Buffer> {
  const [normal, bold] = [fontFile(400), fontFile(700)];
  // Nothing but the font is ever read, whatever a drawing might ask for.
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => path === normal || path === bold);
  pdfmake.setFonts({ Tag: { normal, bold, italics: normal, bolditalics: bold } });
  return pdfmake.createPdf({ defaultStyle: { font: 'Tag' }, ...document }).getBuffer();
}
