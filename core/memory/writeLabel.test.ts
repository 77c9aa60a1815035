import { describe, expect, test } from 'vitest';
import { isBuildableCapacity, listedTimePs, readLabel, sameModule, writeLabel } from './index.ts';
import type { MemoryModule } from './index.ts';

describe('a label written', () => {
  const plain: MemoryModule = {
    ...{ generation: 'DDR5', formFactor: 'compression', buffering: 'unbuffered', ecc: true },
    ...{ capacity: 32, ranks: 2, chipWidth: 8, rate: 5600, timings: { cl: 46, trcd: 45, trp: 45 } },
    voltagesMv: [1100],
  } as unknown as MemoryModule;
  test.each([
    [
      { channels: 1 },
      '32GB 2Rx8 DDR5-5600 standard CL46-45-45 compression unbuffered ECC one-channel',
    ],
    [
      { channels: 2 },
      '32GB 2Rx8 DDR5-5600 standard CL46-45-45 compression unbuffered ECC two-channel',
    ],
    [{}, '32GB 2Rx8 DDR5-5600 standard CL46-45-45 compression unbuffered ECC'],
    [
      { ecc: false, capacity: 0.5 },
      '512MB 2Rx8 DDR5-5600 standard CL46-45-45 compression unbuffered non-ECC',
    ],
    [
      { ecc: false, capacity: 1 },
      '1GB 2Rx8 DDR5-5600 standard CL46-45-45 compression unbuffered non-ECC',
    ],
    [{ formFactor: 'DIMM', ecc: false }, '32GB 2Rx8 PC5-5600B-UA0-1010'],
    [
      { formFactor: 'DIMM', ecc: false, timings: { cl: 46, trcd: 45, trp: 46 } },
      '32GB 2Rx8 DDR5-5600 standard CL46-45-46 DIMM unbuffered non-ECC',
    ],
    [
      { formFactor: 'DIMM', ecc: false, timings: { cl: 46, trcd: 46, trp: 45 } },
      '32GB 2Rx8 DDR5-5600 standard CL46-46-45 DIMM unbuffered non-ECC',
    ],
    [
      { formFactor: 'DIMM', ecc: false, timings: { cl: 46, trcd: 45, trp: 45, tras: 90 } },
      '32GB 2Rx8 DDR5-5600 standard CL46-45-45-90 DIMM unbuffered non-ECC',
    ],
  ] as [Partial<MemoryModule>, string][])('%j', (change, label) => {
    expect(writeLabel({ ...plain, ...change })).toBe(label);
  });
});

test('capacities that ranks of chips can add up to, and others', () => {
  for (const size of [0.125, 0.25, 1, 6, 10, 12, 18, 20, 24, 40, 48, 56, 88, 120, 512])
    expect([size, isBuildableCapacity(size)]).toEqual([size, true]);
  for (const size of [0, 0.1, 0.0625, 13, 17, 26, 513, 1024, NaN, -8, Infinity])
    expect([size, isBuildableCapacity(size)]).toEqual([size, false]);
});

test('one module is the same however it was written down', () => {
  const module = readLabel('8GB DDR4-2400 CL17-17-17 profile 3200 CL16').module;
  if (!module) throw new Error('expected a module');
  const turned = Object.fromEntries(
    Object.entries({
      ...module,
      timings: Object.fromEntries(Object.entries(module.timings).reverse()),
    }).reverse(),
  ) as unknown as MemoryModule;
  expect(sameModule(module, turned)).toBe(true);
  expect(sameModule(module, { ...module, maker: undefined })).toBe(true);
  expect(sameModule(undefined, undefined)).toBe(true);
  expect(sameModule(module, undefined)).toBe(false);
  expect(sameModule(undefined, module)).toBe(false);
  expect(sameModule(module, { ...module, timings: { cl: 18 } })).toBe(false);
  expect(sameModule(module, { ...module, voltagesMv: [1200, 1350] })).toBe(false);
  expect(
    sameModule({ ...module, voltagesMv: [1350, 1500] }, { ...module, voltagesMv: [1500, 1350] }),
  ).toBe(false);
});

test('a listed time gives its clocks again where the label’s own would not', () => {
  // 13 clocks of 1071.43 ps are 13928.6 ps; the table’s period is 1071 ps, which makes that 14.
  expect(listedTimePs('DDR3', 13, 1866 as never)).toBe(13 * 1071);
  expect(listedTimePs('DDR3', 11, 1600 as never)).toBe(13_750);
  expect(listedTimePs('DDR4', 22, 3200 as never)).toBe(13_750);
});
