import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { gib } from '../units/index.ts';
import { readInventory, readScreen, writeCim, writeSmbios } from './index.ts';

const bytesOf = (text: string) => new TextEncoder().encode(text);
const small = labelled('8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24', { maker: '3-4F' });
const large = labelled('32GB 2Rx8 PC4-3200AA-UB1-11 TV-32U32');
const machine = desktop({ maxTotal: gib(128) });

describe('SMBIOS tables', () => {
  const dump = writeSmbios(machine, { a1: small, b2: large }, { configuredRate: 2400 });

  test('a dump gives back what was written: names, sizes beyond 32 GB, ranks, maker codes', () => {
    const { kind, devices, board, findings } = readInventory(dump);
    expect([kind, findings]).toEqual(['smbios', []]);
    expect(board).toMatchObject({
      systemName: 'Test board',
      maxTotal: 128,
      places: 4,
      processors: 1,
    });
    expect(devices.map(({ locator, state, capacity }) => [locator, state, capacity])).toEqual([
      ['A1', 'module', 8],
      ['A2', 'empty', undefined],
      ['B1', 'empty', undefined],
      ['B2', 'module', 32],
    ]);
    expect(devices[0]).toMatchObject({
      ...{ generation: 'DDR4', formFactor: 'DIMM', buffering: 'unbuffered', ecc: false, ranks: 1 },
      ...{ ratedShown: 2400, configuredShown: 2400, voltageMv: 1200, partNumber: 'TV-8U24' },
      maker: { bank: 3, code: 0x4f },
      // Eight zeros are what firmware prints for no serial.
      serial: undefined,
    });
    expect(devices[3]).toMatchObject({ ranks: 2, maker: undefined });
  });

  test('a raw table reads as well as one with an entry point, old or new', () => {
    const raw = dump.slice(32);
    expect(readInventory(raw).devices).toEqual(readInventory(dump).devices);
    const old = new Uint8Array(64 + raw.length);
    old.set([...bytesOf('_SM_'), 0, 0x1f, 2, 8], 32);
    const view = new DataView(old.buffer);
    view.setUint16(32 + 0x16, raw.length, true);
    view.setUint32(32 + 0x18, 0x000e_0000, true); // the machine's memory, not the file
    old.set(raw, 64);
    expect(readInventory(old).devices).toEqual(readInventory(dump).devices);
  });

  test.each([
    ['a length that lies', (bytes: Uint8Array) => bytes.fill(2, 33, 34), 'structure-damaged'],
    [
      'a string index beyond the strings',
      (bytes: Uint8Array) => bytes.fill(9, 37, 38),
      'string-missing',
    ],
    ['a table cut short', (bytes: Uint8Array) => bytes.subarray(0, 200), 'structure-damaged'],
  ])('%s is said and named', (_name, damage, type) => {
    const { kind, findings } = readInventory(damage(Uint8Array.from(dump)));
    expect(kind).toBe('smbios');
    expect(findings.map((one) => one.type)).toContain(type);
  });

  test('cut anywhere, a table gives the places before the cut as the whole one does', () => {
    const whole = readInventory(dump).devices;
    fc.assert(
      fc.property(fc.integer({ min: 200, max: dump.length }), (length) => {
        const { devices } = readInventory(dump.slice(0, length));
        expect(devices.length).toBeLessThanOrEqual(whole.length);
        // The last one may have lost its strings with the cut.
        expect(devices.slice(0, -1)).toEqual(whole.slice(0, Math.max(0, devices.length - 1)));
      }),
      { seed: 33, numRuns: 200 },
    );
  });

  test('noise says why it is none, and gives no module without a size', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 600 }), (noise) => {
        const reading = readInventory(noise);
        for (const { capacity } of reading.devices)
          expect(capacity === undefined || capacity > 0).toBe(true);
        if (reading.devices.length === 0) expect(reading.findings.length).toBeGreaterThan(0);
      }),
      { seed: 34, numRuns: 500 },
    );
  });

  test('flash arrays do not count, two arrays add up, a claimed maximum below what is fitted is no limit', () => {
    const listing = (use: string, handle: string, max: string) =>
      `Handle ${handle}, DMI type 16, 23 bytes\nPhysical Memory Array\n\tUse: ${use}\n\tError Correction Type: Multi-bit ECC\n\tMaximum Capacity: ${max}\n\tNumber Of Devices: 2\n\n`;
    const device = (array: string, handle: string, locator: string, size: string) =>
      `Handle ${handle}, DMI type 17, 84 bytes\nMemory Device\n\tArray Handle: ${array}\n\tTotal Width: 72 bits\n\tData Width: 64 bits\n\tSize: ${size}\n\tForm Factor: DIMM\n\tLocator: ${locator}\n\tBank Locator: Not Specified\n\tType: DDR4\n\tType Detail: Synchronous Registered (Buffered)\n\tSpeed: 1600 MHz\n\tRank: 2\n\tConfigured Memory Speed: 1200 MHz\n\n`;
    const text =
      listing('Flash Memory', '0x0001', '16 MB') +
      listing('System Memory', '0x0002', '16 GB') +
      listing('System Memory', '0x0003', '16 GB') +
      device('0x0001', '0x0010', 'FLASH', '16 MB') +
      device('0x0002', '0x0011', 'P0 CHANNEL A', '64 GB') +
      device('0x0003', '0x0012', 'P1 CHANNEL A', 'No Module Installed');
    for (const form of [text, text.replaceAll('\n', '\r\n'), `\uFEFF${text}`]) {
      const { kind, devices, board, findings } = readInventory(bytesOf(form));
      expect(kind).toBe('smbios-listing');
      expect(findings.map(({ type }) => type)).toEqual(['array-ignored', 'maximum-too-low']);
      expect(board).toMatchObject({ maxTotal: 32, places: 4, errorCorrection: true });
      expect(devices).toMatchObject([
        { capacity: 64, ecc: true, buffering: 'registered', ranks: 2, ratedShown: 1600, array: 2 },
        { state: 'empty', locator: 'P1 CHANNEL A' },
      ]);
    }
    const wide = new Uint8Array(2 + text.length * 2);
    wide.set([0xff, 0xfe]);
    [...text].forEach((sign, at) => wide.set([sign.charCodeAt(0), 0], 2 + at * 2));
    expect(readInventory(wide).devices).toHaveLength(2);
  });
});

