import { GENERATIONS, generationTraits } from '../../memory/index.ts';
import type { Buffering, FormFactor, Generation } from '../../memory/index.ts';

/** DSP0134, 7.18.2: memory device types. 4X and 5X have no codes of their own. */
export const MEMORY_TYPES: Readonly<Record<number, Generation>> = Object.fromEntries(
  GENERATIONS.flatMap((generation) =>
    generationTraits(generation).smbiosTypes.map((code) => [code, generation]),
  ),
);

/** DSP0134, 7.18.1: form factors. Chips, rows of chips and dies are soldered. */
export const FORM_FACTOR_CODES: Readonly<Record<number, FormFactor>> = {
  0x05: 'soldered',
  0x09: 'DIMM',
  0x0b: 'soldered',
  0x0d: 'SODIMM',
  0x10: 'soldered',
  0x11: 'compression',
};

/** Form factors as the DMTF CIM schema numbers them (CIM_Chip, FormFactor): not SMBIOS's numbers. */
export const CIM_FORM_FACTORS: Readonly<Record<number, FormFactor>> = {
  6: 'soldered',
  8: 'DIMM',
  12: 'SODIMM',
};

/** Memory types of the CIM schema (CIM_PhysicalMemory, MemoryType). */
export const CIM_MEMORY_TYPES: Readonly<Record<number, Generation>> = Object.fromEntries(
  GENERATIONS.flatMap((generation) => {
    const code = generationTraits(generation).cimType;
    return code === undefined ? [] : [[code, generation]];
  }),
);

/** DSP0134, 7.18.3: how lines are driven, from the type detail bits. */
export function bufferingOf(detail: number): Buffering | undefined {
  if (detail & 0x8000) return 'load-reduced';
  if (detail & 0x2000) return 'registered';
  return detail & 0x4000 ? 'unbuffered' : undefined;
}

/** Uses of an array (DSP0134, 7.17.2) other than system memory, 3. */
export const ARRAY_USES: Readonly<Record<number, string>> = {
  4: 'video memory',
  5: 'flash memory',
  6: 'non-volatile memory',
  7: 'cache',
};
export const SYSTEM_MEMORY = 3;
