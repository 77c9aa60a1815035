import type { Content } from 'pdfmake/interfaces.js';
import { LABEL_SHEETS, labelPlaces } from '#core/stock';
import type { LabelSheet } from '#core/stock';
import { makePdf } from './makePdf.ts';
import { POINTS_PER_MM, codePath, escaped } from './tag.ts';

/** What sticks on a module in stock. */
export interface Label {
  /** `16 GB`. */
  readonly main: string;
  /** What it runs at, where it lies, where it came from; as many as there is room for. */
  readonly lines: readonly string[];
  readonly id: string;
  /** Where the code leads. */
  readonly address: string;
}

/** Around what is printed, mm: sheets shift in printers. */
const EDGE = 2.5;
/** A letter is about this wide for its height. */
const LETTER_WIDTH = 0.52;

function labelSvg({ label }: LabelSheet, x: number, y: number, one: Label): string {
  const code = Math.min(label.height - 2 * EDGE, label.width * 0.42);
  const left = x + EDGE + code + 2;
  const room = label.width - code - 2 * EDGE - 2;
  const size = Math.min(3.2, (label.height - 2 * EDGE) / 6.5);
  const fitting = (text: string, height: number) => {
    const most = Math.max(3, Math.floor(room / (height * LETTER_WIDTH)));
    return text.length > most ? `${text.slice(0, most - 1)}…` : text;
  };
  const text = (baseline: number, height: number, words: string, weight = 400) =>
    `<text x="${left}" y="${baseline}" font-family="Tag" font-size="${height}" font-weight="${weight}" fill="#000000">${escaped(fitting(words, height))}</text>`;
  const top = y + EDGE + size * 2;
  return [
    `<path d="${codePath(one.address, { x: x + EDGE, y: y + (label.height - code) / 2, size: code })}" fill="#000000"/>`,
    text(top, size * 2, one.main, 700),
    ...[...one.lines, one.id]
      .filter((words) => words !== '')
      .slice(0, 4)
      .map((words, at) => text(top + size * 1.3 * (at + 1), size, words)),
  ].join('');
}

/**
 * Labels as a PDF on the shop's sheets, true to scale.
 *
 * @param used - labels already gone from the first sheet
 */
export async function labelsPdf(
  sheetId: string,
  labels: readonly Label[],
  used: number,
): Promise<Buffer> {
  const sheet = LABEL_SHEETS.find(({ id }) => id === sheetId) ?? LABEL_SHEETS[0];
  if (!sheet) throw new Error('expected a sheet of labels');
  const { width, height } = sheet.page;
  const drawn: string[][] = [];
  labelPlaces(sheet, labels.length, used).forEach(({ page, x, y }, at) => {
    const label = labels[at];
    if (label) (drawn[page] ??= []).push(labelSvg(sheet, x, y, label));
  });
  const size = { width: width * POINTS_PER_MM, height: height * POINTS_PER_MM };
  return makePdf({
    pageSize: size,
    pageMargins: 0,
    info: { title: 'Labels' },
    content: drawn.map((parts, page): Content => ({
      ...{
        ...size,
        svg: `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}">${parts.join('')}</svg>`,
      },
      ...(page > 0 ? { pageBreak: 'before' as const } : {}),
    })),
  });
}
