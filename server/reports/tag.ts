import qrcode from 'qrcode';
import { makePdf } from './makePdf.ts';

/** What hangs on a machine or sticks on a module: nothing that names an owner. */
export interface Tag {
  /** `Job`. */
  readonly heading: string;
  /** `0142`, or `16 GB`. */
  readonly main: string;
  /** Initials only, or what a module runs at. */
  readonly second: string;
  /** `2 of 5`, for a machine of a batch; where a module came from. */
  readonly third?: string | undefined;
  /** Where the code leads. */
  readonly address: string;
}

/** Width and height, mm: fits a luggage label and the common label rolls. */
const [WIDTH, HEIGHT] = [90, 50];
export const POINTS_PER_MM = 72 / 25.4;

/** First letters of a customer's names, two at most: `Gannet Puppet Theatre` → `GP`. */
export function initialsOf(name: string): string {
  const words = name.split(/[\s,.-]+/).filter((word) => /^\p{L}/u.test(word));
  return words
    .slice(0, 2)
    .map((word) => [...word][0]?.toUpperCase() ?? '')
    .join('');
}

export const escaped = (text: string) =>
  text.replaceAll(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** The most letters of a line beside the code, by its size in mm. */
const fitting = (text: string, size: number): string => {
  const most = Math.floor(62 / size);
  return text.length > most ? `${text.slice(0, most - 1)}…` : text;
};

/** The code of an address as the path of its dark cells, in a square; lengths in mm. */
export function codePath(
  address: string,
  { x, y, size }: { readonly x: number; readonly y: number; readonly size: number },
): string {
  const { modules } = qrcode.create(address, { errorCorrectionLevel: 'M' });
  const cell = size / modules.size;
  let dark = '';
  for (let row = 0; row < modules.size; row++)
    for (let column = 0; column < modules.size; column++)
      if (modules.get(row, column))
        dark += `M${(x + column * cell).toFixed(3)} ${(y + row * cell).toFixed(3)}h${cell.toFixed(3)}v${cell.toFixed(3)}h-${cell.toFixed(3)}z`;
  return dark;
}

/** The tag as SVG, true to scale in mm. */
export function tagSvg({ heading, main, second, third, address }: Tag): string {
  const dark = codePath(address, { x: 47, y: 7, size: 36 });
  const text = (x: number, y: number, size: number, words: string, weight = 400) =>
    `<text x="${x}" y="${y}" font-family="Tag" font-size="${size}" font-weight="${weight}" fill="#1b2a2c">${escaped(words)}</text>`;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}mm" height="${HEIGHT}mm" viewBox="0 0 ${WIDTH} ${HEIGHT}">`,
    `<style>text{font-family:"Atkinson Hyperlegible Next Variable","Atkinson Hyperlegible Next",sans-serif}</style>`,
    `<rect x="0.5" y="0.5" width="${WIDTH - 1}" height="${HEIGHT - 1}" rx="3" fill="#ffffff" stroke="#1b2a2c" stroke-width="0.4"/>`,
    `<circle cx="7" cy="25" r="2.5" fill="none" stroke="#1b2a2c" stroke-width="0.4"/>`,
    text(13, 13, 4.5, heading),
    text(13, 27, main.length > 4 ? 10 : 13, main, 700),
    text(13, 38, second.length > 2 ? 3 : 8, fitting(second, 3), 700),
    ...(third === undefined
      ? []
      : [text(13, 44, third.length > 12 ? 2.8 : 4, fitting(third, 2.8))]),
    `<path d="${dark}" fill="#000000"/>`,
    `</svg>`,
  ].join('');
}

/** The tag as a PDF page of its own size. */
export async function tagPdf(tag: Tag): Promise<Buffer> {
  const size = { width: WIDTH * POINTS_PER_MM, height: HEIGHT * POINTS_PER_MM };
  return makePdf({
    pageSize: size,
    pageMargins: 0,
    info: { title: `${tag.heading} ${tag.main}` },
    // The style rule names browsers' fonts; the page has only the one shipped here.
    content: [{ svg: tagSvg(tag).replace(/<style>.*<\/style>/, ''), ...size }],
  });
}
