import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Load } from './board.ts';
import { stackColumns } from './stacking.ts';

const anyStack = fc.record({
  /** Slots of each channel; channels with as many are interchangeable. */
  slots: fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 1, maxLength: 4 }),
  lefts: fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 1, maxLength: 3 }),
  /** Which tokens do not agree in a row, by both their places. */
  quarrels: fc.array(fc.tuple(fc.nat(2), fc.nat(2)), { maxLength: 2 }),
});

/** What loads come to where interchangeable channels are exchanged. */
const told = (alike: readonly number[], loads: readonly Load[]): string =>
  loads
    .map(({ capacity, modules, ranks, unranked }, at) =>
      [alike[at], capacity, modules, ranks, unranked].join(),
    )
    .sort()
    .join(' ');

test('in any order, a stacking is visited for every sum of loads there is, and fewer of them', () => {
  let [all, few] = [0, 0];
  fc.assert(
    fc.property(anyStack, ({ slots, lefts, quarrels }) => {
      const channels = slots.map((count, channel) =>
        Array.from({ length: count }, (_, at) => `${channel}${at}`),
      );
      const board = {
        channels: channels.map((ids) => ({
          ...{ slots: ids, alike: ids.length, rooms: undefined },
          soldered: { capacity: 0, modules: 0, ranks: 0, unranked: 0 },
        })),
        hasOwnMaxima: false,
        fits: () => true,
      };
      const kinds = lefts.map((_, at) => ({ capacity: 2 ** at, ranks: at === 2 ? NaN : at + 1 }));
      const visited = (anyOrder: boolean) => {
        const loadsSeen: string[] = [];
        const tokens = lefts.map((left, kind) => ({ kind, left }));
        stackColumns(
          board,
          kinds,
          tokens,
          [],
          (a, b) =>
            !quarrels.some(
              ([one, other]) =>
                one !== other &&
                ((a.kind === one && b.kind === other) || (a.kind === other && b.kind === one)),
            ),
          (_, loads) => {
            loadsSeen.push(
              told(
                board.channels.map(({ alike }) => alike),
                loads,
              ),
            );
            return true;
          },
          anyOrder,
        );
        return loadsSeen;
      };
      const [each, once] = [visited(false), visited(true)];
      expect(new Set(once)).toEqual(new Set(each));
      all += each.length;
      few += once.length;
    }),
    { numRuns: 300 },
  );
  expect(few).toBeLessThan(all / 2);
});
