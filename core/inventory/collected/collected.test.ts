import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled, spdOf } from '../../../test/support/builders.ts';
import {
  COLLECTED_FACTS,
  COLLECTING_SHELLS,
  readInventory,
  systemOf,
  unpackCollected,
  writeCim,
  writeCollected,
  writeSmbios,
} from '../index.ts';
import type { Collected, CollectedFact, CollectedFactName } from '../index.ts';

const bytesOf = (text: string) => new TextEncoder().encode(text);
const module = labelled('16GB 2Rx8 PC4-2666V-SE1-11', { formFactor: 'DIMM' });
const image = () => spdOf(module);
const fact = (name: CollectedFactName, value: string): CollectedFact => ({
  ...{ name, value, from: '/proc/meminfo' },
});

const machine = desktop({ name: 'Lantern A3' });
const whole = (more: Partial<Collected> = {}): Collected => ({
  shell: 'unix',
  collectedAt: '2026-11-02T09:30:00Z',
  parts: [
    { kind: 'smbios-table', from: 'DMI', bytes: writeSmbios(machine, { a1: module }).slice(32) },
    { kind: 'memory-instances', from: 'CIM', bytes: bytesOf(writeCim(machine, { a1: module })) },
    { kind: 'spd-image', from: '/sys/bus/i2c/devices/0-0050/eeprom', bytes: image() },
  ],
  facts: [fact('memory-visible', '16777216'), fact('memory-in-use', '8388608')],
  notRead: [{ what: 'graphics share', why: 'no driver of this system shows it' }],
  ...more,
});
const read = (text: string) => readInventory(bytesOf(text));
const typesOf = (text: string) => read(text).findings.map(({ type }) => type);

const anyCollected: fc.Arbitrary<Collected> = fc.record({
  shell: fc.constantFrom(...COLLECTING_SHELLS),
  collectedAt: fc.constant('2026-11-02T09:30:00Z'),
  parts: fc.array(
    fc.oneof(
      fc.record({
        kind: fc.constantFrom('smbios-table' as const, 'spd-image' as const),
        from: fc.string({ maxLength: 60 }),
        bytes: fc.uint8Array({ minLength: 1, maxLength: 600 }),
      }),
      fc.record({
        kind: fc.constantFrom('memory-instances' as const, 'hardware-report' as const),
        from: fc.string({ maxLength: 60 }),
        bytes: fc.stringMatching(/^[ -~]{1,80}$/).map(bytesOf),
      }),
    ),
    { minLength: 1, maxLength: 6 },
  ),
  facts: fc.uniqueArray(
    fc.record({
      name: fc.constantFrom(...(Object.keys(COLLECTED_FACTS) as CollectedFactName[])),
      value: fc.nat().map(String),
      from: fc.string({ maxLength: 40 }),
    }),
    { selector: ({ name }) => name },
  ),
  notRead: fc.array(fc.record({ what: fc.string(), why: fc.string({ maxLength: 100 }) }), {
    maxLength: 4,
  }),
});

