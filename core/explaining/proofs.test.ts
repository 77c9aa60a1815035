import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyPlacement } from '../../test/support/arbitraries.ts';
import { desktop, labelled } from '../../test/support/builders.ts';
import { SLIPS, expectSound } from '../../test/support/soundWords.ts';
import type { Placement } from '../machine/index.ts';
import { ledgerEntry } from '../ledger/index.ts';
import type { LedgerEntry } from '../ledger/index.ts';
import {
  METRICS,
  METRIC_TRAITS,
  POWER_MODES,
  fingerprint,
  judgeGain,
  proveChange,
} from '../proving/index.ts';
import type { Measurement, Metric, Proof, ProofSide } from '../proving/index.ts';
import {
  explainChannels,
  explainGain,
  explainProofCaution,
  headlineText,
  ledgerGainText,
  ledgerModules,
  ledgerStanding,
  multiplicityText,
  plainVerdict,
  reportProof,
  reportRows,
  reportStory,
  timingsText,
} from './index.ts';
import { often } from '../../test/support/draws.ts';

const machine = desktop({}, 4, 2);
const small = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const large = labelled('16GB 2Rx8 PC4-2666V-UB1-11 ORL-16S26');
const TESTS: readonly (readonly [Metric, string])[] = [
  ...METRICS.map((metric) => [metric, `its ${METRIC_TRAITS[metric].name.toLowerCase()}`] as const),
  ['bandwidth', 'another copy'],
  ['frames', 'the puppet game'],
];

/** Runs around a centre that a metric can have, steady or jumpy, sometimes with a stray. */
const anyRuns = fc
  .record({
    centre: fc.constantFrom(20, 20, 20.1, 40),
    scatter: fc.constantFrom(0, 0.002, 0.02, 0.2),
    offsets: fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { maxLength: 9 }),
    isStray: fc.boolean(),
  })
  .map(({ centre, scatter, offsets, isStray }) =>
    offsets.map((one, at) => centre * (1 + scatter * one) * (isStray && at === 0 ? 1.7 : 1)),
  );

const anyMeasurement = ([metric, name]: (typeof TESTS)[number]) =>
  fc.record({
    runs: anyRuns,
    isElsewhere: fc.integer({ min: 0, max: 5 }).map((one) => one === 0),
    power: fc.constantFrom(...POWER_MODES.slice(0, 2)),
    sense: fc.constantFrom('higher' as const, 'lower' as const),
    isLowerBound: fc.boolean(),
    metric: fc.constant(metric),
    test: fc.constant(name),
  });

const anySeating = anyPlacement(fc.constantFrom(small, large));
const anySide: fc.Arbitrary<ProofSide> = fc
  .tuple(
    fc.oneof({ weight: 9, arbitrary: anySeating }, { weight: 1, arbitrary: fc.constant({}) }),
    fc.uniqueArray(fc.constantFrom(...TESTS).chain(anyMeasurement), {
      selector: ({ metric, test: name }) => `${metric} ${name}`,
    }),
  )
  .map(([placement, all]) => ({
    placement,
    setting: 'standard' as const,
    measurements: all
      .filter(({ runs }) => runs.length > 0)
      .map(({ isElsewhere, sense, ...one }): Measurement => ({
        ...{ ...one, warmUp: 0, resolution: '', tool: '', conditions: '' },
        sense: one.metric === 'score' ? sense : null,
        fingerprint: fingerprint(machine, isElsewhere ? { a2: large } : placement),
      })),
  }));

const anyProof: fc.Arbitrary<Proof> = fc
  .tuple(anySide, anySide, fc.nat(9999))
  .map(([before, after, seed]) => proveChange(machine, before, after, seed));

/** Every text a proof brings out, wherever it is shown. */
function textsOf(proof: Proof): string[] {
  return [
    ...[headlineText(proof), plainVerdict(proof), multiplicityText(proof) ?? ''],
    ...reportProof(proof),
    ...reportRows(proof).flatMap(({ means: _means, ...words }) => Object.values<string>(words)),
    ...Object.values<string>({ ...reportStory(proof, [small], [large, large]) }),
    ...[timingsText(proof.before), timingsText(proof.after)],
  ];
}

