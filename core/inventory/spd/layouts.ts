import type { SpdTimeName } from './types.ts';

/**
 * Where an SPD keeps a time. Reader and writer share these tables.
 *
 * `mtb`: medium timebase units of 125 ps; `high` holds the upper bits, at a nibble of a byte or in a
 * whole byte above; `fine` a signed correction of 1 ps units.
 */
export interface TimeField {
  readonly name: SpdTimeName;
  readonly mtb: number;
  readonly high?: { readonly at: number; readonly shift: 0 | 4; readonly bits: 4 | 8 } | undefined;
  readonly fine?: number | undefined;
}

const nibble = (at: number, shift: 0 | 4) => ({ at, shift, bits: 4 }) as const;
const word = (at: number) => ({ at: at + 1, shift: 0, bits: 8 }) as const;
const field = (
  name: SpdTimeName,
  mtb: number,
  more: Pick<TimeField, 'high' | 'fine'> = {},
): TimeField => ({ name, mtb, ...more });

/** JEDEC Std 21-C, Annex K (DDR3), bytes 12–38. */
export const DDR3_TIMES: readonly TimeField[] = [
  field('tCK', 12, { fine: 34 }),
  field('tAA', 16, { fine: 35 }),
  field('tWR', 17),
  field('tRCD', 18, { fine: 36 }),
  field('tRRD_S', 19),
  field('tRP', 20, { fine: 37 }),
  field('tRAS', 22, { high: nibble(21, 0) }),
  field('tRC', 23, { high: nibble(21, 4), fine: 38 }),
  field('tRFC1', 24, { high: word(24) }),
  field('tWTR_S', 26),
  field('tRTP', 27),
  field('tFAW', 29, { high: nibble(28, 0) }),
];

/** JEDEC Std 21-C, Annex L (DDR4), bytes 18–45 with fine offsets at 117–125. */
export const DDR4_TIMES: readonly TimeField[] = [
  field('tCK', 18, { fine: 125 }),
  field('tAA', 24, { fine: 123 }),
  field('tRCD', 25, { fine: 122 }),
  field('tRP', 26, { fine: 121 }),
  field('tRAS', 28, { high: nibble(27, 0) }),
  field('tRC', 29, { high: nibble(27, 4), fine: 120 }),
  field('tRFC1', 30, { high: word(30) }),
  field('tRFC2', 32, { high: word(32) }),
  field('tRFC4', 34, { high: word(34) }),
  field('tFAW', 37, { high: nibble(36, 0) }),
  field('tRRD_S', 38, { fine: 119 }),
  field('tRRD_L', 39, { fine: 118 }),
  field('tCCD_L', 40, { fine: 117 }),
  field('tWR', 42, { high: nibble(41, 0) }),
  field('tWTR_S', 44, { high: nibble(43, 0) }),
  field('tWTR_L', 45, { high: nibble(43, 4) }),
];

/** JEDEC Std 21-C, Annex M, and JESD406-5 (LPDDR3 to LPDDR5X): the base block keeps Annex L's places. */
export const LPDDR_TIMES: readonly TimeField[] = [
  field('tCK', 18, { fine: 125 }),
  field('tAA', 24, { fine: 123 }),
  field('tRCD', 26, { fine: 122 }),
  field('tRP', 27, { fine: 121 }),
  field('tRFC1', 29, { high: word(29) }),
];

/** JESD400-5 (DDR5): 16-bit fields in ps, low byte first. */
export const DDR5_PS: readonly (readonly [name: SpdTimeName, at: number])[] = [
  ['tCK', 20],
  ['tAA', 30],
  ['tRCD', 32],
  ['tRP', 34],
  ['tRAS', 36],
  ['tRC', 38],
  ['tWR', 40],
  ['tRRD_L', 70],
  ['tCCD_L', 73],
  ['tFAW', 82],
  ['tWTR_L', 85],
  ['tWTR_S', 88],
  ['tRTP', 91],
];

/** JESD400-5: refresh times, in ns. */
export const DDR5_NS: readonly (readonly [name: SpdTimeName, at: number])[] = [
  ['tRFC1', 42],
  ['tRFC2', 44],
  ['tRFCsb', 46],
];

/** Die densities by code, Gbit. DDR3: byte 4 bits 3–0. */
export const DDR3_DENSITY = [0.25, 0.5, 1, 2, 4, 8, 16] as const;
/** DDR4 and LPDDR: byte 4 bits 3–0. */
export const DDR4_DENSITY = [0.25, 0.5, 1, 2, 4, 8, 16, 32, 12, 24, 3, 6, 18] as const;
/** DDR5: byte 4 bits 4–0; 0 is "no memory". */
export const DDR5_DENSITY = [undefined, 4, 8, 12, 16, 24, 32, 48, 64] as const;
/** Stack heights of DDR5 packages, byte 4 bits 7–5: a two-die package (1) is not a true stack. */
export const DDR5_STACK = [1, 1, 2, 4, 8, 16] as const;

/** Module types by code, byte 3 bits 3–0. */
type ModuleType = readonly [
  formFactor: 'DIMM' | 'SODIMM' | 'compression' | 'soldered',
  buffering: 'unbuffered' | 'registered' | 'load-reduced',
];

export const DDR3_TYPES: Readonly<Record<number, ModuleType>> = {
  1: ['DIMM', 'registered'],
  2: ['DIMM', 'unbuffered'],
  3: ['SODIMM', 'unbuffered'],
  5: ['DIMM', 'registered'],
  6: ['DIMM', 'unbuffered'],
  8: ['SODIMM', 'unbuffered'],
  9: ['SODIMM', 'registered'],
  11: ['DIMM', 'load-reduced'],
};

export const DDR4_TYPES: Readonly<Record<number, ModuleType>> = {
  1: ['DIMM', 'registered'],
  2: ['DIMM', 'unbuffered'],
  3: ['SODIMM', 'unbuffered'],
  4: ['DIMM', 'load-reduced'],
  5: ['DIMM', 'registered'],
  6: ['DIMM', 'unbuffered'],
  8: ['SODIMM', 'registered'],
  9: ['SODIMM', 'unbuffered'],
};

export const DDR5_TYPES: Readonly<Record<number, ModuleType>> = {
  1: ['DIMM', 'registered'],
  2: ['DIMM', 'unbuffered'],
  3: ['SODIMM', 'unbuffered'],
  4: ['DIMM', 'load-reduced'],
  5: ['DIMM', 'unbuffered'],
  6: ['SODIMM', 'unbuffered'],
  7: ['DIMM', 'load-reduced'],
  8: ['compression', 'unbuffered'],
  11: ['soldered', 'unbuffered'],
};

/** LPDDR base block: 7 = low-power module (compression), 14 = chips without a module. */
export const LPDDR_TYPES: Readonly<Record<number, ModuleType>> = {
  7: ['compression', 'unbuffered'],
  8: ['compression', 'unbuffered'],
  14: ['soldered', 'unbuffered'],
};

/** DDR2 byte 20 (Annex J): one bit or code a type. */
export const DDR2_TYPES: Readonly<Record<number, ModuleType>> = {
  0x01: ['DIMM', 'registered'],
  0x02: ['DIMM', 'unbuffered'],
  0x04: ['SODIMM', 'unbuffered'],
  0x06: ['SODIMM', 'unbuffered'],
  0x07: ['SODIMM', 'registered'],
  0x10: ['DIMM', 'registered'],
  0x20: ['DIMM', 'unbuffered'],
};
