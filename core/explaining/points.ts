import type { Machine } from '../machine/index.ts';
import { transfersPerClock } from '../memory/index.ts';
import { peakAtLoad } from '../operating-point/index.ts';
import type { Blocked, OperatingPoint, Rung, Running } from '../operating-point/index.ts';
import { explainBlocker } from './blockers.ts';
import { explainFlag } from './flags.ts';
import { explainRung } from './rungs.ts';
import { channelsWord, count, figure, gb, list, places, plural } from './words.ts';
import type { Explanation, NameOf } from './words.ts';

/** How wide a running point is, in words: `24 of 36 GB dual-channel`, `single-channel`. */
export function widthText({ paired, installed, loads }: Running): string {
  const populated = loads.filter(({ capacity }) => capacity > 0).length;
  if (populated < 2 || paired === 0) return channelsWord(1);
  const word = channelsWord(populated);
  return paired === installed
    ? `${gb(installed)} ${word}`
    : `${gb(paired).replace(' GB', '')} of ${gb(installed)} ${word}`;
}

/** `DDR5-5200 · CL 42`. */
export function rateText({ generation, rate, timings }: Running): string {
  return `${generation}-${rate} · CL ${timings.cycles.cl}`;
}

/** One line for lists: `DDR4-2400 · CL 17 · 16 GB dual-channel · 38.4 GB/s`. */
export function pointText(point: OperatingPoint): string {
  return point.type === 'blocked'
    ? `Does not run: ${count(point.blockers.length, 'reason')}`
    : `${rateText(point)} · ${widthText(point)} · ${figure(point.peak)} GB/s`;
}

/** Usable capacity: `15.5 GB`, or a range `3 to 3.5 GB`. */
export function usableText({ usable: { low, high } }: Running): string {
  return low === high ? gb(low) : `${gb(low).replace(' GB', '')} to ${gb(high)}`;
}

const HOLDS: Readonly<Record<Rung['rule'], (where: string) => string>> = {
  'slowest-module': (where) => `the slowest module (${where})`,
  profile: (where) => `the lowest overclock profile (${where})`,
  'rate-table': () => 'the number of modules and ranks on a channel',
  controller: () => 'the memory controller',
  'firmware-cap': () => 'a cap of the firmware',
  'profile-ceiling': () => 'the board’s ceiling for profiles',
  'common-cl': () => 'the CAS latencies the modules share',
};

/**
 * What keeps a machine from more, a few words each: what sets its rate, and what runs narrower than
 * its channels allow. Reasons and mends stand in {@link explainPoint}.
 */
export function heldBackBy(
  { rungs, rate, loads, paired, installed }: Running,
  nameOf: NameOf,
): string[] {
  const binding = rungs
    .filter(({ role }) => role === 'binds')
    .map(({ rule, slotIds }) => `${HOLDS[rule](places(slotIds, nameOf))} at ${rate} MT/s`);
  const empty = loads.filter(({ capacity }) => capacity === 0).map(({ channel }) => channel);
  const filled = loads.length - empty.length;
  const narrow =
    filled > 1 && paired < installed
      ? [
          paired === 0
            ? 'unequal channels, which this machine runs one by one'
            : `${gb(installed - paired)} without a partner in another channel`,
        ]
      : [];
  const unused =
    empty.length > 0
      ? [`${empty.length === 1 ? 'channel' : plural('channel')} ${list(empty)} left empty`]
      : [];
  return [...binding, ...unused, ...narrow];
}

/** Every reason behind a point, blockers or rungs and flags, in order. */
export function explainPoint(point: OperatingPoint, nameOf: NameOf): Explanation[] {
  return point.type === 'blocked'
    ? explainBlockers(point, nameOf)
    : [
        ...point.rungs
          .filter(({ role }) => role === 'binds')
          .map((rung) => explainRung(rung, nameOf)),
        ...point.flags.map((flag) => explainFlag(flag, nameOf)),
      ];
}

function explainBlockers({ blockers }: Blocked, nameOf: NameOf): Explanation[] {
  return blockers.map((blocker) => explainBlocker(blocker, nameOf));
}

/** Why the rate and its timings are what they are: what binds, and the CL in time. */
export function explainRate(point: Running, nameOf: NameOf): Explanation[] {
  const { rate, timings, generation } = point;
  const { cycles, firstWord } = timings;
  const others = [cycles.trcd, cycles.trp, cycles.tras].filter((value) => value !== undefined);
  return [
    ...point.rungs.filter(({ role }) => role === 'binds').map((rung) => explainRung(rung, nameOf)),
    {
      title: `CL ${[cycles.cl, ...others].join('-')} is ${figure(firstWord)} ns latency`,
      why: `At ${rate} MT/s, CL × ${transfersPerClock(generation) * 1000} ÷ rate. Each timing is the longest any module needs, in time and not in clocks, rounded as ${generation} rounds.`,
      source: 'JEDEC SPD rounding rules; a slow module drags rate and timings of all',
    },
  ];
}

/** Why so much runs side by side: each channel's load, and how interleaving fills them. */
export function explainWidth(point: Running, nameOf: NameOf): Explanation[] {
  const loads = point.loads.map(
    ({ channel, capacity }) => `${channel} ${capacity > 0 ? gb(capacity) : 'empty'}`,
  );
  const related = point.flags.filter(({ type }) => /channel/.test(type));
  return [
    {
      title: `Channels hold ${loads.join(', ')}`,
      why: 'Capacity is laid over all populated channels up to the smallest; what is left over runs single-channel.',
      source: 'Interleaving fills channels to equal height, then goes on with those that hold more',
    },
    ...related.map((flag) => explainFlag(flag, nameOf)),
  ];
}

/** The arithmetic of the peak, and which region it is for. */
export function explainPeak(
  point: Running,
  channelBits: number,
  need: number | undefined,
): Explanation[] {
  const [layout] = point.layouts;
  const peak = need === undefined ? point.peak : peakAtLoad(layout, need);
  const region = layout.regions.find((one) => one.peak === peak);
  const width = region?.channels.length ?? 1;
  const where =
    need === undefined
      ? 'the widest region'
      : `the slowest region that ${gb(need)} of need touches, laid in widest first`;
  return [
    {
      title: `${count(width, 'channel')} × ${channelBits} bits × ${point.rate} MT/s ÷ 8 = ${figure(peak)} GB/s`,
      why: `This is the bus's peak in ${where}, in 10⁹ bytes a second. Programs reach about 70 % of it.`,
      mend: 'A higher rate, or more of the capacity side by side.',
    },
  ];
}

/** What is taken off the installed capacity. */
export function explainUsable(
  point: Running,
  { osLimit, graphicsCarveOut }: Machine,
): Explanation[] {
  const limit =
    osLimit === 'none'
      ? 'no limit of the operating system'
      : `an operating system limit of ${gb(osLimit.low)} to ${gb(osLimit.high)}`;
  const graphics =
    graphicsCarveOut.high > 0
      ? `${gb(graphicsCarveOut.low)} to ${gb(graphicsCarveOut.high)} for built-in graphics`
      : 'nothing for graphics';
  return [
    {
      title: `${gb(point.installed)} installed, ${usableText(point)} usable`,
      why: `With ${limit}, less ${graphics}.`,
      mend: 'These are traits of the machine; correct its description where they are wrong.',
    },
  ];
}