describe('CIM instances', () => {
  test('what is written reads back; a single object, text for numbers and CRLF do as well', () => {
    const json = writeCim(machine, { a1: small, b2: large }, 2400);
    const { kind, devices } = readInventory(bytesOf(json));
    expect(kind).toBe('cim');
    expect(devices).toMatchObject([
      { locator: 'A1', capacity: 8, generation: 'DDR4', formFactor: 'DIMM', ratedShown: 2400 },
      { locator: 'B2', capacity: 32, configuredShown: 2400, partNumber: 'TV-32U32' },
    ]);
    const [first] = JSON.parse(json) as Record<string, unknown>[];
    const one = JSON.stringify({ ...first, Capacity: '8589934592', Speed: '1200' }, null, '\r\n');
    expect(readInventory(bytesOf(one)).devices).toMatchObject([{ capacity: 8, ratedShown: 1200 }]);
  });

  test.each([
    ['[{"Capacity": 1,', 'not-json', 'line'],
    ['{"name": "not memory"}', 'wrong-shape', 'file'],
    ['[7, {"Capacity": 8589934592, "DeviceLocator": "A1"}]', 'wrong-shape', 'item'],
    ['[{"Capacity": "much", "DeviceLocator": "A1"}]', 'wrong-value', 'item'],
  ])('%s says what and where', (text, type, part) => {
    expect(readInventory(bytesOf(text)).findings[0]).toMatchObject({ type, place: { part } });
  });
});

test('a firmware screen typed by hand, whatever signs part the figures', () => {
  const { devices, findings } = readScreen(
    'DIMM_A1: 8192 MB @ 1200 MHz\nDIMM A2 = 8 GB 2400\n\nB1 - empty\nB2  Not Installed\nsomething else',
  );
  expect(devices).toEqual([
    { locator: 'DIMM_A1', state: 'module', capacity: 8, configuredShown: 1200, verified: true },
    { locator: 'DIMM A2', state: 'module', capacity: 8, configuredShown: 2400, verified: true },
    { locator: 'B1', state: 'empty', verified: true },
    { locator: 'B2', state: 'empty', verified: true },
  ]);
  expect(findings).toMatchObject([{ type: 'line-not-understood', place: { number: 6 } }]);
});
