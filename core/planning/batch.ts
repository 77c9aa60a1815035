import type { Recipe, BatchRules } from './batchRecipes.ts';
import { recipesFor, typeKey } from './batchRecipes.ts';
import { assess } from './assess.ts';
import type { DrawerModule, Minor, Offer, Plan, PlanQuery, PlannedUnit } from './query.ts';
import { boughtModule, sourceOf } from './slotBySlot.ts';
import { sourcesOf, withVerified } from './supply.ts';
import type { Source } from './supply.ts';

/** One machine of a batch; what is on offer is shared. */
export interface BatchMachine {
  readonly id: string;
  readonly query: Omit<PlanQuery, 'offers' | 'drawer'>;
}

/** Machines, one drawer and one order. */
export interface BatchQuery {
  readonly machines: readonly BatchMachine[];
  readonly offers: readonly Offer[];
  readonly drawer: readonly DrawerModule[];
  readonly rules: BatchRules;
}

/** What a solver of linear programs with whole numbers answers. */
export interface Solved {
  readonly status: 'optimal' | 'stopped' | 'infeasible';
  readonly objective: number;
  readonly values: Readonly<Record<string, number>>;
}

/**
 * Solves a program in the LP text format. Handed in, so that the core does not care which solver it
 * is or how it is loaded.
 */
export type Solver = (lp: string, timeLimitS: number) => Solved;

/** Plans for all machines of a batch. */
export interface BatchResult {
  readonly plans: readonly { readonly machineId: string; readonly plan: Plan }[];
  /** Machines nothing admitted was found for; the rest is planned without them. */
  readonly unserved: readonly string[];
  readonly total: Minor;
  /** No assignment of the sets considered is cheaper than this. */
  readonly bound: Minor;
  readonly isOptimal: boolean;
  readonly purchases: readonly { readonly offerId: string; readonly packs: number }[];
  readonly drawer: readonly string[];
  /** Modules of opened packs that no machine takes: they go to the drawer. */
  readonly left: readonly { readonly offerId: string; readonly count: number }[];
}

interface Group {
  readonly machines: readonly BatchMachine[];
  readonly query: PlanQuery;
  readonly recipes: readonly Recipe[];
}

/**
 * Shares drawer and order out over machines at least cost: every machine's need and match rules are
 * met, packs are bought whole but may be split over machines, no module is used twice.
 */
export function planBatch(query: BatchQuery, solve: Solver, timeLimitS = 5): BatchResult {
  const groups = groupMachines(query);
  const served = groups.filter(({ recipes }) => recipes.length > 0);
  const unserved = groups
    .filter(({ recipes }) => recipes.length === 0)
    .flatMap(({ machines }) => machines.map(({ id }) => id));
  const sources = uniqueSources(served);
  const model = writeModel(served, sources, true);
  const solved = solve(model, timeLimitS);
  const isServed = served.every(({ machines, recipes }, group) => {
    const placed = recipes.map((_, at) => Math.round(solved.values[`x${group}_${at}`] ?? 0));
    return placed.reduce((sum, one) => sum + one, 0) === machines.length;
  });
  // Stopped before anything was found, or more wanted than there is: nobody is served half.
  if (served.length === 0 || solved.status === 'infeasible' || !isServed)
    return nothing(query.machines.map(({ id }) => id));
  const isSolved = solved.status === 'optimal';
  // Stopped early: the program without whole numbers bounds what could still be gained.
  const least = isSolved
    ? solved.objective
    : solve(writeModel(served, sources, false), 5).objective;
  const bound = Math.ceil(least - 1e-6);
  const result = handOut(served, sources, solved);
  return { ...result, unserved, bound, isOptimal: isSolved || result.total <= bound };
}

function nothing(unserved: readonly string[]): BatchResult {
  const none = { plans: [], purchases: [], drawer: [], left: [] };
  return { ...none, unserved, total: 0, bound: 0, isOptimal: true };
}

/** Like machines share their recipes. */
function groupMachines({ machines, offers, drawer, rules }: BatchQuery): Group[] {
  const alike = new Map<string, BatchMachine[]>();
  for (const machine of machines) {
    const key = JSON.stringify({
      ...machine.query,
      machine: { ...machine.query.machine, name: '' },
    });
    alike.set(key, [...(alike.get(key) ?? []), machine]);
  }
  return [...alike.values()].flatMap((list): Group[] => {
    const [first] = list;
    if (!first) return [];
    const machine = withVerified(first.query.machine, offers);
    const query: PlanQuery = { ...first.query, machine, offers, drawer };
    return [{ machines: list, query, recipes: recipesFor(query, sourcesOf(query).sources, rules) }];
  });
}

function uniqueSources(groups: readonly Group[]): Source[] {
  const sources = new Map<string, Source>();
  for (const { query } of groups)
    for (const source of sourcesOf(query).sources) {
      const offer = query.offers.find(({ id }) => id === source.id);
      const stock = offer?.stock ?? 'unknown';
      const copies = source.type === 'drawer' ? 1 : stock === 'unknown' ? 1000 : stock;
      sources.set(`${source.type} ${source.id}`, { ...source, copies });
    }
  return [...sources.values()];
}

