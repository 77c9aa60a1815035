import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { speedRatio } from '../promising/index.ts';
import { oddLedger } from '../../test/support/anyLedger.ts';
import { fingerprint, proveChange } from '../proving/index.ts';
import type { Measurement } from '../proving/index.ts';
import { seededRandom } from '../units/index.ts';
import { LEAST_JOBS, ledgerEntry, provenParts, refitShares } from './index.ts';
import type { ClosedJob, LedgerEntry } from './index.ts';

const machine = desktop();
const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11 AB-8G24');
const found = { a1: module };
const fitted = { a1: module, b1: module };

function closed(more: Partial<ClosedJob> = {}): ClosedJob {
  const runs = (placement: typeof found, metric: Measurement['metric'], values: number[]) => ({
    ...{ metric, test: metric, runs: values, warmUp: 0, power: 'unknown' as const },
    ...{ resolution: '', tool: '', conditions: '' },
    fingerprint: fingerprint(machine, placement),
  });
  const side = (placement: typeof found, speed: number, seconds: number) => ({
    ...{ placement, setting: 'standard' as const },
    measurements: [
      runs(placement, 'bandwidth', [speed, speed * 1.01, speed * 0.99]),
      runs(placement, 'duration', [seconds, seconds * 1.01, seconds * 0.99]),
    ],
  });
  return {
    ...{ machine, placement: fitted, setting: 'standard', need: 4, isSimulated: false },
    proof: proveChange(machine, side(found, 14, 60), side(fitted, 28, 50), 1),
    passed: [
      { minutes: 60, passes: 1 },
      { minutes: 540, passes: 6 },
    ],
    activityOf: (metric) => (metric === 'duration' ? 'compression' : null),
    ...more,
  };
}

describe('a line of the ledger', () => {
  test('holds what sat where, how it ran, what it gained and how sure that is', () => {
    const entry = ledgerEntry(closed());
    expect(entry).toMatchObject({
      modules: [
        { slot: 'A1', capacity: 8, part: 'AB-8G24' },
        { slot: 'B1', capacity: 8, part: 'AB-8G24' },
      ],
      ...{ rate: 2400, mode: 'paired', stable: { minutes: 540, passes: 6 } },
      ...{ ratios: { bandwidth: 2, latency: 1 }, fittedBefore: true },
    });
    expect(entry?.gains.map(({ test: name, activity }) => [name, activity])).toEqual([
      ['bandwidth', null],
      ['duration', 'compression'],
    ]);
    expect(entry && provenParts(entry)).toEqual(['AB-8G24']);
  });

  test('vouches for no part without a passed test, nor for anything simulated', () => {
    for (const more of [{ passed: [] }, { isSimulated: true }]) {
      const entry = ledgerEntry(closed(more));
      expect(entry && provenParts(entry)).toEqual([]);
    }
  });
});

