import { create } from 'qrcode';

/** A QR code as an SVG with a quiet zone of four. */
export function qrPicture(text: string): string {
  const { modules } = create(text, { errorCorrectionLevel: 'M' });
  const { size } = modules;
  let path = '';
  for (let row = 0; row < size; row++)
    for (let column = 0; column < size; column++)
      if (modules.get(row, column)) path += `M${column},${row}h1v1h-1z`;
  return `<svg role="img" aria-label="The code to scan" viewBox="-4 -4 ${size + 8} ${size + 8}"><path fill="#000" d="${path}"/></svg>`;
}
