import { nextSlots } from '../machine/index.ts';
import type { Machine, Placement, Setting, Slot } from '../machine/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import type { Running } from '../operating-point/index.ts';
import { assess, isImpossible, isUntouched } from '../planning/index.ts';
import type { Offer, Plan, PlanQuery, PlannedUnit } from '../planning/index.ts';
import { systemOf } from '../timing-simulation/index.ts';
import type { MemorySystem, Profiles, SystemOf } from '../timing-simulation/index.ts';
import { predictSimulated } from './gains.ts';
import type { Gain } from './gains.ts';
import type { KindOfWork } from './kinds.ts';
import type { Compared, Side } from './promise.ts';

/** What memory can be short of, each to be changed alone. */
export const LEVERS = ['room', 'channels', 'rate', 'timings', 'ranks', 'chips'] as const;
/** See {@link LEVERS}. */
export type Lever = (typeof LEVERS)[number];

/** One thing that may hold a machine back. */
export interface Limit {
  readonly lever: Lever;
  /** `here`: nothing better can be had in this machine; `not known`: nobody knows what is fitted. */
  readonly state: 'to gain' | 'here' | 'not known';
  /** What is there, and the best there is for this machine: GB, channels, MT/s, ns, ranks, bits of a chip. */
  readonly from: number;
  readonly to: number;
  /** What to simulate; none for room. */
  readonly compared?: Compared;
  /** The cheapest way there on offer; absent where nothing on offer brings it. */
  readonly means?: Plan;
  /** What the profile that is there brings by itself, where that is less than the best. */
  readonly byProfile?: { readonly to: number; readonly plan: Plan };
}

/** What limits a machine, and the point it is judged from. */
export interface Limits {
  readonly point: Running;
  readonly limits: readonly Limit[];
}

/** A way of filling the machine that can be had, and what it makes. */
interface Way {
  readonly plan: Plan;
  readonly point: Running;
  readonly system: MemorySystem;
}

/**
 * What holds a machine’s memory back: rate, times, channels, ranks, width of the chips and room, each
 * changed alone to the best that the offers (for channels: the board) can bring, with the cheapest way
 * there. Nothing may get smaller for it.
 *
 * @returns undefined where what was found does not run, or nobody knows its times
 */
export function limitsOf(query: PlanQuery, found: Side): Limits | undefined {
  const { machine, need } = query;
  const point = operatingPoint(machine, found.placement, found.setting);
  if (point.type !== 'runs') return undefined;
  const now = systemOf(machine, found.placement, point);
  if (now.type !== 'system') return undefined;
  const ways = waysOf(query, found).filter((way) => way.point.usable.low >= point.usable.low);
  const load = (need ?? 0) + machine.graphicsCarveOut.high;
  const needed = need === undefined ? undefined : Math.round(load * LINES_PER_GIB);
  const against = (after: MemorySystem): Compared => ({ before: now.system, after, needed });
  const cheapest = (isThere: (way: Way) => boolean): Plan | undefined =>
    ways.filter(isThere).sort((a, b) => a.plan.cost.net - b.plan.cost.net)[0]?.plan;
  const limits = LEVERS.map((lever): Limit => {
    const {
      from,
      to,
      after,
      brings,
      isKnown = true,
    } = RULES[lever]({ query, point, now, ways }, load);
    if (!isKnown) return { lever, state: 'not known', from, to };
    if (to === from) return { lever, state: 'here', from, to };
    const means = cheapest(brings);
    return {
      ...{ lever, state: 'to gain', from, to },
      ...(after && { compared: against(after) }),
      ...(means && { means }),
      ...(lever === 'rate' && profileAlone(ways, from, to)),
    };
  });
  return { point, limits };
}

function profileAlone(ways: readonly Way[], from: number, to: number): Pick<Limit, 'byProfile'> {
  const way = ways.find(({ plan }) => isUntouched(plan) && plan.setting === 'profile');
  return way && way.system.rate > from && way.system.rate < to
    ? { byProfile: { to: way.system.rate, plan: way.plan } }
    : {};
}

