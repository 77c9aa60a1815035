import { nodeSolver } from '../test/support/solver.ts';
import type * as planningRoom from '#core/planning';
import { SCHOOLS } from '#core/matching';
import type { School } from '#core/matching';
import { bigBoard, bigQuery, madeUpMarket } from './planWorlds.ts';
import { builtRoom } from './built.ts';
import { ms, times } from './table.ts';
import type { Row } from './table.ts';

interface Timed {
  readonly firstMs: number;
  readonly allMs: number;
  readonly front: number;
  readonly isComplete: boolean;
}

/** Enough plans to start talking about. */
const USEFUL = 5;

/** Plan searches of the largest size asked for, how they grow, and a batch. */
export async function benchPlanning(): Promise<Row[]> {
  const { PlanSearch, planBatch } = await builtRoom<typeof planningRoom>('planning');
  const timed = (
    channels: number,
    slots: number,
    entries: number,
    profiles: boolean,
    school: School,
    sizes?: readonly number[],
  ): Timed => {
    const market = madeUpMarket(entries, 60, profiles, sizes);
    const query = bigQuery(bigBoard(channels, slots), market, school);
    const start = performance.now();
    const search = new PlanSearch(query);
    const run = search.run(() => performance.now() - start > 10_000);
    let firstMs = 0;
    for (let step = run.next(); ; step = run.next()) {
      if (!step.done && firstMs === 0 && step.value.found >= USEFUL) {
        search.result();
        firstMs = performance.now() - start;
      }
      if (!step.done) continue;
      const allMs = performance.now() - start;
      const { plans, complete } = step.value;
      return { firstMs: firstMs || allMs, allMs, front: plans.length, isComplete: complete };
    }
  };
  timed(4, 2, 100, true, 'balanced'); // to warm up
  // Something plain of the same kind: sorting as many numbers as a large search looks at sets.
  const plain = () => {
    const start = performance.now();
    Float64Array.from({ length: 1_000_000 }, (_, at) => (at * 7919) % 1_000_003).sort();
    return performance.now() - start;
  };
  const yard = Math.min(plain(), plain(), plain());

  const rows: Row[] = [];
  for (const [channels, slots] of [
    [4, 2],
    [2, 4],
  ] as const)
    for (const profiles of [false, true]) {
      const all = SCHOOLS.map((school) => timed(channels, slots, 400, profiles, school));
      const slowest = Math.max(...all.map(({ allMs }) => allMs));
      const first = Math.max(...all.map(({ firstMs }) => firstMs));
      const isComplete = all.every((one) => one.isComplete);
      const what = `8 slots (${channels} × ${slots}), 400 entries, 60 drawer${profiles ? ', profiles' : ''}`;
      rows.push(
        {
          what: `exact front, every school: ${what}`,
          measured: `${ms(slowest)} (${all.map(({ front }) => front).join(', ')} plans)`,
          wanted: '< 2000 ms',
          holds: isComplete && slowest < 2000,
          yardstick: `${ms(yard)} to sort a million numbers, ${times(slowest, yard)}`,
        },
        {
          what: `first plans: ${what}`,
          measured: ms(first),
          wanted: '< 200 ms',
          holds: first < 200,
          yardstick: times(first, yard),
        },
      );
    }
  // Seven sizes in one or two ranks: fourteen kinds no rule of the operating point confuses.
  const fourteen = SCHOOLS.map((school) =>
    timed(4, 2, 400, true, school, [2, 4, 8, 12, 16, 24, 32]),
  );
  const slowest = Math.max(...fourteen.map(({ allMs }) => allMs));
  rows.push({
    what: 'exact front, every school: 8 slots (4 × 2), 14 kinds, profiles',
    measured: `${ms(slowest)} (${fourteen.map(({ front }) => front).join(', ')} plans)`,
    wanted: '< 2000 ms',
    holds: fourteen.every(({ isComplete }) => isComplete) && slowest < 2000,
    yardstick: times(slowest, yard),
  });
  const heap = process.memoryUsage().heapUsed / 1e6;
  rows.push({
    what: 'heap after all of these',
    measured: `${Math.round(heap)} MB`,
    wanted: '< 200 MB',
    holds: heap < 200,
    yardstick: '',
  });
  printGrowth(timed);
  rows.push(await batchRow(planBatch));
  return rows;
}

function printGrowth(timed: (...args: [number, number, number, boolean, School]) => Timed): void {
  console.log('\nGrowth of the exact front, balanced school with profiles: ms (plans)');
  const sizes = [50, 100, 200, 400, 1000];
  console.log(
    ['slots', ...sizes.map((size) => `${size} entries`)].map((cell) => cell.padEnd(16)).join(''),
  );
  for (const [channels, slots] of [
    [2, 1],
    [2, 2],
    [4, 2],
    [2, 4],
  ] as const) {
    const cells = sizes.map((entries) => {
      const { allMs, front, isComplete } = timed(channels, slots, entries, true, 'balanced');
      return `${Math.round(allMs)} (${front})${isComplete ? '' : ' cut short'}`;
    });
    console.log([`${channels} × ${slots}`, ...cells].map((cell) => cell.padEnd(16)).join(''));
  }
}

/** Twenty machines of five kinds, 60 drawer modules, 100 entries, one order. */
async function batchRow(planBatch: typeof planningRoom.planBatch): Promise<Row> {
  const solve = await nodeSolver();
  const market = madeUpMarket(100, 60, false);
  const machines = Array.from({ length: 20 }, (_, at) => {
    const board = bigBoard(2, at % 5 === 4 ? 2 : 1);
    const { offers: _o, drawer: _d, ...query } = bigQuery(board, market, 'balanced');
    return { id: `m${at}`, query: { ...query, need: 20 + 8 * (at % 4) } };
  });
  const start = performance.now();
  const result = planBatch({ machines, ...market, rules: { paired: true } }, solve, 4);
  const took = performance.now() - start;
  const gap = result.total - result.bound;
  return {
    what: 'batch: 20 machines, 60 drawer, 100 entries',
    measured: `${ms(took)}, ${result.isOptimal ? 'proven best' : `gap ${gap} of ${result.total}`}`,
    wanted: '< 5000 ms or a proven gap',
    holds: result.unserved.length === 0 && (took < 5000 || result.bound > 0),
    yardstick: `${result.plans.length} served, ${result.drawer.length} out of the drawer`,
  };
}
