import { decodeText, readInventory, readScreen } from '#core/inventory';
import { readFrames } from '#core/proving';
import { AWKWARD, awkward } from '../test/support/awkwardBytes.ts';
import type { NightRow } from './writers.ts';

const READERS: Readonly<Record<string, (bytes: Uint8Array) => unknown>> = {
  inventory: readInventory,
  screen: (bytes) => readScreen(decodeText(bytes)),
  frames: (bytes) => readFrames(decodeText(bytes)),
};

const SIZE = 2 ** 20;
/** Time at twice the size; a reader that grows with the square comes to four. */
const MOST = 2.6;
/** Shorter times tell of the clock and the collector, not of the reader. */
const LEAST_MS = 8;
const TRIES = 5;
const LOOKS = 3;

function shortest(run: () => unknown): number {
  let best = Infinity;
  for (let at = 0; at < TRIES; at++) {
    const start = performance.now();
    run();
    best = Math.min(best, performance.now() - start);
  }
  return best;
}

/** Every reader over awkward bytes, at one size and at twice that. */
export function double(): NightRow {
  const ratios = Object.entries(READERS).flatMap(([reader, read]) =>
    Object.keys(AWKWARD).flatMap((shape) => {
      const [small, large] = [awkward(shape, SIZE), awkward(shape, 2 * SIZE)];
      let ratio = Infinity;
      // A machine busy with something else for a moment is given another chance; a slow reader is not helped.
      for (let looks = 0; looks < LOOKS && ratio > MOST; looks++) {
        const before = shortest(() => read(small));
        if (before < LEAST_MS) return [];
        ratio = Math.min(ratio, shortest(() => read(large)) / before);
      }
      return [{ what: `${reader}, ${shape}`, ratio }];
    }),
  );
  const worst = ratios.reduce((one, other) => (other.ratio > one.ratio ? other : one));
  return {
    what: `twice the size, ${ratios.length} times`,
    found: `worst ratio ${worst.ratio.toFixed(2)} (${worst.what}), most ${MOST}`,
    holds: worst.ratio <= MOST,
  };
}
