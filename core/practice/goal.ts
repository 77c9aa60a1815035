import type { Goal } from './exercise.ts';
import { statusOf, usableOf } from './running.ts';
import { keyOf, sitting } from './world.ts';
import type { World } from './world.ts';

/** One line of what counts as solved. */
export interface GoalLine {
  readonly what: keyof Goal | 'runs' | 'closed' | 'safe';
  readonly holds: boolean;
  readonly wanted: number | string | boolean;
  readonly is: number | string | boolean;
}

/**
 * What counts as solved, line by line, as the machine would behave if it were switched on now. A walk
 * with no goal – a sandbox – has no lines.
 */
export function goalLines(world: World): GoalLine[] {
  const { goal } = world.exercise;
  if (!goal) return [];
  const on: World = { ...world, power: 'on', training: 0 };
  const status = statusOf(on);
  const point = status.type === 'up' ? status.point : undefined;
  const usable = point ? usableOf(on, point).usable : 0;
  const paired = point?.paired ?? 0;
  const wantedPaired = goal.paired === 'all' ? (point?.installed ?? 1) : goal.paired;
  const line = (
    what: GoalLine['what'],
    holds: boolean,
    wanted: GoalLine['wanted'],
    is: GoalLine['is'],
  ): GoalLine => ({ what, holds, wanted, is });
  const { tested, measured } = world;
  const isTested = tested?.passed === true && tested.of === keyOf(world);
  const isNarrow = Object.values(sitting(world)).every((module) => module?.chipWidth !== 16);
  const finding = world.over?.finding ?? '';
  const rate = point?.rate ?? 0;
  return [
    line('runs', point !== undefined, true, point !== undefined),
    ...(goal.usable === undefined
      ? []
      : [line('usable', usable >= goal.usable, goal.usable, usable)]),
    ...(goal.rate === undefined ? [] : [line('rate', rate >= goal.rate, goal.rate, rate)]),
    ...(wantedPaired === undefined
      ? []
      : [line('paired', paired >= wantedPaired, goal.paired ?? 'all', paired)]),
    ...(goal.narrowChips ? [line('narrowChips', isNarrow, true, isNarrow)] : []),
    ...(goal.tested ? [line('tested', isTested, true, isTested)] : []),
    ...(goal.measured
      ? [line('measured', measured === keyOf(world), true, measured === keyOf(world))]
      : []),
    ...(goal.budget === undefined
      ? []
      : [line('budget', world.spent <= goal.budget, goal.budget, world.spent)]),
    ...(goal.finding === undefined
      ? []
      : [line('finding', finding === goal.finding, goal.finding, finding)]),
    line('closed', isPutTogether(world), true, isPutTogether(world)),
    line('safe', world.unsafe.length === 0, true, world.unsafe.length === 0),
  ];
}

const isPutTogether = ({ cover, battery }: World) => cover === 'on' && battery !== 'off';

/** Handed over, with every line of the goal holding. */
export const isSolved = (world: World): boolean =>
  world.over !== undefined && goalLines(world).every(({ holds }) => holds);
