import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { dataRate, gib } from '../units/index.ts';
import type { Placement, Setting } from '../machine/index.ts';
import { judgeMatch, matchGrade } from './index.ts';

const base = labelled('8GB 1Rx8 PC4-2400T-UA1-11 AB-8G24');
const kit = (kitId: string, more = {}) => ({ ...base, kitId, ...more });
const loose = (module: typeof base) => ({ module, soldered: false });

test.each([
  ['one alone', [base], 'one kit'],
  ['two of a four-pack', [kit('1'), kit('1')], 'one kit'],
  ['two two-packs', [kit('1'), kit('1'), kit('2'), kit('2')], 'same part'],
  ['another revision', [base, { ...base, partNumber: 'AB-8G24.R2' }], 'same spec'],
  ['other ranks', [base, { ...base, partNumber: 'X1-99', ranks: 2 }], 'same size'],
  [
    'unknown ranks',
    [base, { ...base, partNumber: 'X1-99', ranks: 'unknown' as const }],
    'same size',
  ],
  ['ECC is part of spec', [base, { ...base, partNumber: 'X1-99', ecc: true }], 'same size'],
  [
    'a timing one label leaves out',
    [
      { ...base, partNumber: 'X1-99' },
      { ...base, timings: { ...base.timings, tras: 39 } },
    ],
    'same spec',
  ],
  [
    'one that leaves out what two others differ in',
    [
      { ...base, partNumber: 'X1-99' },
      { ...base, timings: { ...base.timings, tras: 39 } },
      { ...base, partNumber: 'X1-98', timings: { ...base.timings, tras: 42 } },
    ],
    'same size',
  ],
  ['one number from two makers', [base, { ...base, maker: 'Orrel' }], 'same spec'],
  ['other capacity', [base, { ...base, capacity: gib(16) }], 'uneven'],
  ['other generation', [base, labelled('8GB PC3-12800U-11')], 'no go'],
] as const)('%s grades %3$s', (_name, modules, grade) => {
  expect(matchGrade(modules.map(loose), false)).toBe(grade);
});

test('with soldered memory the best grade is same spec; profiles count only when used', () => {
  expect(matchGrade([{ module: base, soldered: true }, loose({ ...base })], false)).toBe(
    'same spec',
  );
  const profiled = (cl: number) => ({
    ...base,
    partNumber: `P-${cl}`,
    profile: { rate: dataRate(3200), timings: { cl }, voltageMv: 1350 },
  });
  const parts = [loose(profiled(16)), loose(profiled(18))];
  expect([matchGrade(parts, false), matchGrade(parts, true)]).toEqual(['same spec', 'same size']);
});

