import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import type { Machine, Placement, Setting } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { dataRate, gib } from '../units/index.ts';
import {
  compareGrades,
  isSamePart,
  isSameRating,
  isSameSpec,
  partKey,
  ratingOf,
  specOf,
} from './grade.ts';
import { GRADES, judgeMatch } from './index.ts';
import type { JobStance, SchoolQuestion } from './index.ts';

const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11 AB-8G24');
const other = (more: Partial<MemoryModule> = {}): MemoryModule => ({
  ...module,
  partNumber: 'CD-8',
  ...more,
});
const timed = (more: object, profile?: MemoryModule['profile']): MemoryModule => ({
  ...module,
  timings: { ...module.timings, ...more },
  profile,
});
const profile = (rate: number, cl: number, trcd?: number): MemoryModule['profile'] => ({
  ...{ rate: dataRate(rate), timings: { cl, ...(trcd === undefined ? {} : { trcd }) } },
  voltageMv: 1350,
});

/** What strict, balanced and lenient answer, each with its reason. */
function answers(
  question: SchoolQuestion,
  placement: Placement,
  traits: Partial<Machine> = {},
  stance: Partial<JobStance> = {},
  setting: Setting = 'standard',
): string[] {
  const job = { capacityFirst: false, memoryTestPassed: false, ...stance };
  return judgeMatch(desktop(traits), placement, setting, job).schools.map(({ school, rows }) => {
    const row = rows.find((one) => one.question === question);
    return `${school}: ${row?.judgement}, ${row?.because}`;
  });
}

describe('two modules compared', () => {
  test('grades stand in the order they are listed, best first', () => {
    const sorted = [...GRADES].reverse().sort(compareGrades);
    expect(sorted).toEqual([...GRADES]);
    expect(compareGrades('one kit', 'uneven')).toBeLessThan(0);
    expect(compareGrades('no go', 'same size')).toBeGreaterThan(0);
    expect(compareGrades('same spec', 'same spec')).toBe(0);
  });

  test('a part is its number and its maker; without a number nothing is the same part', () => {
    const unnamed = { ...module, partNumber: undefined };
    expect(isSamePart(module, { ...module })).toBe(true);
    expect(isSamePart(module, other())).toBe(false);
    expect(isSamePart(module, { ...module, maker: 'Orrel' })).toBe(false);
    expect(isSamePart(unnamed, unnamed)).toBe(false);
    expect(partKey(unnamed)).toBeUndefined();
    expect(partKey(module)).toBe(partKey({ ...module }));
    expect(partKey(module)).not.toBe(partKey(other()));
    expect(partKey(module)).not.toBe(partKey({ ...module, maker: 'Orrel' }));
  });

  test.each([
    ['capacity', { capacity: gib(16) }],
    ['ranks', { ranks: 2 }],
    ['chip width', { chipWidth: 16 }],
    ['ECC', { ecc: true }],
    ['rate', { rate: dataRate(2133) }],
    ['voltage', { voltagesMv: [1350] }],
  ] as const)('another %s is another spec', (_what, more) => {
    expect(isSameSpec(module, other(), false)).toBe(true);
    expect(isSameSpec(module, other(more), false)).toBe(false);
    expect(isSameSpec(other(more), module, false)).toBe(false);
  });

  test('size, ranks and width are no part of a rating; generation, rate, CL and voltage are', () => {
    const alike = other({ capacity: gib(16), ranks: 2, chipWidth: 16, ecc: true });
    expect(isSameRating(module, alike, false)).toBe(true);
    expect(isSameRating(module, other({ rate: dataRate(2133) }), false)).toBe(false);
    expect(isSameRating(module, other({ voltagesMv: [1350] }), false)).toBe(false);
    expect(isSameRating(module, timed({ cl: 19 }), false)).toBe(false);
    expect(isSameRating(module, other({ generation: 'DDR5' }), false)).toBe(false);
  });

  test('ranks not known agree with nothing, not even with ranks not known', () => {
    const unranked = other({ ranks: 'unknown' });
    expect(isSameSpec(unranked, { ...unranked }, false)).toBe(false);
    expect(isSameSpec(unranked, module, false)).toBe(false);
    expect(isSameSpec(module, unranked, false)).toBe(false);
    expect(specOf(unranked, false).known).toBe(false);
    expect(specOf(module, false).known).toBe(true);
  });

  test.each(['trcd', 'trp', 'tras'])('a %s that one label leaves out is no difference', (name) => {
    expect(isSameRating(timed({ [name]: 17 }), timed({ [name]: undefined }), false)).toBe(true);
    expect(isSameRating(timed({ [name]: undefined }), timed({ [name]: 17 }), false)).toBe(true);
    expect(isSameRating(timed({ [name]: 17 }), timed({ [name]: 17 }), false)).toBe(true);
    expect(isSameRating(timed({ [name]: 17 }), timed({ [name]: 18 }), false)).toBe(false);
  });

  test('profiles are compared where they are used, and only there', () => {
    const fast = timed({}, profile(3200, 16, 18));
    const slow = timed({}, profile(3000, 16, 18));
    const loose = timed({}, profile(3200, 16, 20));
    expect(isSameRating(fast, slow, false)).toBe(true);
    expect(isSameRating(fast, slow, true)).toBe(false);
    expect(isSameRating(fast, loose, true)).toBe(false);
    expect(isSameRating(fast, timed({}, profile(3200, 16)), true)).toBe(true);
    expect(isSameRating(fast, timed({}), true)).toBe(false);
    expect(ratingOf(fast, true).key).not.toBe(ratingOf(loose, true).key);
    expect(ratingOf(fast, false).key).toBe(ratingOf(loose, false).key);
  });
});

