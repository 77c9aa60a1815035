import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyDdr4, anyFourChannelMachine, anyPlacement } from '../../test/support/arbitraries.ts';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import type { Machine, Placement } from '../machine/index.ts';
import { judgeMatch } from '../matching/index.ts';
import { readLabel } from '../memory/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import {
  findRunFaults,
  ASSUMED_LEVEL,
  inferChannels,
  judgeGain,
  judgeShownRate,
  readRuns,
} from '../proving/index.ts';
import { SLIPS, expectSound } from '../../test/support/soundWords.ts';
import { dataRate, gib } from '../units/index.ts';
import {
  explainBlocker,
  explainChannels,
  explainFinding,
  explainFlag,
  explainPeak,
  explainPoint,
  explainRate,
  explainRung,
  explainRunFault,
  explainSchoolRow,
  explainShownRate,
  explainUsable,
  explainWidth,
  figure,
  gainText,
  gb,
  list,
  pointText,
  rungName,
  toSettleText,
  slotNames,
  usableText,
  volts,
  widthText,
} from './index.ts';
import { often } from '../../test/support/draws.ts';

const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const fast = labelled('8GB 1Rx8 PC4-3200AA-UA1-11');
const kit = labelled('8GB 1Rx8 PC4-2133P-UA1-11 profile 3600MT/s CL18 1.35V');

describe('words and figures', () => {
  test.each([
    [0, '0 GB'],
    [0.5, '512 MB'],
    [24, '24 GB'],
    [15.75, '15.75 GB'],
    [33.333, '33.33 GB'],
  ])('%f is %s', (capacity, text) => {
    expect(gb(capacity)).toBe(text);
  });

  test('lists, figures and rails read as people write them', () => {
    expect([list([]), list(['A']), list(['A', 'B']), list(['A', 'B', 'C'], 'or')]).toEqual([
      '',
      'A',
      'A and B',
      'A, B or C',
    ]);
    expect([figure(38.4), figure(102.4), figure(0.25), figure(1234.5)]).toEqual([
      '38.4',
      '102',
      '0.25',
      '1230',
    ]);
    expect(volts([1350, 1500])).toBe('1.35 V or 1.5 V');
  });

  test('slots go by their printed names, soldered memory by what it is', () => {
    const nameOf = slotNames({ slots: [{ id: 'x', printedName: 'DIMM_A2', channels: ['A'] }] });
    expect([nameOf('x'), nameOf(undefined), nameOf('gone')]).toEqual([
      'DIMM_A2',
      'the soldered memory',
      '“gone”',
    ]);
  });
});

