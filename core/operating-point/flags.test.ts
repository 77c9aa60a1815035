import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import type { Machine, Placement } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { dataRate, gib } from '../units/index.ts';

// Every caution and note that can be raised: what raises it, what just does not, and all that it says.

const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const pair = { a1: eight, b1: eight };
const profiled = labelled('8GB 1Rx8 PC4-2400T-UA1-11 profile 3200 CL16-18-18 1.35V');
const profile3000 = labelled('8GB 1Rx8 PC4-2400T-UA1-11 profile 3000 CL16-18-18 1.35V');
const onBoard = (module: MemoryModule) => ({
  soldered: [{ channel: 'A', part: module }] as unknown as Machine['soldered'],
});
const with_ = (more: Partial<MemoryModule>, base = eight) => ({ ...base, ...more });

/** Beside what a test's desktop knows. */
const KNOWN = { maxPerSlot: gib(64), maxTotal: gib(256) };

type Setting = 'standard' | 'profile';
const flags = (machine: Partial<Machine>, placement: Placement, setting: Setting = 'standard') =>
  running(desktop({ ...KNOWN, ...machine }), placement, setting).flags;

test('a matched pair on a board that is known through and through raises none', () => {
  expect(flags({}, pair)).toEqual([]);
  expect(flags({ rateTable: [] }, { a1: eight, a2: eight, b1: eight, b2: eight })).toEqual([]);
});

describe('channels', () => {
  test('two modules in one, where each could have its own: what to move', () => {
    expect(flags({}, { a1: eight, a2: eight })).toEqual([
      { type: 'one-channel-needless', severity: 'caution', moves: expect.any(Array) as never },
    ]);
  });

  test('one module: nothing to be done with it, said all the same', () => {
    expect(flags({}, { a1: eight })).toEqual([
      { type: 'one-channel', severity: 'note', channel: expect.anything() as never },
    ]);
  });

  test('a board with one channel has nothing to say', () => {
    expect(running(desktop(KNOWN, 1, 2), { a1: eight }).flags).toEqual([]);
  });

  test.each([
    ['zone', 'note'],
    ['single', 'caution'],
    ['unknown', 'caution'],
  ] as const)('of unlike size, on a board whose manner is %s', (trait, severity) => {
    const sixteen = labelled('16GB 1Rx8 PC4-2400T-UA1-11');
    const found = flags({ unevenChannels: trait }, { a1: eight, b1: sixteen });
    const paired = trait === 'single' ? 0 : 16;
    expect(found).toEqual([
      { type: 'uneven-channels', severity, trait, paired, tail: 24 - paired },
    ]);
  });
});

describe('overclock profiles', () => {
  const both = { a1: profiled, b1: profiled };
  const ways = (support: Machine['profiles']['support']) => ({
    profiles: { support, ceiling: 'none' as const },
  });

  test('left unused: the rate all of them reach', () => {
    const rate = 3000;
    const found = flags({}, { a1: profiled, b1: profile3000 });
    expect(found).toEqual([
      { type: 'profile-available', severity: 'caution', rate, support: 'yes' },
    ]);
    expect(flags(ways('unknown'), { a1: profiled, b1: profile3000 })).toEqual([
      { type: 'profile-available', severity: 'caution', rate, support: 'unknown' },
    ]);
  });

  test('that give no more than the bin, that one module lacks, or that the board refuses, are not offered', () => {
    const slow = with_({ profile: { ...profiled.profile, rate: dataRate(2400) } as never });
    expect(flags({}, { a1: slow, b1: slow })).toEqual([]);
    expect(flags({}, { a1: profiled, b1: eight })).toEqual([]);
    expect(flags(ways('no'), both)).toEqual([]);
    expect(flags({}, both, 'profile')).toEqual([]);
  });

  test('asked for on a board without them, or of modules without them', () => {
    expect(flags(ways('no'), both, 'profile')).toEqual([
      { type: 'profiles-unsupported', severity: 'caution' },
    ]);
    expect(flags({}, { a1: profiled, b1: eight }, 'profile')).toEqual([
      { type: 'profile-missing', severity: 'caution', slotIds: ['b1'] },
    ]);
    expect(flags(ways('no'), pair, 'profile')).toEqual([
      { type: 'profiles-unsupported', severity: 'caution' },
    ]);
  });

  test('on a board nobody knows to take them', () => {
    expect(flags(ways('unknown'), both, 'profile')).toContainEqual({
      ...{ type: 'trait-unknown', severity: 'caution', trait: 'profiles' },
    });
    expect(flags(ways('unknown'), pair)).toEqual([]);
  });

  test('beyond what the controller or the table of rates states', () => {
    const beyond = { type: 'beyond-stated-limit', severity: 'caution', rate: 3200 };
    const low = { controllerLimit: dataRate(2666) };
    expect(flags(low, both, 'profile')).toEqual([{ ...beyond, rule: 'controller', limit: 2666 }]);
    expect(flags({ controllerLimit: dataRate(3200) }, both, 'profile')).toEqual([]);
    const row = { modulesPerChannel: 1, ranksPerChannel: 1, rate: dataRate(2933) };
    expect(flags({ rateTable: [row] }, both, 'profile')).toEqual([
      { ...beyond, rule: 'rate-table', limit: 2933 },
    ]);
  });
});