describe('mixing, with its reason', () => {
  const kit = (more: Partial<MemoryModule> = {}) => ({ ...module, kitId: 'k', ...more });

  test('one kit', () => {
    expect(answers('mixing', { a1: kit(), b1: kit() })).toEqual([
      'strict: accept, one kit',
      'balanced: accept, one kit',
      'lenient: accept, one kit',
    ]);
  });

  test('one part and all of it listed', () => {
    const listed = { verifiedParts: ['AB-8G24'] };
    expect(answers('mixing', { a1: module, b1: { ...module } }, listed)).toEqual([
      'strict: accept, one part, all listed',
      'balanced: accept, same spec in pairs',
      'lenient: accept, same spec',
    ]);
    expect(answers('mixing', { a1: module, b1: other() }, listed)[0]).toBe('strict: refuse, mixed');
  });

  test('specs that differ in a pair', () => {
    expect(answers('mixing', { a1: module, b1: other({ ranks: 2 }) })).toEqual([
      'strict: refuse, mixed',
      'balanced: refuse, spec differs in a pair',
      'lenient: caution, spec differs',
    ]);
  });

  test.each([
    ['a kit', { kitId: 'k', partNumber: 'a' }, { kitId: 'k', partNumber: 'b' }, true],
    ['one part', {}, {}, true],
    ['two kits of two parts', { kitId: 'j' }, { kitId: 'k', partNumber: 'b' }, false],
    ['two loose parts', {}, { partNumber: 'b' }, false],
  ] as const)('%s pairs although nobody stated its ranks: %4$s', (_what, one, two, isPair) => {
    const unranked = (more: Partial<MemoryModule>) => ({
      ...module,
      ranks: 'unknown' as const,
      ...more,
    });
    const slow = other({ rate: dataRate(2133) });
    // A slower second row keeps the whole from being one kit or one part.
    const placement = { a1: unranked(one), b1: unranked(two), a2: slow, b2: { ...slow } };
    expect(answers('mixing', placement)[1]).toBe(
      isPair ? 'balanced: accept, same spec in pairs' : 'balanced: refuse, spec differs in a pair',
    );
  });

  test('modules of unlike size in a pair have to share their rating alone', () => {
    const large = other({ capacity: gib(16), ranks: 2 });
    expect(answers('mixing', { a1: module, b1: large })[1]).toBe(
      'balanced: accept, same spec in pairs',
    );
    expect(answers('mixing', { a1: module, b1: { ...large, rate: dataRate(2133) } })[1]).toBe(
      'balanced: refuse, spec differs in a pair',
    );
    expect(answers('mixing', { a1: module, b1: large })[2]).toBe('lenient: accept, same spec');
  });

  test('a column longer than the other: what stands alone in its row has nobody to differ from', () => {
    const placement = { a1: module, b1: { ...module }, b2: other({ rate: dataRate(2133) }) };
    expect(answers('mixing', placement)[1]).toBe('balanced: accept, same spec in pairs');
    const unlike = {
      a1: module,
      a2: other({ ranks: 2, partNumber: 'E' }),
      b1: { ...module },
      b2: other(),
    };
    expect(answers('mixing', unlike)[1]).toBe('balanced: refuse, spec differs in a pair');
  });

  test('profiles that differ spoil a pair once they are in use', () => {
    const placement = {
      a1: timed({}, profile(3200, 16)),
      b1: { ...timed({}, profile(3200, 18)), partNumber: 'CD-8' },
    };
    expect(answers('mixing', placement)[1]).toBe('balanced: accept, same spec in pairs');
    expect(answers('mixing', placement, {}, {}, 'profile')[1]).toBe(
      'balanced: refuse, spec differs in a pair',
    );
    // One of them has none: then nobody's profile runs.
    const half = { ...placement, b1: other() };
    expect(answers('mixing', half, {}, {}, 'profile')[1]).toBe(
      'balanced: accept, same spec in pairs',
    );
  });

  test('soldered memory never makes a kit, and is never asked for by the strict school', () => {
    const soldered = [
      { channel: 'A', part: { ...module, kitId: 'k', formFactor: 'soldered' as const } },
    ];
    expect(answers('mixing', { b1: kit() }, { soldered })).toEqual([
      'strict: accept, one kit',
      'balanced: accept, same spec in pairs',
      'lenient: accept, same spec',
    ]);
  });
});

