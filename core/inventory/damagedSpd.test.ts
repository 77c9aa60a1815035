import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { labelled, spdOf } from '../../test/support/builders.ts';
import { dataRate, gib } from '../units/index.ts';
import { readInventory } from './index.ts';

describe('damage is said, and what stands is kept', () => {
  const spd = spdOf(labelled('8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24'));

  test('a flipped bit names the block; the fields are shown as unverified', () => {
    const flipped = Uint8Array.from(spd);
    flipped[25] = (flipped[25] ?? 0) ^ 4;
    const { devices, findings } = readInventory(flipped);
    expect(findings).toMatchObject([{ type: 'checksum-wrong', block: 'base (0–125)' }]);
    expect(devices[0]).toMatchObject({ capacity: 8, verified: false, partNumber: 'TV-8U24' });
  });

  test('any single bit flipped under a checksum is named, and the rest is still read', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 127 }), fc.integer({ min: 0, max: 7 }), (at, bit) => {
        const flipped = Uint8Array.from(spd);
        flipped[at] = (flipped[at] ?? 0) ^ (1 << bit);
        const { images, findings } = readInventory(flipped);
        expect(findings.map((one) => one.type)).toContain('checksum-wrong');
        expect(images?.[0]).toMatchObject({ verified: false, partNumber: 'TV-8U24' });
      }),
      { seed: 32, numRuns: 300 },
    );
  });

  test('a checksum left at 0 was never written, which is not wrong', () => {
    const unwritten = Uint8Array.from(spd);
    unwritten.fill(0, 126, 128);
    const { devices, findings } = readInventory(unwritten);
    expect(findings).toMatchObject([{ type: 'checksum-unwritten', severity: 'note' }]);
    expect(devices[0]?.verified).toBe(true);
  });

  test.each([
    [128, 'truncated'],
    [300, 'truncated'],
  ])('an image cut after %i bytes still tells its size', (length, type) => {
    const { devices, findings } = readInventory(spd.slice(0, length));
    expect(findings.map((one) => one.type)).toContain(type);
    expect(devices[0]).toMatchObject({ capacity: 8, ratedShown: 2400 });
  });

  test.each([
    ['zeros', new Uint8Array(512), 'blank-image'],
    ['FF', new Uint8Array(512).fill(255), 'blank-image'],
    ['nothing', new Uint8Array(0), 'empty-file'],
    ['10 MB of noise', new Uint8Array(10_000_000).map((_, at) => (at * 7919) >> 3), 'too-large'],
    ['a letter', new TextEncoder().encode('Dear bench, it is slow.'), 'not-recognised'],
  ])('a file of %s', (_name, bytes, type) => {
    const { devices, findings } = readInventory(bytes);
    expect([devices, findings[0]?.type]).toEqual([[], type]);
  });

  test('an overclock profile whose checksum fails is not used', () => {
    const profile = { rate: dataRate(6000), timings: { cl: 30, trcd: 38 }, voltageMv: 1350 };
    const kit = { ...labelled('16GB 1Rx8 PC5-4800B-UA0-1010'), capacity: gib(16), profile };
    const good = spdOf(kit);
    expect(readInventory(good).devices[0]?.module?.profile).toMatchObject(profile);
    const bad = Uint8Array.from(good);
    bad[720] = 1;
    expect(readInventory(bad).findings).toMatchObject([{ type: 'profile-damaged', profile: 1 }]);
    expect(readInventory(bad).devices[0]?.module?.profile).toBeUndefined();
  });
});
