import { slotMaximum, withListed } from '../machine/index.ts';
import type { Machine, SlotId } from '../machine/index.ts';
import { partKey, ratingOf, ratingsAgree, specOf, specsAgree } from '../matching/index.ts';
import type { Rating, Spec } from '../matching/index.ts';
import { cyclesAt, generationTraits, isLowPower, snapDown } from '../memory/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { findBlockers } from '../operating-point/index.ts';
import type { Blocker } from '../operating-point/index.ts';
import { exactRate, lowestRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import type { Minor, Offer, PlanQuery } from './query.ts';

/** Something that yields modules for money: an offer, or one drawer module. */
export interface Source {
  readonly type: 'offer' | 'drawer';
  readonly id: string;
  readonly module: MemoryModule;
  readonly units: number;
  readonly price: Minor;
  /** Purchases possible. */
  readonly copies: number;
}

/** The name modules of one opened pack share. */
export function kitOf(offerId: string, copy: number): string {
  return `${offerId}#${copy + 1}`;
}

/** A fitted module that may stay. */
export interface Fitted {
  readonly slotId: SlotId;
  readonly module: MemoryModule;
  readonly credit: Minor;
}

/** Why an offer or drawer module takes no part in a search. */
export type Exclusion = { readonly id: string; readonly from: 'offer' | 'drawer' } & (
  | { readonly type: 'does-not-fit'; readonly blockers: readonly Blocker[] }
  | { readonly type: 'no-price' }
  | { readonly type: 'no-stock' }
  | { readonly type: 'faulty' | 'suspect' }
);

/**
 * The machine with what the shop itself has verified in it counted as listed.
 */
export function withVerified(machine: Machine, offers: readonly Offer[]): Machine {
  const verified = offers.flatMap(({ verified: is, module }) =>
    is && module.partNumber !== undefined ? [module.partNumber] : [],
  );
  return withListed(machine, verified);
}

/** What keeps a module out of every slot of a machine, whatever else is fitted. */
export function blockersAlone(machine: Machine, module: MemoryModule): Blocker[] {
  const roomOf = (slot: Machine['slots'][number]) => {
    const most = slotMaximum(machine, slot);
    return most === 'unknown' ? Infinity : most;
  };
  const [slot] = [...machine.slots].sort((a, b) => roomOf(b) - roomOf(a));
  if (!slot) return [];
  const bare: Machine = { ...machine, soldered: [], requiredFirstSlot: 'none' };
  const part = { module, slotId: slot.id, channels: slot.channels.slice(0, module.channels ?? 1) };
  return findBlockers(bare, { [slot.id]: module }, [part], []);
}

/** Sorts what is on offer into what can be planned with and what cannot, with the reason. */
export function sourcesOf(query: PlanQuery): { sources: Source[]; exclusions: Exclusion[] } {
  const sources: Source[] = [];
  const exclusions: Exclusion[] = [];
  const most = query.machine.slots.length;
  const keep = (source: Source, from: Exclusion['from']) => {
    const blockers = blockersAlone(query.machine, source.module);
    if (blockers.length === 0) sources.push(source);
    else exclusions.push({ id: source.id, from, type: 'does-not-fit', blockers });
  };
  for (const { id, module, units, price, stock } of query.offers) {
    const copies = Math.min(stock === 'unknown' ? most : stock, most);
    if (price === 'unknown') exclusions.push({ id, from: 'offer', type: 'no-price' });
    else if (copies < 1) exclusions.push({ id, from: 'offer', type: 'no-stock' });
    else keep({ type: 'offer', id, module, units, price, copies }, 'offer');
  }
  for (const { id, module, state, price } of query.drawer) {
    if (state === 'faulty' || state === 'suspect')
      exclusions.push({ id, from: 'drawer', type: state });
    else keep({ type: 'drawer', id, module, units: 1, price, copies: 1 }, 'drawer');
  }
  return { sources, exclusions };
}

/** Modules that no rule of the search tells apart. */
export interface ModuleClass {
  readonly id: number;
  /** What lets its modules agree with one another: their spec, else their part, else only the pack. */
  readonly by: 'spec' | 'part' | 'pack';
  /** Behaviour in the operating point, as a number; see {@link Supply.kinds}. */
  readonly kind: number;
  /** Classes that may stand in one row of channels together, directly or over a third. */
  component: number;
  readonly keys: Agreement;
  /** Slowest bin, or with profiles the profile's rate. */
  readonly own: DataRate;
  /** Orders classes by speed: a set runs no faster than its slowest; exact MT/s. */
  readonly speed: number;
  readonly sources: Source[];
  readonly fitted: Fitted[];
}

/** What decides whether two modules agree as a pair (see the balanced school). */
export interface Agreement {
  readonly capacity: number;
  readonly rating: Rating;
  readonly spec: Spec;
  readonly part: string | undefined;
  readonly kit: string | undefined;
}

export function agreementOf(module: MemoryModule, profiled: boolean): Agreement {
  return {
    capacity: module.capacity,
    rating: ratingOf(module, profiled),
    spec: specOf(module, profiled),
    part: partKey(module),
    kit: module.kitId,
  };
}

/** Whether two modules agree as a pair: kit, part or spec, or for unlike sizes the rating. */
export function agree(a: Agreement, b: Agreement): boolean {
  if (a.capacity !== b.capacity) return ratingsAgree(a.rating, b.rating);
  return (
    (a.kit !== undefined && a.kit === b.kit) ||
    (a.part !== undefined && a.part === b.part) ||
    specsAgree(a.spec, b.spec)
  );
}

/** Equal for specs that are the same in all, unstated timings included. */
export const specText = ({ body, rating }: Spec): string => `${body} ${rating.key}`;

/** Whether modules agree that leave different timings unstated: then agreeing is not handed on. */
function hasGaps(all: readonly Agreement[]): boolean {
  const known = new Map<string, Rating[]>();
  for (const { rating } of all) {
    const alike = known.get(rating.base) ?? [];
    if (alike.some((one) => one.key !== rating.key && ratingsAgree(one, rating))) return true;
    known.set(rating.base, [...alike, rating]);
  }
  return false;
}

/** What the operating point makes of a module, but for its rate. */
export interface Kind {
  readonly capacity: number;
  /** NaN where unknown; 0 where the machine does not ask. */
  readonly ranks: number;
  readonly example: MemoryModule;
  /** Its profile is above the machine's ceiling. */
  readonly over: boolean;
  readonly hasProfile: boolean;
}

/** All that can be placed, under one setting. */
export interface Supply {
  readonly profiled: boolean;
  /** A set of modules that all have profiles would use them, and so belongs elsewhere. */
  readonly mustMiss: boolean;
  /** Some module lists the CLs it supports, so that a common one has to be found. */
  readonly masks: boolean;
  /** Some labels leave out timings that others state. */
  readonly gaps: boolean;
  readonly classes: readonly ModuleClass[];
  readonly kinds: readonly Kind[];
  readonly keysOf: ReadonlyMap<Source | Fitted, Agreement>;
}

/**
 * Sorts sources and fitted modules into classes.
 *
 * @param ranksMatter - the machine states limits by ranks
 * @param mustMiss - see {@link Supply.mustMiss}
 */
export function buildSupply(
  machine: Machine,
  sources: readonly Source[],
  fitted: readonly Fitted[],
  profiled: boolean,
  { ranksMatter, mustMiss }: { ranksMatter: boolean; mustMiss: boolean },
): Supply {
  const all = [...sources, ...fitted].map(({ module }) => module);
  const soldered = machine.soldered.map(({ part }) => part);
  const masks = !profiled && [...all, ...soldered].some((one) => one.supportedCls !== undefined);
  const kinds: Kind[] = [];
  const kindIds = new Map<string, number>();
  const classes = new Map<string, ModuleClass>();
  const specsOfPart = new Map<string, Set<string>>();
  for (const module of [...all, ...soldered]) {
    const { part, spec } = agreementOf(module, profiled);
    if (part === undefined) continue;
    const known = specsOfPart.get(part) ?? new Set();
    specsOfPart.set(part, known.add(specText(spec)));
  }
  const isIrregularPart = (part: string | undefined) =>
    part !== undefined && (specsOfPart.get(part)?.size ?? 0) > 1;
  const limit = lowestRate(
    [machine.firmwareCap, profiled ? machine.profiles.ceiling : machine.controllerLimit].filter(
      (one) => typeof one === 'number',
    ),
  );

  const classFor = (module: MemoryModule, loner: string): ModuleClass | undefined => {
    if (profiled && !module.profile) return undefined;
    const own = (profiled ? module.profile?.rate : undefined) ?? module.rate;
    const over = profiled && limit !== undefined && exactRate(own) > exactRate(limit);
    const speed = over ? exactRate(limit) + OVER : speedOf(module, own, limit, profiled);
    if (speed === undefined) return undefined;
    const kindKey = JSON.stringify([
      ...[module.capacity, ranksMatter ? module.ranks : 0, module.generation, module.buffering],
      ...[module.channels ?? 1, over, mustMiss && !module.profile, masks ? clKey(module) : 0],
      machine.voltagesMv.filter((mv) => module.voltagesMv.includes(mv)),
    ]);
    let kind = kindIds.get(kindKey);
    if (kind === undefined) {
      const ranks = !ranksMatter ? 0 : module.ranks === 'unknown' ? NaN : module.ranks;
      const hasProfile = module.profile !== undefined;
      const { capacity } = module;
      kind = kinds.push({ capacity, ranks, example: module, over, hasProfile }) - 1;
      kindIds.set(kindKey, kind);
    }
    const keys = agreementOf(module, profiled);
    const strange = isIrregularPart(keys.part);
    // Same spec agrees whatever the part; without a spec only the part, without a part only the pack.
    const identity = strange || !keys.spec.known ? (keys.part ?? loner) : '';
    const key = JSON.stringify([kind, specText(keys.spec), identity]);
    let found = classes.get(key);
    if (!found) {
      const by = identity === '' ? 'spec' : keys.part === undefined ? 'pack' : 'part';
      const id = classes.size;
      found = { id, by, kind, component: 0, keys, own, speed, sources: [], fitted: [] };
      classes.set(key, found);
    }
    return found;
  };
  const keysOf = new Map<Source | Fitted, Agreement>();
  for (const source of sources) {
    classFor(source.module, `${source.type} ${source.id}`)?.sources.push(source);
    keysOf.set(source, agreementOf(source.module, profiled));
  }
  for (const one of fitted) {
    classFor(one.module, one.module.kitId ?? one.slotId)?.fitted.push(one);
    keysOf.set(one, agreementOf(one.module, profiled));
  }
  const list = [...classes.values()];
  const onBoard = soldered.map((part) => agreementOf(part, profiled));
  joinComponents(list, onBoard);
  const gaps = hasGaps([...list.map(({ keys }) => keys), ...onBoard]);
  return { profiled, mustMiss, masks, gaps, classes: list, kinds, keysOf };
}

/** Profiles above the ceiling are all clipped alike; any rate clearly above it stands for them, MT/s. */
const OVER = 50;

/** What a set of such modules could at best run at, exact MT/s; absent below every standard rate. */
function speedOf(
  { generation }: MemoryModule,
  own: DataRate,
  limit: DataRate | undefined,
  profiled: boolean,
): number | undefined {
  const isFree = limit === undefined || exactRate(own) <= exactRate(limit);
  const lowest = isFree ? own : limit;
  if (isLowPower(generation) || (profiled && isFree)) return exactRate(lowest);
  const rate = snapDown(generation, lowest);
  return rate === undefined ? undefined : exactRate(rate);
}

/** The clocks a module needs at each rate it may be run at, and the CLs it supports. */
function clKey(module: MemoryModule): unknown {
  const { generation, supportedCls } = module;
  const needs = generationTraits(generation)
    .standardRates.filter((rate) => exactRate(rate) <= exactRate(module.rate))
    .map((rate) => cyclesAt(module, 'cl', generation, rate));
  return [needs, supportedCls];
}

/** Classes are in one component when a chain of agreeing modules, soldered ones too, could join them. */
function joinComponents(classes: readonly ModuleClass[], soldered: readonly Agreement[]): void {
  const nodes = [...classes.map(({ keys }) => keys), ...soldered];
  const parent = nodes.map((_, at) => at);
  const root = (at: number): number => {
    const up = parent[at] ?? at;
    return up === at ? at : (parent[at] = root(up));
  };
  const join = (a: number, b: number) => {
    parent[root(a)] = root(b);
  };
  const firstOf = new Map<string, number>();
  nodes.forEach((keys, at) => {
    // Kits are asked after one by one: a class names only its first module's.
    const bare = { ...keys, kit: undefined };
    for (let other = 0; other < at; other++)
      if (root(other) !== root(at) && agree(bare, nodes[other] ?? bare)) join(at, other);
    for (const { module } of classes[at]?.fitted ?? []) {
      if (module.kitId === undefined) continue;
      const other = firstOf.get(module.kitId);
      if (other === undefined) firstOf.set(module.kitId, at);
      else join(at, other);
    }
  });
  classes.forEach((one, at) => (one.component = root(at)));
}
