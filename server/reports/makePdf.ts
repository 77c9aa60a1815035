import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces.js';
import { figuresTogether } from '#core/units';
import { digestOf } from '../digest.ts';
import { keep, keptFile } from '../kept.ts';
import { plainFont } from './plainFont.ts';

const require = createRequire(import.meta.url);

/**
 * The file of a font, unpacked ({@link plainFont}); the packed one, which prints as well but takes twice as
 * long, where nothing may be kept.
 */
async function fontFile(weight: 400 | 700): Promise<string> {
  const packed = require.resolve(
    `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
  );
  const bytes = await readFile(packed);
  const plain = keptFile(`${digestOf(bytes)}.ttf`);
  return existsSync(plain) || (await keep(plain, plainFont(bytes))) ? plain : packed;
}

/** Fetched with the first print: a start need not wait for it. */
let ready: ReturnType<typeof prepare> | undefined;

async function prepare() {
  const [{ default: pdfmake }, normal, bold] = await Promise.all([
    import('pdfmake'),
    fontFile(400),
    fontFile(700),
  ]);
  // Nothing but the font is ever read, whatever a drawing might ask for.
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => path === normal || path === bold);
  pdfmake.setFonts({ Tag: { normal, bold, italics: normal, bolditalics: bold } });
  return pdfmake;
}

/** A figure whose unit has a slash, which is a place to break a line by itself. */
const PER_SECOND = /(\S+\u00a0[MG][TB]\/s)/;

/** The same text, its figures kept on one line with their units. */
function together(text: string): string | Content {
  const pieces = figuresTogether(text).split(PER_SECOND);
  if (pieces.length === 1) return pieces[0] ?? '';
  return { text: pieces.map((one) => (PER_SECOND.test(one) ? { text: one, noWrap: true } : one)) };
}

/** The same content with every text of it {@link together}. */
function allTogether<T>(part: T): T {
  if (Array.isArray(part))
    return part.map((one: unknown) =>
      typeof one === 'string' ? together(one) : allTogether(one),
    ) as T;
  if (typeof part !== 'object' || part === null || Object.getPrototypeOf(part) !== Object.prototype)
    return part;
  return Object.fromEntries(
    Object.entries(part).map(([key, own]: [string, unknown]) => [
      key,
      key === 'text' && typeof own === 'string' ? [together(own)] : allTogether(own),
    ]),
  ) as T;
}

/** A document as PDF bytes, in the one type that ships with the app (named `Tag`). */
export async function makePdf(document: TDocumentDefinitions): Promise<Buffer> {
  const pdfmake = await (ready ??= prepare());
  return pdfmake.createPdf({ defaultStyle: { font: 'Tag' }, ...allTogether(document) }).getBuffer();
}

/** Type a page is set in, points: the largest with which its content fits is taken. */
const SIZES = [10, 9.5, 9, 8.5, 8, 7.5, 7] as const;

/** The `id` of the last piece of what has to fit the first page. */
export const LAST = 'last-of-the-page';

/**
 * A document whose first page has to hold everything up to the piece marked {@link LAST}: set in the
 * largest type with which it does. Texts have limits, so the smallest is enough for all they allow.
 */
export async function makeOnePage(
  documentIn: (size: number) => TDocumentDefinitions,
): Promise<Buffer> {
  let pdf: Buffer | undefined;
  for (const size of SIZES) {
    let lastPage = 1;
    pdf = await makePdf({
      ...documentIn(size),
      pageBreakBefore: ({ id, pageNumbers }) => {
        if (id === LAST) lastPage = Math.max(...pageNumbers);
        return false;
      },
    });
    if (lastPage === 1) return pdf;
  }
  return pdf ?? Buffer.alloc(0);
}
