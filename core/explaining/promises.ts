import type { Drive } from '../need/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import type { OperatingPoint } from '../operating-point/index.ts';
import type { Plan, PlanQuery } from '../planning/index.ts';
import { isNoticed, leadingGain, NOTICED } from '../promising/index.ts';
import type { Gain, PlanPromise, Room, Share } from '../promising/index.ts';
import type { Ratios } from '../timing-simulation/index.ts';
import { rateText, usableText, widthText } from './points.ts';
import { explainGrade } from './schools.ts';
import { figure, gb } from './words.ts';
import type { Explanation } from './words.ts';

/** A gain as a range in whole percent, which is what it can bear: `+25 to +60 %`, `up to +8 %`. */
export function gainRangeText({ low, high }: Pick<Gain, 'low' | 'high'>): string {
  if (!isNoticed({ low, high })) return 'no change to notice';
  const signed = (value: number) => {
    const whole = Math.round(value);
    return whole === 0 ? '0' : `${whole < 0 ? '−' : '+'}${Math.abs(whole)}`;
  };
  if (high >= NOTICED && Math.abs(low) < NOTICED) return `up to ${signed(high)} %`;
  if (low <= -NOTICED && Math.abs(high) < NOTICED) return `up to ${signed(low)} %`;
  return signed(low) === signed(high)
    ? `about ${signed(low)} %`
    : `${signed(low)} to ${signed(high)} %`;
}

/** Why a kind of work waits for memory as much as it does, by its id. */
const WORK_WHY: Readonly<Record<string, string>> = {
  office: 'It waits for people, pages and the drive.',
  integrated: 'Graphics without memory of their own draw every picture out of this memory.',
  games: 'Each frame walks through more than the caches hold, in leaps and in runs.',
  'games-low': 'The slowest frames are those that load and unpack; they wait the longest.',
  graphics: 'The card has memory of its own, and the processor waits for it.',
  compression: 'All cores look up a dictionary that is larger than the caches.',
  compiling: 'Many small trees are walked by pointer; most of them stay in the caches.',
  photo: 'A filter goes over the whole picture; a brush stays in the caches.',
  film: 'Frames pass through once; coding them keeps the processor busy.',
  rendering: 'It reckons far longer on each line than it waits for it.',
  virtual: 'Guests share the caches and push one another out; each is a desktop of its own.',
  numeric: 'Large grids and thin matrices stream from memory; dense ones stay in the caches.',
};

/** The assumptions behind a gain. */
export function explainGainRange({ kind, low, high }: Gain): Explanation {
  const share = ({ low: from, high: to }: Share) =>
    `${figure(from * 100, 2)} to ${figure(to * 100, 2)} %`;
  return {
    title: `${kind.name}: ${gainRangeText({ low, high })}`,
    why: `${WORK_WHY[kind.id] ?? ''} Assumes that ${share(kind.bandwidth)} of its time waits for bandwidth and ${share(kind.latency)} for replies. What was paged to the drive before gains more; that is not in it.`,
    mend: 'Measure before and after: that is what counts.',
    source: 'speed = 1 / ((1 − β − λ) + β / B + λ · L)',
  };
}

/** Which of the two models a promise comes from. */
export const basisText = ({ basis }: Pick<PlanPromise, 'basis'>): string =>
  basis === 'simulated'
    ? 'Simulated for this machine, as it was found and as planned.'
    : 'Reckoned from rate, channels and times; not simulated.';

/** As an order of magnitude: a tenth of a millisecond, ten milliseconds, beside a ten-thousandth of one. */
const SPILLS: Readonly<Record<Drive, string>> = {
  'solid state': 'about a thousand times as long as from memory',
  spinning: 'about a hundred thousand times as long as from memory',
  unknown:
    'a thousand times as long as from memory on a solid-state drive, a hundred thousand times on a spinning one',
};

