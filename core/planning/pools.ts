import { partKey } from '../matching/index.ts';
import type { Board } from './board.ts';
import type { PlanQuery } from './query.ts';
import { specGroups } from './specGroups.ts';
import { agreementOf, blockersAlone, buildSupply } from './supply.ts';
import type { Fitted, Source } from './supply.ts';
import type { Pool } from './sweep.ts';

/** Under what a pool is swept. */
export interface PoolMode {
  readonly profiled: boolean;
  /** Only sets with a module that has no profile count. */
  readonly mustMiss: boolean;
}

/**
 * What is swept one after another under a mode, each made when its turn comes. Kits, parts and specs
 * first: they are few, match best and leave little for the rest to beat.
 */
export function poolsOf(
  board: Board,
  school: PlanQuery['school'],
  sources: readonly Source[],
  fitted: readonly Fitted[],
  { profiled, mustMiss }: PoolMode,
): (() => Pool)[] {
  const { machine, ranksMatter } = board;
  const slots = machine.slots.length;
  const isListed = ({ module }: { module: { partNumber?: string | undefined } }) =>
    school !== 'strict' ||
    (machine.verifiedParts !== 'unknown' &&
      module.partNumber !== undefined &&
      machine.verifiedParts.includes(module.partNumber));
  const offered = sources.filter(isListed);
  // What was found may itself break a rule; then it can only be pulled.
  const stay = fitted.filter(
    (one) => isListed(one) && blockersAlone(machine, one.module).length === 0,
  );
  const pool = (bestGrade: number, [from, kept]: Group, more: Partial<Pool> = {}): (() => Pool) => {
    return () => ({
      supply: buildSupply(machine, from, kept, profiled, { ranksMatter, mustMiss }),
      ...{ bestGrade, pairs: false, most: slots, large: false },
      ...more,
    });
  };
  // No socketed set matches soldered memory better than by spec; the strict school asks for a kit
  // or a part all the same.
  const onBoard = machine.soldered.map(({ part }) => agreementOf(part, profiled));
  const atBest = (grade: number) => (onBoard.length === 0 ? grade : Math.max(2, grade));
  const kits = groups(stay, ({ module }) => module.kitId && `${module.kitId} ${module.capacity}`);
  const packs = offered.filter(({ units }) => units > 1);
  const byPart = groups<Source | Fitted>([...offered, ...stay], partAndSize).map(split);
  const matched = [
    pool(atBest(0), [offered, stay], { most: Math.min(1, slots) }),
    ...kits.map((kit) => pool(atBest(0), [[], kit])),
    ...packs.map((pack) =>
      pool(atBest(0), [[{ ...pack, copies: 1 }], []], { most: Math.min(pack.units, slots) }),
    ),
    ...byPart.map((group) => pool(atBest(1), group)),
  ];
  if (school === 'strict') return matched;
  const bySpec = specGroups(
    [...offered, ...stay],
    ({ module }) => agreementOf(module, profiled).spec,
    onBoard.map(({ spec }) => spec),
  );
  return [
    ...(onBoard.length === 0 ? matched : []),
    ...bySpec.map(split).map((group) => pool(2, group)),
    pool(3, [offered, stay], { pairs: school === 'balanced', large: true }),
  ];
}

/** What can be had, and what can stay. */
type Group = readonly [readonly Source[], readonly Fitted[]];

const split = (group: readonly (Source | Fitted)[]): Group => [
  group.filter((one): one is Source => 'price' in one),
  group.filter((one): one is Fitted => 'credit' in one),
];

const partAndSize = ({ module }: Source | Fitted): string | undefined => {
  const part = partKey(module);
  return part && `${part} ${module.capacity}`;
};

function groups<T>(items: readonly T[], keyOf: (item: T) => string | undefined | ''): T[][] {
  const found = new Map<string, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    if (!key) continue;
    const group = found.get(key);
    if (group) group.push(item);
    else found.set(key, [item]);
  }
  return [...found.values()];
}
