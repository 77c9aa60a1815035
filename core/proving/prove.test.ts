import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import type { Placement } from '../machine/index.ts';
import { countedRuns, fingerprint, proveChange } from './index.ts';
import type { Measurement, ProofSide } from './index.ts';

const machine = desktop();
const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11 AB-8G24');
const found: Placement = { a1: module };
const fitted: Placement = { a1: module, b1: module };

const measured = (
  placement: Placement,
  runs: number[],
  more: Partial<Measurement> = {},
): Measurement => ({
  ...{
    metric: 'bandwidth',
    test: 'copy',
    runs,
    warmUp: 0,
    conditions: '',
    power: 'unknown',
    resolution: '',
    tool: '',
  },
  fingerprint: fingerprint(machine, placement),
  ...more,
});
const side = (placement: Placement, ...measurements: Measurement[]): ProofSide => ({
  ...{ placement, setting: 'standard', measurements },
});
const prove = (before: ProofSide, after: ProofSide) => proveChange(machine, before, after, 42);

describe('what runs belong to', () => {
  test('a fingerprint tells slots, parts and packs apart, and nothing else', () => {
    const print = (placement: Placement) => fingerprint(machine, placement);
    expect(print(found)).not.toBe(print({ a2: module }));
    expect(print(found)).not.toBe(print({ a1: { ...module, partNumber: 'AB-8G24.R2' } }));
    expect(print(found)).not.toBe(print({ a1: { ...module, kitId: 'pack 1' } }));
    expect(print({ b1: module, a1: module })).toBe(print(fitted));
    expect(print({ a1: module, b1: undefined })).toBe(print(found));
    expect(print({})).toBe('');
  });

  test('runs after on other modules are refused, with both sets named', () => {
    const [metric] = prove(
      side(found, measured(found, [14, 14])),
      side(fitted, measured(found, [28, 28])),
    ).metrics;
    expect(metric?.after).toEqual([]);
    expect(metric?.cautions).toEqual([
      {
        type: 'runs-on-other-modules',
        measured: fingerprint(machine, found),
        expected: fingerprint(machine, fitted),
      },
    ]);
  });

  test('warm-up runs are left out on both sides', () => {
    const runs = measured(found, [9, 14, 14.2], { warmUp: 1 });
    expect(countedRuns(runs)).toEqual([14, 14.2]);
    expect(prove(side(found, runs), side(fitted)).metrics[0]?.before).toEqual([14, 14.2]);
  });
});

describe('what can be said', () => {
  test('nothing was measured', () => {
    const proof = prove(side(found), side(fitted));
    expect([proof.headline.type, proof.metrics, proof.channels]).toEqual([
      'nothing measured',
      [],
      undefined,
    ]);
  });

  test('only before, or only after: no comparison, and what is missing is said', () => {
    const before = prove(side(found, measured(found, [14, 14.1])), side(fitted));
    expect([before.headline.type, before.metrics[0]?.cautions]).toEqual([
      'no comparison',
      [{ type: 'no-runs-after' }],
    ]);
    const after = prove(side(found), side(fitted, measured(fitted, [28, 28.1])));
    expect(after.metrics[0]?.cautions).toEqual([{ type: 'no-baseline' }]);
    expect(after.channels).toMatchObject({ withBaseline: false, verdict: { type: 'paired' } });
  });

  test('other tests are not compared with one another', () => {
    const proof = prove(
      side(found, measured(found, [14, 14], { test: 'read' })),
      side(fitted, measured(fitted, [28, 28], { test: 'write' })),
    );
    expect(proof.metrics.map(({ test: name, gain }) => [name, gain])).toEqual([
      ['read', undefined],
      ['write', undefined],
    ]);
  });

  test('one run a side is too few, and how many are missing is said', () => {
    const proof = prove(side(found, measured(found, [14])), side(fitted, measured(fitted, [28])));
    expect(proof.headline).toMatchObject({
      type: 'too few runs',
      proof: { gain: { toSettle: { before: 2, after: 2 } } },
    });
  });

  test('modules that would not run prove nothing', () => {
    const wrong = { a1: labelled('8GB 2Rx8 PC3-12800U-11-13-A1') };
    expect(prove(side(found), side(wrong)).headline).toEqual({
      type: 'not running',
      side: 'after',
    });
  });

  test('a machine that did not start before is compared without a promise', () => {
    const wrong = { a1: labelled('8GB 2Rx8 PC3-12800U-11-13-A1') };
    const proof = prove(
      side(wrong, measured(wrong, [14, 14.1])),
      side(fitted, measured(fitted, [28, 28.1])),
    );
    expect(proof.metrics[0]?.promised).toBeUndefined();
    expect(proof.before.type).toBe('blocked');
  });

  test('bandwidth leads the headline whatever was entered first', () => {
    const timed = (placement: Placement, runs: number[]) =>
      measured(placement, runs, { metric: 'duration', test: 'open' });
    const proof = prove(
      side(found, timed(found, [40, 41, 40]), measured(found, [14, 14.1, 13.9])),
      side(fitted, timed(fitted, [20, 21, 20]), measured(fitted, [28, 28.1, 27.9])),
    );
    expect(proof.headline).toMatchObject({ type: 'gain', proof: { metric: 'bandwidth' } });
  });

  test('the same records always prove the same, to the last digit', () => {
    const again = () =>
      prove(
        side(found, measured(found, [14, 14.3, 13.8])),
        side(fitted, measured(fitted, [27, 28.4, 28])),
      );
    expect(again()).toEqual(again());
  });
});
