import type { Compared } from '#core/promising';
import { Comparison } from '#core/timing-simulation';
import type { Memo, Profiles } from '#core/timing-simulation';

/** Time before other requests get their turn. */
const TURN_MS = 20;
const PIECE = 500;
const SEED = 1;

/** Runs of this server: like machines and plans are simulated once. */
const memo: Memo = new Map();
/** One after the other: several at once would only take one another’s turns. */
let last: Promise<unknown> = Promise.resolve();

/** Simulates both sides of a change in turns with other requests. */
export function simulateChange({ before, after, needed }: Compared): Promise<Profiles> {
  const run = async () => {
    const comparison = new Comparison(before, after, SEED, needed, memo);
    let turn = performance.now() + TURN_MS;
    while (!comparison.advance(PIECE)) {
      if (performance.now() < turn) continue;
      await new Promise((resume) => setImmediate(resume));
      turn = performance.now() + TURN_MS;
    }
    return comparison.profiles();
  };
  const next = last.then(run);
  last = next.catch(() => undefined);
  return next;
}
