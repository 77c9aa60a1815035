import type { Machine, Placement, Setting } from '../machine/index.ts';
import type { Drive } from '../need/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import type { Running } from '../operating-point/index.ts';
import { bandwidthAtLoad } from '../planning/index.ts';
import { ratiosOf, systemOf } from '../timing-simulation/index.ts';
import type { MemorySystem, Profiles, Ratios } from '../timing-simulation/index.ts';
import { predict, predictSimulated } from './gains.ts';
import type { Gain } from './gains.ts';
import { KINDS_OF_WORK } from './kinds.ts';
import type { KindOfWork } from './kinds.ts';

/** One side of a change: what sits where, and how it is set. */
export interface Side {
  readonly placement: Placement;
  readonly setting: Setting;
}

/** A change of a machine's memory, for one customer. */
export interface Change {
  readonly machine: Machine;
  readonly before: Side;
  readonly after: Side;
  /** GiB in use at once, margin included; undefined where nobody said. */
  readonly need: number | undefined;
}

/** What is to be simulated: two systems, and the lines the work keeps in use. */
export interface Compared {
  readonly before: MemorySystem;
  readonly after: MemorySystem;
  readonly needed?: number | undefined;
}

/** What the promise of a change is made from besides the change itself. */
export interface Grounds {
  /** Kinds of work with their shares: the shop's own where it has enough jobs. */
  readonly kinds?: readonly KindOfWork[];
  /** Ids of the kinds that this customer does; all that can be where nobody said. */
  readonly own?: ReadonlySet<string> | undefined;
  /** What spills to it while memory is short. */
  readonly drive?: Drive;
  /** Both sides simulated, once they are. */
  readonly profiles?: Profiles | undefined;
  /** GB/s that the processor or fabric draws at most; undefined where nobody said. */
  readonly drawCap?: number | undefined;
}

/** Whether the work fits into memory: told first and apart, since no speed makes up for it. */
export type Room =
  | { readonly type: 'fitted before' }
  | { readonly type: 'fits now'; readonly short: number; readonly drive: Drive }
  | {
      readonly type: 'still short';
      readonly short: number;
      readonly wasShort: number;
      readonly drive: Drive;
    };

/** What a simulation of both sides gave: new over old, and how far a reply at rest moves, ns. */
export interface SimulatedChange {
  readonly ratios: Ratios;
  readonly reply: number;
}

/** What a change promises. */
export interface PlanPromise {
  readonly basis: 'simulated' | 'reckoned';
  /** Undefined where it is reckoned only. */
  readonly simulated: SimulatedChange | undefined;
  /** Undefined where the need is not known. */
  readonly room: Room | undefined;
  readonly bandwidthRatio: number;
  readonly latencyRatio: number;
  /** Kinds of work of this customer, and the rest. */
  readonly own: readonly Gain[];
  readonly others: readonly Gain[];
  readonly before: Running;
  readonly after: Running;
}

/** What runs on both sides; undefined where one of them does not. */
function pointsOf({ machine, before, after }: Change) {
  const was = operatingPoint(machine, before.placement, before.setting);
  const will = operatingPoint(machine, after.placement, after.setting);
  return was.type === 'runs' && will.type === 'runs' ? { was, will } : undefined;
}

/** GiB that the work and built-in graphics take together. */
const loadOf = ({ need, machine }: Change): number => (need ?? 0) + machine.graphicsCarveOut.high;

const LINES_PER_GIB = 2 ** 24;

/** The systems to simulate for a change; undefined where one does not run or nobody knows its times. */
export function comparedOf(change: Change): Compared | undefined {
  const points = pointsOf(change);
  if (!points) return undefined;
  const { machine, before, after, need } = change;
  const was = systemOf(machine, before.placement, points.was);
  const will = systemOf(machine, after.placement, points.will);
  if (was.type !== 'system' || will.type !== 'system') return undefined;
  const needed = need === undefined ? undefined : Math.round(loadOf(change) * LINES_PER_GIB);
  return { before: was.system, after: will.system, needed };
}

/**
 * What a change promises this customer: room first, then each kind of work as a range, from both sides
 * simulated where they are, from rate, channels and times until then.
 *
 * @returns undefined where nothing ran before, or nothing would after
 */
export function promiseOf(change: Change, grounds: Grounds = {}): PlanPromise | undefined {
  const points = pointsOf(change);
  if (!points) return undefined;
  const { was, will } = points;
  const { kinds = KINDS_OF_WORK, own, profiles, drawCap } = grounds;
  const load = loadOf(change);
  const side = (point: Running) => ({ point, bandwidth: bandwidthAtLoad(point, load) });
  const { gains, bandwidthRatio, latencyRatio } = profiles
    ? predictSimulated(was, will, profiles, kinds, drawCap)
    : predict(side(was), side(will), kinds, drawCap);
  const possible = gains.filter(({ kind }) => canBe(kind, change.machine));
  const isOwn = ({ kind }: Gain) => own === undefined || own.has(kind.id);
  return {
    basis: profiles ? 'simulated' : 'reckoned',
    simulated: profiles && {
      ratios: ratiosOf(profiles, drawCap),
      reply: profiles.after.reply.idle - profiles.before.reply.idle,
    },
    room: roomOf(change, was, will, grounds.drive ?? 'unknown'),
    ...{ bandwidthRatio, latencyRatio, before: was, after: will },
    own: possible.filter(isOwn),
    others: possible.filter((gain) => !isOwn(gain)),
  };
}

/** Graphics either share the memory or have their own. */
const canBe = ({ id }: KindOfWork, { graphicsCarveOut }: Machine): boolean =>
  id !== (graphicsCarveOut.high > 0 ? 'graphics' : 'integrated');

function roomOf(
  { need }: Change,
  { usable: { low: had } }: Running,
  { usable: { low: has } }: Running,
  drive: Drive,
): Room | undefined {
  if (need === undefined) return undefined;
  if (had >= need) return { type: 'fitted before' };
  if (has >= need) return { type: 'fits now', short: need - had, drive };
  return { type: 'still short', short: need - has, wasShort: need - had, drive };
}

/** Below this many percent either way nobody notices a change. */
export const NOTICED = 5;

/** Whether a gain is one that anybody would notice. */
export const isNoticed = ({ low, high }: Pick<Gain, 'low' | 'high'>): boolean =>
  Math.max(Math.abs(low), Math.abs(high)) >= NOTICED;

/** The gain that says most to this customer; undefined where none of theirs would be noticed. */
export function leadingGain({ own }: Pick<PlanPromise, 'own'>): Gain | undefined {
  const middle = ({ low, high }: Gain) => Math.abs(low + high);
  return own
    .filter((gain) => isNoticed(gain) && gain.kind.detailOf === undefined)
    .sort((a, b) => middle(b) - middle(a))[0];
}

/** A promise as it was given, in figures a proof can be held against. */
export interface MadePromise {
  readonly simulated: SimulatedChange | null;
  /** Percent of speed by kind of work; none where memory was short before: there capacity made the gain. */
  readonly gains: readonly { readonly kind: string; readonly low: number; readonly high: number }[];
}

/** The figures of a promise. */
export function madeOf({ simulated, room, own, others }: PlanPromise): MadePromise {
  const gains = room?.type === 'fitted before' ? [...own, ...others] : [];
  return {
    simulated: simulated ?? null,
    gains: gains.map(({ kind, low, high }) => ({ kind: kind.id, low, high })),
  };
}
