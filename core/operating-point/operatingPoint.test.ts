import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { dataRate, gib } from '../units/index.ts';
import { operatingPoint, peakAtLoad } from './index.ts';

const slow = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const fast = labelled('8GB 1Rx8 PC4-3200AA-UA1-11');
const kit = labelled('8GB 1Rx8 PC4-2133P-UA1-11 profile 3600MT/s CL18-22-22-42 1.35V');
const ddr5 = (capacity: number) => labelled(`${capacity}GB 1Rx8 PC5-5600B-UA0-1010`);
const flagTypes = (flags: readonly { type: string }[]) => flags.map(({ type }) => type);

describe('rate', () => {
  const at2933 = desktop({ controllerLimit: dataRate(2933) });

  test('a 2400 CL17 and a 3200 CL22 module under a limit of 2933 run at 2400 CL17, 38.4 GB/s', () => {
    const point = running(at2933, { a1: slow, b1: fast });
    expect([point.rate, point.timings.cycles.cl]).toEqual([2400, 17]);
    expect(point.peak).toBeCloseTo(38.4, 9);
    expect(point.rungs.filter(({ role }) => role === 'binds')).toMatchObject([
      { rule: 'slowest-module', limit: 2400, slotIds: ['a1'], liftsTo: 2933 },
    ]);
    expect(point.flags).toContainEqual(
      expect.objectContaining({ type: 'rate-unused', slotIds: ['b1'], rated: 3200, runs: 2400 }),
    );
  });

  test('a limit between standard rates snaps down', () => {
    const odd = desktop({ controllerLimit: dataRate(2800) });
    expect(running(odd, { a1: fast }).rate).toBe(2666);
    const none = operatingPoint(
      desktop({ controllerLimit: dataRate(1400) }),
      { a1: fast },
      'standard',
    );
    expect(none).toMatchObject({ blockers: [{ type: 'no-standard-rate', limit: 1400 }] });
  });

  test('the rate table is read for the worst channel, by modules and sum of ranks', () => {
    const rateTable = [
      { modulesPerChannel: 1, ranksPerChannel: 2, rate: dataRate(3200) },
      { modulesPerChannel: 2, ranksPerChannel: 2, rate: dataRate(2933) },
      { modulesPerChannel: 2, ranksPerChannel: 4, rate: dataRate(2666) },
    ];
    const machine = desktop({ rateTable });
    const pair = { a1: fast, b1: fast };
    expect(running(machine, pair).rate).toBe(3200);
    expect(running(machine, { ...pair, a2: fast }).rate).toBe(2933);
    const dual = labelled('16GB 2Rx8 PC4-3200AA-UB1-11');
    const three = running(machine, { ...pair, a2: dual });
    expect(three.rate).toBe(2666); // no row for three ranks: the next higher
    expect(flagTypes(three.flags)).toContain('table-row-missing');
    expect(three.rungs.find(({ role }) => role === 'binds')?.load?.channel).toBe('A');
  });

  test('a profile runs unsnapped beyond stated limits, and is clipped by the ceiling', () => {
    const free = running(desktop(), { a1: kit, b1: kit }, 'profile');
    expect([free.rate, free.timings.cycles, free.voltageMv]).toEqual([
      3600,
      { cl: 18, trcd: 22, trp: 22, tras: 42 },
      1350,
    ]);
    expect(free.flags).toContainEqual(
      expect.objectContaining({ type: 'beyond-stated-limit', rule: 'controller', limit: 3200 }),
    );
    const capped = desktop({ profiles: { support: 'yes', ceiling: dataRate(3000) } });
    const clipped = running(capped, { a1: kit, b1: kit }, 'profile');
    // 18 cycles at 3600 are 10 ns; at 2933 that is 14.67 cycles, 15 by the DDR4 rule.
    expect([clipped.rate, clipped.timings.cycles.cl]).toEqual([2933, 15]);
  });

  test('a profile left off is pointed out; one module without a profile keeps all at standard', () => {
    const off = running(desktop(), { a1: kit, b1: kit });
    expect(off.rate).toBe(2133);
    expect(off.flags[0]).toMatchObject({ type: 'profile-available', rate: 3600 });
    const half = running(desktop(), { a1: kit, b1: fast }, 'profile');
    expect([half.rate, flagTypes(half.flags).includes('profile-missing')]).toEqual([2133, true]);
  });

  test('the controller halves its clock above the sync limit', () => {
    const tied = desktop({ sync: { limit: dataRate(3200), fabricClock: true } });
    expect(running(tied, { a1: kit }, 'profile').clocks).toBe('halved');
    expect(running(tied, { a1: kit }).clocks).toBe('in step');
  });
});

