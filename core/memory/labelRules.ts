import { RATE_RANGE, dataRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import { timingsOfBin } from './bins.ts';
import { GENERATIONS, generationNamed, generationTraits, snapNearest } from './generation.ts';
import type { Generation } from './generation.ts';
import type { LabelFinding } from './labelFindings.ts';
import { FILLER, TYPE_LETTERS, WORDS } from './labelTokens.ts';
import { TIMING_NAMES } from './module.ts';
import type { Buffering, FormFactor, TimingCycles } from './module.ts';

/** What a label can state. */
export interface Fields {
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

/** A field's value as people write it: `17-17-17`, `no ECC`, `SODIMM`. */
function shown(value: Fields[keyof Fields]): string {
  if (typeof value === 'boolean') return value ? 'ECC' : 'no ECC';
  if (typeof value !== 'object') return String(value);
  return TIMING_NAMES.flatMap((name) => value[name] ?? []).join('-');
}

/** Gathers fields token by token; the first statement of a field stands, a different one conflicts. */
export class Gathering {
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

const plural = (count: number, thing: string) => `${count} ${thing}${count === 1 ? '' : 's'}`;

/** Takes a token if it is of its kind, and says whether it did. */
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
    return to.note(token, `${plural(Number(count), 'module')} of ${capacity} GB`);
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
    return to.note(token, `${plural(Number(match[1]), 'rank')} of x${match[2]} chips`);
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
  const match = /^PC(\d)(L?)-?(\d{3,6})([A-Z]{0,2})(?:-([A-Z0-9]+))?((?:-[A-Z0-9]+)*)$/.exec(token);
  const generation = generationNamed(`DDR${match?.[1]}`);
  const style = generation && generationTraits(generation).label;
  if (!match || !generation || !style) return false;
  const [, , low, figure, letters = '', first = ''] = match;
  const number = Number(figure);
  to.set('generation', generation);
  if (low) to.set('lowVoltage', true);
  const isBandwidth = style.figure === 'bandwidth' || number >= 10_000;
  const rate = isBandwidth ? fromBandwidth(generation, number) : number;
  to.setRate(rate);
  let type: string;
  if (style.figure === 'bandwidth') {
    type = applyTypeLetter(letters[0], to);
    // DDR3 prints CL alone (-11-13-F3: CL 11, SPD 1.3); DDR2 prints three digits (-666-).
    const three = style.timings === 'three digits' ? /^(\d)(\d)(\d)$/.exec(first) : null;
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
  const known = to.inProfile ? to.fields.profileRate : to.fields.rate;
  if (!match[2] && (to.fields.generation === undefined || known !== undefined)) return false;
  to.setRate(Number(match[1]));
  const meaning = match[2] === 'MHZ' ? 'MT/s (labels print the data rate as MHz)' : 'MT/s';
  return to.note(token, `${match[1]} ${meaning}`);
};

const readTimings: Rule = (token, to) => {
  // CL16, C16-18-18-38; without its letters only as three or four figures.
  if (!/^(?:CL?\d{1,3}(?:-\d{1,3}){0,3}|\d{1,3}(?:-\d{1,3}){2,3})$/.test(token)) return false;
  const [cl = 0, trcd, trp, tras] = (token.match(/\d+/g) ?? []).map(Number);
  to.set(to.inProfile ? 'profileTimings' : 'timings', { cl, trcd, trp, tras });
  return to.note(token, `CL ${cl}${trcd === undefined ? '' : ', further timings'}`);
};

const readVoltage: Rule = (token, to) => {
  const match = /^([12])\.(\d{1,3})V$/.exec(token);
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
  const { channels, ...said } = word;
  const meanings = Object.values(said).map(shown);
  return to.note(
    token,
    [...meanings, ...(channels ? [plural(channels, 'channel')] : [])].join(', '),
  );
};

const readPartNumber: Rule = (token, to) => {
  if (!/^(?=.*\d)(?=.*[A-Z])[A-Z0-9][A-Z0-9./_-]{4,39}$/.test(token)) return false;
  to.set('partNumber', token);
  return to.note(token, 'part number');
};

/** Every rule; order matters: a part number can look like anything, so it comes last. */
export const RULES: readonly Rule[] = [
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