describe('schools', () => {
  const stance = { capacityFirst: false, memoryTestPassed: false };
  const rows = (
    question: string,
    placement: Placement,
    more: Parameters<typeof desktop>[0] = {},
    job: object = {},
    setting: Setting = 'standard',
  ) =>
    judgeMatch(desktop(more), placement, setting, { ...stance, ...job }).schools.map(
      ({ rows: all }) => all.find((row) => row.question === question)?.judgement,
    );
  const slower = labelled('8GB 1Rx8 PC4-2133P-UA1-11 CD-8G21');
  const listed = { verifiedParts: ['AB-8G24'] };
  const uneven = { a1: base, a2: base, b1: base };
  const large = labelled('16GB 2Rx8 PC4-2400T-UB1-11');
  /** Only channel A of two has slots. */
  const oneSided = { slots: desktop().slots.slice(0, 2) };
  const soldered = [{ channel: 'A', part: { ...slower, formFactor: 'soldered' as const } }];

  test.each([
    ['mixing', 'unlike pair', { a1: base, b1: slower }, {}, {}, ['refuse', 'refuse', 'caution']],
    [
      'mixing',
      'one part, listed',
      { a1: base, b1: { ...base } },
      listed,
      {},
      ['accept', 'accept', 'accept'],
    ],
    [
      'mixing',
      'one part, unlisted',
      { a1: base, b1: base },
      {},
      {},
      ['refuse', 'accept', 'accept'],
    ],
    [
      'mixing',
      'unlike rows, like pairs',
      { a1: base, b1: base, a2: slower, b2: slower },
      {},
      {},
      ['refuse', 'accept', 'caution'],
    ],
    ['uneven channels', 'need fits', uneven, {}, { need: 15 }, ['refuse', 'accept', 'caution']],
    ['uneven channels', 'need too big', uneven, {}, { need: 20 }, ['refuse', 'refuse', 'caution']],
    [
      'uneven channels',
      'need fits but trait unknown',
      uneven,
      { unevenChannels: 'unknown' },
      { need: 15 },
      ['refuse', 'refuse', 'caution'],
    ],
    [
      'uneven channels',
      'carve-out tips it',
      uneven,
      { graphicsCarveOut: { low: gib(1), high: gib(2) } },
      { need: 15 },
      ['refuse', 'refuse', 'caution'],
    ],
    [
      'uneven channels',
      'capacity first',
      uneven,
      {},
      { need: 20, capacityFirst: true },
      ['refuse', 'accept', 'caution'],
    ],
    ['uneven channels', 'no need stated', uneven, {}, {}, ['refuse', 'refuse', 'caution']],
    [
      'uneven channels',
      'no need stated, capacity first',
      uneven,
      {},
      { capacityFirst: true },
      ['refuse', 'accept', 'caution'],
    ],
    [
      'uneven channels',
      'unlike sizes in one channel',
      { a1: base, a2: large },
      oneSided,
      { need: 1 },
      ['refuse', 'refuse', 'caution'],
    ],
    [
      'uneven channels',
      'like sizes in one channel',
      { a1: base, a2: base },
      oneSided,
      { need: 1 },
      ['accept', 'accept', 'accept'],
    ],
    [
      'uneven channels',
      'unlike sizes where there is but one channel',
      { a1: base, a2: large },
      { ...oneSided, channels: ['A'] },
      { need: 1 },
      ['accept', 'accept', 'accept'],
    ],
    [
      'mixing',
      'unlike modules in one channel are a pair',
      { a1: base, a2: slower },
      oneSided,
      {},
      ['refuse', 'refuse', 'caution'],
    ],
    [
      'mixing',
      'one kit beside soldered memory',
      { b1: kit('1'), b2: kit('1') },
      { soldered },
      {},
      ['accept', 'refuse', 'caution'],
    ],
    ['mixing', 'soldered alone', {}, { soldered }, {}, ['accept', 'accept', 'accept']],
    ['verified list', 'soldered alone', {}, { soldered }, {}, ['accept', 'accept', 'accept']],
    [
      'profile beyond limit',
      'no profile in use',
      { a1: base, b1: base },
      {},
      {},
      ['accept', 'accept', 'accept'],
    ],
    [
      'sealed packs',
      'two packs of a part',
      { a1: kit('1'), b1: kit('2') },
      {},
      {},
      ['refuse', 'accept', 'accept'],
    ],
    [
      'sealed packs',
      'two unlike packs',
      { a1: kit('1'), b1: kit('2', { partNumber: 'Q-1' }) },
      {},
      {},
      ['refuse', 'caution', 'accept'],
    ],
    ['verified list', 'no list', { a1: base }, {}, {}, ['refuse', 'caution', 'accept']],
    ['verified list', 'listed', { a1: base }, listed, {}, ['accept', 'accept', 'accept']],
    [
      'needless one channel',
      'both in A',
      { a1: base, a2: base },
      {},
      {},
      ['refuse', 'refuse', 'caution'],
    ],
  ] as const)('%s: %s', (question, _name, placement, traits, job, expected) => {
    expect(rows(question, placement, traits, job)).toEqual(expected);
  });

  test('a profile beyond a stated limit waits for a memory test', () => {
    const fast = labelled('8GB 1Rx8 PC4-2133P-UA1-11 profile 3600MT/s CL18 1.35V');
    const judge = (job: object) => rows('profile beyond limit', { a1: fast }, {}, job, 'profile');
    expect(judge({})).toEqual(['refuse', 'caution', 'caution']);
    expect(judge({ memoryTestPassed: true })).toEqual(['refuse', 'accept', 'caution']);
    // Clipped by the ceiling and snapped to the very limit, nothing is beyond it.
    const traits = { profiles: { support: 'yes', ceiling: dataRate(3300) } } as const;
    expect(rows('profile beyond limit', { a1: fast }, traits, {}, 'profile')).toEqual([
      'accept',
      'accept',
      'accept',
    ]);
  });

  test('the worst row is the verdict', () => {
    const report = judgeMatch(desktop(listed), { a1: base, a2: base }, 'standard', stance);
    expect(report.schools.map(({ judgement }) => judgement)).toEqual([
      'refuse',
      'refuse',
      'caution',
    ]);
  });
});