describe('the other questions, with their reasons', () => {
  const oneSided = { slots: desktop().slots.slice(0, 2) };

  test('uneven channels', () => {
    const uneven = { a1: module, a2: module, b1: module };
    const because = (traits: Partial<Machine>, stance: Partial<JobStance>) =>
      answers('uneven channels', uneven, traits, stance);
    expect(because({}, { need: 15 })).toEqual([
      'strict: refuse, uneven',
      'balanced: accept, need fits the paired zone',
      'lenient: caution, uneven',
    ]);
    expect(because({}, { need: 16 })[1]).toBe('balanced: accept, need fits the paired zone');
    expect(because({}, { need: 16.5 })[1]).toBe('balanced: refuse, need exceeds the paired zone');
    expect(because({}, {})[1]).toBe('balanced: refuse, need not stated');
    expect(because({}, { capacityFirst: true })[1]).toBe('balanced: accept, capacity first');
    expect(answers('uneven channels', { a1: module, b1: module })).toEqual([
      'strict: accept, even',
      'balanced: accept, even',
      'lenient: accept, even',
    ]);
    expect(
      answers('uneven channels', { a1: module, a2: other({ capacity: gib(16) }) }, oneSided),
    ).toEqual([
      'strict: refuse, unlike in one channel',
      'balanced: refuse, need not stated',
      'lenient: caution, unlike in one channel',
    ]);
  });

  test('sealed packs', () => {
    const packs = (
      a: string | undefined,
      b: string | undefined,
      more: Partial<MemoryModule> = {},
    ) => ({
      a1: { ...module, kitId: a },
      b1: { ...module, kitId: b, ...more },
    });
    const listed = { verifiedParts: ['AB-8G24'] };
    const question = 'sealed packs' as const;
    expect(answers(question, packs('1', '1'))).toEqual([
      'strict: accept, one pack',
      'balanced: accept, one pack',
      'lenient: accept, one pack',
    ]);
    expect(answers(question, packs('1', undefined))[0]).toBe('strict: accept, one pack');
    expect(answers(question, packs('1', '2'), listed)).toEqual([
      'strict: accept, all listed',
      'balanced: accept, same part',
      'lenient: accept, same spec',
    ]);
    expect(answers(question, packs('1', '2', { partNumber: 'Q-1' }), listed)).toEqual([
      'strict: refuse, not listed',
      'balanced: caution, packs differ',
      'lenient: accept, same spec',
    ]);
  });

  test('the maker’s list', () => {
    const question = 'verified list' as const;
    const listed = { verifiedParts: ['AB-8G24'] };
    expect(answers(question, { a1: module })).toEqual([
      'strict: refuse, no list known',
      'balanced: caution, no list known',
      'lenient: accept, list ignored',
    ]);
    expect(answers(question, { a1: module }, listed)).toEqual([
      'strict: accept, all listed',
      'balanced: accept, all listed',
      'lenient: accept, list ignored',
    ]);
    expect(answers(question, { a1: module, b1: other() }, listed)).toEqual([
      'strict: refuse, not listed',
      'balanced: caution, not listed',
      'lenient: accept, list ignored',
    ]);
    const unnamed = { a1: { ...module, partNumber: undefined } };
    expect(answers(question, unnamed, listed)[0]).toBe('strict: refuse, not listed');
    // What is soldered need not be on any list; what stands beside it must.
    const part = { ...other(), formFactor: 'soldered' as const };
    const soldered = { soldered: [{ channel: 'A', part }] };
    expect(answers(question, {}, soldered)[0]).toBe('strict: accept, nothing to list');
    expect(answers(question, { b1: module }, { ...soldered, ...listed })[0]).toBe(
      'strict: accept, all listed',
    );
  });

  test('a profile beyond what is stated', () => {
    const question = 'profile beyond limit' as const;
    const fast = { a1: timed({}, profile(3600, 18)) };
    const tested = { memoryTestPassed: true };
    expect(answers(question, fast)).toEqual([
      'strict: accept, within limits',
      'balanced: accept, within limits',
      'lenient: accept, within limits',
    ]);
    expect(answers(question, fast, {}, tested, 'profile')).toEqual([
      'strict: refuse, beyond a limit',
      'balanced: accept, memory test passed',
      'lenient: caution, beyond a limit',
    ]);
    expect(answers(question, fast, {}, {}, 'profile')[1]).toBe('balanced: caution, beyond a limit');
  });

  test('one channel where two would do', () => {
    const question = 'needless one channel' as const;
    expect(answers(question, { a1: module, a2: module })).toEqual([
      'strict: refuse, a better placement exists',
      'balanced: refuse, a better placement exists',
      'lenient: caution, a better placement exists',
    ]);
    expect(answers(question, { a1: module, b1: module })[0]).toBe(
      'strict: accept, no better placement',
    );
    // Nothing stands in channel B, and nothing could.
    expect(answers(question, { a1: module, a2: module }, oneSided)[0]).toBe(
      'strict: accept, no better placement',
    );
  });

  test('a placement that does not run is graded no go, and no school is asked', () => {
    const wrong = labelled('8GB 1Rx8 PC3-12800U-11');
    const stance = { capacityFirst: false, memoryTestPassed: false };
    expect(judgeMatch(desktop(), { a1: wrong }, 'standard', stance)).toEqual({
      grade: 'no go',
      schools: [],
    });
  });
});
