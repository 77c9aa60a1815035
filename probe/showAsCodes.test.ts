import { describe, expect, test } from 'vitest';
import { writeCollected } from '../core/inventory/index.ts';
import type { Collected } from '../core/inventory/index.ts';
import { asCodes } from './showAsCodes.ts';

const collected = (more: Partial<Collected> = {}): Collected => ({
  ...{ shell: 'unix', collectedAt: '2026-11-02T09:30:00Z', notRead: [] },
  parts: [{ kind: 'memory-instances', from: 'CIM', bytes: new TextEncoder().encode('[]') }],
  facts: [{ name: 'memory-visible', value: '8388608', from: '/proc/meminfo' }],
  ...more,
});

describe('a file a person chooses on the measuring page', () => {
  test('is shown as codes, with nothing to say of a whole one', () => {
    const made = asCodes(writeCollected(collected()));
    expect(made).toMatchObject({ ok: true, said: '' });
    if (made.ok) expect(made.codes[0]).toMatch(/^tembrix-file:1:[0-9a-f]{8}:1:\d+:/);
  });

  test('tells what was changed after collecting, and shows the rest', () => {
    const edited = writeCollected(collected()).replace('"text": "[]"', '"text": "[ ]"');
    expect(asCodes(edited)).toMatchObject({
      ok: true,
      said: 'Changed after collecting and left out: memory-instances, CIM.',
    });
  });

  test.each([
    ['a photo of the cat', /no collected file/],
    ['', /no collected file/],
    [writeCollected(collected()).replace('"version": 1', '"version": 9'), /newer script/],
    [writeCollected(collected()).slice(0, 90), /cut short or empty/],
    [writeCollected(collected({ parts: [], facts: [] })), /cut short or empty/],
  ])('says of %j what would mend it', (text, said) => {
    const made = asCodes(text);
    expect(made.ok).toBe(false);
    expect(made.said).toMatch(said);
  });
});
