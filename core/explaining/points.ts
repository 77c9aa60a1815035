import type { Blocked, OperatingPoint, Running } from '../operating-point/index.ts';
import { explainBlocker } from './blockers.ts';
import { explainFlag } from './flags.ts';
import { explainRung } from './rungs.ts';
import { count, figure, gb } from './words.ts';
import type { Explanation, NameOf } from './words.ts';

/** How wide a running point is, in words: `24 of 36 GB paired`, `one channel wide`. */
export function widthText({ paired, installed, loads }: Running): string {
  const populated = loads.filter(({ capacity }) => capacity > 0).length;
  if (populated < 2 || paired === 0) return 'one channel wide';
  const word = populated === 2 ? 'paired' : `${populated} wide`;
  return paired === installed
    ? `all ${gb(installed)} ${word}`
    : `${gb(paired).replace(' GB', '')} of ${gb(installed)} ${word}`;
}

/** `DDR5-5200 · CL 42`. */
export function rateText({ generation, rate, timings }: Running): string {
  return `${generation}-${rate} · CL ${timings.cycles.cl}`;
}

/** One line for lists: `DDR4-2400 · CL 17 · all 16 GB paired · 38.4 GB/s`. */
export function pointText(point: OperatingPoint): string {
  return point.type === 'blocked'
    ? `Does not run: ${count(point.blockers.length, 'reason')}`
    : `${rateText(point)} · ${widthText(point)} · ${figure(point.peak)} GB/s`;
}

/** Usable capacity: `15.5 GB`, or a range `3 to 3.5 GB`. */
export function usableText({ usable: { low, high } }: Running): string {
  return low === high ? gb(low) : `${gb(low).replace(' GB', '')} to ${gb(high)}`;
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
