import type { Symptom } from '../diagnosing/index.ts';
import type { Machine, Placement, Setting, SlotId } from '../machine/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import type { Running } from '../operating-point/index.ts';
import { judgeShownRate } from '../proving/index.ts';
import type { ShownRate } from '../proving/index.ts';
import type { ReadingKind, ReadingValue } from './log.ts';

/** The likely reason a reading is not as it should be. */
export type Likely =
  | { readonly type: 'still training' }
  /** Modules whose capacity is just what is missing, one of these choices. */
  | { readonly type: 'not seen'; readonly choices: readonly (readonly SlotId[])[] }
  | { readonly type: 'some not seen'; readonly missing: number }
  | { readonly type: 'more than planned'; readonly more: number }
  | {
      readonly type: 'other slots';
      readonly shown: readonly SlotId[];
      readonly wanted: readonly SlotId[];
    }
  | { readonly type: 'slower'; readonly rate: ShownRate; readonly isStandard: boolean }
  | { readonly type: 'faster'; readonly rate: ShownRate }
  | { readonly type: 'no rate' }
  | { readonly type: 'profile off' }
  | { readonly type: 'profile on' }
  | { readonly type: 'system limit'; readonly limit: number }
  | { readonly type: 'kept from the system' }
  | { readonly type: 'reserved'; readonly share: number };

/** A reading against what the plan expects. */
export interface Judgement {
  readonly kind: ReadingKind;
  readonly isGood: boolean;
  readonly expected: ReadingValue | { readonly low: number; readonly high: number };
  readonly value: ReadingValue;
  readonly likely: Likely | undefined;
  /** What to look into where it is not good. */
  readonly symptom: Symptom | undefined;
  /** A clock was shown where a rate was meant. */
  readonly unitTrap: boolean;
}

/** What should run. */
export interface Expected {
  readonly machine: Machine;
  readonly placement: Placement;
  readonly setting: Setting;
}

/** Screens round to whole or half GB; a difference below this, GB, is none. */
const NEAR = 0.5;

/** Readings worth taking on a machine, in order; those that cannot tell anything are left out. */
export function readingsFor({ machine, placement, setting }: Expected): ReadingKind[] {
  const hasSlots = Object.keys(placement).length > 0;
  const profiles = setting === 'profile' || machine.profiles.support !== 'no';
  return [
    'picture',
    'firmware total',
    ...(hasSlots ? (['slots'] as const) : []),
    'rate',
    ...(profiles ? (['profile'] as const) : []),
    'system total',
    'usable',
  ];
}

/** Smallest sets of slots whose modules make up a missing capacity. */
function setsMaking(missing: number, placement: Placement): SlotId[][] {
  const slots = Object.entries(placement).flatMap(([id, module]) =>
    module ? [{ id, capacity: module.capacity }] : [],
  );
  const found: SlotId[][] = [];
  for (let mask = 1; mask < 1 << slots.length; mask++) {
    const set = slots.filter((_, at) => (mask >> at) & 1);
    const sum = set.reduce((total, { capacity }) => total + capacity, 0);
    if (Math.abs(sum - missing) < NEAR) found.push(set.map(({ id }) => id));
  }
  const least = Math.min(...found.map(({ length }) => length));
  return found.filter(({ length }) => length === least);
}

/** More choices than this name nothing any more. */
const CHOICES = 4;

function judgeTotal(value: number, point: Running, expected: Expected): Likely | undefined {
  const missing = point.installed - value;
  if (Math.abs(missing) < NEAR) return undefined;
  if (missing < 0) return { type: 'more than planned', more: -missing };
  const choices = setsMaking(missing, expected.placement);
  return choices.length > 0 && choices.length <= CHOICES
    ? { type: 'not seen', choices }
    : { type: 'some not seen', missing };
}

function judgeSlots(
  shown: readonly SlotId[],
  { placement, machine }: Expected,
): Likely | undefined {
  const wanted = machine.slots.filter(({ id }) => placement[id]).map(({ id }) => id);
  const strange = shown.filter((id) => !wanted.includes(id));
  const missing = wanted.filter((id) => !shown.includes(id));
  if (strange.length > 0) return { type: 'other slots', shown, wanted };
  return missing.length > 0 ? { type: 'not seen', choices: [missing] } : undefined;
}