const LINES_PER_GIB = 2 ** 24;

interface Seen {
  readonly query: PlanQuery;
  readonly point: Running;
  readonly now: Extract<SystemOf, { type: 'system' }>;
  readonly ways: readonly Way[];
}

interface Ruled {
  readonly from: number;
  readonly to: number;
  /** The system with this alone changed; absent where there is nothing to change. */
  readonly after?: MemorySystem;
  readonly brings: (way: Way) => boolean;
  readonly isKnown?: boolean;
}

/** A share of a nanosecond nobody measures. */
const SAME_NS = 0.01;

const RULES: Readonly<Record<Lever, (seen: Seen, load: number) => Ruled>> = {
  room: ({ query: { need = 0 }, point }) => ({
    isKnown: need > 0,
    from: point.usable.low,
    to: Math.max(need, point.usable.low),
    brings: (way) => way.point.usable.low >= need,
  }),

  channels: ({ query: { machine }, point, now: { system } }, load) => {
    const all = new Set(machine.channels.filter((id) => feeds(machine, id)));
    const from = widthAt(point, load);
    const total = system.zones.reduce((sum, { lines }) => sum + lines, 0);
    const zone = { channels: [...all].map((_, at) => at), lines: total };
    const after = {
      ...system,
      ranks: zone.channels.map((at) => system.ranks[at] ?? 1),
      zones: [zone],
    };
    return { from, to: all.size, after, brings: (way) => widthAt(way.point, load) >= all.size };
  },

  rate: ({ point, now: { system }, ways }) => {
    const to = Math.max(system.rate, ...ways.map((way) => way.system.rate));
    // The same times in nanoseconds: rate alone.
    const cycles = (count: number) => Math.max(1, Math.round((count * to) / system.rate));
    const after = {
      ...{ ...system, rate: to, cl: cycles(system.cl), rcd: cycles(system.rcd) },
      ...{ rp: cycles(system.rp), ras: system.ras && cycles(system.ras) },
    };
    return { from: point.rate, to, after, brings: (way) => way.system.rate >= to };
  },

  timings: ({ point, now: { system }, ways }) => {
    const quick = ways.filter((way) => way.system.rate >= system.rate);
    const from = point.timings.firstWord;
    const best = quick.sort((a, b) => a.point.timings.firstWord - b.point.timings.firstWord)[0];
    const to = Math.min(from, best?.point.timings.firstWord ?? from);
    const isThere = (way: Way) =>
      way.system.rate >= system.rate && way.point.timings.firstWord <= to + SAME_NS;
    if (!best || to > from - SAME_NS) return { from, to: from, brings: isThere };
    const cycles = (count: number) => Math.ceil((count * system.rate) / best.system.rate);
    const { cl, rcd, rp, ras } = best.system;
    const after = {
      ...{ ...system, cl: cycles(cl), rcd: cycles(rcd), rp: cycles(rp), ras: ras && cycles(ras) },
    };
    return { from, to, after, brings: isThere };
  },

  ranks: ({ now: { system, supposed } }) => {
    const from = Math.min(...system.ranks);
    const to = Math.max(2, from);
    const after = { ...system, ranks: system.ranks.map((ranks) => Math.max(2, ranks)) };
    const isKnown = !supposed.includes('ranks');
    return { from, to, after, isKnown, brings: (way) => Math.min(...way.system.ranks) >= 2 };
  },

  chips: ({ now: { system, supposed } }) => {
    const from = system.chipWidth;
    const to = Math.min(8, from);
    const after = { ...system, chipWidth: to };
    const isKnown = !supposed.includes('chip width');
    return { from, to, after, isKnown, brings: (way) => way.system.chipWidth <= 8 };
  },
};

/** Channels side by side in the narrowest part the load reaches. */
function widthAt({ layouts }: Running, load: number): number {
  let [reached, width] = [0, Infinity];
  for (const { channels, capacity } of layouts[0].regions) {
    if (reached > 0 && reached >= load) break;
    width = Math.min(width, channels.length);
    reached += capacity;
  }
  return width;
}