/** The program: x = machines of a group by recipe, b = packs to share, k = packs for one machine. */
function writeModel(groups: readonly Group[], sources: readonly Source[], whole: boolean): string {
  const costs: string[] = [];
  const rows: string[] = [];
  const bounds: string[] = [];
  const names: string[] = [];
  const term = (factor: number, name: string) =>
    `${factor < 0 ? '-' : '+'} ${Math.abs(factor)} ${name}`;
  const uses = new Map<string, string[]>();
  const packs = new Map<string, string[]>();
  const add = (map: Map<string, string[]>, key: string, text: string) => {
    map.set(key, [...(map.get(key) ?? []), text]);
  };
  groups.forEach(({ machines, recipes }, group) => {
    const all = recipes.map((recipe, at) => {
      const name = `x${group}_${at}`;
      names.push(name);
      bounds.push(`0 <= ${name} <= ${machines.length}`);
      costs.push(term(recipe.cost, name));
      if (recipe.pack !== undefined) add(packs, recipe.pack, term(1, name));
      else for (const [type, count] of recipe.takes) add(uses, type, term(count, name));
      return term(1, name);
    });
    rows.push(`${all.join(' ')} = ${machines.length}`);
  });
  sources.forEach((source, at) => {
    const shared = `b${at}`;
    names.push(shared);
    bounds.push(`0 <= ${shared} <= ${source.copies}`);
    costs.push(term(source.price, shared));
    const type = typeKey(source.module);
    if (uses.has(type)) add(uses, type, term(-source.units, shared));
    const kits = packs.get(source.id);
    if (!kits) return;
    const own = `k${at}`;
    names.push(own);
    bounds.push(`0 <= ${own} <= ${source.copies}`);
    costs.push(term(source.price, own));
    rows.push(`${kits.join(' ')} - 1 ${own} <= 0`);
    rows.push(`1 ${shared} + 1 ${own} <= ${source.copies}`);
  });
  for (const list of uses.values()) rows.push(`${list.join(' ')} <= 0`);
  const lines = [
    'Minimize',
    ` obj: ${costs.join(' ')}`,
    'Subject To',
    ...rows.map((row, at) => ` r${at}: ${row}`),
    'Bounds',
    ...bounds.map((bound) => ` ${bound}`),
    ...(whole ? ['General', ` ${names.join(' ')}`] : []),
    'End',
  ];
  return lines.join('\n');
}

/** Turns the program's numbers into modules for machines. */
function handOut(
  groups: readonly Group[],
  sources: readonly Source[],
  { values }: Solved,
): Omit<BatchResult, 'unserved' | 'bound' | 'isOptimal'> {
  const amount = (name: string) => Math.round(values[name] ?? 0);
  /** Single modules ready to be given out, by type. */
  const pool = new Map<string, { readonly source: Source; readonly copy: number }[]>();
  const kits = new Map<string, { readonly source: Source; copy: number }>();
  const purchases: { offerId: string; packs: number }[] = [];
  const drawer: string[] = [];
  sources.forEach((source, at) => {
    const shared = amount(`b${at}`);
    const own = amount(`k${at}`);
    const list = pool.get(typeKey(source.module)) ?? [];
    pool.set(typeKey(source.module), list);
    for (let copy = 0; copy < shared; copy++)
      for (let unit = 0; unit < source.units; unit++) list.push({ source, copy });
    if (own > 0) kits.set(source.id, { source, copy: shared });
    if (source.type === 'drawer' && shared > 0) drawer.push(source.id);
    else if (shared + own > 0) purchases.push({ offerId: source.id, packs: shared + own });
  });
  const plans: { machineId: string; plan: Plan }[] = [];
  groups.forEach(({ machines, recipes, query }, group) => {
    const waiting = [...machines];
    recipes.forEach((recipe, at) => {
      for (let count = amount(`x${group}_${at}`); count > 0; count--) {
        const machine = waiting.shift();
        if (!machine) return;
        const kit = recipe.pack === undefined ? undefined : kits.get(recipe.pack);
        const units = recipe.slots.flatMap((slot): PlannedUnit[] => {
          const { slotId } = slot;
          if ('from' in slot) {
            const module = query.fitted[slot.from];
            return module ? [{ slotId, module, source: { type: 'kept', from: slot.from } }] : [];
          }
          const given = kit ?? pool.get(slot.type)?.shift();
          if (!given) throw new Error('expected the program to hand out no more than there is');
          const module = boughtModule(given.source, given.copy);
          return [{ slotId, module, source: sourceOf(given.source, given.copy) }];
        });
        if (kit) kit.copy += 1;
        plans.push({ machineId: machine.id, plan: assess(query, units, recipe.setting).plan });
      }
    });
  });
  const left = new Map<string, number>();
  for (const list of pool.values())
    for (const { source } of list) left.set(source.id, (left.get(source.id) ?? 0) + 1);
  const partsOf = (id: string) => sources.find((one) => one.id === id)?.price ?? 0;
  const parts =
    purchases.reduce((sum, { offerId, packs }) => sum + packs * partsOf(offerId), 0) +
    drawer.reduce((sum, id) => sum + partsOf(id), 0);
  const work = plans.reduce((sum, { plan }) => sum + plan.cost.labour - plan.cost.credit, 0);
  return {
    ...{ plans, purchases, drawer },
    total: parts + work,
    left: [...left].map(([offerId, count]) => ({ offerId, count })),
  };
}