describe('timings', () => {
  test.each([
    // SPD times in ps outrank the label; rounding is the generation's own.
    ['8GB 1Rx8 PC4-3200AA-UA1-11', { cl: 13_750 }, 2400, 17],
    ['8GB 1Rx8 PC4-3200AA-UA1-11', undefined, 2666, 19],
    ['8GB PC3-12800U-11-13-A1', undefined, 1333, 10],
    ['16GB 1Rx8 PC5-5600B-UA0-1010', undefined, 4800, 40],
  ])('%s (SPD %o) at %i takes CL %i', (label, timesPs, cap, cl) => {
    const module = labelled(label, timesPs ? { timesPs } : {});
    const limits = { controllerLimit: dataRate(cap), generations: [module.generation] };
    expect(running(desktop(limits), { a1: module }).timings.cycles.cl).toBe(cl);
  });

  test('without a common CL the rate steps down until there is one', () => {
    const a = { ...fast, supportedCls: [15, 17, 22] };
    const b = { ...fast, supportedCls: [17, 20] };
    const point = running(desktop(), { a1: a, b1: b });
    expect([point.rate, point.timings.cycles.cl]).toEqual([2400, 17]);
    expect(point.rungs.filter(({ role }) => role === 'binds').map(({ rule }) => rule)).toEqual([
      'common-cl',
    ]);
    const apart = { a1: { ...fast, supportedCls: [22] }, b1: { ...fast, supportedCls: [24] } };
    expect(operatingPoint(desktop(), apart, 'standard')).toMatchObject({
      blockers: [{ type: 'no-common-cl' }],
    });
  });

  test('LPDDR5 latency is counted in its own slower command clock', () => {
    const part = labelled('16GB LPDDR5-6400 CL17 x16');
    const machine = desktop({
      generations: ['LPDDR5'],
      controllerLimit: dataRate(6400),
      slots: [],
      soldered: [{ channel: 'A', part }],
    });
    expect(running(machine, {}).timings.firstWord).toBeCloseTo((17 * 8000) / 6400, 9);
  });
});

describe('channels', () => {
  const laptop = (unevenChannels: 'zone' | 'single' | 'unknown') =>
    desktop({
      ...{ generations: ['DDR5'], controllerLimit: dataRate(5600), unevenChannels },
      slots: [{ id: 'b1', printedName: 'SO-1', channels: ['B'] }],
      soldered: [{ channel: 'A', part: { ...ddr5(8), capacity: gib(12), formFactor: 'soldered' } }],
    });

  test('12 GB soldered beside 24 GB: 24 GB paired and a 12 GB tail', () => {
    const point = running(laptop('zone'), { b1: ddr5(24) });
    expect(point.layouts).toMatchObject([
      {
        regions: [
          { channels: ['A', 'B'], capacity: 24 },
          { channels: ['B'], capacity: 12 },
        ],
      },
    ]);
    expect(point.paired).toBe(24);
    expect(peakAtLoad(point.layouts[0], 22)).toBeCloseTo(89.6, 6);
    expect(peakAtLoad(point.layouts[0], 25)).toBeCloseTo(44.8, 6);
  });

  test('trait single runs the whole uneven set one wide; unknown shows both, the worse first', () => {
    expect(running(laptop('single'), { b1: ddr5(24) })).toMatchObject({
      paired: 0,
      layouts: [{ reading: 'single', regions: [{ capacity: 36 }] }],
    });
    const unknown = running(laptop('unknown'), { b1: ddr5(24) });
    expect(unknown.layouts.map(({ reading }) => reading)).toEqual(['single', 'zone']);
    expect(unknown.peak).toBeCloseTo(44.8, 6);
  });

  test('three modules in two channels: the trait decides what the third one does', () => {
    const three = { a1: slow, a2: slow, b1: slow };
    expect(running(desktop(), three).paired).toBe(16);
    expect(running(desktop({ unevenChannels: 'single' }), three).paired).toBe(0);
  });

  test('modules that differ on even channels are even', () => {
    const big = labelled('16GB 2Rx8 PC4-2400T-UB1-11');
    expect(running(desktop(), { a1: slow, a2: big, b1: big, b2: slow }).paired).toBe(48);
  });

  test('both modules in the slots of one channel run one wide, and a better slot is named', () => {
    const big = labelled('16GB 2Rx8 PC4-2400T-UB1-11');
    const point = running(desktop(), { a1: big, a2: big });
    expect(point.peak).toBeCloseTo(19.2, 9);
    expect(point.flags[0]).toMatchObject({
      type: 'one-channel-needless',
      moves: [{ from: 'a1', to: 'b1' }],
    });
    expect(running(desktop(), { a1: big }).flags[0]).toMatchObject({ type: 'one-channel' });
    const stuck = desktop({ slots: desktop().slots.slice(0, 2) });
    expect(running(stuck, { a1: big, a2: big }).flags[0]).toMatchObject({ type: 'one-channel' });
  });

  test('a compression module carries both channels by itself', () => {
    const module = labelled('32GB LPDDR5X-7500 CL20 compression');
    const slots = [{ id: 'c1', printedName: 'CM1', channels: ['A', 'B'] }];
    const machine = desktop({
      ...{
        generations: ['LPDDR5X'],
        formFactor: 'compression',
        slots,
        controllerLimit: dataRate(8533),
      },
      voltagesMv: [1050],
    });
    expect(running(machine, { c1: module })).toMatchObject({ paired: 32, rate: 7500 });
  });
});

