import { binOfTimings } from './bins.ts';
import { generationTraits } from './generation.ts';
import { TYPE_LETTERS } from './labelTokens.ts';
import { generationName } from './module.ts';
import type { MemoryModule, TimingCycles } from './module.ts';

const timingText = ({ cl, trcd, trp, tras }: TimingCycles): string =>
  `CL${[cl, trcd, trp, tras].filter((cycles) => cycles !== undefined).join('-')}`;

function typeLetter(module: MemoryModule): string | undefined {
  return Object.entries(TYPE_LETTERS).find(
    ([, type]) =>
      type.formFactor === module.formFactor &&
      type.buffering === module.buffering &&
      type.ecc === module.ecc,
  )?.[0];
}

/** The JEDEC module name, where one says everything; `undefined` where it would lose something. */
function jedecName(module: MemoryModule): string | undefined {
  const letter = typeLetter(module);
  const { generation, rate, timings } = module;
  const { label } = generationTraits(generation);
  if (letter === undefined || !label) return undefined;
  const digit = generation.at(-1);
  if (label.figure === 'rate') {
    const bin = binOfTimings(generation, rate, timings);
    return bin === undefined ? undefined : `PC${digit}-${rate}${bin}-${letter}${label.suffix}`;
  }
  if (label.timings !== 'CL' || timings.trcd !== undefined) return undefined;
  const low = generationName(module).endsWith('L') ? 'L' : '';
  // 1333 is printed as 10600, the name the standard gives it, not the 10664 arithmetic would.
  const bandwidth = Math.floor((rate * 8) / 100) * 100;
  return `PC${digit}${low}-${bandwidth}${letter}-${timings.cl}-13-A1`;
}

/**
 * Prints a module as a label {@link readLabel} reads back: the JEDEC name where that says all,
 * otherwise the retail form, and the overclock profile after the word "profile".
 */
export function writeLabel(module: MemoryModule): string {
  const size = module.capacity < 1 ? `${module.capacity * 1024}MB` : `${module.capacity}GB`;
  const organisation = organisationText(module);
  const form = module.formFactor === 'DIMM' ? 'DIMM' : module.formFactor;
  const name =
    jedecName(module) ??
    [
      `${generationName(module)}-${module.rate} standard ${timingText(module.timings)}`,
      form,
      module.buffering,
      module.ecc ? 'ECC' : 'non-ECC',
      module.channels && (module.channels === 1 ? 'one-channel' : 'two-channel'),
    ]
      .filter(Boolean)
      .join(' ');
  const { profile } = module;
  return [
    size,
    organisation,
    name,
    module.partNumber,
    profile &&
      `profile ${profile.rate}MT/s ${timingText(profile.timings)} ${(profile.voltageMv / 1000).toFixed(3)}V`,
  ]
    .filter(Boolean)
    .join(' ');
}

/** Ranks and chip width as printed (`2Rx8`), as far as they are known. */
export function organisationText(module: Pick<MemoryModule, 'ranks' | 'chipWidth'>): string {
  const width = module.chipWidth === 'unknown' ? '' : `x${module.chipWidth}`;
  return module.ranks === 'unknown' ? width : width ? `${module.ranks}R${width}` : '';
}

/** One line for a bar on the slot board: `DDR4-2400 CL17 2Rx8`. */
export function moduleSummary(module: MemoryModule): string {
  const rated = `${generationName(module)}-${module.rate} CL${module.timings.cl}`;
  return [rated, organisationText(module), module.ecc ? 'ECC' : ''].filter(Boolean).join(' ');
}

/** One line for a module's profile, or `undefined`: `profile 3600 CL18 1.35 V`. */
export function profileSummary({ profile }: MemoryModule): string | undefined {
  return profile && `profile ${profile.rate} CL${profile.timings.cl} ${profile.voltageMv / 1000} V`;
}

/** The nominal rail of a module, mV: the lowest it is specified for. */
export function lowestRailMv(module: MemoryModule): number {
  return module.voltagesMv.length > 0
    ? Math.min(...module.voltagesMv)
    : generationTraits(module.generation).nominalMv;
}
