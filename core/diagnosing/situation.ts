import type { Machine, Placement, Setting, SlotId } from '../machine/index.ts';
import { matchGrade } from '../matching/index.ts';
import { fittedParts, operatingPoint } from '../operating-point/index.ts';
import type { Trait } from './causes.ts';
import type { Symptom } from './symptoms.ts';

/** What is looked into: the machine as it is, and what has been done to it. */
export interface Situation {
  readonly machine: Machine;
  /** What sits in the slots, as far as anyone knows. */
  readonly placement: Placement;
  readonly setting: Setting;
  /** What the plan wants; absent where nothing is planned. */
  readonly planned?: { readonly placement: Placement; readonly setting: Setting } | undefined;
  /** Whether anyone has had hands in it since it last worked. */
  readonly moved: boolean;
  readonly symptom: Symptom;
}

/** Slots with a module in them, in board order. */
export function filledSlots({
  machine,
  placement,
}: Pick<Situation, 'machine' | 'placement'>): SlotId[] {
  return machine.slots.filter(({ id }) => placement[id]).map(({ id }) => id);
}

/**
 * Facts that make causes likelier or rule them out, from the machine's description, the rules of the
 * operating point and what has been done.
 */
export function traitsOf(situation: Situation): Trait[] {
  const { machine, placement, setting, planned, moved } = situation;
  const parts = fittedParts(machine, placement);
  const profiled = setting === 'profile';
  const graded = parts.map(({ module, slotId }) => ({ module, soldered: slotId === undefined }));
  const grade = matchGrade(graded, profiled);
  const point = operatingPoint(machine, placement, setting);
  const has = (type: string) =>
    point.type === 'runs' && point.flags.some((one) => one.type === type);
  const first = machine.requiredFirstSlot;
  const traits: Trait[] = [moved ? 'just fitted' : 'nothing moved'];
  const add = (trait: Trait, holds = true) => {
    if (holds) traits.push(trait);
  };
  add('mixed set', !['one kit', 'same part'].includes(grade));
  add('same part bought apart', grade === 'same part');
  add('profile in use', profiled);
  add('profile planned', planned?.setting === 'profile' && !profiled);
  add('no profile in play', !profiled && planned?.setting !== 'profile');
  if (first === 'none' || (first !== 'unknown' && placement[first])) add('first slot filled');
  else add('first slot empty', first !== 'unknown' && filledSlots(situation).length > 0);
  if (planned) {
    const same = machine.slots.every(({ id }) => !placement[id] === !planned.placement[id]);
    add(same ? 'where planned' : 'not where planned');
  }
  add(
    'refused by the rules',
    point.type === 'blocked' && point.blockers.some(({ type }) => type !== 'first-slot-empty'),
  );
  add('unknown limits', machine.maxPerSlot === 'unknown' || machine.maxTotal === 'unknown');
  add(has('uneven-channels') ? 'uneven' : 'even');
  add('not fit to pair', has('one-channel-needless'));
  add(has('os-limit') ? 'system limit reached' : 'no system limit');
  add(machine.graphicsCarveOut.high > 0 ? 'graphics share' : 'no graphics share');
  add(has('rate-unused') ? 'slower than its label' : 'at its label');
  add('long training', point.type === 'runs' && /5/.test(point.generation));
  add('three or more modules', parts.length >= 3);
  return traits;
}
