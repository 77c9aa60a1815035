import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import {
  PROBE_ENGINES,
  PROBE_LENGTHS,
  PROBE_MARKS,
  carryCode,
  hasPlateau,
  inferChannels,
  measurementsOf,
  median,
  readCarryCode,
  rungsOf,
  simulateProbe,
} from './index.ts';
import type { ProbeEssence } from './index.ts';

/** Runs scattered by a few per cent around a centre. */
const anySeries = (least: number, most: number) =>
  fc
    .tuple(
      fc.double({ min: least, max: most, noNaN: true }),
      fc.array(fc.double({ min: -0.05, max: 0.05, noNaN: true }), { minLength: 5, maxLength: 21 }),
    )
    .map(([centre, scatter]) => scatter.map((part) => centre * (1 + part)));

const anyEssence: fc.Arbitrary<ProbeEssence> = fc.record({
  length: fc.constantFrom(...PROBE_LENGTHS),
  engine: fc.constantFrom(...PROBE_ENGINES),
  threads: fc.integer({ min: 1, max: 1023 }),
  marks: fc.subarray([...PROBE_MARKS]),
  read: anySeries(0.1, 4000),
  multiplyAdd: anySeries(0.1, 4000),
  reply: anySeries(1, 9000),
});

describe('the carry code', () => {
  test('brings back what it carried: marks exactly, runs to half a per cent unless cut', () => {
    fc.assert(
      fc.property(anyEssence, (essence) => {
        const code = carryCode(essence);
        expect(code).toMatch(/^([0-9A-HJKMNP-TV-Z]{4}-){7}[0-9A-HJKMNP-TV-Z]{4}$/);
        const read = readCarryCode(code);
        if (!read.ok) throw new Error(read.fault.type);
        const { length, engine, threads, marks } = read.value;
        expect({ length, engine, threads }).toEqual({
          ...{ length: essence.length, engine: essence.engine, threads: essence.threads },
        });
        expect(new Set([...marks, 'noisy'])).toEqual(new Set([...essence.marks, 'noisy']));
        for (const name of ['read', 'multiplyAdd', 'reply'] as const) {
          const own = essence[name];
          expect(read.value[name]).toHaveLength(5);
          for (const [at, run] of read.value[name].entries()) {
            const carried = own[Math.floor((at * own.length) / 5)] ?? Number.NaN;
            const isFar = Math.abs(carried / median(own) - 1) > 0.07;
            // A far run is cut towards the middle, never past it, and the code says so.
            if (isFar && Math.abs(run / carried - 1) >= 0.005) {
              expect(marks).toContain('noisy');
              expect(Math.sign(run - median(own))).toBe(Math.sign(carried - median(own)));
              expect(Math.abs(run / median(own) - 1)).toBeCloseTo(0.075, 2);
            } else expect(Math.abs(run / carried - 1)).toBeLessThan(0.005);
          }
        }
      }),
    );
  });

  test('a run far from the others is cut, and the code says the figures are noisy', () => {
    const essence: ProbeEssence = {
      ...{ length: 'quick', engine: 'simd kernels', threads: 8, marks: [] },
      ...{
        read: [30, 30, 30, 30, 20],
        multiplyAdd: [20, 20, 20, 20, 20],
        reply: [80, 80, 80, 80, 80],
      },
    };
    const read = readCarryCode(carryCode(essence));
    expect(read).toMatchObject({ ok: true, value: { marks: ['noisy'] } });
  });

  test('hyphens, spaces, small letters and look-alikes are no matter', () => {
    fc.assert(
      fc.property(anyEssence, (essence) => {
        const code = carryCode(essence);
        const typed = code
          .replaceAll('-', ' ')
          .toLowerCase()
          .replaceAll('0', 'o')
          .replaceAll('1', 'l')
          .replaceAll('v', 'u');
        expect(readCarryCode(typed)).toEqual(readCarryCode(code));
      }),
    );
  });

  test('one wrong character or two swapped ones are always caught', () => {
    const letters = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';
    fc.assert(
      fc.property(anyEssence, fc.nat(31), fc.integer({ min: 1, max: 31 }), (essence, at, shift) => {
        const code = carryCode(essence).replaceAll('-', '');
        const put = (place: number, letter: string) =>
          code.slice(0, place) + letter + code.slice(place + 1);
        const other = letters[(letters.indexOf(code[at] ?? '0') + shift) % 32] ?? '0';
        expect(readCarryCode(put(at, other))).toMatchObject({ ok: false });
        const [a, b] = [code[at] ?? '', code[at + 1] ?? ''];
        if (b === '' || a === b) return;
        const swapped = code.slice(0, at) + b + a + code.slice(at + 2);
        expect(readCarryCode(swapped)).toMatchObject({ ok: false });
      }),
    );
  });

  test.each([
    ['', { type: 'wrong-length', count: 0, wanted: 32 }],
    ['5010-M7Q0', { type: 'wrong-length', count: 8, wanted: 32 }],
    ['5010-M7!0', { type: 'strange-letter', letter: '!', group: 2 }],
    ['0000-0000-0000-0000-0000-0000-0000-0000', { type: 'checksum' }],
  ])('“%s” is named as %j', (typed, fault) => {
    expect(readCarryCode(typed)).toEqual({ ok: false, fault });
  });

  test('whatever is typed is read or refused, never thrown at', () => {
    fc.assert(fc.property(fc.string({ maxLength: 60 }), (text) => void readCarryCode(text)));
  });
});