const feeds = ({ slots, soldered }: Machine, channel: string): boolean =>
  slots.some(({ channels }) => channels.includes(channel)) ||
  soldered.some((part) => part.channel === channel);

/** Ways to fill the machine from the offers: the same slots anew, one more in each idle channel, one in each. */
function waysOf(query: PlanQuery, found: Side): Way[] {
  const { machine, fitted } = query;
  const kept = machine.slots.filter(({ id }) => fitted[id]);
  const slotsFor = (placement: Placement, count: number) =>
    nextSlots(machine, placement, count).flatMap(
      (slotId) => machine.slots.find(({ id }) => id === slotId) ?? [],
    );
  const unused = machine.channels.filter(
    (channel) =>
      feeds(machine, channel) &&
      !machine.soldered.some((part) => part.channel === channel) &&
      !kept.some(({ channels }) => channels.includes(channel)),
  );
  const idle = slotsFor(fitted, unused.length);
  const each = slotsFor({}, machine.channels.length);
  const stay = kept.flatMap(({ id }): PlannedUnit[] => {
    const module = fitted[id];
    return module ? [{ slotId: id, module, source: { type: 'kept', from: id } }] : [];
  });
  const ways = [{ units: stay, setting: 'profile' as Setting }];
  for (const offer of cheapestOfEach(query)) {
    const anew = (slots: readonly Slot[], more: readonly PlannedUnit[] = []) => [
      ...more,
      ...slots.map(({ id }, at): PlannedUnit => {
        const copy = Math.floor(at / offer.units);
        return {
          slotId: id,
          module: offer.module,
          source: { type: 'offer', offerId: offer.id, copy },
        };
      }),
    ];
    const sets = [anew(kept), anew(each), ...(idle.length > 0 ? [anew(idle, stay)] : [])];
    const settings: Setting[] = offer.module.profile ? ['standard', 'profile'] : ['standard'];
    for (const units of sets) for (const setting of settings) ways.push({ units, setting });
  }
  return ways.flatMap(({ units, setting }) => {
    if (
      units.length === 0 ||
      (setting === 'profile' && found.setting === 'profile' && units === stay)
    )
      return [];
    const { plan, point, objections } = assess(query, units, setting);
    if (point.type !== 'runs' || objections.some(isImpossible)) return [];
    const made = systemOf(machine, plan.placement, point);
    return made.type === 'system' ? [{ plan, point, system: made.system }] : [];
  });
}

/** Of offers that are the same for memory the cheapest; those that cannot sit here or have no price not at all. */
function cheapestOfEach({ machine, offers }: PlanQuery): Offer[] {
  const best = new Map<string, Offer>();
  for (const offer of offers) {
    const { module, units, price } = offer;
    if (price === 'unknown' || !machine.generations.includes(module.generation)) continue;
    if (module.formFactor !== machine.formFactor) continue;
    const { maker: _maker, partNumber: _part, kitId: _kit, ...same } = module;
    const key = JSON.stringify([same, units]);
    const known = best.get(key);
    if (!known || known.price === 'unknown' || price < known.price) best.set(key, offer);
  }
  return [...best.values()];
}

/** What a limit would give a kind of work, once it is simulated. */
export function gainOfLimit(
  point: Running,
  kind: KindOfWork,
  profiles: Profiles,
  drawCap?: number,
): Gain | undefined {
  return predictSimulated(point, point, profiles, [kind], drawCap).gains[0];
}

/** Of several kinds of work the one that waits most for memory: the one limits are shown for. */
export function mostBound(kinds: readonly KindOfWork[]): KindOfWork | undefined {
  const share = ({ bandwidth, latency }: KindOfWork) => bandwidth.high + latency.high;
  return kinds
    .filter(({ detailOf }) => detailOf === undefined)
    .sort((a, b) => share(b) - share(a))[0];
}