describe('modules', () => {
  test('that could do more than they run at, together by what they could', () => {
    const fast = labelled('8GB 1Rx8 PC4-3200AA-UA2-11');
    const mid = labelled('8GB 1Rx8 PC4-2666V-UA2-11');
    const machine = { controllerLimit: dataRate(2400) };
    const four = { a1: fast, a2: eight, b1: fast, b2: mid };
    expect(flags(machine, four)).toEqual([
      { type: 'rate-unused', severity: 'note', slotIds: ['a1', 'b1'], rated: 3200, runs: 2400 },
      { type: 'rate-unused', severity: 'note', slotIds: ['b2'], rated: 2666, runs: 2400 },
    ]);
    // By their profile, where that is what they run at; soldered ones cannot be exchanged.
    const capped = { profiles: { support: 'yes', ceiling: dataRate(3000) } } as const;
    expect(flags(capped, { a1: profiled, b1: profile3000 }, 'profile')).toEqual([
      expect.objectContaining({ type: 'rate-unused', slotIds: ['a1'], rated: 3200 }),
    ]);
    expect(flags({ ...machine, ...onBoard(fast) }, { b1: eight })).not.toContainEqual(
      expect.objectContaining({ type: 'rate-unused' }),
    );
  });

  test('with ECC: mixed with others, on a board that ignores it, on one that nobody knows', () => {
    const ecc = with_({ ecc: true });
    const off = { type: 'ecc-off' };
    expect(flags({ ecc: 'ignored' }, { a1: ecc, b1: ecc })).toEqual([{ ...off, severity: 'note' }]);
    expect(flags({ ecc: 'works' }, { a1: ecc, b1: ecc })).toEqual([]);
    expect(flags({ ecc: 'works' }, { a1: ecc, b1: eight })).toEqual([
      { ...off, severity: 'caution' },
    ]);
    expect(flags({ ecc: 'unknown' }, { a1: ecc, b1: ecc })).toEqual([
      { type: 'ecc-unknown', severity: 'caution', slotIds: ['a1', 'b1'] },
    ]);
    expect(flags({ ecc: 'unknown' }, pair)).toEqual([]);
  });

  test('of 12, 24 or 48 GB on a board that may not know them', () => {
    const odd = labelled('24GB 1Rx8 PC5-5600B-UA0-1010');
    const board = desktop({ ...KNOWN, generations: ['DDR5'], controllerLimit: dataRate(5600) });
    expect(running({ ...board, nonBinary: 'unknown' }, { a1: odd, b1: odd }).flags).toEqual([
      { type: 'non-binary-unknown', severity: 'caution', slotIds: ['a1', 'b1'] },
    ]);
    expect(running({ ...board, nonBinary: 'yes' }, { a1: odd, b1: odd }).flags).toEqual([]);
    expect(flags({ nonBinary: 'unknown' }, pair)).toEqual([]);
  });

  test('of unknown ranks, where a table of rates asks for them', () => {
    const row = { modulesPerChannel: 1, ranksPerChannel: 2, rate: dataRate(2400) };
    const blind = { a1: with_({ ranks: 'unknown' }), b1: with_({ ranks: 1 }) };
    const found = flags({ rateTable: [row] }, blind);
    expect(found).toContainEqual({ type: 'ranks-unknown', severity: 'caution', slotIds: ['a1'] });
    expect(flags({ rateTable: [row] }, pair)).not.toContainEqual(
      expect.objectContaining({ type: 'ranks-unknown' }),
    );
    expect(flags({}, blind)).toEqual([]);
  });

  test('with a rate or timings taken from the common case; a form alone is no matter', () => {
    const guessed = with_({ assumed: ['form factor', 'timings'] });
    expect(flags({}, { a1: guessed, b1: eight })).toEqual([
      { type: 'assumed', severity: 'note', slotIds: ['a1'] },
    ]);
    const form = with_({ assumed: ['form factor'] });
    expect(flags({}, { a1: form, b1: form })).toEqual([]);
  });

  test('of x16 chips, where that halves their bank groups', () => {
    const wide = with_({ chipWidth: 16 });
    expect(flags({}, { a1: wide, b1: wide })).toEqual([
      { type: 'wide-chips', severity: 'note', slotIds: ['a1', 'b1'] },
    ]);
    const ddr3 = labelled('8GB 1Rx16 PC3-12800U-11-13-A1');
    const board = desktop({ ...KNOWN, generations: ['DDR3'], controllerLimit: dataRate(1600) });
    expect(running(board, { a1: ddr3, b1: ddr3 }).flags).toEqual([]);
  });
});