describe('placements', () => {
  const titles = (machine: Machine, placement: Placement) =>
    explainPoint(operatingPoint(machine, placement, 'standard'), slotNames(machine)).map(
      ({ title }) => title,
    );

  test.each([
    [{}, {}, ['No memory is fitted']],
    [{}, { a1: labelled('8GB 2Rx8 PC3-12800U-11-13-A1') }, ['DDR3 does not fit A1']],
    [{}, { a1: labelled('8GB 1Rx8 PC4-2400T-SA1-11') }, ['A SODIMM module does not fit A1']],
    [
      {},
      { a1: labelled('16GB 1Rx4 PC4-2400T-RC1-11') },
      ['A registered module does not run in A1'],
    ],
    [{ ecc: 'required' }, { b1: module }, ['The module in B1 has no ECC']],
    [{ ecc: 'refused' }, { b1: { ...module, ecc: true } }, ['The ECC module in B1 is refused']],
    [{ maxPerSlot: gib(4) }, { a1: module }, ['8 GB is too much for A1']],
    [{ maxTotal: gib(4) }, { a1: module }, ['8 GB is too much in all']],
    [{ maxRanksPerChannel: 1 }, { a1: module, a2: module }, ['2 ranks are too many on channel A']],
    [{ requiredFirstSlot: 'b2' }, { a1: module }, ['B2 must be filled first']],
    [{ voltagesMv: [1350] }, { a1: module }, ['The module in A1 needs 1.2 V']],
    [{ controllerLimit: dataRate(1300) }, { a1: module }, ['No rate is slow enough']],
    [{}, { a1: { ...module, supportedCls: [3] } }, ['The modules share no CAS latency']],
    [{}, { zz: module }, ['A module sits in a slot the machine does not have']],
  ])('%o with %o: %j', (traits, placement, expected) => {
    expect(titles(desktop(traits as Partial<Machine>), placement as Placement).slice(0, 1)).toEqual(
      expected,
    );
  });

  test('a running placement names what binds first, then what deserves a word', () => {
    expect(titles(desktop(), { a1: module, a2: fast }).slice(0, 3)).toEqual([
      'Slowest module: A1: 2400 MT/s',
      'All modules share one channel',
      'A2 could run at 3200 MT/s',
    ]);
    const eight = Object.fromEntries(desktop({}, 4, 2).slots.map(({ id }) => [id, fast]));
    const point = running(desktop({ controllerLimit: dataRate(2666) }, 4, 2), eight);
    expect(
      point.flags.map((flag) => explainFlag(flag, slotNames(desktop({}, 4, 2))).title)[0],
    ).toBe('8 modules could run at 3200 MT/s');
  });

  test('one line says all for a list', () => {
    expect(pointText(running(desktop(), { a1: module, b1: module }))).toBe(
      'DDR4-2400 · CL 17 · 16 GB dual-channel · 38.4 GB/s',
    );
    expect(pointText(running(desktop(), { a1: module, a2: module, b1: module }))).toBe(
      'DDR4-2400 · CL 17 · 16 of 24 GB dual-channel · 38.4 GB/s',
    );
    expect(pointText(running(desktop(), { a1: module }))).toContain('single-channel');
    expect(pointText(operatingPoint(desktop(), {}, 'standard'))).toBe('Does not run: 1 reason');
    expect(
      widthText(running(desktop({}, 4, 1), { a1: module, b1: module, c1: module, d1: module })),
    ).toBe('32 GB quad-channel');
  });

  test('the large figures show their arithmetic', () => {
    const machine = desktop({
      osLimit: { low: gib(3), high: gib(3.5) },
      graphicsCarveOut: { low: gib(0.25), high: gib(0.5) },
    });
    const point = running(machine, { a1: module, a2: module, b1: module });
    const nameOf = slotNames(machine);
    expect(explainPeak(point, 64, undefined)[0]?.title).toBe(
      '2 channels × 64 bits × 2400 MT/s ÷ 8 = 38.4 GB/s',
    );
    expect(explainPeak(point, 64, 20)[0]?.title).toBe(
      '1 channel × 64 bits × 2400 MT/s ÷ 8 = 19.2 GB/s',
    );
    expect(explainUsable(point, machine)[0]).toMatchObject({
      title: '24 GB installed, 2.5 to 3.25 GB usable',
      why: 'With an operating system limit of 3 GB to 3.5 GB, less 0.25 GB to 0.5 GB for built-in graphics.'.replace(
        '0.25 GB to 0.5 GB',
        '256 MB to 512 MB',
      ),
    });
    expect(usableText(point)).toBe('2.5 to 3.25 GB');
    expect(explainRate(point, nameOf).at(-1)?.title).toBe('CL 17-17-17 is 14.2 ns latency');
    expect(explainWidth(point, nameOf)[0]?.title).toBe('Channels hold A 16 GB, B 8 GB');
  });

  test('a binding rung says what would lift it, and where that leads', () => {
    const machine = desktop({ controllerLimit: dataRate(2933) });
    const { rungs } = running(machine, { a1: module, b1: fast });
    const binding = rungs.find(({ role }) => role === 'binds');
    if (!binding) throw new Error('expected a binding rung');
    expect(rungName(binding, slotNames(machine))).toBe('Slowest module: A1');
    expect(explainRung(binding, slotNames(machine)).mend).toBe('Faster modules there → 2933 MT/s.');
    const soldered = desktop({
      soldered: [{ channel: 'A', part: { ...module, formFactor: 'soldered' } }],
    });
    const own = running(soldered, {}).rungs.find(({ rule }) => rule === 'slowest-module');
    expect(own && explainRung(own, slotNames(soldered)).mend).toBe('Nothing: it is soldered.');
  });

  test('no placement of any machine brings out broken words', () => {
    const need = fc.option(fc.double({ min: 0, max: 200, noNaN: true }), { nil: undefined });
    fc.assert(
      fc.property(
        anyFourChannelMachine,
        anyPlacement(anyDdr4),
        fc.constantFrom('standard' as const, 'profile' as const),
        need,
        (machine, placement, setting, wanted) => {
          const point = operatingPoint(machine, placement, setting);
          const nameOf = slotNames(machine);
          expect(pointText(point)).not.toMatch(SLIPS);
          explainPoint(point, nameOf).forEach(expectSound);
          if (point.type === 'blocked') return;
          point.rungs.map((rung) => explainRung(rung, nameOf)).forEach(expectSound);
          const figures = [
            ...explainRate(point, nameOf),
            ...explainWidth(point, nameOf),
            ...explainPeak(point, 64, wanted),
            ...explainUsable(point, machine),
          ];
          figures.forEach(expectSound);
          const stance = { need: wanted, capacityFirst: false, memoryTestPassed: false };
          for (const { rows } of judgeMatch(machine, placement, setting, stance).schools)
            for (const row of rows) expect(explainSchoolRow(row)).not.toMatch(SLIPS);
        },
      ),
      { numRuns: often(100) },
    );
  });

  test('blockers all name a mend', () => {
    const bad = { a1: labelled('32GB 2Rx4 PC3-12800R-11-13-A1'), zz: kit };
    const point = operatingPoint(
      desktop({ maxPerSlot: gib(16), maxTotal: gib(16) }),
      bad,
      'standard',
    );
    if (point.type !== 'blocked') throw new Error('expected it blocked');
    for (const blocker of point.blockers) {
      const explanation = explainBlocker(blocker, slotNames(desktop()));
      expectSound(explanation);
      expect(explanation.mend).toBeTruthy();
    }
  });
});

