import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyModule } from '../../test/support/arbitraries.ts';
import { readLabel, writeLabel } from './index.ts';

const read = (text: string) => {
  const reading = readLabel(text);
  const module = reading.module;
  return module && { ...module, problems: reading.findings.filter((f) => f.severity === 'error') };
};

describe('JEDEC labels', () => {
  test.each([
    ['8GB 2Rx8 PC3L-12800S-11-13-F3', 'DDR3', 8, 1600, { cl: 11 }, 'SODIMM', 2, 8],
    ['4GB 1Rx8 PC3-10600U-9-10-A1', 'DDR3', 4, 1333, { cl: 9 }, 'DIMM', 1, 8],
    ['2GB 2Rx8 PC2-6400S-666-12-E0', 'DDR2', 2, 800, { cl: 6, trcd: 6, trp: 6 }, 'SODIMM', 2, 8],
    ['16GB 2Rx8 PC4-2400T-SE1-11', 'DDR4', 16, 2400, { cl: 17, trcd: 17, trp: 17 }, 'SODIMM', 2, 8],
    ['32GB 2Rx4 PC4-3200AA-RB2-12', 'DDR4', 32, 3200, { cl: 22, trcd: 22, trp: 22 }, 'DIMM', 2, 4],
    ['16GB 1Rx8 PC5-4800B-UA0-1010', 'DDR5', 16, 4800, { cl: 40, trcd: 39, trp: 39 }, 'DIMM', 1, 8],
    ['64gb 4DRx4 pc4-2666v-lb0-12', 'DDR4', 64, 2666, { cl: 19, trcd: 19, trp: 19 }, 'DIMM', 4, 4],
  ])('%s', (text, generation, capacity, rate, timings, formFactor, ranks, chipWidth) => {
    expect(read(text)).toMatchObject({
      ...{ generation, capacity, rate, timings, formFactor, ranks, chipWidth, problems: [] },
    });
  });

  test('the type letter settles buffering and ECC', () => {
    expect(read('8GB 1Rx8 PC4-2666V-EA1-11')).toMatchObject({ buffering: 'unbuffered', ecc: true });
    expect(read('16GB 1Rx4 PC4-2666V-RC2-12')).toMatchObject({
      buffering: 'registered',
      ecc: true,
    });
  });

  test('DDR3L runs at 1.35 V and at 1.5 V, DDR3 at 1.5 V alone', () => {
    expect(read('8GB 2Rx8 PC3L-12800S-11-13-F3')?.voltagesMv).toEqual([1350, 1500]);
    expect(read('8GB 2Rx8 PC3-12800S-11-13-F3')?.voltagesMv).toEqual([1500]);
    expect(read('8GB DDR3-1600 CL11 1.35V SODIMM')?.voltagesMv).toEqual([1350, 1500]);
  });
});

describe('retail labels', () => {
  test('a figure of 10,000 or more after PC4- is MB/s', () => {
    expect(read('8GB PC4-25600')).toMatchObject({
      rate: 3200,
      assumed: ['timings', 'form factor'],
    });
  });

  test('a CL below the bin or a raised voltage describes a profile over an assumed bin', () => {
    expect(read('8GB DDR4-3200 CL16-18-18-38 1.35V')).toMatchObject({
      rate: 2133,
      timings: { cl: 15 },
      profile: { rate: 3200, timings: { cl: 16, trcd: 18, trp: 18, tras: 38 }, voltageMv: 1350 },
      assumed: ['rate', 'timings', 'form factor'],
    });
  });

  test('a pack gives its count and the size of one module', () => {
    for (const text of ['2x8GB DDR4-3200 CL22', '16GB (2 x 8 GB) DDR4 3200 MHz CL22']) {
      const reading = readLabel(text);
      expect([reading.count, reading.module?.capacity, reading.module?.rate]).toEqual([2, 8, 3200]);
    }
  });
});

describe('bad labels', () => {
  const findings = (text: string) => readLabel(text).findings;

  test('a size that does not exist names the nearest that do', () => {
    expect(findings('7GB 2Rx8 PC4-2400T-SE1-11')).toEqual([
      { type: 'impossible-capacity', severity: 'error', capacity: 7, nearest: [4, 8] },
    ]);
    expect(findings('24GB PC4-2400T-SE1-11')[0]).toMatchObject({ nearest: [16, 32] });
    expect(readLabel('24GB PC5-5600B-SA0-1010').module?.capacity).toBe(24);
  });

  test('contradictions, gaps, noise and length are each named', () => {
    expect(findings('8GB DDR4 PC3-12800S-11')).toContainEqual(
      expect.objectContaining({
        type: 'conflict',
        field: 'generation',
        first: 'DDR4',
        second: 'DDR3',
      }),
    );
    expect(findings('hello')).toEqual([
      { type: 'not-understood', severity: 'caution', text: 'HELLO' },
      { type: 'missing', severity: 'error', field: 'capacity' },
      { type: 'missing', severity: 'error', field: 'generation' },
    ]);
    expect(findings('   ')).toEqual([{ type: 'nothing-typed', severity: 'error' }]);
    expect(findings('x'.repeat(5000))[0]).toMatchObject({ type: 'too-long', length: 5000 });
    expect(findings('8GB DDR4-99999')[0]).toMatchObject({ type: 'impossible-rate', rate: 99_999 });
  });

  test('any text is read without throwing, and a module comes only without errors', () => {
    const piece = fc.constantFrom(
      '8GB',
      'DDR4',
      'PC4-',
      '2Rx8',
      'CL',
      '-',
      '3200',
      '1.35V',
      '💾',
      'x',
    );
    const text = fc.oneof(
      fc.string(),
      fc.array(piece).map((pieces) => pieces.join(' ')),
    );
    fc.assert(
      fc.property(text, (label) => {
        const reading = readLabel(label);
        const failed = reading.findings.some(({ severity }) => severity === 'error');
        expect(reading.module !== undefined).toBe(!failed);
      }),
    );
  });
});

test('every label the writer prints is read back as the same module', () => {
  fc.assert(
    fc.property(anyModule, (module) => {
      const reading = readLabel(writeLabel(module));
      expect(reading.findings).toEqual([]);
      expect(reading.module).toEqual(module);
    }),
    { numRuns: 500 },
  );
});
