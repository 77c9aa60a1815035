import type { SlotId } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { assess } from './assess.ts';
import type { Minor, PlanQuery, PlannedUnit } from './query.ts';
import { Arranger } from './arrange.ts';
import { Board, isPlainBoard } from './board.ts';
import { agree, agreementOf, buildSupply, kitOf } from './supply.ts';
import type { Fitted, ModuleClass, Source } from './supply.ts';
import { exactRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';

/** Modules that are bought, whatever the source: all of one make and rating. */
export interface SupplyType {
  readonly key: string;
  readonly module: MemoryModule;
}

/** A way to serve one machine, before it is known which very modules are used. */
export interface Recipe {
  /** Slots with the type to put there, or the slot a kept module comes from. */
  readonly slots: readonly (
    | { readonly slotId: SlotId; readonly type: string }
    | { readonly slotId: SlotId; readonly from: SlotId }
  )[];
  readonly setting: PlanQuery['settings'][number];
  /** Modules of each type it takes. */
  readonly takes: ReadonlyMap<string, number>;
  /** All of them out of one pack of this offer: the school asks for a kit. */
  readonly pack: string | undefined;
  /** Labour − credit; modules not included. */
  readonly cost: Minor;
}

/** What every machine of a batch has to reach besides its need. */
export interface BatchRules {
  /** As wide as its channels allow, where the cheapest set would run one channel wide. */
  readonly paired: boolean;
}

export const typeKey = (module: MemoryModule): string =>
  JSON.stringify({ ...module, kitId: undefined, assumed: undefined });

/**
 * Ways to serve a machine that need no more modules than necessary: one kind of bought module beside
 * what stays, or two kinds, and of these only the ones no smaller admitted set is part of. Costs only
 * grow with more modules, so nothing cheaper is lost but sets of three kinds. Where very many kinds
 * are on offer, two unlike ones that could not stand in one row are tried only if nothing else serves.
 */
export function recipesFor(
  query: PlanQuery,
  sources: readonly Source[],
  rules: BatchRules,
): Recipe[] {
  const kinds = new Set(sources.map(({ module }) => typeKey(module))).size;
  const recipes = recipesOf(query, sources, rules, kinds <= MIXED_MOST);
  return recipes.length > 0 || kinds <= MIXED_MOST
    ? recipes
    : recipesOf(query, sources, rules, true);
}

function recipesOf(
  query: PlanQuery,
  sources: readonly Source[],
  rules: BatchRules,
  anyPair: boolean,
): Recipe[] {
  const { machine, fitted } = query;
  const types = new Map<string, MemoryModule>();
  for (const { module } of sources) types.set(typeKey(module), module);
  const keys = [...types.keys()];
  const pairsOf = matesOf(types, anyPair);
  const isHopeless = hopeless(query, sources, rules);
  const found = machine.slots.filter(({ id }) => fitted[id]).map(({ id }) => id);
  const recipes: Recipe[] = [];
  const untouched = tryOut(
    query,
    found.map((slotId) => kept(query, slotId, slotId)),
    rules,
  );
  if (untouched) recipes.push({ ...untouched, cost: 0 });
  const mostCredit = found.reduce((sum, id) => sum + Math.max(0, query.credit[id] ?? 0), 0);
  // Nothing is cheaper than leaving it, unless the pulled modules are worth more than the work.
  if (untouched && query.labour >= mostCredit) return recipes;
  for (const stay of subsets(found)) {
    const credit = found
      .filter((id) => !stay.includes(id))
      .reduce((sum, id) => sum + (query.credit[id] ?? 0), 0);
    const cost = query.labour - credit;
    const smallest: ReadonlyMap<string, number>[] = [];
    // Fewer than two parts never run side by side.
    const least = rules.paired && machine.channels.length > 1 ? 2 : 0;
    const parts = stay.length + machine.soldered.length;
    for (
      let count = Math.max(0, least - parts);
      count + stay.length <= machine.slots.length;
      count++
    )
      for (const takes of multisets(keys, pairsOf, count)) {
        if (smallest.some((less) => contains(takes, less))) continue;
        if (!canHold(query, stay, takes, types) || isHopeless(stay, takes)) continue;
        const recipe = arrange(query, stay, takes, types, undefined, rules);
        if (recipe) {
          smallest.push(takes);
          recipes.push({ ...recipe, takes, cost });
          continue;
        }
        // What does not match bought apart may match out of one pack.
        const [only] = takes.keys();
        if (takes.size !== 1) continue;
        for (const { id, units, module } of sources) {
          if (units < 2 || units < count || typeKey(module) !== only) continue;
          const kit = arrange(query, stay, takes, types, id, rules);
          if (kit) recipes.push({ ...kit, takes, pack: id, cost });
        }
      }
  }
  return recipes;
}

/**
 * Tells sets no placement of which can be admitted, by what the search of a single machine knows:
 * one look-up for the many sets of the same few kinds. In doubt it does not tell.
 */
function hopeless(
  query: PlanQuery,
  sources: readonly Source[],
  rules: BatchRules,
): (stay: readonly SlotId[], takes: ReadonlyMap<string, number>) => boolean {
  const { machine, school, need, capacityFirst, fitted } = query;
  if (!isPlainBoard(machine) || !query.settings.includes('standard')) return () => false;
  const board = new Board(machine, { school, need, capacityFirst, profiled: false });
  const kept = machine.slots.flatMap(({ id }): Fitted[] =>
    fitted[id] ? [{ slotId: id, module: fitted[id], credit: 0 }] : [],
  );
  const { ranksMatter } = board;
  const supply = buildSupply(machine, sources, kept, false, { ranksMatter, mustMiss: false });
  if (supply.masks) return () => false;
  const arranger = new Arranger(board, supply);
  const classOf = new Map<string, ModuleClass>();
  for (const one of supply.classes) {
    for (const { module } of one.sources) classOf.set(typeKey(module), one);
    for (const { slotId } of one.fitted) classOf.set(slotId, one);
  }
  return (stay, takes) => {
    const counts = new Uint8Array(supply.kinds.length);
    let own: DataRate | undefined;
    const add = (key: string, count: number) => {
      const of = classOf.get(key);
      if (!of) return;
      counts[of.kind] = (counts[of.kind] ?? 0) + count;
      if (own === undefined || exactRate(of.own) < exactRate(own)) own = of.own;
    };
    for (const slotId of stay) add(slotId, 1);
    for (const [type, count] of takes) add(type, count);
    if (own === undefined) return false;
    if (rules.paired && machine.channels.length > 1 && arranger.sets.bestWidth(counts) === 1)
      return true;
    const reach =
      school === 'balanced'
        ? arranger.bestPairedReach(counts, own)
        : arranger.sets.bestReach(counts, own);
    return reach === 0;
  };
}

type Laid = Pick<Recipe, 'slots' | 'setting' | 'takes' | 'pack'>;

function kept({ fitted }: PlanQuery, from: SlotId, slotId: SlotId): PlannedUnit[] {
  const module = fitted[from];
  return module ? [{ slotId, module, source: { type: 'kept', from } }] : [];
}

function tryOut(
  query: PlanQuery,
  units: readonly PlannedUnit[][],
  rules: BatchRules,
): Laid | undefined {
  const flat = units.flat();
  const bare = { ...query, budget: undefined, offers: [] };
  for (const setting of query.settings) {
    const { objections, point } = assess(bare, flat, setting);
    // Profiles may help what does not run; what the school refuses it refuses with them as well.
    if (point.type !== 'runs') continue;
    if (objections.some(({ type }) => type !== 'no-price' && type !== 'stock')) return undefined;
    const width = Math.min(...point.layouts.map(({ regions }) => regions[0]?.channels.length ?? 1));
    const places = new Set(query.machine.slots.flatMap(({ channels }) => channels)).size;
    if (rules.paired && width < Math.min(2, places, query.machine.channels.length))
      return undefined;
    const slots = flat.map(({ slotId, source, module }) =>
      source.type === 'kept' ? { slotId, from: source.from } : { slotId, type: typeKey(module) },
    );
    return { slots, setting, takes: new Map(), pack: undefined };
  }
  return undefined;
}

/** The first way to lay a set over the slots that is admitted; modules that stay prefer to stay put. */
function arrange(
  query: PlanQuery,
  stay: readonly SlotId[],
  takes: ReadonlyMap<string, number>,
  types: ReadonlyMap<string, MemoryModule>,
  pack: string | undefined,
  rules: BatchRules,
): Laid | undefined {
  const { slots } = query.machine;
  const kitId = pack === undefined ? undefined : kitOf(pack, 0);
  const fill = (
    at: number,
    left: readonly SlotId[],
    open: ReadonlyMap<string, number>,
    units: readonly PlannedUnit[][],
  ): Laid | undefined => {
    const waiting = left.length + [...open.values()].reduce((sum, n) => sum + n, 0);
    const slot = slots[at];
    if (waiting > slots.length - at) return undefined;
    if (!slot) return tryOut(query, units, rules);
    const home = left.includes(slot.id) ? [slot.id, ...left.filter((id) => id !== slot.id)] : left;
    for (const from of home) {
      const rest = left.filter((id) => id !== from);
      const done = fill(at + 1, rest, open, [...units, kept(query, from, slot.id)]);
      if (done) return done;
    }
    for (const [type, count] of open) {
      const module = types.get(type);
      if (count === 0 || !module) continue;
      const unit: PlannedUnit = {
        slotId: slot.id,
        module: { ...module, kitId },
        source: { type: 'offer', offerId: pack ?? type, copy: 0 },
      };
      const done = fill(at + 1, left, new Map(open).set(type, count - 1), [...units, [unit]]);
      if (done) return done;
    }
    return fill(at + 1, left, open, units);
  };
  return fill(0, stay, takes, []);
}

/** Whether so much memory can meet the need at all, before anything is laid out. */
function canHold(
  { machine, fitted, need = 0 }: PlanQuery,
  stay: readonly SlotId[],
  takes: ReadonlyMap<string, number>,
  types: ReadonlyMap<string, MemoryModule>,
): boolean {
  let installed = machine.soldered.reduce((sum, { part }) => sum + part.capacity, 0);
  for (const id of stay) installed += fitted[id]?.capacity ?? 0;
  for (const [type, count] of takes) installed += count * (types.get(type)?.capacity ?? 0);
  if (machine.maxTotal !== 'unknown' && installed > machine.maxTotal) return false;
  return installed - machine.graphicsCarveOut.high >= need;
}

function subsets<T>(items: readonly T[]): T[][] {
  return items.reduce<T[][]>((all, item) => [...all, ...all.map((one) => [...one, item])], [[]]);
}

/** Kinds on offer up to which every two are tried together. */
const MIXED_MOST = 24;

/** For every type the later ones it may stand beside. */
function matesOf(
  types: ReadonlyMap<string, MemoryModule>,
  any: boolean,
): ReadonlyMap<string, readonly string[]> {
  const keyed = [...types].map(([key, module]) => ({ key, as: agreementOf(module, false) }));
  return new Map(
    keyed.map(({ key, as }, at) => [
      key,
      keyed.slice(at + 1).flatMap((other) => (any || agree(as, other.as) ? [other.key] : [])),
    ]),
  );
}

/** Multisets of a size out of one type, or two that may stand together. */
function* multisets(
  types: readonly string[],
  pairsOf: ReadonlyMap<string, readonly string[]>,
  count: number,
): Generator<Map<string, number>> {
  if (count === 0) {
    yield new Map();
    return;
  }
  for (const type of types) yield new Map([[type, count]]);
  for (const first of types)
    for (const second of pairsOf.get(first) ?? [])
      for (let some = 1; some < count; some++)
        yield new Map([
          [first, some],
          [second, count - some],
        ]);
}

function contains(
  larger: ReadonlyMap<string, number>,
  smaller: ReadonlyMap<string, number>,
): boolean {
  for (const [type, count] of smaller) if ((larger.get(type) ?? 0) < count) return false;
  return true;
}