describe('labels and runs', () => {
  test('whatever is typed as a label, the findings read well and errors name a mend', () => {
    const piece = fc.constantFrom(
      '8GB',
      '7GB',
      'DDR4',
      'DDR5',
      'PC4-2400T',
      '2Rx8',
      'CL',
      '99999',
      '1.9V',
      '?',
      'x',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 8 }), (pieces) => {
        for (const finding of readLabel(pieces.join(' ')).findings) {
          const { title, why, mend } = explainFinding(finding);
          expect(title + why).not.toMatch(/undefined|NaN|\[object/);
          if (finding.severity === 'error') expect(mend).toBeTruthy();
        }
      }),
    );
  });

  test.each([
    ['x', 'is not a number'],
    ['-1', 'a run is more than 0'],
    ['99999', 'not plausible'],
    ['', 'No runs'],
  ])('runs typed as “%s”: %s', (text, says) => {
    const { runs, faults } = readRuns(text);
    const [fault] = [...faults, ...findRunFaults('bandwidth', runs, 0)];
    if (!fault) throw new Error('expected a fault');
    expectSound(explainRunFault(fault));
    expect(explainRunFault(fault).title).toContain(says);
  });

  test.each([
    [1600, '3200 MT/s, as expected', /not half speed/],
    [1333, '2666 MT/s, slower than 3200', /1333 MHz is the clock/],
    [3600, '3600 MT/s, faster than 3200', /lower limit/],
    [5, 'No memory rate', /outside/],
  ])('%i on the screen of a 3200 pair: %s', (reading, title, why) => {
    const shown = explainShownRate(
      judgeShownRate(reading, running(desktop(), { a1: fast, b1: fast })),
    );
    expectSound(shown);
    expect([shown.title, why.test(shown.why)]).toEqual([title, true]);
  });

  test('gains and what is still to be measured', () => {
    expect(gainText(judgeGain([14, 14.1, 13.9], [28, 28.1, 27.9], 'higher', 1))).toMatch(
      /^×2\.00 \(1\.\d\d to 2\.\d\d\)$/,
    );
    const needed = (before: number, after: number) =>
      toSettleText({
        verdict: 'inside noise',
        ...{ strays: [], trends: [], sittings: { before: 1, after: 1 }, level: ASSUMED_LEVEL },
        factor: 1,
        toSettle: { type: 'runs', before, after },
      });
    expect([needed(2, 0), needed(0, 1), needed(3, 2), needed(0, 0)]).toEqual([
      '2 more runs before would settle it.',
      '1 more run after would settle it.',
      '3 more runs before and 2 after would settle it.',
      undefined,
    ]);
  });

  test.each([
    [[30, 30.1], 'Runs dual-channel'],
    [[16.2, 16.4], 'Channel mode: can’t tell'],
    [[80, 81], 'More than the bus can carry'],
  ])('bandwidth of %j on a bus of 38.4 GB/s: %s', (runs, title) => {
    const explanation = explainChannels(inferChannels({ runs, channelPeak: 19.2, populated: 2 }));
    expectSound(explanation);
    expect(explanation.title).toBe(title);
  });
});
