import type { CoverMap, CoverPart } from './coverMap.ts';

const INK = '#1b2a2c';
const TEAL = '#0f5c55';

const escaped = (text: string) => text.replaceAll(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** Sign, and what stands beside it, for one part; mm. */
function partSvg(part: CoverPart, number: number): string {
  const { x, y } = part;
  const text = (words: string, dy: number, size: number) =>
    `<text x="${x}" y="${y + dy}" text-anchor="middle" font-family="Tag" font-size="${size}" fill="${INK}">${escaped(words)}</text>`;
  if (part.kind === 'clip')
    return `<path d="M${x - 4} ${y + 3}L${x} ${y - 4}L${x + 4} ${y + 3}Z" fill="none" stroke="${INK}" stroke-width="0.5"/>${text(`${number}`, 2.4, 3.4)}`;
  if (part.kind === 'cable')
    return `<rect x="${x - 5}" y="${y - 3}" width="10" height="6" rx="1" fill="none" stroke="${INK}" stroke-width="0.5"/>${text(`${number}`, 1.2, 3.4)}${text(part.what, 7, 3)}`;
  const { length, captive, under, size } = part;
  const words = [size, length === 'unknown' ? '? mm' : `${length} mm`, captive ? 'captive' : '']
    .filter((one) => one !== '')
    .join(' · ');
  const ring =
    under === 'nothing'
      ? ''
      : `<circle cx="${x}" cy="${y}" r="6" fill="none" stroke="${INK}" stroke-width="0.4" stroke-dasharray="1.5 1"/>${text(`under ${under}`, 12.6, 3)}`;
  return `<circle cx="${x}" cy="${y}" r="4.2" fill="#ffffff" stroke="${TEAL}" stroke-width="${captive ? 1 : 0.5}"/>${ring}${text(`${number}`, 1.3, 3.8)}${text(words, 9.2, 3)}`;
}

/**
 * A cover map as SVG, true to scale in mm: laid under the machine, each screw lies where it came
 * from. Parts are numbered in the order they come out.
 */
export function coverSvg(
  { width, height, parts }: CoverMap,
  inOrder: readonly CoverPart[],
): string {
  const drawn = parts.map((part) => partSvg(part, inOrder.indexOf(part) + 1)).join('');
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}">`,
    `<rect x="0.4" y="0.4" width="${width - 0.8}" height="${height - 0.8}" rx="6" fill="none" stroke="${INK}" stroke-width="0.5"/>`,
    drawn,
    `</svg>`,
  ].join('');
}
