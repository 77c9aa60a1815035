import { dataRate, gib } from '../units/index.ts';
import { commonCl } from './bins.ts';
import { generationTraits, isLowPower, isModuleCapacity, railsOf } from './generation.ts';
import type { Generation } from './generation.ts';
import type { LabelFinding } from './labelFindings.ts';
import { Gathering, RULES } from './labelRules.ts';
import type { Fields } from './labelRules.ts';
import { tokens } from './labelTokens.ts';
import type { AssumedField, MemoryModule, OverclockProfile } from './module.ts';

/** What became of a label. */
export interface LabelReading {
  /** Absent when a finding is an error. */
  readonly module?: MemoryModule | undefined;
  /** Modules in the pack, for labels such as `2x8GB`; otherwise 1. */
  readonly count: number;
  /** Each piece that was used, with what it was taken for, in the order it was understood. */
  readonly understood: readonly { readonly text: string; readonly meaning: string }[];
  readonly findings: readonly LabelFinding[];
}

/** A label every reader here understands; error texts show it as the example to follow. */
export const EXAMPLE_LABEL = '16GB 2Rx8 PC4-2400T-SE1-11';

const LABEL_LIMIT = 400; // the longest printed label is about 60 characters

/**
 * Reads a module label: JEDEC forms of DDR2 to DDR5 and the retail forms sellers print.
 *
 * A retail label that states a non-standard voltage, rate or a CL below the common bin describes
 * an overclock profile; the standard bin beneath is then assumed and listed as such. `MHz` on a
 * label is taken as MT/s. Any text is accepted; nothing throws.
 *
 * @param text - what stands on the label, in any case and spacing
 * @returns the module where the label suffices, what each piece was taken for, and findings
 * @example readLabel('8GB 2Rx8 PC3L-12800S-11-13-F3').module?.rate // 1600
 */
export function readLabel(text: string): LabelReading {
  const refuse = (finding: LabelFinding): LabelReading => ({
    count: 1,
    understood: [],
    findings: [finding],
  });
  if (text.trim() === '') return refuse({ type: 'nothing-typed', severity: 'error' });
  if (text.length > LABEL_LIMIT)
    return refuse({ type: 'too-long', severity: 'error', length: text.length, limit: LABEL_LIMIT });

  const to = new Gathering();
  const isUnread = (token: string) => !RULES.some((rule) => rule(token, to));
  // A figure may stand before the word that says what it is: `8GB 2400 DDR4`.
  const unread = tokens(text).filter(isUnread).filter(isUnread);
  if (unread.length > 0)
    to.findings.push({ type: 'not-understood', severity: 'caution', text: unread.join(' ') });
  const module = assemble(to);
  const failed = to.findings.some((finding) => finding.severity === 'error');
  return {
    ...(module && !failed ? { module } : {}),
    count: to.fields.count ?? 1,
    understood: to.understood,
    findings: to.findings,
  };
}

function assemble({ fields, findings }: Gathering): MemoryModule | undefined {
  const { generation, capacity } = fields;
  for (const field of ['capacity', 'generation'] as const)
    if (fields[field] === undefined) findings.push({ type: 'missing', severity: 'error', field });
  if (generation === undefined || capacity === undefined) return undefined;
  if (!isModuleCapacity(generation, capacity)) {
    const nearest = nearestCapacities(generation, capacity);
    findings.push({ type: 'impossible-capacity', severity: 'error', capacity, nearest });
    return undefined;
  }
  const assumed: AssumedField[] = [];
  const assume = <T>(field: AssumedField, value: T, shown: string): T => {
    assumed.push(field);
    findings.push({ type: 'assumed', severity: 'note', field, value: shown });
    return value;
  };
  const bin = standardBin(generation, fields, assume);
  if (fields.rate !== undefined && fields.rate !== bin.rate && !bin.profile)
    findings.push({ type: 'profile-without-cl', severity: 'caution', rate: fields.rate });
  const traits = generationTraits(generation);
  const buffering = fields.buffering ?? 'unbuffered';
  const soldered = isLowPower(generation) && fields.formFactor === undefined;
  const formFactor =
    fields.formFactor ?? (soldered ? 'soldered' : assume('form factor', 'DIMM', 'DIMM'));
  return {
    ...(fields.partNumber === undefined ? {} : { partNumber: fields.partNumber }),
    generation,
    formFactor,
    buffering,
    ecc: fields.ecc ?? buffering !== 'unbuffered',
    capacity: gib(capacity),
    ranks: fields.ranks ?? 'unknown',
    chipWidth: fields.chipWidth ?? 'unknown',
    ...bin,
    voltagesMv: railsOf(
      generation,
      fields.lowVoltage ??
        (traits.lowVoltage !== undefined && fields.voltageMv === traits.lowVoltage.mv),
    ),
    ...(formFactor === 'compression' ? { channels: fields.channels ?? 2 } : {}),
    ...(assumed.length > 0 ? { assumed } : {}),
  };
}

type Assume = <T>(field: AssumedField, value: T, shown: string) => T;

function standardBin(
  generation: Generation,
  fields: Partial<Fields>,
  assume: Assume,
): Pick<MemoryModule, 'rate' | 'timings' | 'profile'> {
  const { rate, timings, bin } = fields;
  const explicit = statedProfile(fields);
  if (bin && rate) return { rate, timings: bin, ...explicit };
  const traits = generationTraits(generation);
  const rails = railsOf(generation, true);
  const overVoltage = fields.voltageMv !== undefined && !rails.includes(fields.voltageMv);
  const beyond =
    rate !== undefined &&
    !fields.standard &&
    !traits.lowPower &&
    (overVoltage ||
      !traits.standardRates.includes(rate) ||
      (timings !== undefined && timings.cl < commonCl(generation, rate)));
  if (!beyond && rate !== undefined) {
    const cl = commonCl(generation, rate);
    return { rate, timings: timings ?? assume('timings', { cl }, `CL ${cl}`), ...explicit };
  }
  const base = traits.retailBase ?? traits.standardRates[0] ?? dataRate(1600);
  const cl = commonCl(generation, base);
  const assumed = {
    rate: assume('rate', base, `${base} MT/s`),
    timings: assume('timings', { cl }, `CL ${cl}`),
  };
  if (rate === undefined || timings === undefined) return { ...assumed, ...explicit };
  const voltageMv = fields.voltageMv ?? traits.nominalMv;
  return { ...assumed, profile: { rate, timings, voltageMv } };
}

function statedProfile(fields: Partial<Fields>): { profile?: OverclockProfile } {
  const { profileRate, profileTimings, profileMv, generation } = fields;
  if (!profileRate || !profileTimings || !generation) return {};
  const voltageMv = profileMv ?? generationTraits(generation).nominalMv;
  return { profile: { rate: profileRate, timings: profileTimings, voltageMv } };
}

function nearestCapacities(generation: Generation, capacity: number): number[] {
  const twos = Array.from({ length: 12 }, (_, at) => 2 ** (at - 2));
  const real = [...twos, ...generationTraits(generation).oddSizes].sort((a, b) => a - b);
  const below = real.findLast((size) => size < capacity);
  const above = real.find((size) => size > capacity);
  return [below, above].filter((size) => size !== undefined);
}
