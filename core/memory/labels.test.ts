import { describe, expect, test } from 'vitest';
import {
  EXAMPLE_LABEL,
  generationName,
  lowestRailMv,
  moduleSummary,
  organisationText,
  profileSummary,
  readLabel,
  writeLabel,
} from './index.ts';

const module = (label: string) => {
  const { module: found, findings } = readLabel(label);
  if (!found) throw new Error(`${label}: ${JSON.stringify(findings)}`);
  return found;
};
const problems = (label: string) =>
  readLabel(label)
    .findings.filter(({ severity }) => severity !== 'note')
    .map(({ type }) => type);

test('the example every error shows is itself understood', () => {
  expect(readLabel(EXAMPLE_LABEL).findings).toEqual([]);
});

describe('bandwidth names snap to the nearest standard rate', () => {
  test.each([
    ['PC2-3200U', 400],
    ['PC2-4200U', 533],
    ['PC2-5300S', 667],
    ['PC2-6400S', 800],
    ['PC2-8500U', 1066],
    ['PC3-6400U', 800],
    ['PC3-8500S', 1066],
    ['PC3-10600U', 1333],
    ['PC3-10666U', 1333],
    ['PC3L-12800S', 1600],
    ['PC3-14900R', 1866],
    ['PC3-17000U', 2133],
    ['PC4-17000', 2133],
    ['PC4-19200', 2400],
    ['PC4-21300', 2666],
    ['PC4-23400', 2933],
    ['PC4-25600', 3200],
    ['PC5-38400', 4800],
    ['PC5-44800', 5600],
  ])('%s is %i MT/s', (name, rate) => {
    expect(module(`8GB ${name}`).rate).toBe(rate);
  });
});

describe('DDR4 bins state CL, tRCD and tRP at once', () => {
  test.each([
    ['1866M', 13],
    ['2133P', 15],
    ['2400R', 16],
    ['2400T', 17],
    ['2666V', 19],
    ['2933Y', 21],
    ['3200W', 20],
    ['3200AA', 22],
  ])('%s is CL %i', (bin, cl) => {
    expect(module(`8GB 1Rx8 PC4-${bin}-UA1-11`).timings).toEqual({ cl, trcd: cl, trp: cl });
  });
});

describe('DDR5 bins state three timings', () => {
  test.each([
    ['4800B', 40, 39, 39],
    ['5200B', 42, 42, 42],
    ['5600B', 46, 45, 45],
    ['6400B', 52, 52, 52],
  ])('%s is %i-%i-%i', (bin, cl, trcd, trp) => {
    expect(module(`16GB 1Rx8 PC5-${bin}-UA0-1010`).timings).toEqual({ cl, trcd, trp });
  });
});

describe('spelling does not matter', () => {
  const wanted = {
    capacity: 16,
    generation: 'DDR4',
    rate: 2400,
    formFactor: 'SODIMM',
    ranks: 2,
    chipWidth: 8,
  };
  test.each([
    '16GB 2Rx8 PC4-2400T-SE1-11',
    '16gb 2rx8 pc4-2400t-se1-11',
    '16 GB, 2Rx8, PC4-2400T-SE1-11',
    '  16GB   2R×8  (PC4-2400T-SE1-11) ',
    'PC4-2400T-SE1-11 2Rx8 16GB',
    '16GB SO-DIMM DDR4-2400 CL17 2Rx8',
    '16GB so dimm ddr4 2400mhz cl 17 2rx8',
    '16G 260-pin DDR4 2400MT/s CL17 2Rx8',
    '16384MB DDR4-2400 CL17 SODIMM 2Rx8',
  ])('%s', (label) => {
    expect(module(label)).toMatchObject(wanted);
    expect(problems(label)).toEqual([]);
  });
});