describe('words for whatever was measured', () => {
  test('tell the customer of the channels in plain words, and of an uneven set why nothing is sure', () => {
    const measured = (placement: Placement, level: number): ProofSide => ({
      ...{ placement, setting: 'standard' },
      measurements: [
        {
          ...{ metric: 'bandwidth', test: 'copy', power: 'mains, full power', sense: null },
          ...{ warmUp: 0, resolution: '', tool: '', conditions: '' },
          runs: [0.99, 1, 1.01].map((part) => part * level),
          fingerprint: fingerprint(machine, placement),
        },
      ],
    });
    const uneven = { a1: small, b1: large };
    const before = { a1: small, a2: large };
    const said = reportProof(proveChange(machine, measured(before, 14), measured(uneven, 27), 1));
    expect(said.join(' ')).toContain('part of the memory works side by side');
    expect(said.join(' ')).not.toContain('Channel mode');
    const even = { a1: large, b1: large };
    const paired = reportProof(
      proveChange(machine, measured({ a1: large, a2: large }, 14), measured(even, 27.5), 1),
    );
    expect(paired.join(' ')).toContain('work side by side: the measured transfer shows it');
  });

  test('are whole, on the page and on paper', () => {
    fc.assert(
      fc.property(anyProof, (proof) => {
        for (const metric of proof.metrics) {
          expectSound(explainGain(metric));
          metric.cautions.forEach((one) => expectSound(explainProofCaution(one)));
        }
        if (proof.channels) expectSound(explainChannels(proof.channels));
        for (const text of textsOf(proof)) expect(text).not.toMatch(SLIPS);
      }),
      { numRuns: often(60) },
    );
  });

  test('show no figure without its unit and its before, and leave none out', () => {
    fc.assert(
      fc.property(anyProof, (proof) => {
        const rows = reportRows(proof);
        expect(rows.map(({ test: name }) => name)).toEqual(
          proof.metrics.map(({ test: name }) => name),
        );
        for (const [at, { metric, before, after }] of proof.metrics.entries()) {
          const { unit } = METRIC_TRAITS[metric];
          const shown = rows[at];
          expect(shown?.before.endsWith(before.length > 0 ? ` ${unit}` : 'not measured')).toBe(
            true,
          );
          expect(shown?.after.endsWith(after.length > 0 ? ` ${unit}` : 'not measured')).toBe(true);
          if (/better|worse/.test(shown?.change ?? '')) expect(shown?.sure).toContain('19 times');
        }
      }),
      { numRuns: often(60) },
    );
  });

  // Counts what it saw, so it is never cut short.
  test('the headline never rests on a figure that could be luck among several', () => {
    const seen = new Set<string>();
    fc.assert(
      fc.property(anyProof, (proof) => {
        const { headline, metrics } = proof;
        seen.add(headline.type);
        const standing = (verdict: string) =>
          metrics.filter(
            ({ gain, standsTogether }) => gain?.verdict === verdict && standsTogether !== false,
          );
        const [gained, lost] = [standing('gain'), standing('loss')];
        switch (headline.type) {
          case 'mixed':
            expect(gained).toContain(headline.gained);
            expect(lost).toContain(headline.lost);
            return;
          case 'gain':
            expect(gained).toContain(headline.proof);
            expect(lost).toEqual([]);
            expect(plainVerdict(proof)).toMatch(/^Better than before/);
            return;
          case 'loss':
            expect(lost).toContain(headline.proof);
            expect(gained).toEqual([]);
            expect(plainVerdict(proof)).toMatch(/^Slower than before/);
            return;
          default:
            expect([gained, lost]).toEqual([[], []]);
            expect(plainVerdict(proof)).not.toMatch(/better|slower/i);
        }
      }),
      { numRuns: often(300), seed: 4, interruptAfterTimeLimit: 120_000 },
    );
    expect([...seen].sort()).toEqual([
      ...['gain', 'inside noise', 'loss', 'mixed', 'no comparison', 'not comparable'],
      ...['not running', 'nothing measured', 'too few runs'],
    ]);
  });

  test('several figures are named as several, and the odds of a lucky one are right', () => {
    fc.assert(
      fc.property(anyProof, (proof) => {
        const judged = proof.metrics.filter(({ gain }) => gain?.interval);
        const text = multiplicityText(proof);
        const several = proof.metrics.filter(({ standsTogether }) => standsTogether !== undefined);
        expect(text === undefined).toBe(several.length < 2);
        if (text === undefined) return;
        expect(several.length).toBeGreaterThanOrEqual(judged.length);
        const lucky = Math.round(100 * (1 - 0.95 ** several.length));
        expect(text).toContain(`${several.length} figures`);
        expect(text).toContain(`in ${lucky} % of cases`);
      }),
      { numRuns: often(50) },
    );
  });

  test('a run unlike the others is named with its figure, and counts in the means shown', () => {
    const before = [20, 20.1, 19.9, 20.05, 19.95, 12];
    const gain = judgeGain(before, [30, 30.1, 29.9, 30], 'higher', 1);
    expect(gain.strays).toMatchObject([{ side: 'before', value: 12 }]);
    const measurement = (runs: number[], placement: ProofSide['placement']): Measurement => ({
      ...{ metric: 'bandwidth', test: 'copy', runs, warmUp: 0, power: 'unknown', resolution: '' },
      ...{ tool: '', conditions: '', fingerprint: fingerprint(machine, placement) },
    });
    const side = (placement: ProofSide['placement'], runs: number[]): ProofSide => ({
      ...{ placement, setting: 'standard', measurements: [measurement(runs, placement)] },
    });
    const proof = proveChange(
      machine,
      side({ a1: small }, before),
      side({ a1: small, b1: small }, [30, 30.1, 29.9, 30]),
      1,
    );
    const [metric] = proof.metrics;
    if (!metric) throw new Error('expected a comparison');
    expect(explainGain(metric).why).toContain('Unlike the others before: 12 GB/s');
    expect(reportRows(proof)[0]).toMatchObject({ before: '18.7 GB/s', after: '30 GB/s' });
  });
});

