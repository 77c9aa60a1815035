import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { chainOver } from './chain.ts';
import { openKernels } from './kernels.ts';

const MIB = 1_048_576;
const KINDS = [
  ['simd kernels', false],
  ['plain arrays', true],
] as const;

describe.each(KINDS)('%s', (engine, isPlain) => {
  const kernels = openKernels(4, isPlain);
  const floats = new Float64Array(kernels.buffer);
  const words = new Int32Array(kernels.buffer);

  test('are what was asked for, over the memory asked for', () => {
    expect([kernels.engine, kernels.buffer.byteLength]).toEqual([engine, 4 * MIB]);
  });

  test('copy and multiplyAdd do to the last element what they say, and nothing beyond', () => {
    for (let at = 0; at < floats.length; at++) floats[at] = at;
    kernels.copy(0, 2 * MIB, MIB);
    expect([floats[0], floats[MIB / 8 - 1], floats[MIB / 8]]).toEqual([
      (2 * MIB) / 8,
      (3 * MIB) / 8 - 1,
      MIB / 8,
    ]);
    kernels.multiplyAdd(0, MIB, 2 * MIB, 0.5, MIB);
    for (const at of [0, 1, 77_777, MIB / 8 - 1])
      expect(floats[at]).toBe(MIB / 8 + at + 0.5 * ((2 * MIB) / 8 + at));
    expect(floats[MIB / 8]).toBe(MIB / 8);
  });

  test('reading everything changes nothing', () => {
    const before = words[12_345];
    kernels.read(0, 4 * MIB);
    expect(words[12_345]).toBe(before);
  });

  test('a chase follows the chain, in one, four or eight chains', () => {
    const order = chainOver(kernels.buffer, MIB, 7);
    expect(kernels.chase(order[0] ?? 0, 64)).toBe(order[64]);
    // A whole round leads back.
    expect(kernels.chase(order[5] ?? 0, order.length)).toBe(order[5]);
    for (const chains of [4, 8])
      kernels.lines(
        Array.from({ length: chains }, (_, at) => order[at * 100] ?? 0),
        1000,
      );
    expect(kernels.lines([order[0] ?? 0], 64)).toBe(order[64]);
  });

  test('patterns hold until a bit flips, wherever it is; counted once a place', () => {
    for (const [by, flip] of [
      [0, 0],
      [0, -1],
      [0x9e3779b1 | 0, 0],
    ] as const) {
      kernels.fill(0, 4 * MIB, by, flip);
      expect(kernels.verify(0, 4 * MIB, by, flip)).toBe(0);
      fc.assert(
        fc.property(fc.nat(MIB - 1), fc.nat(31), (at, bit) => {
          words[at] = (words[at] ?? 0) ^ (1 << bit);
          expect(kernels.verify(0, 4 * MIB, by, flip)).toBe(1);
          words[at] = (words[at] ?? 0) ^ (1 << bit);
        }),
        { numRuns: 10 },
      );
    }
  });
});

test('both engines write and read the same patterns', () => {
  const [simd, plain] = KINDS.map(([, isPlain]) => openKernels(4, isPlain));
  simd?.fill(0, 4 * MIB, 0x9e3779b1 | 0, 5);
  if (simd && plain) new Uint8Array(plain.buffer).set(new Uint8Array(simd.buffer));
  expect(plain?.verify(0, 4 * MIB, 0x9e3779b1 | 0, 5)).toBe(0);
});

test('a chain visits every second line once, stretch by stretch, and comes back', () => {
  fc.assert(
    fc.property(fc.integer({ min: 2, max: 6 * 8192 }), fc.integer(), (pairs, seed) => {
      const buffer = new ArrayBuffer(pairs * 128);
      const order = chainOver(buffer, pairs * 128, seed);
      expect(order).toHaveLength(pairs);
      expect(new Set(order).size).toBe(pairs);
      expect(order.every((at) => at % 128 === 0)).toBe(true);
      const words = new Int32Array(buffer);
      const next = (at: number) => words[at >> 2];
      expect(order.every((at, index) => next(at) === order[(index + 1) % pairs])).toBe(true);
      // Each stretch of 2 MB is finished before the next begins.
      const stretches = [...order].map((at) => Math.floor(at / (2 * MIB)));
      const changes = stretches.filter((one, index) => one !== stretches[index - 1]).length;
      expect(changes).toBe(Math.ceil((pairs * 128) / (2 * MIB)));
    }),
    { numRuns: 30 },
  );
});
