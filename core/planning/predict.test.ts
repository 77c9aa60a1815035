import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { compareSystems, systemOf } from '../timing-simulation/index.ts';
import type { Ratios } from '../timing-simulation/index.ts';
import { ACTIVITY_CLASSES, predictSimulated } from './index.ts';
import { dataRate } from '../units/index.ts';

const board = desktop();
const point = running(board, { a1: labelled('8GB 1Rx8 PC4-3200AA-UA2-11') });
const ratios = (bandwidth: number, idle: number, loaded = idle): Ratios => ({
  bandwidth: {
    ...{ stream: bandwidth, triad: bandwidth, random: bandwidth },
    ...{ graphics: bandwidth, desktop: bandwidth },
  },
  reply: { idle, loaded },
});
const gainOf = (found: Ratios, id: string) => {
  const { gains } = predictSimulated(point, point, found);
  const gain = gains.find(({ activity }) => activity.id === id);
  if (!gain) throw new Error(`expected ${id}`);
  return gain;
};

describe('what is promised from a simulation', () => {
  test('nothing changed is nothing gained, for every kind of work', () => {
    for (const { low, high } of predictSimulated(point, point, ratios(1, 1)).gains) {
      expect(low).toBeCloseTo(0, 9);
      expect(high).toBeCloseTo(0, 9);
    }
  });

  test('each kind goes by the way it moves memory', () => {
    const mixed: Ratios = {
      bandwidth: { stream: 1, triad: 1, random: 1, graphics: 2, desktop: 1 },
      reply: { idle: 1, loaded: 1 },
    };
    expect(gainOf(mixed, 'integrated').low).toBeGreaterThan(20);
    expect(gainOf(mixed, 'compression').high).toBeCloseTo(0, 9);
  });

  test('the range spans the shares, and the reply from rest to loaded', () => {
    const narrow = gainOf(ratios(2, 0.98), 'compression');
    const wide = gainOf(ratios(2, 0.98, 0.8), 'compression');
    expect(wide.low).toBeCloseTo(narrow.low, 9);
    expect(wide.high).toBeGreaterThan(narrow.high);
  });

  test('faster memory never promises less, slower never more', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 3, noNaN: true }),
        fc.double({ min: 1, max: 2, noNaN: true }),
        fc.double({ min: 0.6, max: 1.4, noNaN: true }),
        (bandwidth, more, reply) => {
          for (const { id } of ACTIVITY_CLASSES) {
            const one = gainOf(ratios(bandwidth, reply), id);
            const other = gainOf(ratios(bandwidth * more, reply / more), id);
            expect(other.low).toBeGreaterThanOrEqual(one.low - 1e-9);
            expect(other.high).toBeGreaterThanOrEqual(one.high - 1e-9);
            expect(one.high).toBeGreaterThanOrEqual(one.low);
          }
        },
      ),
    );
  });

  test('a controller clock that is halved makes every reply a tenth longer', () => {
    const fast = { ...point, clocks: 'in step' as const };
    const halved = { ...point, clocks: 'halved' as const };
    expect(predictSimulated(fast, halved, ratios(1, 1)).latencyRatio).toBeCloseTo(1.1, 9);
    expect(predictSimulated(halved, fast, ratios(1, 1)).latencyRatio).toBeCloseTo(1 / 1.1, 9);
  });
});

describe('what a change really gives', { timeout: 120_000 }, () => {
  const module = labelled('8GB 1Rx8 PC4-3200AA-UA2-11');
  const machine = desktop({ controllerLimit: dataRate(3200) });
  const made = (placement: Parameters<typeof running>[1]) => {
    const runs = running(machine, placement);
    const found = systemOf(machine, placement, runs);
    if (found.type !== 'system') throw new Error(found.type);
    return { runs, system: found.system };
  };
  const change = (from: Parameters<typeof running>[1], to: Parameters<typeof running>[1]) => {
    const [before, after] = [made(from), made(to)];
    const { gains, bandwidthRatio } = predictSimulated(
      before.runs,
      after.runs,
      compareSystems(before.system, after.system),
    );
    return {
      bandwidthRatio,
      of: (id: string) =>
        gains.find(({ activity }) => activity.id === id) ?? { low: NaN, high: NaN },
    };
  };

  test('a second equal module: streaming doubles, built-in graphics gain most, office nothing', () => {
    const { bandwidthRatio, of } = change({ a1: module }, { a1: module, b1: module });
    expect(bandwidthRatio).toBeGreaterThan(1.85);
    expect(bandwidthRatio).toBeLessThan(2.1);
    expect(of('integrated').low).toBeGreaterThan(20);
    expect(of('integrated').high).toBeLessThan(95);
    for (const id of ['office', 'rendering', 'graphics']) {
      expect(of(id).low).toBeGreaterThanOrEqual(-0.5);
      expect(of(id).high).toBeLessThan(3);
    }
  });

  test('CL 22 to 20 at the same rate is under 4 % everywhere', () => {
    const tight = { ...module, timings: { ...module.timings, cl: 20 } };
    const [before, after] = [made({ a1: module, b1: module }), made({ a1: tight, b1: tight })];
    const ratio = compareSystems(before.system, { ...after.system, cl: 20 });
    for (const { low, high } of predictSimulated(before.runs, after.runs, ratio).gains) {
      expect(low).toBeGreaterThan(-1);
      expect(high).toBeLessThan(4);
    }
  });
});