describe('blockers', () => {
  test.each([
    ['8GB 2Rx8 PC3-12800U-11-13-A1', {}, ['wrong-generation', 'voltage']],
    ['8GB 1Rx8 PC4-2400T-SA1-11', {}, ['wrong-form-factor']],
    ['16GB 1Rx4 PC4-2400T-RC1-11', {}, ['wrong-buffering']],
    ['8GB 1Rx8 PC4-2400T-EA1-11', { ecc: 'refused' }, ['ecc-refused']],
    ['8GB 1Rx8 PC4-2400T-UA1-11', { ecc: 'required' }, ['ecc-required']],
    [
      '32GB 4Rx8 PC4-2400T-UA1-11',
      { maxPerSlot: gib(16), maxTotal: gib(16), maxRanksPerModule: 2 },
      ['slot-capacity', 'ranks-per-module', 'total-capacity'],
    ],
    ['16GB 2Rx8 PC4-2400T-UA1-11', { maxRanksPerChannel: 1 }, ['ranks-per-channel']],
    ['8GB 1Rx8 PC4-2400T-UA1-11', { requiredFirstSlot: 'b2' }, ['first-slot-empty']],
    ['24GB 1Rx8 PC5-5600B-UA0-1010', { generations: ['DDR5'], nonBinary: 'no' }, ['non-binary']],
    ['8GB 2Rx8 PC3-12800U-11-13-A1', { generations: ['DDR3'], voltagesMv: [1350] }, ['voltage']],
  ] as const)('%s in %o is refused for %j', (label, traits, types) => {
    const point = operatingPoint(
      desktop({
        voltagesMv: traits && 'generations' in traits ? [1100, 1500] : [1200],
        ...traits,
      }),
      { a1: labelled(label) },
      'standard',
    );
    expect(point.type === 'blocked' && flagTypes(point.blockers)).toEqual(types);
  });

  test('every one is reported, and soldered memory alone starts with its first slot empty', () => {
    const bad = { a1: labelled('32GB 2Rx8 PC4-2400T-SB1-11'), zz: slow, b1: ddr5(8) };
    const point = operatingPoint(desktop({ maxPerSlot: gib(16) }), bad, 'standard');
    expect(point.type === 'blocked' && flagTypes(point.blockers)).toEqual([
      'no-such-slot',
      'wrong-form-factor',
      'slot-capacity',
      'wrong-generation',
      'voltage',
      'mixed-generations',
    ]);
    const part = { ...slow, formFactor: 'soldered' as const };
    const machine = desktop({ requiredFirstSlot: 'a1', soldered: [{ channel: 'A', part }] });
    expect(operatingPoint(machine, {}, 'standard').type).toBe('runs');
    expect(operatingPoint(desktop(), {}, 'standard')).toMatchObject({
      blockers: [{ type: 'nothing-fitted' }],
    });
  });
});

test('usable is the lesser of installed and the OS limit, less the graphics carve-out', () => {
  const machine = desktop({
    osLimit: { low: gib(3), high: gib(3.5) },
    graphicsCarveOut: { low: gib(0.25), high: gib(0.5) },
  });
  const point = running(machine, { a1: slow });
  expect([point.installed, point.usable]).toEqual([8, { low: 2.5, high: 3.25 }]);
  expect(flagTypes(point.flags)).toContain('os-limit');
});

test('unknown traits give cautions, never blockers', () => {
  const machine = desktop({
    controllerLimit: 'unknown',
    nonBinary: 'unknown',
    generations: ['DDR5'],
  });
  const point = running(machine, { a1: ddr5(24) });
  expect(point.rate).toBe(5600);
  expect(flagTypes(point.flags)).toEqual(
    expect.arrayContaining(['non-binary-unknown', 'trait-unknown']),
  );
});
