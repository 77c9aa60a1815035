import type { Content } from 'pdfmake/interfaces.js';
import { coverSvg, openingActs, trayOf } from '#core/fitting';
import type { CoverMap } from '#core/fitting';
import { count, driverText, lengthText } from '#core/explaining';
import { makePdf } from './makePdf.ts';

const POINTS_PER_MM = 72 / 25.4;
/** A4, mm, with the margin most printers need. */
const A4 = { short: 210, long: 297, margin: 8, head: 16 };

/** A cover's map as SVG, true to scale, its parts numbered in the order they come out. */
export function coverSheetSvg(map: CoverMap): string {
  const order = [...new Set(openingActs(map).map(({ part }) => part))];
  // Where a foot hides a screw both are one number: the screw's.
  return coverSvg(map, order);
}

interface Tiling {
  readonly landscape: boolean;
  readonly columns: number;
  readonly rows: number;
  readonly width: number;
  readonly height: number;
}

/** How few A4 pages hold a cover at its true size. */
function tile({ width, height }: CoverMap): Tiling {
  const [best] = [false, true]
    .map((landscape): Tiling => {
      const [w, h] = landscape ? [A4.long, A4.short] : [A4.short, A4.long];
      const page = { width: w - 2 * A4.margin, height: h - 2 * A4.margin - A4.head };
      return {
        ...{ landscape, ...page },
        columns: Math.ceil(width / page.width),
        rows: Math.ceil(height / page.height),
      };
    })
    .sort((a, b) => a.columns * a.rows - b.columns * b.rows);
  if (!best) throw new Error('expected a tiling');
  return best;
}

/**
 * A laying-out sheet: the cover at its true size over as many A4 pages as it takes, each with its
 * place, and a bar of 50 mm by which the print is checked.
 */
export async function coverSheetPdf(name: string, map: CoverMap): Promise<Buffer> {
  const { landscape, columns, rows, width, height } = tile(map);
  const inner = coverSheetSvg(map)
    .replace(/^<svg[^>]*>/, '')
    .replace(/<\/svg>$/, '');
  const all = new Set(openingActs(map).map(({ id }) => id));
  const piles = trayOf(map, all).map(
    (pile) => `${pile.count} × ${driverText(pile)}, ${lengthText(pile.length)}`,
  );
  const pages = Array.from({ length: columns * rows }, (_, at): Content[] => {
    const [column, row] = [at % columns, Math.floor(at / columns)];
    const place =
      columns * rows > 1
        ? `page ${at + 1} of ${columns * rows}: row ${row + 1}, column ${column + 1}`
        : '';
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${column * width} ${row * height} ${width} ${height}" width="${width * POINTS_PER_MM}" height="${height * POINTS_PER_MM}">${inner}</svg>`;
    return [
      {
        columns: [
          {
            text: [
              { text: name, bold: true },
              `  ${piles.join(' · ') || count(map.parts.length, 'part')}`,
            ],
          },
          { text: place, alignment: 'right' as const },
        ],
        fontSize: 8,
        ...(at > 0 ? { pageBreak: 'before' as const } : {}),
      },
      {
        svg: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 5" width="${90 * POINTS_PER_MM}" height="${5 * POINTS_PER_MM}"><path d="M0 1v3M0 2.5h50M50 1v3" stroke="#1b2a2c" stroke-width="0.3" fill="none"/><text x="53" y="3.6" font-family="Tag" font-size="2.8" fill="#1b2a2c">50 mm: print at 100 %</text></svg>`,
        width: 90 * POINTS_PER_MM,
        height: 5 * POINTS_PER_MM,
        margin: [0, 2, 0, 4],
      },
      { svg, width: width * POINTS_PER_MM, height: height * POINTS_PER_MM },
    ];
  });
  return makePdf({
    info: { title: `Laying-out sheet: ${name}` },
    pageSize: 'A4',
    pageOrientation: landscape ? 'landscape' : 'portrait',
    pageMargins: A4.margin * POINTS_PER_MM,
    content: pages.flat(),
  });
}
