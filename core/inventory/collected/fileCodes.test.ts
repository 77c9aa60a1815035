import fc from 'fast-check';
import qrcode from 'qrcode';
import { describe, expect, test } from 'vitest';
import { desktop, labelled, spdOf } from '../../../test/support/builders.ts';
import {
  codesOfFile,
  fileOfCodes,
  missingOf,
  readFileCode,
  readInventory,
  unpackCollected,
  withCode,
  writeCim,
  writeCollected,
  writeSmbios,
} from '../index.ts';
import type { Collected, SeenCodes } from '../index.ts';

const utf8 = (text: string) => new TextEncoder().encode(text);
const machine = desktop({ name: 'Lantern A3' });
const module = labelled('16GB 2Rx8 PC4-2666V-SE1-11', { formFactor: 'DIMM' });
const image = spdOf(module);
/** A table as the scripts write it, without its entry point. */
const table = writeSmbios(machine, { a1: module, b1: module }).slice(32);
/** A structure of cache, 120 bytes of no matter here. */
const cache = Uint8Array.from([7, 4, 0x99, 0x99, ...Array<number>(118).fill(0x41), 0, 0]);

const whole = (more: Partial<Collected> = {}): Collected => ({
  shell: 'unix',
  collectedAt: '2026-11-02T09:30:00Z',
  parts: [
    { kind: 'smbios-table', from: 'DMI', bytes: Uint8Array.from([...cache, ...table]) },
    {
      ...{ kind: 'memory-instances', from: 'CIM' },
      bytes: utf8(writeCim(machine, { a1: module, b1: module })),
    },
    { kind: 'spd-image', from: '/sys/bus/i2c/devices/0-0050/eeprom', bytes: image },
    { kind: 'spd-image', from: '/sys/bus/i2c/devices/0-0052/eeprom', bytes: image },
  ],
  facts: [{ name: 'memory-visible', value: '16777216', from: '/proc/meminfo' }],
  notRead: [{ what: 'graphics share', why: 'no driver of this system shows it' }],
  ...more,
});

/** Codes as they come before a camera, in whatever order and however often. */
function scanned(texts: readonly string[]): SeenCodes {
  const seen = texts.reduce<SeenCodes | undefined>((now, text) => {
    const code = readFileCode(text);
    if (!code || code === 'newer') throw new Error('expected a code of a file');
    return withCode(now, code);
  }, undefined);
  if (!seen) throw new Error('expected codes');
  return seen;
}

/** Bytes nothing can make smaller. */
const noise = (length: number, seed: number) => {
  let state = seed;
  return Uint8Array.from({ length }, () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return state & 0xff;
  });
};

describe('a collected file in codes', () => {
  const { codes, leftOut } = codesOfFile(whole());

  test('of a usual machine is a handful, each read by a camera off a screen', () => {
    expect(leftOut).toEqual([]);
    expect(codes.length).toBeGreaterThan(1);
    expect(codes.length).toBeLessThanOrEqual(8);
    for (const code of codes)
      // Version 18 of ISO/IEC 18004 has 89 modules a side.
      expect(qrcode.create(code, { errorCorrectionLevel: 'M' }).modules.size).toBeLessThanOrEqual(
        89,
      );
  });

  test('comes together in any order, with codes seen twice, and reads as the file itself', () => {
    const order = fc.shuffledSubarray([...codes, ...codes], { minLength: codes.length * 2 });
    fc.assert(
      fc.property(order, (texts) => {
        const text = fileOfCodes(scanned(texts));
        const reading = readInventory(utf8(text ?? ''));
        expect(reading.kind).toBe('collected');
        expect(reading.findings).toEqual([]);
        expect(reading.collected?.facts).toEqual(whole().facts);
      }),
      { numRuns: 20 },
    );
  });

  test('tells of memory and board what the file tells, and leaves the rest of the table behind', () => {
    const claims = (text: string) =>
      unpackCollected({ name: 'x.json', bytes: utf8(text) })
        .slice(1)
        .map(({ bytes }) => {
          const { kind, devices, board, findings } = readInventory(bytes);
          return { kind, devices, board, findings };
        });
    const carried = fileOfCodes(scanned(codes)) ?? '';
    expect(claims(carried)).toEqual(claims(writeCollected(whole())));
    expect(carried.length).toBeLessThan(writeCollected(whole()).length - 200);
  });

  test('is nothing while a code is missing, and says which', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: codes.length - 1 }), (without) => {
        const seen = scanned(codes.filter((_, at) => at !== without));
        expect(missingOf(seen)).toEqual([without + 1]);
        expect(fileOfCodes(seen)).toBeUndefined();
      }),
    );
  });

  test('a digit read wrongly never makes a file, and a code of another file starts anew', () => {
    fc.assert(
      fc.property(fc.nat(codes.length - 1), fc.nat(300), (which, at) => {
        const changed = codes.map((code, index) => {
          if (index !== which) return code;
          const place =
            code.lastIndexOf(':') + 1 + (at % (code.length - code.lastIndexOf(':') - 3));
          const other = code[place] === 'A' ? 'B' : 'A';
          return code.slice(0, place) + other + code.slice(place + 1);
        });
        expect(fileOfCodes(scanned(changed))).toBeUndefined();
      }),
    );
    const [other = ''] = codesOfFile(whole({ shell: 'cim' })).codes;
    const mixed = scanned([...codes.slice(1), other]);
    expect(mixed.pieces.size).toBe(1);
  });

  test('a long file leaves out what tells least, the last first, and says so', () => {
    const long = (seed: number) => ({ kind: 'spd-image', bytes: noise(3600, seed) }) as const;
    const parts = [...whole().parts, { ...long(1), from: 'one' }, { ...long(2), from: 'two' }];
    const made = codesOfFile(whole({ parts }));
    expect(made.codes.length).toBeLessThanOrEqual(24);
    expect(made.leftOut).toEqual(['spd-image, two']);
    const all = codesOfFile(whole({ parts: [{ ...long(1), from: 'x', bytes: noise(90_000, 3) }] }));
    expect(all.leftOut).toEqual(['spd-image, x']);
    expect(
      readInventory(utf8(fileOfCodes(scanned(all.codes)) ?? '')).collected?.facts,
    ).toHaveLength(1);
  });

  test.each([
    ['words', 'DIMM_A1'],
    ['a tag', 'http://127.0.0.1:4700/jobs/abcdefgh1234'],
    ['no digits', 'tembrix-file:1:0123abcd:1:2:'],
    ['the third of two', 'tembrix-file:1:0123abcd:3:2:AAAA'],
    ['the nought-th', 'tembrix-file:1:0123abcd:0:2:AAAA'],
  ])('%s is no code of a file', (_name, text) => {
    expect(readFileCode(text)).toBeUndefined();
  });

  test('one of a later version is told apart; any text at all never throws', () => {
    expect(readFileCode('tembrix-file:2:0123abcd:1:2:AAAA')).toBe('newer');
    fc.assert(
      fc.property(fc.stringMatching(/^[A-Za-z0-9+/]{1,200}={0,2}$/), (piece) => {
        const code = readFileCode(`tembrix-file:1:0123abcd:1:1:${piece}`);
        if (!code || code === 'newer') throw new Error('expected a code');
        expect(fileOfCodes(withCode(undefined, code))).toBeUndefined();
      }),
    );
  });
});