describe('form and buffering', () => {
  test.each([
    ['8GB DDR4-2666 CL19 UDIMM', 'DIMM', 'unbuffered', false],
    ['8GB DDR4-2666 CL19 UDIMM ECC', 'DIMM', 'unbuffered', true],
    ['16GB DDR4-2666 CL19 RDIMM', 'DIMM', 'registered', true],
    ['64GB DDR4-2666 CL19 LRDIMM', 'DIMM', 'load-reduced', true],
    ['8GB DDR4-2666 CL19 288-pin', 'DIMM', 'unbuffered', false],
    ['4GB DDR3L-1600 CL11 204 pin', 'SODIMM', 'unbuffered', false],
    ['16GB DDR5-5600 CL46 262pin non-ECC', 'SODIMM', 'unbuffered', false],
    ['32GB LPDDR5X-7500 CL20', 'soldered', 'unbuffered', false],
  ] as const)('%s', (label, formFactor, buffering, ecc) => {
    expect(module(label)).toMatchObject({ formFactor, buffering, ecc });
  });
});

describe('profiles', () => {
  test.each([
    ['8GB DDR4-3600 CL18-22-22-42 1.35V', 2133, 3600],
    ['8GB DDR4-3200 CL16 1.35V', 2133, 3200],
    ['16GB DDR5-6000 CL30-38-38 1.35V', 4800, 6000],
    ['4GB DDR3-1866 CL9 1.65V', 1333, 1866],
  ])('%s: bin %i beneath a profile of %i', (label, bin, rate) => {
    expect(module(label)).toMatchObject({ rate: bin, profile: { rate } });
  });

  test.each([
    ['8GB DDR4-3200 CL22 1.2V', 3200],
    ['16GB DDR5-6000 CL48', 6000],
    ['8GB DDR3-1600 CL11 1.5V', 1600],
    ['8GB DDR4-2400 standard CL16', 2400],
  ])('%s is a plain bin of %i', (label, rate) => {
    expect(module(label).rate).toBe(rate);
    expect(module(label).profile).toBeUndefined();
  });

  test('a rate beyond the standard without a CL asks for it', () => {
    expect(problems('8GB DDR4-3600 DIMM')).toEqual(['profile-without-cl']);
    expect(module('8GB DDR4-3600 DIMM').profile).toBeUndefined();
  });
});

test('packs in all their spellings are counted', () => {
  for (const label of [
    '2x8GB DDR4-2666',
    '2 x 8GB DDR4-2666',
    '16GB (2x8GB) DDR4-2666',
    '2×8 GB kit DDR4-2666',
  ])
    expect([label, readLabel(label).count, module(label).capacity]).toEqual([label, 2, 8]);
  expect(readLabel('4x16GB DDR4-2666 RDIMM').count).toBe(4);
  expect(problems('32GB (2x8GB) DDR4-2666')).toEqual(['conflict']);
});

test('what is printed for people', () => {
  const kit = module('8GB 1Rx16 DDR4-3600 CL18-22-22-42 1.35V VT-8G36');
  expect(moduleSummary(kit)).toBe('DDR4-2133 CL15 1Rx16');
  expect(profileSummary(kit)).toBe('profile 3600 CL18 1.35 V');
  expect(kit.partNumber).toBe('VT-8G36');
  const low = module('8GB 2Rx8 PC3L-12800S-11-13-F3');
  expect([generationName(low), lowestRailMv(low), organisationText(low)]).toEqual([
    'DDR3L',
    1350,
    '2Rx8',
  ]);
  expect(writeLabel(low)).toBe('8GB 2Rx8 PC3L-12800S-11-13-A1');
  expect(writeLabel(module('16GB 2Rx8 PC4-2400T-SE1-11'))).toBe('16GB 2Rx8 PC4-2400T-SE1-11');
  expect(organisationText({ ranks: 'unknown', chipWidth: 16 })).toBe('x16');
  expect(organisationText({ ranks: 2, chipWidth: 'unknown' })).toBe('');
});
