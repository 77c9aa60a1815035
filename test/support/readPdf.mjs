import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

/**
 * The lines of a PDF, page by page.
 *
 * @param {Uint8Array} bytes
 */
export default async function readPdf(bytes) {
  const document = await getDocument({
    data: new Uint8Array(bytes),
    useSystemFonts: false,
    verbosity: 0,
  }).promise;
  const pages = [];
  for (let number = 1; number <= document.numPages; number++) {
    const page = await document.getPage(number);
    const { items } = await page.getTextContent();
    pages.push(
      items
        .map((item) => ('str' in item ? `${item.str}${item.hasEOL ? '\n' : ' '}` : ''))
        .join('')
        .split('\n')
        .map((line) => line.trim()),
    );
  }
  return pages;
}
