import type { Buffering, FormFactor } from './module.ts';

/** Type letters of JEDEC labels: what the module is, electrically and in outline. */
export const TYPE_LETTERS: Readonly<
  Record<string, { formFactor: FormFactor; buffering: Buffering; ecc: boolean }>
> = {
  U: { formFactor: 'DIMM', buffering: 'unbuffered', ecc: false },
  S: { formFactor: 'SODIMM', buffering: 'unbuffered', ecc: false },
  E: { formFactor: 'DIMM', buffering: 'unbuffered', ecc: true },
  T: { formFactor: 'SODIMM', buffering: 'unbuffered', ecc: true },
  R: { formFactor: 'DIMM', buffering: 'registered', ecc: true },
  L: { formFactor: 'DIMM', buffering: 'load-reduced', ecc: true },
};

/** Words of retail labels. A word may settle more than one field. */
export const WORDS: Readonly<
  Record<
    string,
    { formFactor?: FormFactor; buffering?: Buffering; ecc?: boolean; channels?: number }
  >
> = {
  DIMM: { formFactor: 'DIMM' },
  UDIMM: { formFactor: 'DIMM', buffering: 'unbuffered' },
  RDIMM: { formFactor: 'DIMM', buffering: 'registered', ecc: true },
  LRDIMM: { formFactor: 'DIMM', buffering: 'load-reduced', ecc: true },
  SODIMM: { formFactor: 'SODIMM' },
  'SO-DIMM': { formFactor: 'SODIMM' },
  COMPRESSION: { formFactor: 'compression' },
  SOLDERED: { formFactor: 'soldered' },
  ECC: { ecc: true },
  'NON-ECC': { ecc: false },
  UNBUFFERED: { buffering: 'unbuffered' },
  REGISTERED: { buffering: 'registered' },
  REG: { buffering: 'registered' },
  'LOAD-REDUCED': { buffering: 'load-reduced' },
  'ONE-CHANNEL': { channels: 1 },
  'TWO-CHANNEL': { channels: 2 },
};

/** Words that say nothing about the module. */
export const FILLER = new Set([
  'RAM',
  'MEMORY',
  'MODULE',
  'KIT',
  'OF',
  'PC',
  'FOR',
  '-',
  '/',
  '+',
  '|',
]);

/**
 * Splits a label into tokens, joining what people write apart: `16 GB`, `2 x 8GB`, `CL 16`,
 * `3200 MHz`, `1.35 V`, `so dimm`.
 */
export function tokens(text: string): string[] {
  return text
    .toUpperCase()
    .replaceAll('×', 'X')
    .replaceAll(/[–—]/g, '-')
    .replaceAll(/(\d),(\d{1,3}V)\b/g, '$1.$2')
    .replaceAll(/[()[\],;"']/g, ' ')
    .replaceAll(/(\d)\s+(GIB|GB|MB|MHZ|MT\/S|V|G)\b/g, '$1$2')
    .replaceAll(/\b(\d)\s*X\s+(?=\d)/g, '$1X')
    .replaceAll(/\b(\d)\s+X\s*(?=\d)/g, '$1X')
    .replaceAll(/\bCL\s+(?=\d)/g, 'CL')
    .replaceAll(/\bSO[\s.]DIMM\b/g, 'SODIMM')
    .replaceAll(/\b(NON)\s+ECC\b/g, 'NON-ECC')
    .replaceAll(/\b(2\d\d|204)[\s-]PINS?\b/g, '$1PIN')
    .split(/\s+/)
    .filter((token) => token !== '');
}