function judgeSystem(value: number, point: Running, { machine }: Expected): Likely | undefined {
  if (value > point.installed - NEAR || value >= point.usable.low - NEAR) return undefined;
  const { osLimit } = machine;
  return osLimit !== 'none' && value <= osLimit.high + NEAR
    ? { type: 'system limit', limit: osLimit.high }
    : { type: 'kept from the system' };
}

function judgeRate(value: number, point: Running, expected: Expected): Likely | undefined {
  const rate = judgeShownRate(value, point);
  if (rate.type === 'as expected') return undefined;
  if (rate.type === 'no rate') return { type: 'no rate' };
  if (rate.type === 'faster') return { type: 'faster', rate };
  const standard = operatingPoint(expected.machine, expected.placement, 'standard');
  const isStandard =
    expected.setting === 'profile' &&
    standard.type === 'runs' &&
    judgeShownRate(value, standard).type === 'as expected';
  return { type: 'slower', rate, isStandard };
}

const SYMPTOM_OF: Readonly<Record<ReadingKind, Symptom>> = {
  picture: 'does not start',
  'firmware total': 'less memory than fitted',
  slots: 'less memory than fitted',
  rate: 'another rate',
  profile: 'another rate',
  'system total': 'less memory than fitted',
  usable: 'much is reserved',
};

/**
 * Compares what a screen shows after the first start with what the plan makes run.
 *
 * @param value - GB for totals, MHz or MT/s for the rate, slots that show a module, yes or no
 * @returns undefined where what should run does not run by the rules: nothing can be expected then
 */
export function judgeReading(
  kind: ReadingKind,
  value: ReadingValue,
  expected: Expected,
): Judgement | undefined {
  const point = operatingPoint(expected.machine, expected.placement, expected.setting);
  if (point.type !== 'runs') return undefined;
  const figure = Number(value);
  const shown = Array.isArray(value) ? (value as readonly SlotId[]) : [];
  const profiled = expected.setting === 'profile';
  const likely: Readonly<Record<ReadingKind, () => Likely | undefined>> = {
    picture: () => (value === true ? undefined : { type: 'still training' }),
    'firmware total': () => judgeTotal(figure, point, expected),
    slots: () => judgeSlots(shown, expected),
    rate: () => judgeRate(figure, point, expected),
    profile: () =>
      value === profiled ? undefined : { type: profiled ? 'profile off' : 'profile on' },
    'system total': () => judgeSystem(figure, point, expected),
    usable: () =>
      figure >= point.usable.low - NEAR
        ? undefined
        : { type: 'reserved', share: 1 - figure / point.installed },
  };
  const wanted: Readonly<Record<ReadingKind, Judgement['expected']>> = {
    picture: true,
    'firmware total': point.installed,
    slots: Object.keys(expected.placement),
    rate: point.rate,
    profile: profiled,
    'system total': point.installed,
    usable: point.usable,
  };
  const reason = likely[kind]();
  const taken = kind === 'rate' ? judgeShownRate(figure, point) : undefined;
  const movesOnly = reason?.type === 'other slots' && reason.shown.length === reason.wanted.length;
  return {
    ...{ kind, value, isGood: reason === undefined, expected: wanted[kind], likely: reason },
    symptom: reason && (movesOnly ? 'one channel wide' : SYMPTOM_OF[kind]),
    unitTrap: taken !== undefined && taken.type !== 'no rate' && taken.taken.readAs === 'clock',
  };
}

/**
 * Where modules sit if the firmware is right about which slots are filled: those it does not show
 * are taken to sit in those it shows and that should be empty, in board order.
 */
export function placementShown(
  { machine, placement }: Expected,
  shown: readonly SlotId[],
): Placement {
  const order = machine.slots.map(({ id }) => id);
  const strange = order.filter((id) => shown.includes(id) && !placement[id]);
  const missing = order.filter((id) => placement[id] && !shown.includes(id));
  const entries = order.flatMap((id): [SlotId, Placement[SlotId]][] => {
    if (!placement[id]) return [];
    const to = strange[missing.indexOf(id)];
    return [[to ?? id, placement[id]]];
  });
  return Object.fromEntries(entries);
}
