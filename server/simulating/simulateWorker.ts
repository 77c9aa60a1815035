import type { Compared } from '#core/promising';
import { compareSystems } from '#core/timing-simulation';
import type { Memo, Profiles } from '#core/timing-simulation';

/** Runs of this thread: like machines and plans are simulated once. */
const memo: Memo = new Map();

/** What the simulation’s own thread does: both sides of one change at a time. */
export default function simulate({ before, after, needed }: Compared): Profiles {
  return compareSystems(before, after, memo, needed);
}
