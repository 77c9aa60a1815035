import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { COLLECTED_FACTS } from '../inventory/index.ts';
import type { CollectedFactName } from '../inventory/index.ts';
import { systemOffer } from '../reconciling/index.ts';
import { explainSystemOffer, factText, peakText } from './index.ts';
import { gib } from '../units/index.ts';

const from = '/proc/meminfo';
const none = { osLimit: 'none', graphicsCarveOut: { low: gib(0), high: gib(0) } } as const;

describe('a running system in words', () => {
  test.each([
    [{ gib: 5, paging: false, watchedSeconds: 0 }, '5 GB in use when it was collected'],
    [{ gib: 9.234, paging: false, watchedSeconds: 600 }, 'at most 9.23 GB in use over 10 min'],
    [
      { gib: 7.5, paging: true, watchedSeconds: 60 },
      'at most 7.5 GB in use over 1 min; it was paging, so the work wanted more',
    ],
  ])('%j', (value, text) => expect(peakText({ value, from })).toBe(text));

  test('every figure has a name and a unit', () => {
    for (const name of Object.keys(COLLECTED_FACTS) as CollectedFactName[]) {
      const shown = factText({ name, value: '2097152', from });
      expect(shown.name).not.toBe('');
      const unit = COLLECTED_FACTS[name];
      if (unit === 'KiB') expect(shown.value).toBe('2 GB');
      if (unit === 's') expect(shown.value).toMatch(/ min$/);
    }
    expect(factText({ name: 'paged-in', value: '20480', from }).value).toBe('20 MB');
  });
});

describe('what it shows of the machine', () => {
  const visible = (value: number) => ({ value, from });

  test('a 32-bit system is a limit, a little missing is not', () => {
    const bits = { value: 32 as const, from: 'uname -m' };
    const offer = systemOffer(none, { visible: visible(3.24), bits }, 8);
    expect(offer).toEqual({
      ...{ type: 'os-limit', range: { low: 3.125, high: 3.625 }, visible: 3.24, from },
    });
    expect(offer && explainSystemOffer(offer)).toMatchObject({
      title: 'A 32-bit system: it can use 3.24 GB',
      mend: expect.stringContaining('3.125 to 3.625 GB') as string,
    });
    expect(systemOffer(none, { visible: visible(1.9), bits }, 2)).toBeUndefined();
    const known = { ...none, osLimit: { low: gib(3), high: gib(4) } };
    expect(systemOffer(known, { visible: visible(3.24), bits }, 8)).toBeUndefined();
  });

  test('what is missing of a 64-bit system is held by graphics, by its own word where it has one', () => {
    const offer = systemOffer(none, { visible: visible(15.4) }, 16);
    expect(offer).toMatchObject({ type: 'carve-out', range: { low: 0.25, high: 0.625 } });
    expect(offer && explainSystemOffer(offer).title).toBe('0.6 GB of 16 GB is held back');
    const graphics = { value: 0.5, from: 'drm' };
    expect(systemOffer(none, { visible: visible(15.4), graphics }, 16)).toMatchObject({
      range: { low: 0.5, high: 0.5 },
    });
    // Memory of its own is not taken from the modules.
    const own = { value: 8, from: 'drm' };
    expect(systemOffer(none, { visible: visible(15.8), graphics: own }, 16)).toBeUndefined();
    expect(systemOffer(none, { visible: visible(15.4), graphics: own }, 16)).toBeUndefined();
  });

  test('nothing is offered where the library has it so, or a whole module is missing', () => {
    const known = { ...none, graphicsCarveOut: { low: gib(0), high: gib(1) } };
    expect(systemOffer(known, { visible: visible(15.4) }, 16)).toBeUndefined();
    const half = { ...none, graphicsCarveOut: { low: gib(0.25), high: gib(0.5) } };
    expect(systemOffer(half, { visible: visible(15.65) }, 16)).toBeUndefined();
    expect(systemOffer(half, { visible: visible(14.5) }, 16)?.type).toBe('carve-out');
    const more = { ...none, graphicsCarveOut: { low: gib(1), high: gib(2) } };
    expect(systemOffer(more, { visible: visible(15.65) }, 16)?.type).toBe('carve-out');
    expect(systemOffer(none, { visible: visible(7.8) }, 32)).toBeUndefined();
    expect(systemOffer(none, { visible: visible(15.9) }, 16)).toBeUndefined();
    expect(systemOffer(none, { visible: visible(15) }, undefined)).toBeUndefined();
    expect(systemOffer(none, {}, 16)).toBeUndefined();
  });

  test('an offer once written is not made again', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 64, noNaN: true }),
        fc.double({ min: 0.1, max: 64, noNaN: true }),
        fc.constantFrom(undefined, 32 as const, 64 as const),
        fc.option(fc.double({ min: 0.01, max: 4, noNaN: true })),
        (installed, seen, bits, share) => {
          const facts = {
            visible: visible(seen),
            ...(bits ? { bits: { value: bits, from } } : {}),
            ...(share === null ? {} : { graphics: { value: share, from } }),
          };
          const offer = systemOffer(none, facts, installed);
          if (!offer) return;
          expect(offer.range.low).toBeLessThanOrEqual(offer.range.high);
          const written =
            offer.type === 'os-limit'
              ? { ...none, osLimit: offer.range }
              : { ...none, graphicsCarveOut: offer.range };
          expect(systemOffer(written, facts, installed)).toBeUndefined();
        },
      ),
    );
  });
});