/** Whether the work fits, in whole sentences. */
export function roomText(room: Room, need: number): string {
  const needs = `Your work needs about ${gib(need)}, some margin included.`;
  switch (room.type) {
    case 'fitted before':
      return `${needs} That fits already: more memory alone will not make it faster.`;
    case 'fits now':
      return `${needs} Now ${gib(room.short)} of it does not fit and spills to the drive; what is fetched from there takes ${SPILLS[room.drive]}. Then all of it fits: that is what you will notice first.`;
    case 'still short':
      return room.short < room.wasShort
        ? `${needs} Now ${gib(room.wasShort)} of it does not fit; then ${gib(room.short)} still does not, and goes on spilling to the drive, which takes ${SPILLS[room.drive]}.`
        : `${needs} ${gib(room.short)} of it does not fit, before or after, and spills to the drive, which takes ${SPILLS[room.drive]}.`;
  }
}

const gib = (amount: number) => gb(Number(amount.toFixed(1)));

/** The promise in a few words: room first, then the kind of work of this customer that gains most. */
export function promiseHeadline(promise: PlanPromise): string {
  const { room } = promise;
  if (room?.type === 'fits now') return 'all of the work fits, no more spilling to the drive';
  if (room?.type === 'still short') return `still ${gib(room.short)} short`;
  const leading = leadingGain(promise);
  return leading ? `${gainRangeText(leading)} in ${leading.kind.short}` : 'no change to notice';
}

/** What a plan promises a customer and what it does not, in plain words. */
export function promiseText(query: PlanQuery, plan: Plan, promise: PlanPromise | undefined) {
  const { machine, fitted } = query;
  const state = (point: OperatingPoint) =>
    point.type === 'runs'
      ? `${usableText(point)} usable, ${rateText(point)}, ${widthText(point)}`
      : 'does not run';
  const before = promise?.before ?? operatingPoint(machine, fitted, 'standard');
  const after = promise?.after ?? operatingPoint(machine, plan.placement, plan.setting);
  const room = promise?.room;
  const told = promise?.own ?? [];
  // Beside room that was wanting a gain nobody notices would only take away from it.
  const wasShort = room?.type === 'fits now' || room?.type === 'still short';
  const gains = wasShort ? told.filter(isNoticed) : told;
  const of = wasShort ? ', where it fitted before' : '';
  return {
    now: state(before),
    then: state(after),
    room: room ? roomText(room, query.need ?? 0) : '',
    gains: gains.map((gain) => `${gain.kind.name}${of}: ${gainRangeText(gain)}`),
    not: notPromised(plan),
    basis: promise ? basisText(promise) : '',
  };
}

function notPromised(plan: Plan): string[] {
  return [
    'A figure measured on another machine: what yours gains is measured before and after, and shown to you.',
    'More speed from memory you do not use: beyond what your work needs it smooths, it does not speed up.',
    ...(plan.worth.grade === 'one kit' || plan.units.length < 2
      ? []
      : [
          `Modules from one sealed pack: this set is ${explainGrade(plan.worth.grade)}, and is tested together here.`,
        ]),
    ...(plan.setting === 'profile'
      ? [
          'The profile’s speed on every sample: if it does not pass the test, it runs at the standard setting.',
        ]
      : []),
  ];
}

const change = (ratio: number) =>
  Math.abs(ratio - 1) < NOTICED / 100 ? 'no change to tell' : `× ${figure(ratio, 3)}`;

/** What a simulation of both sides gave, in words, and what it leaves out. */
export function explainRatios({ bandwidth, reply }: Ratios): Explanation {
  const moved = [
    ['reading on and on', bandwidth.stream],
    ['reading and writing in turns', bandwidth.triad],
    ['single lines anywhere', bandwidth.random],
    ['built-in graphics', bandwidth.graphics],
  ] as const;
  return {
    title: 'Both sides were simulated, command by command',
    why: `Moved: ${moved.map(([name, ratio]) => `${name} ${change(ratio)}`).join(', ')}. Time of a whole reply, controller and fabric included: at rest ${change(reply.idle)}, under the same load ${change(reply.loaded)}.`,
    mend: 'A processor or fabric that cannot draw as much keeps less of it. Measure before and after.',
    source: 'JESD79-3, -4, -5; docs/simulation.md',
  };
}