describe('shares of time, refitted from proven jobs', () => {
  /** Jobs of a kind of work that truly waits for bandwidth 20 % and latency 25 % of its time. */
  function jobs(count: number, seed: number, more: Partial<LedgerEntry> = {}): LedgerEntry[] {
    const random = seededRandom(seed);
    const base = ledgerEntry(closed());
    if (!base) throw new Error('expected an entry');
    return Array.from({ length: count }, () => {
      const bandwidth = 1 + random();
      const latency = 0.8 + random() * 0.35;
      const factor = speedRatio(0.2, 0.25, bandwidth, latency) * (1 + (random() - 0.5) * 0.02);
      const gain = { test: 'unpack', metric: 'duration' as const, activity: 'compression' };
      const gains = [{ ...gain, factor, low: factor * 0.985, high: factor * 1.015 }];
      return { ...base, gains, ratios: { bandwidth, latency, reply: latency }, ...more };
    });
  }
  const compression = (entries: readonly LedgerEntry[]) => {
    const own = refitShares(entries).find(({ assumed }) => assumed.id === 'compression');
    if (!own) throw new Error('expected the class');
    return own;
  };
  const width = ({ low, high }: { low: number; high: number }) => high - low;

  /** The same jobs with the truth in what was simulated, and something else reckoned. */
  const simulated = (entries: readonly LedgerEntry[]): LedgerEntry[] =>
    entries.map((entry) => {
      const { bandwidth = 1, latency = 1 } = entry.ratios ?? {};
      const others = { triad: 3, random: 3, graphics: 3, desktop: 3 };
      const reply = { idle: latency * 1.05, loaded: latency / 1.05 };
      const ratios = { bandwidth: { stream: bandwidth, ...others }, reply };
      return { ...entry, ratios: { bandwidth: 2, latency: 1, reply: 1, simulated: ratios } };
    });

  test('go by what was simulated, as that kind of work moves memory, and from rest to loaded', () => {
    const plain = compression(jobs(24, 6)).refitted;
    const found = compression(simulated(jobs(24, 6))).refitted;
    for (const share of ['bandwidth', 'latency'] as const)
      for (const end of ['low', 'high'] as const)
        expect(found[share][end]).toBeCloseTo(plain[share][end], 6);
  });

  test('of lines of old the first word counts as the part of a reply it is', () => {
    const old = (entries: readonly LedgerEntry[]): LedgerEntry[] =>
      entries.map((entry) => {
        const { bandwidth = 1, latency = 1 } = entry.ratios ?? {};
        return { ...entry, ratios: { bandwidth, latency: 1 + (latency - 1) / 0.35 } };
      });
    const plain = compression(jobs(24, 7)).refitted;
    const found = compression(old(jobs(24, 7))).refitted;
    expect(found.latency.low).toBeCloseTo(plain.latency.low, 6);
    expect(found.latency.high).toBeCloseTo(plain.latency.high, 6);
  });

  test('stay as assumed below the least number of jobs, and for every other kind of work', () => {
    const few = compression(jobs(LEAST_JOBS - 1, 1));
    expect([few.isRefitted, few.refitted]).toEqual([false, few.assumed]);
    const all = refitShares(jobs(20, 1));
    expect(all.filter(({ isRefitted }) => isRefitted).map(({ assumed }) => assumed.id)).toEqual([
      'compression',
    ]);
  });

  test('jobs that were short of memory or simulated have no say', () => {
    for (const more of [{ fittedBefore: false }, { isSimulated: true }, { ratios: null }])
      expect(compression(jobs(20, 1, more)).jobs).toBe(0);
  });

  test.each([1, 2, 3, 4, 5])(
    'narrow around the truth, and held-out jobs stay inside (%i)',
    (seed) => {
      const { assumed, refitted, heldOut } = compression(jobs(24, seed));
      expect(width(refitted.bandwidth)).toBeLessThan(width(assumed.bandwidth));
      expect(refitted.bandwidth.low).toBeLessThan(0.2);
      expect(refitted.bandwidth.high).toBeGreaterThan(0.2);
      expect(refitted.latency.low).toBeLessThan(0.25);
      expect(refitted.latency.high).toBeGreaterThan(0.25);
      expect(heldOut?.refitted.width ?? 0).toBeLessThan(heldOut?.assumed.width ?? 0);
      expect(heldOut?.refitted.inside ?? 0).toBeGreaterThanOrEqual(0.9);
    },
  );
});

describe('one absurd job among fifty', () => {
  const shares = (slip: number) => {
    const found = refitShares(oddLedger(50, slip)).find(({ isRefitted }) => isRefitted);
    if (!found) throw new Error('expected shares refitted from fifty jobs');
    return found;
  };
  const widthOf = ({ refitted }: ReturnType<typeof shares>) =>
    refitted.bandwidth.high - refitted.bandwidth.low;

  test.each([
    ['minutes for seconds', 60],
    ['seconds for minutes', 1 / 60],
    ['before and after exchanged', 1 / 4],
  ])('%s: moves nothing, and is named', (_name, slip) => {
    const [plain, slipped] = [shares(1), shares(slip)];
    expect(plain.odd).toEqual([]);
    expect(widthOf(slipped)).toBeLessThan(1.5 * widthOf(plain));
    const middle = ({ refitted: { bandwidth } }: ReturnType<typeof shares>) =>
      (bandwidth.low + bandwidth.high) / 2;
    expect(middle(slipped)).toBeCloseTo(middle(plain), 1);
    expect(slipped.odd.map(({ at }) => at)).toEqual([0]);
    expect(slipped.odd[0]?.expected).toBeGreaterThan(0.8);
  });
});
