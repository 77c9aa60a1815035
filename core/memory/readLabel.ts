import { RATE_RANGE, dataRate, gib } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import { commonCl, timingsOfBin } from './bins.ts';
import { GENERATIONS, generationTraits, isModuleCapacity, snapNearest } from './generation.ts';
import type { Generation } from './generation.ts';
import { FILLER, TYPE_LETTERS, WORDS, tokens } from './labelTokens.ts';
import type {
  AssumedField,
  Buffering,
  FormFactor,
  MemoryModule,
  OverclockProfile,
  TimingCycles,
} from './module.ts';

/** What the reader has to say about a label. An `error` leaves no module; the others do not. */
export type LabelFinding =
  | { readonly type: 'nothing-typed'; readonly severity: 'error' }
  | {
      readonly type: 'too-long';
      readonly severity: 'error';
      readonly length: number;
      readonly limit: number;
    }
  | {
      readonly type: 'missing';
      readonly severity: 'error';
      readonly field: 'capacity' | 'generation';
    }
  | {
      readonly type: 'impossible-capacity';
      readonly severity: 'error';
      readonly capacity: number;
      readonly nearest: readonly number[];
    }
  | { readonly type: 'impossible-rate'; readonly severity: 'error'; readonly rate: number }
  | {
      readonly type: 'conflict';
      readonly severity: 'error';
      readonly field: string;
      readonly first: string;
      readonly second: string;
    }
  | {
      readonly type: 'assumed';
      readonly severity: 'note';
      readonly field: AssumedField;
      readonly value: string;
    }
  | { readonly type: 'profile-without-cl'; readonly severity: 'caution'; readonly rate: number }
  | { readonly type: 'not-understood'; readonly severity: 'caution'; readonly text: string };

/** What became of a label. */
export interface LabelReading {
  /** Absent when a finding is an error. */
  readonly module?: MemoryModule | undefined;
  /** Modules in the pack, for labels such as `2x8GB`; otherwise 1. */
  readonly count: number;
  /** Each piece that was used, with what it was taken for, in the label's order. */
  readonly understood: readonly { readonly text: string; readonly meaning: string }[];
  readonly findings: readonly LabelFinding[];
}

/** A label every reader here understands; error texts show it as the example to follow. */
export const EXAMPLE_LABEL = '16GB 2Rx8 PC4-2400T-SE1-11';

const LABEL_LIMIT = 400; // the longest printed label is about 60 characters

interface Fields {
  generation: Generation;
  capacity: number;
  total: number;
  count: number;
  ranks: number;
  chipWidth: number;
  rate: DataRate;
  bin: TimingCycles;
  timings: TimingCycles;
  lowVoltage: true;
  voltageMv: number;
  formFactor: FormFactor;
  buffering: Buffering;
  ecc: boolean;
  channels: number;
  partNumber: string;
  standard: true;
  profileRate: DataRate;
  profileTimings: TimingCycles;
  profileMv: number;
}

const shown = (value: unknown): string =>
  typeof value === 'object' ? Object.values(value ?? {}).join('-') : `${value as string}`;

/** Gathers fields token by token; the first statement of a field stands, a different one conflicts. */
class Gathering {
  readonly fields: Partial<Fields> = {};
  readonly understood: { text: string; meaning: string }[] = [];
  readonly findings: LabelFinding[] = [];
  inProfile = false;

  set<K extends keyof Fields>(field: K, value: Fields[K]): void {
    const had = this.fields[field];
    if (had === undefined) this.fields[field] = value;
    else if (JSON.stringify(had) !== JSON.stringify(value))
      this.findings.push({
        type: 'conflict',
        severity: 'error',
        field,
        first: shown(had),
        second: shown(value),
      });
  }

  note(text: string, meaning: string): true {
    this.understood.push({ text, meaning });
    return true;
  }

  /** A rate as stated; outside the possible range it is an error and nothing is set. */
  setRate(stated: number): void {
    if (stated < RATE_RANGE.min || stated > RATE_RANGE.max) {
      this.findings.push({ type: 'impossible-rate', severity: 'error', rate: stated });
      return;
    }
    this.set(this.inProfile ? 'profileRate' : 'rate', dataRate(stated));
  }
}

type Rule = (token: string, to: Gathering) => boolean;