describe('a ramp of threads', () => {
  test('rungs double up to all there are', () => {
    expect([1, 2, 6, 16].map(rungsOf)).toEqual([[1], [1, 2], [1, 2, 4, 6], [1, 2, 4, 8, 16]]);
  });

  test.each([
    [[10], false],
    [[10, 19], false],
    [[10, 18, 19], true],
    [[10, 18, 15], true],
  ])('%j reached a plateau: %s', (rates, isReached) => {
    expect(hasPlateau(rates.map((rate, at) => ({ threads: 2 ** at, rate })))).toBe(isReached);
  });
});

describe('a simulated machine', () => {
  const machine = desktop();
  const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
  const one = running(machine, { a1: module });
  const two = running(machine, { a1: module, b1: module });
  const side = (result: ReturnType<typeof simulateProbe>, populated: number) => ({
    ...{ runs: result.read, channelPeak: 19.2, populated },
    isLowerBound: result.marks.includes('no plateau'),
    ...{ isRateConfirmed: true, isQuiet: true, isPlateau: true },
  });

  test('says so, comes out the same from the same seed, and its runs say what it was', () => {
    const result = simulateProbe(machine, two, 'none', 5);
    expect(result).toEqual(simulateProbe(machine, two, 'none', 5));
    expect(result.marks).toContain('simulated');
    const runs = measurementsOf(result, 'unknown');
    expect(runs.map(({ test: name }) => name)).toEqual([
      'measuring page: read',
      'measuring page: copy',
      'measuring page: multiply-add',
      'measuring page: latency',
    ]);
    expect(runs.every(({ conditions }) => conditions === 'simulated')).toBe(true);
  });

  test('tells paired from one channel wide by its baseline, over many visits', () => {
    const verdicts = (fault: 'none' | 'one channel') =>
      Array.from({ length: 50 }, (_, seed) => {
        const before = side(simulateProbe(machine, one, 'none', seed), 1);
        const after = side(simulateProbe(machine, two, fault, seed + 1000), 2);
        return inferChannels(after, before).verdict.type;
      });
    expect(new Set(verdicts('none'))).toEqual(new Set(['paired']));
    expect(new Set(verdicts('one channel'))).toEqual(new Set(['one wide']));
  });

  test('that never reached its plateau is not called one channel wide', () => {
    const before = side(simulateProbe(machine, one, 'none', 1), 1);
    const after = simulateProbe(machine, two, 'still rising', 2);
    expect(after.marks).toContain('no plateau');
    expect(inferChannels(side(after, 2), before).verdict.type).not.toBe('one wide');
  });
});
