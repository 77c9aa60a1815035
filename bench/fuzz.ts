import { fuzzInventory } from '../test/support/fuzzInventory.ts';

/** The nightly run: 200,000 inputs, another seed each day of the month, memory watched. */
const INPUTS = 200_000;
const ROUNDS = 10;
const day = Number(process.argv[2] ?? new Date().getDate());

const heap = () => {
  globalThis.gc?.();
  return process.memoryUsage().heapUsed / 2 ** 20;
};
fuzzInventory(2000, day); // what is loaded and compiled once is no leak
const before = heap();
let slowest = 0;
let failed = false;
for (let round = 0; round < ROUNDS; round++) {
  const { thrown, slowestMs, kinds } = fuzzInventory(INPUTS / ROUNDS, day * 1000 + round);
  slowest = Math.max(slowest, slowestMs);
  for (const one of thrown.slice(0, 3)) console.error(one);
  failed ||= thrown.length > 0;
  console.log(
    `round ${round + 1}: ${thrown.length} thrown, slowest ${slowestMs.toFixed(1)} ms, ${JSON.stringify(kinds)}`,
  );
}
const growth = heap() - before;
console.log(
  `${INPUTS} inputs, slowest ${slowest.toFixed(1)} ms, heap ${growth >= 0 ? '+' : ''}${growth.toFixed(1)} MB`,
);
if (failed || slowest > 20 || growth > 20) process.exitCode = 1;
