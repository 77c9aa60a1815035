import type { Placement, Setting, SlotId } from '../machine/index.ts';
import { judgeMatch } from '../matching/index.ts';
import type { Grade, MatchReport, SchoolRow } from '../matching/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { operatingPoint, peakAtLoad } from '../operating-point/index.ts';
import type { Blocker, OperatingPoint, Running } from '../operating-point/index.ts';
import type { Minor, Plan, PlanQuery, PlannedUnit, PlanWorth } from './query.ts';
import { kitOf } from './supply.ts';

/** Why a plan is not admitted. */
export type Objection =
  | { readonly type: 'blocked'; readonly blockers: readonly Blocker[] }
  | { readonly type: 'short'; readonly usable: number; readonly need: number }
  | { readonly type: 'over-budget'; readonly cost: Minor; readonly budget: Minor }
  | { readonly type: 'refused'; readonly rows: readonly SchoolRow[] }
  | {
      readonly type: 'stock';
      readonly offerId: string;
      readonly packs: number;
      readonly stock: number;
    }
  | { readonly type: 'no-price'; readonly offerId: string }
  | { readonly type: 'setting'; readonly setting: Setting };

/**
 * Whether an objection makes a plan impossible. The others are a matter of opinion or of money: the
 * bench may still make such a plan by hand and quote it, with the objection said.
 */
export function isImpossible({ type }: Objection): boolean {
  return type === 'blocked' || type === 'stock' || type === 'no-price' || type === 'setting';
}

/** A plan looked at from all sides, admitted or not. */
export interface Assessment {
  /** Worth is only meaningful where the plan runs; a blocked one has no bandwidth. */
  readonly plan: Plan;
  readonly point: OperatingPoint;
  readonly match: MatchReport;
  /** Empty for a plan that is admitted. */
  readonly objections: readonly Objection[];
}

/**
 * Peak of the slowest region the need reaches, under the worse reading, GB/s.
 *
 * @param need - GiB with margin; absent = not stated
 */
export function bandwidthAtNeed(query: PlanQuery, point: Running): number {
  return bandwidthAtLoad(point, (query.need ?? 0) + query.machine.graphicsCarveOut.high);
}

/** Peak of the slowest region touched when so many GiB are laid in, under the worse reading; GB/s. */
export function bandwidthAtLoad(point: Running, load: number): number {
  return Math.min(...point.layouts.map((layout) => peakAtLoad(layout, load)));
}

/**
 * What a placement is worth by the rules of planning: cost, the six objectives, and every reason
 * against it. The search reports exactly the placements without an objection that nothing beats.
 */
export function assess(
  query: PlanQuery,
  units: readonly PlannedUnit[],
  setting: Setting,
): Assessment {
  const { machine } = query;
  const placement = placementOf(units);
  const point = operatingPoint(machine, placement, setting);
  const stance = {
    need: query.need,
    capacityFirst: query.capacityFirst,
    memoryTestPassed: query.memoryTestPassed,
  };
  const match = judgeMatch(machine, placement, setting, stance);
  const plan = describe(query, units, placement, setting, point, match.grade);
  const objections: Objection[] = [];
  if (!query.settings.includes(setting)) objections.push({ type: 'setting', setting });
  if (point.type === 'blocked') objections.push({ type: 'blocked', blockers: point.blockers });
  const { need, budget } = query;
  if (point.type === 'runs' && need !== undefined && point.usable.low < need)
    objections.push({ type: 'short', usable: point.usable.low, need });
  objections.push(...supplyObjections(query, plan));
  if (budget !== undefined && plan.cost.net > budget)
    objections.push({ type: 'over-budget', cost: plan.cost.net, budget });
  const verdict = match.schools.find(({ school }) => school === query.school);
  if (verdict?.judgement === 'refuse')
    objections.push({
      type: 'refused',
      rows: verdict.rows.filter(({ judgement }) => judgement === 'refuse'),
    });
  return { plan, point, match, objections };
}

function placementOf(units: readonly PlannedUnit[]): Placement {
  const placement: Partial<Record<SlotId, MemoryModule>> = {};
  for (const { slotId, module } of units) placement[slotId] = module;
  return placement;
}

function supplyObjections(query: PlanQuery, plan: Plan): Objection[] {
  return plan.purchases.flatMap(({ offerId, packs }): Objection[] => {
    const offer = query.offers.find(({ id }) => id === offerId);
    if (!offer || offer.price === 'unknown') return [{ type: 'no-price', offerId }];
    const { stock } = offer;
    return stock !== 'unknown' && packs > stock ? [{ type: 'stock', offerId, packs, stock }] : [];
  });
}

function describe(
  query: PlanQuery,
  units: readonly PlannedUnit[],
  placement: Placement,
  setting: Setting,
  point: OperatingPoint,
  grade: Grade,
): Plan {
  const { machine, fitted } = query;
  const stays = new Set<SlotId>();
  const moved: SlotId[] = [];
  const copies = new Map<string, Set<number>>();
  const drawer: string[] = [];
  for (const { slotId, source } of units) {
    if (source.type === 'kept') {
      stays.add(source.from);
      if (source.from !== slotId) moved.push(source.from);
    } else if (source.type === 'drawer') drawer.push(source.drawerId);
    else copies.set(source.offerId, (copies.get(source.offerId) ?? new Set()).add(source.copy));
  }
  const pulled = machine.slots.flatMap(({ id }) => (fitted[id] && !stays.has(id) ? [id] : []));
  const purchases = [...copies].map(([offerId, used]) => ({ offerId, packs: used.size }));
  const parts = partsPrice(query, purchases, drawer);
  const isOpened = units.length > stays.size || moved.length > 0 || pulled.length > 0;
  const labour = isOpened ? query.labour : 0;
  const credit = pulled.reduce((sum, slotId) => sum + (query.credit[slotId] ?? 0), 0);
  const cost = { parts, labour, credit, net: parts + labour - credit };
  const worth: PlanWorth = {
    cost: cost.net,
    usable: point.type === 'runs' ? point.usable.low : 0,
    bandwidth: point.type === 'runs' ? bandwidthAtNeed(query, point) : 0,
    grade,
    displaced: pulled.length,
    freeSlots: machine.slots.length - units.length,
  };
  const id = [setting, ...units.map(nameUnit).sort()].join(' ');
  return { id, setting, units, placement, purchases, drawer, pulled, moved, cost, worth };
}

function partsPrice(
  { offers, drawer }: PlanQuery,
  purchases: Plan['purchases'],
  taken: readonly string[],
): Minor {
  let sum = 0;
  for (const { offerId, packs } of purchases) {
    const price = offers.find(({ id }) => id === offerId)?.price;
    if (typeof price === 'number') sum += packs * price;
  }
  for (const drawerId of taken) sum += drawer.find(({ id }) => id === drawerId)?.price ?? 0;
  return sum;
}

function nameUnit({ slotId, source }: PlannedUnit): string {
  switch (source.type) {
    case 'kept':
      return `${slotId}=kept:${source.from}`;
    case 'drawer':
      return `${slotId}=drawer:${source.drawerId}`;
    case 'offer':
      return `${slotId}=${kitOf(source.offerId, source.copy)}`;
  }
}