describe('a collected file', () => {
  test('reads back as it was written, and so it does after a terminal broke its lines', () => {
    fc.assert(
      fc.property(anyCollected, fc.integer({ min: 20, max: 200 }), (collected, width) => {
        const text = writeCollected(collected);
        const reading = read(text);
        expect(reading.collected).toEqual({
          ...collected,
          parts: collected.parts.map((part) => ({ ...part, bytes: Uint8Array.from(part.bytes) })),
        });
        expect(reading.findings).toEqual([]);
        const line = JSON.stringify(JSON.parse(text));
        const wrapped = line.match(new RegExp(`.{1,${width}}`, 'gu'))?.join('\n') ?? '';
        expect(read(wrapped).collected).toEqual(reading.collected);
      }),
      { numRuns: 60 },
    );
  });

  test('is unpacked into files that are read as if each had been dropped alone', () => {
    const files = unpackCollected({
      name: 'counter.json',
      bytes: bytesOf(writeCollected(whole())),
    });
    expect(files.map(({ name }) => name)).toEqual([
      'counter.json',
      'counter.json: SMBIOS table, DMI',
      'counter.json: memory list, CIM',
      'counter.json: SPD image, /sys/bus/i2c/devices/0-0050/eeprom',
    ]);
    expect(files.map(({ bytes }) => readInventory(bytes).kind)).toEqual([
      'collected',
      'smbios',
      'cim',
      'spd',
    ]);
    const other = { name: 'x', bytes: image() };
    expect(unpackCollected(other)).toEqual([other]);
  });

  test('whatever is changed after collecting is named and left out, the rest stays', () => {
    const text = writeCollected(whole());
    const hexAt = text.indexOf('"hex"');
    const edited =
      text.slice(0, hexAt + 20) + (text[hexAt + 20] === '0' ? '1' : '0') + text.slice(hexAt + 21);
    const reading = read(edited);
    expect(reading.collected?.parts.map(({ kind }) => kind)).toEqual([
      'memory-instances',
      'spd-image',
    ]);
    expect(reading.findings).toMatchObject([
      { type: 'part-edited', severity: 'error', what: 'smbios-table, DMI' },
    ]);
    const richer = read(text.replace('8388608', '1388608'));
    expect(richer.collected?.facts).toEqual([]);
    expect(richer.findings).toMatchObject([{ type: 'part-edited', what: 'figures' }]);
    // A system without a program for checksums writes a hyphen.
    expect(typesOf(text.replaceAll(/"(sha256|factsSha256)": "[^"]+"/g, '"$1": "-"'))).toEqual([]);
  });

  test('cut anywhere, newer, empty or of another shape it says so, and never throws', () => {
    const text = writeCollected(whole());
    fc.assert(
      fc.property(fc.integer({ min: 40, max: text.trimEnd().length - 1 }), (length) => {
        expect(typesOf(text.slice(0, length))).toEqual(['collected-cut']);
      }),
      { numRuns: 50 },
    );
    expect(typesOf(text.replace('"version": 1', '"version": 2'))).toEqual(['newer-version']);
    expect(typesOf(writeCollected(whole({ parts: [], facts: [] })))).toEqual(['no-memory-devices']);
    expect(typesOf(writeCollected(whole({ parts: [] })))).toEqual([]);
    expect(typesOf(text.replace('smbios-table', 'horoscope'))).toEqual(['wrong-shape']);
    expect(typesOf(text.replace(/"hex": "../, '"hex": "zz'))).toEqual(['wrong-shape']);
    expect(typesOf('{"format":"tembrix-collected","version":1,"parts":7}')).toEqual([
      'no-memory-devices',
    ]);
  });

  test('a figure in another unit or of no number is named; one of a later script is passed over', () => {
    const text = writeCollected(whole({ facts: [fact('memory-visible', 'plenty')] }));
    expect(typesOf(text)).toEqual(['wrong-value']);
    const later = writeCollected(whole({ facts: [fact('moon-phase' as CollectedFactName, '3')] }));
    expect(typesOf(later)).toEqual([]);
    expect(read(later).collected?.facts).toEqual([]);
  });
});

describe('what a running system tells', () => {
  const told = (...facts: CollectedFact[]) => systemOf({ facts });
  const GIB = String(2 ** 20);
  const gibs = (count: number) => String(count * 2 ** 20);

  test('the peak counts before what is in use; paging makes it a lower bound', () => {
    const base = [fact('memory-visible', gibs(16)), fact('memory-in-use', gibs(5))];
    expect(told(...base).peak?.value).toEqual({ gib: 5, paging: false, watchedSeconds: 0 });
    const watched = [...base, fact('memory-peak', gibs(9)), fact('watched-for', '600')];
    expect(told(...watched).peak?.value).toEqual({ gib: 9, paging: false, watchedSeconds: 600 });
    expect(told(...watched, fact('paged-in', '20000')).peak?.value.paging).toBe(true);
    expect(told(...watched, fact('paged-in', '900')).peak?.value.paging).toBe(false);
    expect(told(...base, fact('page-file-in-use', GIB)).peak?.value.paging).toBe(true);
    expect(told(...base, fact('page-file-in-use', '2048')).peak?.value.paging).toBe(false);
  });

  test('what cannot be is left out', () => {
    expect(
      told(fact('memory-visible', gibs(4)), fact('memory-in-use', gibs(5))).peak,
    ).toBeUndefined();
    expect(told(fact('memory-visible', '0')).visible).toBeUndefined();
    expect(told(fact('system-bits', '48')).bits).toBeUndefined();
    expect(told(fact('drive-kind', 'tape')).drive).toBeUndefined();
    expect(told()).toEqual({});
  });

  test.each([
    ['battery', 'performance', 'battery'],
    ['mains', 'low-power', 'mains, saving'],
    ['mains', 'balance_power', 'mains, saving'],
    ['mains', 'powersave', 'mains, saving'],
    ['mains', 'balanced', 'mains, full power'],
    ['mains', 'balance_performance', 'mains, full power'],
  ])('%s and %s is %s', (source, mode, power) => {
    expect(told(fact('power-source', source), fact('power-mode', mode)).power?.value).toBe(power);
  });
});
