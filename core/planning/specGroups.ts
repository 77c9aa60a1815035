import { specsAgree } from '../matching/index.ts';
import type { Spec } from '../matching/index.ts';

/**
 * The largest groups of items that agree by spec, each with each and with the soldered parts.
 *
 * A label that leaves a timing out agrees with two that differ in it, so an item may stand in several
 * groups: one for every set of timings its own do not contradict.
 */
export function specGroups<T>(
  items: readonly T[],
  specOf: (item: T) => Spec,
  soldered: readonly Spec[],
): T[][] {
  if (soldered.some((a) => soldered.some((b) => !specsAgree(a, b)))) return [];
  const byBase = new Map<string, Member<T>[]>();
  for (const item of items) {
    const spec = specOf(item);
    // Unknown ranks agree with none, not even with their like.
    if (!spec.known || !soldered.every((one) => specsAgree(one, spec))) continue;
    const base = `${spec.body} ${spec.rating.base}`;
    byBase.set(base, [...(byBase.get(base) ?? []), { item, timings: spec.rating.timings }]);
  }
  return [...byBase.values()].flatMap((members) => {
    const groups = new Map<string, T[]>();
    collect(members, 0, (group) => {
      const name = group.map((one) => members.indexOf(one)).join();
      groups.set(
        name,
        group.map(({ item }) => item),
      );
    });
    return [...groups.values()];
  });
}

interface Member<T> {
  readonly item: T;
  readonly timings: readonly (number | undefined)[];
}

/** Goes timing by timing: of those that state it only one figure can stand in a group. */
function collect<T>(
  members: readonly Member<T>[],
  at: number,
  take: (group: readonly Member<T>[]) => void,
): void {
  if (members.every(({ timings }) => at >= timings.length)) return take(members);
  const stated = new Set(members.flatMap(({ timings }) => timings[at] ?? []));
  if (stated.size < 2) return collect(members, at + 1, take);
  for (const figure of stated)
    collect(
      members.filter(({ timings }) => timings[at] === undefined || timings[at] === figure),
      at + 1,
      take,
    );
}
