import type { ModuleClass, Source } from './supply.ts';

/** One step of a purchase list: another copy of a source, on top of what was taken before. */
interface Step {
  readonly source: Source;
  readonly copy: number;
  readonly before: Step | undefined;
}

/** Cheapest ways to come by 0, 1, 2 … modules of one class. */
export interface Bills {
  /** Minor units by number of modules; Infinity where the supply ends. */
  readonly cost: Float64Array;
  readonly steps: readonly (Step | undefined)[];
}

/** One module bought or taken, and the copy of the pack it came out of. */
export interface Bought {
  readonly source: Source;
  readonly copy: number;
}

/**
 * Cheapest way to come by at least k modules for every k, packs whole (a bounded knapsack). Of
 * equally cheap ways larger packs win, then singles, then the drawer.
 *
 * @param most - modules that can be placed
 */
export function cheapestBills(sources: readonly Source[], most: number): Bills {
  const cost = new Float64Array(most + 1).fill(Infinity);
  const steps: (Step | undefined)[] = Array.from({ length: most + 1 });
  cost[0] = 0;
  const order = [...sources].sort(
    (a, b) =>
      b.units - a.units ||
      (a.type < b.type ? 1 : -1) * Number(a.type !== b.type) ||
      a.price - b.price,
  );
  for (const source of order) {
    const copies = Math.min(source.copies, Math.ceil(most / source.units));
    for (let copy = 0; copy < copies; copy++)
      for (let want = most; want > 0; want--) {
        const rest = Math.max(0, want - source.units);
        const price = (cost[rest] ?? Infinity) + source.price;
        if (price >= (cost[want] ?? Infinity)) continue;
        cost[want] = price;
        steps[want] = { source, copy, before: steps[rest] };
      }
  }
  return { cost, steps };
}

/** The modules of a bill, at most `count` of them: a pack's surplus stays out. */
export function boughtBy(bills: Bills, count: number): Bought[] {
  const bought: Bought[] = [];
  for (let step = bills.steps[count]; step; step = step.before)
    for (let unit = 0; unit < step.source.units && bought.length < count; unit++)
      bought.push({ source: step.source, copy: step.copy });
  return bought;
}

/** A class with its bills. */
export interface Billed {
  readonly of: ModuleClass;
  readonly bills: Bills;
}

/** Cheapest ways to come by modules of one kind out of several classes. */
export interface KindBills {
  readonly cost: Float64Array;
  /** The same with at most 0, 1, 2 … components. */
  readonly within: readonly Float64Array[];
  readonly classes: readonly Billed[];
  /** How many of each class make up the cheapest way to `count`. */
  readonly split: (count: number) => { readonly billed: Billed; readonly count: number }[];
}

/**
 * Joins the bills of classes of one kind, using no more components than there are rows for: in one
 * row of channels all modules belong to one component. With at least as many rows as modules this
 * is no restriction.
 */
export function joinBills(classes: readonly Billed[], most: number, components: number): KindBills {
  const groups = new Map<number, Billed[]>();
  for (const billed of classes) {
    const group = groups.get(billed.of.component);
    if (group) group.push(billed);
    else groups.set(billed.of.component, [billed]);
  }
  const limit = Math.min(components, most, groups.size);
  interface Pick {
    readonly billed: Billed;
    readonly count: number;
    readonly before: Pick | undefined;
  }
  const width = most + 1;
  const best = new Float64Array((limit + 1) * width).fill(Infinity);
  const picks: (Pick | undefined)[] = Array.from({ length: best.length });
  best[0] = 0;
  for (const group of groups.values()) {
    const own = joinGroup(group, most);
    for (let used = limit; used > 0; used--)
      for (let want = most; want > 0; want--)
        for (let count = 1; count <= want; count++) {
          const part = own[count];
          if (!part) continue;
          const from = (used - 1) * width + want - count;
          const price = (best[from] ?? Infinity) + part.cost;
          const to = used * width + want;
          if (price >= (best[to] ?? Infinity)) continue;
          best[to] = price;
          picks[to] = part.list.reduce<Pick | undefined>(
            (before, one) => ({ ...one, before }),
            picks[from],
          );
        }
  }
  const cost = new Float64Array(width).fill(Infinity);
  const chosen: (Pick | undefined)[] = Array.from({ length: width });
  const within: Float64Array[] = [];
  for (let used = 0; used <= limit; used++) {
    for (let want = 0; want <= most; want++) {
      const price = best[used * width + want] ?? Infinity;
      if (price >= (cost[want] ?? Infinity)) continue;
      cost[want] = price;
      chosen[want] = picks[used * width + want];
    }
    within.push(cost.slice());
  }
  const split = (count: number) => {
    const parts: { billed: Billed; count: number }[] = [];
    for (let pick = chosen[count]; pick; pick = pick.before)
      parts.push({ billed: pick.billed, count: pick.count });
    return parts;
  };
  return { cost, within, classes, split };
}

/** Cheapest way to k modules when they may come from either of two, by k. */
export function eitherCost(a: Float64Array, b: Float64Array): Float64Array {
  const joined = a.slice();
  for (let count = 1; count < joined.length; count++)
    for (let from = 0; from <= count; from++) {
      const price = (a[count - from] ?? Infinity) + (b[from] ?? Infinity);
      if (price < (joined[count] ?? Infinity)) joined[count] = price;
    }
  return joined;
}

interface Part {
  readonly cost: number;
  readonly list: readonly { readonly billed: Billed; readonly count: number }[];
}

/** Cheapest way within one component; nearly always a single class. */
function joinGroup(group: readonly Billed[], most: number): (Part | undefined)[] {
  let joined: (Part | undefined)[] = [{ cost: 0, list: [] }];
  for (const billed of group) {
    const next = [...joined];
    for (let count = 1; count <= most; count++) {
      const price = billed.bills.cost[count] ?? Infinity;
      if (price === Infinity) continue;
      for (let rest = 0; rest + count <= most; rest++) {
        const base = joined[rest];
        if (!base) continue;
        const cost = base.cost + price;
        if (cost >= (next[rest + count]?.cost ?? Infinity)) continue;
        next[rest + count] = { cost, list: [...base.list, { billed, count }] };
      }
    }
    joined = next;
  }
  return joined;
}
