import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyDdr4, anyFourChannelMachine, anyPlacement } from '../../test/support/arbitraries.ts';
import { desktop, labelled } from '../../test/support/builders.ts';
import type { Profile } from '../timing-simulation/index.ts';
import { gib } from '../units/index.ts';
import {
  comparedOf,
  isNoticed,
  KINDS_OF_WORK,
  leadingGain,
  madeOf,
  NOTICED,
  promiseOf,
} from './index.ts';
import type { Change } from './index.ts';

const eight = labelled('8GB 1Rx8 PC4-3200AA-UA2-11');
const one = { placement: { a1: eight }, setting: 'standard' } as const;
const two = { placement: { a1: eight, b1: eight }, setting: 'standard' } as const;
const card = desktop({ graphicsCarveOut: { low: gib(0), high: gib(0) } });
const shared = desktop({ graphicsCarveOut: { low: gib(0.5), high: gib(2) } });
const change = (more: Partial<Change> = {}): Change => ({
  ...{ machine: card, before: one, after: two, need: undefined },
  ...more,
});
const promised = (...asked: Parameters<typeof promiseOf>) => {
  const found = promiseOf(...asked);
  if (!found) throw new Error('expected both sides to run');
  return found;
};
const side = (bandwidth: number, reply: number): Profile => ({
  bandwidth: {
    ...{ stream: bandwidth, triad: bandwidth, random: bandwidth },
    ...{ graphics: bandwidth, desktop: bandwidth },
  },
  reply: { idle: reply, loaded: reply },
});
const profiles = { before: side(20, 80), after: side(40, 76) };

describe('room', () => {
  test('is told apart: it fitted, it fits now, or it still does not', () => {
    const roomFor = (need: number | undefined) =>
      promised(change({ need }), { drive: 'spinning' }).room;
    expect(roomFor(undefined)).toBeUndefined();
    expect(roomFor(8)).toEqual({ type: 'fitted before' });
    expect(roomFor(12)).toEqual({ type: 'fits now', short: 4, drive: 'spinning' });
    expect(roomFor(20)).toEqual({
      ...{ type: 'still short', short: 4, wasShort: 12, drive: 'spinning' },
    });
  });

  test('where it was wanting no gain of speed is held against a proof: capacity made it', () => {
    expect(madeOf(promised(change({ need: 12 }))).gains).toEqual([]);
    const kinds = madeOf(promised(change({ need: 8 }))).gains.map(({ kind }) => kind);
    expect(kinds).toContain('compression');
  });
});

describe('kinds of work', () => {
  test('are this customer’s and the rest, each once; graphics share memory or have their own', () => {
    for (const [machine, not] of [
      [card, 'integrated'],
      [shared, 'graphics'],
    ] as const) {
      const { own, others } = promised(change({ machine }), { own: new Set(['games', 'office']) });
      expect(own.map(({ kind }) => kind.id)).toEqual(['office', 'games']);
      const ids = [...own, ...others].map(({ kind }) => kind.id).sort();
      const all = KINDS_OF_WORK.map(({ id }) => id).filter((id) => id !== not);
      expect(ids).toEqual(all.sort());
    }
  });

  test('are all of them where nobody said', () => {
    expect(promised(change()).others).toEqual([]);
  });

  test('the one that leads is the one that moves most, and none that nobody would notice', () => {
    const machine = shared;
    expect(leadingGain(promised(change({ machine })))?.kind.id).toBe('integrated');
    const games = { own: new Set(['games', 'games-low', 'office']) };
    // The slowest frames tell more of the same games.
    expect(leadingGain(promised(change({ machine }), games))?.kind.id).toBe('games');
    expect(leadingGain(promised(change(), { own: new Set(['office']) }))).toBeUndefined();
    expect(isNoticed({ low: -NOTICED, high: 0 })).toBe(true);
    expect(isNoticed({ low: 0.01 - NOTICED, high: NOTICED - 0.01 })).toBe(false);
  });
});

describe('what it is made from', () => {
  test('rate, channels and times at once; both sides simulated as soon as they are', () => {
    const reckoned = promised(change());
    expect(reckoned.basis).toBe('reckoned');
    expect(madeOf(reckoned).simulated).toBeNull();
    const simulated = promised(change({ need: 8 }), { profiles });
    expect(simulated.basis).toBe('simulated');
    expect(madeOf(simulated).simulated?.ratios.bandwidth.stream).toBe(2);
    expect(madeOf(simulated).simulated?.reply).toBeCloseTo(-4, 9);
  });

  test('what is drawn at most holds for both, simulated or not', () => {
    for (const grounds of [{}, { profiles }]) {
      const free = promised(change(), grounds);
      const capped = promised(change(), { ...grounds, drawCap: 20 });
      expect(free.bandwidthRatio).toBeCloseTo(2, 9);
      expect(capped.bandwidthRatio).toBeLessThan(1.01);
    }
  });

  test('what was set when it came in counts: a profile that ran already is no gain', () => {
    const kit = labelled('8GB 1Rx8 PC4-2133P-UA1-11 profile 3600MT/s CL16-18-18-36 1.35V');
    const placement = { a1: kit, b1: kit };
    const after = { placement, setting: 'profile' } as const;
    const from = (setting: 'standard' | 'profile') =>
      promised(change({ before: { placement, setting }, after })).bandwidthRatio;
    expect(from('standard')).toBeGreaterThan(1.4);
    expect(from('profile')).toBe(1);
  });

  test('nothing ran before, or nothing would after: no promise, and nothing to simulate', () => {
    for (const more of [
      { before: { ...one, placement: {} } },
      { after: { ...two, placement: {} } },
    ]) {
      expect(promiseOf(change(more))).toBeUndefined();
      expect(comparedOf(change(more))).toBeUndefined();
    }
  });

  test('any change of any machine has a whole promise or none', () => {
    fc.assert(
      fc.property(
        anyFourChannelMachine.chain((machine) =>
          fc.record({
            machine: fc.constant(machine),
            before: anyPlacement(anyDdr4),
            after: anyPlacement(anyDdr4),
            need: fc.option(fc.double({ min: 0, max: 200, noNaN: true }), { nil: undefined }),
          }),
        ),
        ({ machine, before, after, need }) => {
          const sides = {
            before: { placement: before, setting: 'standard' },
            after: { placement: after, setting: 'standard' },
          } as const;
          const found = promiseOf({ machine, ...sides, need });
          if (!found) return;
          for (const { low, high } of [...found.own, ...found.others]) {
            expect(Number.isFinite(low) && Number.isFinite(high)).toBe(true);
            expect(low).toBeLessThanOrEqual(high);
            expect(low).toBeGreaterThan(-100);
          }
          expect(found.room === undefined).toBe(need === undefined);
        },
      ),
    );
  });
});