describe('peaks of memory in use', () => {
  const peak = (before: number | undefined, after: number | undefined) => {
    const use = (one: number | undefined) => one && { peak: one, usable: 10 };
    const [one, two] = [use(before), use(after)];
    return explainGain({
      ...{ metric: 'peak', test: 'peak', before: [], after: [], cautions: [] },
      use: { ...(one ? { before: one } : {}), ...(two ? { after: two } : {}) },
    });
  };

  test.each([
    [9.9, 5, 'Memory was full, and is no longer', undefined],
    [5, 9.9, 'Memory is still full at the peak', 'Fit more, or do less at the same time.'],
    [5, 6, 'Memory holds the peak', undefined],
    [undefined, 6, 'Memory holds the peak', undefined],
    [5, undefined, 'Nothing measured after', undefined],
  ])('%s of 10 GB before, %s after: %s', (before, after, title, mend) => {
    const words = peak(before, after);
    expectSound(words);
    expect(words).toMatchObject({ title });
    expect(words.mend).toBe(mend);
  });
});

describe('the ledger', () => {
  test('says what sat where, how long it stood, and what it gained, for any proof', () => {
    fc.assert(
      fc.property(anyProof, anySeating, (proof, placement) => {
        const entry = ledgerEntry({
          ...{ machine, placement, setting: 'standard', proof, need: 12, isSimulated: false },
          ...{ passed: [{ minutes: 300, passes: 4 }], activityOf: () => null },
        });
        expect(entry === undefined).toBe(proof.after.type === 'blocked');
        if (!entry) return;
        const all = [ledgerModules(entry), ...entry.gains.map(ledgerGainText)];
        for (const text of all) expect(text).not.toMatch(SLIPS);
        expect(entry.modules).toHaveLength(Object.values(placement).length);
        for (const { factor, low, high } of entry.gains) {
          expect(low).toBeLessThanOrEqual(factor + 1e-9);
          expect(high).toBeGreaterThanOrEqual(factor - 1e-9);
        }
      }),
      { numRuns: often(50) },
    );
  });

  test('modules alike are counted together with their slots', () => {
    const seat = (slot: string, part: string) => ({ slot, part, capacity: 16, isNumbered: true });
    const modules = [seat('CN8', 'ORL-16S26'), seat('CN9', 'ORL-16S26'), seat('CN10', 'PV4-16S')];
    const entry = { modules, stable: { minutes: 540, passes: 2 } } as unknown as LedgerEntry;
    expect(ledgerModules(entry)).toBe(
      '2 × 16 GB ORL-16S26 in CN8 and CN9; 1 × 16 GB PV4-16S in CN10',
    );
    expect(ledgerStanding(entry, 12, false)).toBe('test passed, 540 min; no comeback in 12 days');
    expect(ledgerStanding(entry, 1, true)).toBe('test passed, 540 min; came back after 1 day');
    expect(ledgerStanding({ ...entry, stable: null }, 0, false)).toBe(
      'no test; no comeback in 0 days',
    );
  });
});