const readCapacity: Rule = (token, to) => {
  const match = /^(?:(\d)X)?(\d+(?:\.\d+)?)(GIB|GB|G|MB)$/.exec(token);
  if (!match) return false;
  const [, count, size, unit] = match;
  const capacity = Number(size) / (unit === 'MB' ? 1024 : 1);
  if (count !== undefined) {
    to.set('count', Number(count));
    // `16GB (2x8GB)`: the first figure was the pack's.
    if (to.fields.capacity === capacity * Number(count)) delete to.fields.capacity;
    to.set('capacity', capacity);
    to.set('total', capacity * Number(count));
    return to.note(token, `${count} modules of ${capacity} GB`);
  }
  if (to.fields.total === capacity) return to.note(token, `the pack's ${capacity} GB`);
  to.set('capacity', capacity);
  return to.note(token, `capacity ${capacity} GB`);
};

const readRanks: Rule = (token, to) => {
  // 2Rx8; 4DRx4 (dual-die packages); 2S4Rx4 (stacked dies: the first figure is the package ranks).
  const match = /^([1-8])(?:D|S\d?)?RX(4|8|16|32)$/.exec(token);
  if (match) {
    to.set('ranks', Number(match[1]));
    to.set('chipWidth', Number(match[2]));
    return to.note(token, `${match[1]} rank${match[1] === '1' ? '' : 's'} of x${match[2]} chips`);
  }
  const width = /^X(4|8|16)$/.exec(token);
  if (!width) return false;
  to.set('chipWidth', Number(width[1]));
  return to.note(token, `x${width[1]} chips`);
};

const applyTypeLetter = (letter: string | undefined, to: Gathering): string => {
  const type = letter === undefined ? undefined : TYPE_LETTERS[letter];
  if (!type) return '';
  to.set('formFactor', type.formFactor);
  to.set('buffering', type.buffering);
  to.set('ecc', type.ecc);
  return `, ${type.buffering}${type.ecc ? ' ECC' : ''} ${type.formFactor}`;
};

/** Module bandwidth in MB/s to the nearest standard rate: 10600 → 1333. */
const fromBandwidth = (generation: Generation, megabytes: number): number =>
  snapNearest(generation, megabytes / 8);

const readModuleName: Rule = (token, to) => {
  const match = /^PC([2-5])(L?)-?(\d{3,6})([A-Z]{0,2})(?:-([A-Z0-9]+))?((?:-[A-Z0-9]+)*)$/.exec(
    token,
  );
  if (!match) return false;
  const [, digit, low, figure, letters = '', first = ''] = match;
  const generation = `DDR${digit}` as Generation;
  const number = Number(figure);
  to.set('generation', generation);
  if (low) to.set('lowVoltage', true);
  const isBandwidth = digit === '2' || digit === '3' || number >= 10_000;
  const rate = isBandwidth ? fromBandwidth(generation, number) : number;
  to.setRate(rate);
  let type: string;
  if (digit === '2' || digit === '3') {
    type = applyTypeLetter(letters[0], to);
    // DDR3 prints CL alone (-11-13-F3: CL 11, SPD 1.3); DDR2 prints three digits (-666-).
    const three = digit === '2' ? /^(\d)(\d)(\d)$/.exec(first) : null;
    if (three)
      to.set('bin', { cl: Number(three[1]), trcd: Number(three[2]), trp: Number(three[3]) });
    else if (/^\d{1,2}$/.test(first)) to.set('bin', { cl: Number(first) });
  } else {
    type = applyTypeLetter(first[0], to);
    const bin = timingsOfBin(generation, dataRate(Math.max(rate, RATE_RANGE.min)), letters);
    if (bin) to.set('bin', bin);
  }
  const cl = to.fields.bin ? ` CL${to.fields.bin.cl}` : '';
  return to.note(
    token,
    `${generation}${low}-${rate}${cl}${type}${isBandwidth ? ` (${number} MB/s)` : ''}`,
  );
};

const readGeneration: Rule = (token, to) => {
  const match = /^(LPDDR\dX?|DDR\d)(L?)(?:-?(\d{3,5})(?:MHZ|MT\/S|MTS)?)?$/.exec(token);
  const generation = GENERATIONS.find((name) => name === match?.[1]);
  if (!match || !generation) return false;
  to.set('generation', generation);
  if (match[2]) to.set('lowVoltage', true);
  if (match[3]) to.setRate(Number(match[3]));
  return to.note(token, `${generation}${match[2]}${match[3] ? ` at ${match[3]} MT/s` : ''}`);
};

const readRateAlone: Rule = (token, to) => {
  const match = /^(\d{3,5})(MHZ|MT\/S|MTS)?$/.exec(token);
  if (!match) return false;
  if (!match[2] && (to.fields.generation === undefined || to.fields.rate !== undefined))
    return false;
  to.setRate(Number(match[1]));
  const meaning = match[2] === 'MHZ' ? 'MT/s (labels print the data rate as MHz)' : 'MT/s';
  return to.note(token, `${match[1]} ${meaning}`);
};