describe('the machine', () => {
  test.each([
    [{ sync: { limit: dataRate(2133), fabricClock: true } }, 2133, true],
    [{ sync: { limit: dataRate(2133), fabricClock: 'unknown' } }, 2133, 'unknown'],
  ] as const)('a clock halved above its limit', (machine, limit, fabric) => {
    expect(flags(machine, pair)).toEqual([
      { type: 'clock-halved', severity: 'caution', limit, fabric },
    ]);
  });

  test('a clock at its limit is not halved', () => {
    expect(flags({ sync: { limit: dataRate(2400), fabricClock: true } }, pair)).toEqual([]);
    expect(flags({ sync: { limit: 'unknown', fabricClock: true } }, pair)).toEqual([]);
  });

  test('an operating system that cannot use all of it', () => {
    const limit = { low: gib(8), high: gib(12) };
    expect(flags({ osLimit: limit }, pair)).toEqual([
      { type: 'os-limit', severity: 'caution', installed: 16, limit },
    ]);
    expect(flags({ osLimit: { low: gib(16), high: gib(16) } }, pair)).toEqual([]);
  });

  test('another order of filling than the manual’s, counted by modules in slots', () => {
    const fillOrder = [['a2'], ['a2', 'b2'], ['a2', 'b2', 'a1'], ['a1', 'a2', 'b1', 'b2']];
    const order = { fillOrder } as unknown as Partial<Machine>;
    expect(flags(order, pair)).toEqual([
      { type: 'fill-order', severity: 'caution', expected: ['a2', 'b2'] },
    ]);
    expect(flags(order, { a2: eight, b1: eight })).toEqual([
      { type: 'fill-order', severity: 'caution', expected: ['a2', 'b2'] },
    ]);
    expect(flags(order, { a2: eight, b2: eight })).toEqual([]);
    expect(flags({ fillOrder: 'unknown' }, pair)).toEqual([]);
    expect(flags({ ...order, ...onBoard(eight) }, { a2: eight })).not.toContainEqual(
      expect.objectContaining({ type: 'fill-order' }),
    );
  });

  test.each([
    ['controllerLimit', 'caution'],
    ['firmwareCap', 'caution'],
    ['maxPerSlot', 'note'],
    ['maxTotal', 'note'],
    ['requiredFirstSlot', 'note'],
  ] as const)('what nobody knows of it: %s', (trait, severity) => {
    expect(flags({ [trait]: 'unknown' }, pair)).toEqual([
      { type: 'trait-unknown', severity, trait },
    ]);
  });

  test('with every slot filled it does not matter which comes first', () => {
    const four = { a1: eight, a2: eight, b1: eight, b2: eight };
    expect(flags({ requiredFirstSlot: 'unknown' }, four)).toEqual([]);
  });

  test('with soldered memory alone, what slots take is no matter', () => {
    const unknown = { maxPerSlot: 'unknown', maxTotal: 'unknown', firmwareCap: 'unknown' } as const;
    expect(flags({ ...unknown, requiredFirstSlot: 'unknown', ...onBoard(eight) }, {})).toEqual([
      expect.objectContaining({ type: 'one-channel' }),
      { type: 'trait-unknown', severity: 'caution', trait: 'firmwareCap' },
    ]);
  });
});
