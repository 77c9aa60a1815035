import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { inventoryOutput } from '#contract/inventory';
import { writeCim, writeSmbios } from '#core/inventory';
import type { Machine } from '#core/machine';
import type { MemoryModule } from '#core/memory';
import { readInventoryFiles } from '#server/reading/readInventoryFiles';
import { crc16 } from '../core/inventory/spd/checksums.ts';
import { desktop, labelled, spdOf } from './support/builders.ts';
import { corpus, generator, mutate } from './support/fuzzInventory.ts';
import { often } from './support/draws.ts';

const answerTo = (...files: Uint8Array[]) =>
  readInventoryFiles(
    files.map((bytes, at) => ({
      name: `file ${at}`,
      base64: Buffer.from(bytes).toString('base64'),
    })),
  );

/** What the route does with an answer before it is sent. */
function complaints(...files: Uint8Array[]): string[] {
  const { success, error } = inventoryOutput.safeParse(answerTo(...files));
  return success ? [] : error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`);
}
const findingsOf = (bytes: Uint8Array) =>
  answerTo(bytes).files.flatMap(({ findings }) =>
    findings.map(({ title, why }) => `${title} ${why}`),
  );

const utf8 = (text: string) => new TextEncoder().encode(text);
const item = (more: object) => ({
  Capacity: 8 * 2 ** 30,
  DeviceLocator: 'DIMM A1',
  SMBIOSMemoryType: 26,
  Speed: 2666,
  ...more,
});
const cim = (...items: object[]) => utf8(JSON.stringify(items.map(item)));
const LONG = 'Q'.repeat(3000);

describe('whatever a file says, the answer keeps to the contract', () => {
  test('2,500 mutants of every kind of file', () => {
    const below = generator(12);
    const start = corpus();
    const pick = () => start[below(start.length)] ?? new Uint8Array();
    for (let n = 0; n < 2500; n++) {
      let bytes = pick();
      for (let rounds = below(3); rounds >= 0; rounds--) bytes = mutate(bytes, pick(), below);
      const said = below(5) === 0 ? complaints(bytes, pick()) : complaints(bytes);
      expect(said, `${n}: ${Buffer.from(bytes.subarray(0, 600)).toString('hex')}`).toEqual([]);
    }
  });

  test.each([
    ['a module of 32 TB', cim({ Capacity: 32 * 2 ** 40 }), /32768 GB/],
    ['a long locator', cim({ DeviceLocator: LONG }), /3000 characters/],
    ['a long part number', cim({ PartNumber: LONG }), /3000 characters/],
    ['a long serial', cim({ SerialNumber: LONG }), /3000 characters/],
    ['a long maker', cim({ Manufacturer: LONG }), /3000 characters/],
    ['an impossible speed', cim({ Speed: 4e9, ConfiguredClockSpeed: 4e9 }), /./],
    ['a chip width of 10 millions', cim({ DataWidth: 1e7, TotalWidth: 2e7 }), undefined],
    [
      'fifty channels',
      cim(...Array.from({ length: 50 }, (_, at) => ({ DeviceLocator: `Channel ${at} DIMM 0` }))),
      undefined,
    ],
    [
      'forty soldered chips',
      cim(
        ...Array.from({ length: 40 }, (_, at) => ({ DeviceLocator: `Chip ${at}`, FormFactor: 6 })),
      ),
      undefined,
    ],
    [
      'names that are one when cut',
      cim(...[1, 2, 3].map((at) => ({ DeviceLocator: `${'N'.repeat(39)}${at}${'M'.repeat(9)}` }))),
      undefined,
    ],
  ])('%s', (_name, bytes, said) => {
    expect(complaints(bytes)).toEqual([]);
    if (said) expect(findingsOf(bytes).join('\n')).toMatch(said);
  });

  test('a table with extreme figures in every field of a memory device', () => {
    const module = labelled('16GB 2Rx8 PC4-2666V-UA1-11 TV-16U26');
    const table = writeSmbios(desktop(), { a1: module, b1: module }, { configuredRate: 2666 });
    const start = table.length - 600;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(599), fc.constantFrom(0, 1, 9, 15, 127, 128, 254, 255)), {
          minLength: 1,
          maxLength: 12,
        }),
        (changes) => {
          const changed = Uint8Array.from(table);
          for (const [at, value] of changes) changed[Math.max(0, start) + at] = value;
          expect(complaints(changed)).toEqual([]);
        },
      ),
      { numRuns: often(200) },
    );
  });

  test('an image with any bytes where its times, ranks and profiles stand', () => {
    const labels = ['8GB 2Rx8 PC3-12800U-11-13-A1', '16GB 2Rx8 PC4-2666V-UA1-11'];
    const images = labels.map((label) => {
      const module: MemoryModule = {
        ...labelled(label),
        maker: '3-4F',
        ...(label.includes('PC4')
          ? {
              profile: {
                rate: 3600,
                timings: { cl: 18 },
                voltageMv: 1350,
              } as MemoryModule['profile'],
            }
          : {}),
      };
      return spdOf(module);
    });
    fc.assert(
      fc.property(
        fc.constantFrom(...images),
        fc.array(fc.tuple(fc.nat(511), fc.nat(255)), { minLength: 1, maxLength: 16 }),
        (image, changes) => {
          const changed = Uint8Array.from(image);
          for (const [at, value] of changes) if (at !== 2) changed[at] = value;
          // Sound again, so that it is believed.
          const crc = crc16(changed.subarray(0, 126));
          changed[126] = crc & 0xff;
          changed[127] = crc >> 8;
          expect(complaints(changed)).toEqual([]);
        },
      ),
      { numRuns: often(500) },
    );
  });

  test('round trips stay whole: nothing of an ordinary file is dropped', () => {
    const module = labelled('16GB 2Rx8 PC4-2666V-UA1-11 TV-16U26');
    const answer = answerTo(utf8(writeCim(desktop(), { a1: module, b1: module }, 2666)));
    expect(answer.files[0]?.devices.filter(({ state }) => state === 'module')).toHaveLength(2);
    expect((answer.picture?.machine as Machine | undefined)?.slots).toHaveLength(2);
  });
});