const readTimings: Rule = (token, to) => {
  const match = /^(?:CL?(\d{1,3})|(\d{1,3})-(?=\d+-\d+))((?:-?\d{1,3})?)((?:-\d{1,3}){0,2})$/.exec(
    token,
  );
  if (!match) return false;
  const [cl = 0, trcd, trp, tras] = (token.match(/\d+/g) ?? []).map(Number);
  to.set(to.inProfile ? 'profileTimings' : 'timings', { cl, trcd, trp, tras });
  return to.note(token, `CL ${cl}${trcd === undefined ? '' : ', further timings'}`);
};

const readVoltage: Rule = (token, to) => {
  const match = /^([12])[.,](\d{1,3})V$/.exec(token);
  if (!match) return false;
  const mv = Math.round(Number(`${match[1]}.${match[2]}`) * 1000);
  to.set(to.inProfile ? 'profileMv' : 'voltageMv', mv);
  return to.note(token, `${mv / 1000} V`);
};

const readWord: Rule = (token, to) => {
  if (FILLER.has(token)) return true;
  if (token === 'PROFILE') to.inProfile = true;
  if (token === 'STANDARD') to.set('standard', true);
  if (token === 'PROFILE' || token === 'STANDARD')
    return to.note(token, token === 'PROFILE' ? 'overclock profile follows' : 'standard bin');
  const pins = /^(240|288|200|204|260|262)PIN$/.exec(token);
  const word = WORDS[pins ? (/240|288/.test(token) ? 'DIMM' : 'SODIMM') : token];
  if (!word) return false;
  for (const [field, value] of Object.entries(word)) to.set(field as keyof Fields, value);
  return to.note(
    token,
    Object.values(word).join(', ').replace('true', 'ECC').replace('false', 'no ECC'),
  );
};

const readPartNumber: Rule = (token, to) => {
  if (!/^(?=.*\d)(?=.*[A-Z])[A-Z0-9][A-Z0-9./_-]{4,39}$/.test(token)) return false;
  to.set('partNumber', token);
  return to.note(token, 'part number');
};

// Order matters: a part number can look like anything, so it comes last.
const RULES: readonly Rule[] = [
  readCapacity,
  readRanks,
  readModuleName,
  readGeneration,
  readRateAlone,
  readTimings,
  readVoltage,
  readWord,
  readPartNumber,
];

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
  const unread = tokens(text).filter((token) => !RULES.some((rule) => rule(token, to)));
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
  const soldered = generation.startsWith('LPDDR') && fields.formFactor === undefined;
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
    voltagesMv:
      generation === 'DDR3' && (fields.lowVoltage || fields.voltageMv === 1350)
        ? [1350, 1500]
        : [traits.nominalMv],
    ...(formFactor === 'compression' ? { channels: fields.channels ?? 2 } : {}),
    ...(assumed.length > 0 ? { assumed } : {}),
  };
}

type Assume = <T>(field: AssumedField, value: T, shown: string) => T;

/** Rates a retail kit starts at when its profile is off, where its label does not say. */
const BASE_RATE: Partial<Record<Generation, number>> = {
  DDR2: 800,
  DDR3: 1333,
  DDR4: 2133,
  DDR5: 4800,
};

function standardBin(
  generation: Generation,
  fields: Partial<Fields>,
  assume: Assume,
): Pick<MemoryModule, 'rate' | 'timings' | 'profile'> {
  const { rate, timings, bin } = fields;
  const explicit = statedProfile(fields);
  if (bin && rate) return { rate, timings: bin, ...explicit };
  const traits = generationTraits(generation);
  const rails = generation === 'DDR3' ? [1350, 1500] : [traits.nominalMv];
  const overVoltage = fields.voltageMv !== undefined && !rails.includes(fields.voltageMv);
  const lowPower = generation.startsWith('LPDDR');
  const beyond =
    rate !== undefined &&
    !fields.standard &&
    !lowPower &&
    (overVoltage ||
      !traits.standardRates.includes(rate) ||
      (timings !== undefined && timings.cl < commonCl(generation, rate)));
  if (!beyond && rate !== undefined) {
    const cl = commonCl(generation, rate);
    return { rate, timings: timings ?? assume('timings', { cl }, `CL ${cl}`), ...explicit };
  }
  const base = dataRate(BASE_RATE[generation] ?? traits.standardRates[0] ?? 1600);
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
  const real = [0.25, 0.5, 1, 2, 4, 8, 12, 16, 24, 32, 48, 64, 96, 128, 256, 512].filter((size) =>
    isModuleCapacity(generation, size),
  );
  const below = real.findLast((size) => size < capacity);
  const above = real.find((size) => size > capacity);
  return [below, above].filter((size) => size !== undefined);
}
