import { describe, expect, test } from 'vitest';
import { expectSound } from '../../test/support/soundWords.ts';
import type { InventoryFinding } from '../inventory/index.ts';
import { plainMachine, unknownTraits } from '../machine/index.ts';
import { explainInventoryFinding, explainUnknownTrait } from './index.ts';

describe('words for evidence', () => {
  const place = { part: 'image', number: 2 } as const;
  const findings: InventoryFinding[] = [
    { type: 'empty-file', severity: 'error', place },
    { type: 'too-large', severity: 'error', place, bytes: 1e7, limit: 4e6 },
    { type: 'not-recognised', severity: 'error', place },
    { type: 'blank-image', severity: 'error', place, filling: 255 },
    { type: 'unknown-memory-type', severity: 'error', place, code: 7 },
    { type: 'truncated', severity: 'caution', place, bytes: 128, wanted: 384 },
    { type: 'checksum-wrong', severity: 'caution', place, block: 'base', stored: 1, computed: 2 },
    { type: 'checksum-unwritten', severity: 'note', place, block: 'base' },
    {
      type: 'capacities-disagree',
      severity: 'caution',
      place,
      computed: 2,
      stated: 1,
      used: 'stated',
    },
    { type: 'impossible-module', severity: 'error', place, missing: 'capacity' },
    { type: 'profile-damaged', severity: 'caution', place, profile: 1 },
    { type: 'table-cut', severity: 'caution', place, wanted: 900, there: 400 },
    { type: 'structure-damaged', severity: 'caution', place, length: 2 },
    { type: 'string-missing', severity: 'caution', place, index: 3, count: 1 },
    { type: 'handle-twice', severity: 'caution', place },
    { type: 'no-memory-devices', severity: 'error', place },
    { type: 'array-ignored', severity: 'note', place, use: 'flash memory' },
    { type: 'maximum-too-low', severity: 'note', place, maximum: 16, fitted: 32 },
    { type: 'unit-unreadable', severity: 'caution', place, text: '8 apples' },
    { type: 'not-json', severity: 'error', place, near: '' },
    { type: 'wrong-shape', severity: 'error', place, wanted: 'a list' },
    { type: 'wrong-value', severity: 'caution', place, text: 'much', wanted: 'a number' },
    { type: 'line-not-understood', severity: 'caution', place, text: 'hello' },
    { type: 'too-many-items', severity: 'caution', place, limit: 256 },
  ];
  test.each(findings)('$type', (finding) => {
    const words = explainInventoryFinding(finding);
    expectSound(words);
    // What is wrong always has a mend.
    if (finding.severity === 'error') expect(words.mend).toMatch(/./);
  });

  test('every trait that can be unknown says what hangs on it and where to look', () => {
    const blank = plainMachine({
      ...{ name: 'x', kind: 'desktop', generation: 'DDR4', formFactor: 'DIMM' },
      ...{ channels: 2, slotsPerChannel: 2 },
    });
    const unknown = unknownTraits(blank);
    expect(unknown.length).toBeGreaterThan(12);
    for (const one of unknown) {
      const { title, why, mend } = explainUnknownTrait(one);
      expectSound({ title, why, mend });
      expect(title).not.toBe(one.trait);
    }
  });
});
