import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyModule, anyModuleOf } from '../../test/support/arbitraries.ts';
import { labelled, spdOf } from '../../test/support/builders.ts';
import type { CommandTime, MemoryModule } from '../memory/index.ts';
import { readInventory, writeSpd } from './index.ts';
import { crc16 } from './spd/checksums.ts';

/** An image by byte address, the rest 0; the base CRC is added unless the bytes bring their own. */
function image(size: number, bytes: Readonly<Record<number, number | number[]>>, crcAt = 126) {
  const spd = new Uint8Array(size);
  for (const [at, values] of Object.entries(bytes)) spd.set([values].flat(), Number(at));
  if (bytes[crcAt] === undefined) {
    const crc = crc16(spd.subarray(0, crcAt));
    spd.set([crc & 0xff, crc >> 8], crcAt);
  }
  return spd;
}

const text = (words: string) => [...words].map((sign) => sign.charCodeAt(0));
test('the CRC is the one the standard names', () => {
  expect(crc16(Uint8Array.from(text('123456789')))).toBe(0x31c3);
});

describe('images laid out by hand from the standards', () => {
  test('DDR4: 8 Gbit x8, one rank, 2400 by a fine offset, all timings, identity', () => {
    const spd = image(512, {
      0: [0x23, 0x11, 0x0c, 0x02, 0x85, 0x21],
      12: [0x01, 0x03],
      18: [0x07, 0x0d, 0xf8, 0x0f, 0x00, 0x00, 0x6e, 0x6e, 0x6e, 0x11, 0x00, 0x6e],
      30: [0xf0, 0x0a, 0x20, 0x08, 0x00, 0x05, 0x00, 0xa8, 0x1b, 0x28],
      125: 0xd6,
      320: [0x83, 0x4a, 0x01, 0x24, 0x31, 0xde, 0xad, 0x00, 0x17],
      329: text('TV-8U24.R1          '),
    });
    const { kind, images, devices, findings } = readInventory(spd);
    expect([kind, findings.map(({ type }) => type)]).toEqual(['spd', []]);
    expect(images?.[0]).toMatchObject({
      ...{ generation: 'DDR4', revision: '1.1', capacity: 8, ranks: 1, chipWidth: 8, eccWidth: 0 },
      ...{ rate: 2400, supportedCls: [10, 11, 12, 13, 14, 15, 16, 17, 18], verified: true },
      maker: { bank: 4, code: 0x4a },
      ...{ partNumber: 'TV-8U24.R1', serial: 'DEAD0017', made: { year: 2024, week: 31 } },
      // 7 × 125 − 42; 110 × 125; 16 × 125 + 256 × 125; 2800 × 125; 168 × 125
      times: {
        tCK: 833,
        tAA: 13_750,
        tRCD: 13_750,
        tRAS: 32_000,
        tRC: 45_750,
        tRFC1: 350_000,
        tFAW: 21_000,
      },
      checksums: [{ state: 'good' }, { state: 'good' }],
    });
    expect(devices[0]?.module).toMatchObject({
      timings: { cl: 17, trcd: 17, trp: 17, tras: 39 },
      ...{ formFactor: 'DIMM', voltagesMv: [1200], maker: '4-4A' },
    });
  });

  test.each([
    ['a two-die package is not doubled', 0x91, 0x09, 0x03, 16],
    ['a true stack of four is', 0xb2, 0x01, 0x0b, 32],
  ])('DDR4 capacity: %s', (_name, packageType, organisation, bus, capacity) => {
    const spd = image(512, {
      ...{ 0: [0x23, 0x11, 0x0c, 0x01, 0x85, 0x21, packageType], 12: [organisation, bus] },
      ...{ 18: [0x07], 24: [0x6e, 0x6e, 0x6e, 0x11, 0x00, 0x6e], 20: [0xf8, 0x0f] },
    });
    expect(readInventory(spd).images?.[0]?.capacity).toBe(capacity);
  });

  test('DDR4 with unlike ranks sums them: 8 GB and 4 GB', () => {
    const spd = image(512, {
      ...{ 0: [0x23, 0x11, 0x0c, 0x02, 0x85, 0x21, 0, 0, 0, 0, 0x04], 12: [0x49, 0x03] },
      ...{ 18: [0x07], 24: [0x6e, 0x6e, 0x6e, 0x11, 0x00, 0x6e] },
    });
    expect(readInventory(spd).devices[0]).toMatchObject({
      capacity: 12,
      module: { capacity: 12, ranks: 2 },
    });
  });

  test('DDR4 whose odd ranks are two densities smaller is a module: 8 GB and 2 GB', () => {
    const spd = image(512, {
      ...{ 0: [0x23, 0x11, 0x0c, 0x02, 0x85, 0x21, 0, 0, 0, 0, 0x08], 12: [0x49, 0x03] },
      ...{ 18: [0x07], 24: [0x6e, 0x6e, 0x6e, 0x11, 0x00, 0x6e] },
    });
    expect(readInventory(spd).devices[0]?.module?.capacity).toBe(10);
  });

  test('DDR3: the count of dies never multiplies the size', () => {
    const bytes = [0x92, 0x11, 0x0b, 0x03, 0x04, 0x21, 0x02, 0x01, 0x03, 0x11, 1, 8];
    const times = [0xfc, 0x00, 0x69, 0x78, 0x69, 0x30, 0x69, 0x11, 0x18, 0x81];
    // Two, three and five dies, with every signal loading.
    for (const dies of [0x00, 0x12, 0x22, 0x42, 0x91, 0xc2])
      expect(
        readInventory(image(256, { 0: bytes, 12: [0x0a], 14: times, 33: dies })).devices[0]?.module
          ?.capacity,
      ).toBe(4);
  });

  describe('LPDDR4', () => {
    // 4 Gbit a channel by density; 15 rows, 10 columns and 8 banks of x16 are 4 Gbit as well.
    const lpddr4 = (density: number, addresses: number, more = {}) =>
      image(512, {
        ...{ 0: [0x23, 0x11, 0x10, 0x0e, density | 0x10, addresses], 12: [0x02, 0x21] },
        ...{ 18: [0x05], 24: [0x6e, 0, 0x90, 0x90], ...more },
      });

    test.each([
      ['agree', 4, 0x19, 1, []],
      ['density per die of two channels', 5, 0x19, 1, ['capacities-disagree']],
      ['density half of what is addressed', 3, 0x19, 1, ['capacities-disagree']],
      ['addresses never written', 5, 0, 2, []],
      ['a reserved code', 5, 0x39, 2, []],
    ])('addresses win: %s', (_name, density, addresses, capacity, types) => {
      const { devices, findings } = readInventory(lpddr4(density, addresses));
      expect(devices[0]?.capacity).toBe(capacity);
      expect(findings.map(({ type }) => type)).toEqual(types);
    });

    test('the second checksum is checked too', () => {
      const sound = lpddr4(4, 0x19, { 200: 7 });
      const crc = crc16(sound.subarray(128, 254));
      sound.set([crc & 0xff, crc >> 8], 254);
      expect(readInventory(sound).findings).toEqual([]);
      sound[201] = 1;
      expect(readInventory(sound)).toMatchObject({
        findings: [{ type: 'checksum-wrong', block: 'module (128–253)' }],
        devices: [{ verified: false }],
      });
    });
  });

  test('DDR5: two subchannels make one module; CLs are even; ECC adds 8 bits to each', () => {
    const spd = image(
      1024,
      {
        ...{ 0: [0x30, 0x10, 0x12, 0x02, 0x04, 0, 0x20, 0x62] },
        ...{
          20: [0xa0, 0x01],
          24: [0, 0x04],
          30: [0x1a, 0x41],
          32: [0x1a, 0x41],
          34: [0x1a, 0x41],
        },
        ...{ 36: [0x00, 0x7d], 234: [0x00, 0x32] },
      },
      510,
    );
    expect(readInventory(spd).devices[0]?.module).toMatchObject({
      ...{ capacity: 16, ranks: 1, chipWidth: 8, ecc: true, rate: 4800, supportedCls: [40] },
      timings: { cl: 40, trcd: 40, tras: 77 },
    });
  });

  test('DDR3L, DDR2 and soldered LPDDR5', () => {
    const ddr3 = image(256, {
      ...{ 0: [0x92, 0x11, 0x0b, 0x03, 0x04, 0x21, 0x02, 0x01, 0x03, 0x11, 1, 8] },
      ...{ 12: [0x0a], 14: [0xfc, 0x00, 0x69, 0x78, 0x69, 0x30, 0x69, 0x11, 0x18, 0x81] },
    });
    expect(readInventory(ddr3).devices[0]?.module).toMatchObject({
      ...{ generation: 'DDR3', capacity: 4, formFactor: 'SODIMM', rate: 1600 },
      ...{ voltagesMv: [1350, 1500], timings: { cl: 11 }, supportedCls: [6, 7, 8, 9, 10, 11] },
    });
    const ddr2 = new Uint8Array(128);
    ddr2.set([0x80, 0x08, 0x08, 0x0e, 0x0a, 0x61, 0x40, 0x00, 0x05, 0x25, 0x40, 0x00, 0x82, 0x08]);
    ddr2.set([0x0c, 0x08, 0x70, 0x00, 0x02], 16);
    ddr2.set([0x32, 0x1e, 0x32, 0x2d, 0x01], 27);
    ddr2.set([0x7f, 0x7f, 0x4f], 64);
    ddr2[63] = ddr2.subarray(0, 63).reduce((sum, byte) => (sum + byte) & 0xff, 0);
    expect(readInventory(ddr2).images?.[0]).toMatchObject({
      ...{ capacity: 2, ranks: 2, rate: 800, supportedCls: [4, 5, 6], verified: true },
      ...{ maker: { bank: 3, code: 0x4f }, times: { tCK: 2500, tRCD: 12_500, tRAS: 45_000 } },
    });
    // 16 Gbit x16, one 64-bit channel: four chips; CK runs at an eighth of the data rate.
    const lpddr5 = image(512, {
      ...{ 0: [0x23, 0x11, 0x13, 0x0e, 0x06], 12: [0x02, 0x03] },
      ...{ 18: [0x0a], 24: [0x8c, 0, 0x90, 0x90] },
    });
    expect(readInventory(lpddr5).devices[0]).toMatchObject({
      ...{ soldered: true, module: { generation: 'LPDDR5', capacity: 8, rate: 6400 } },
    });
  });
});

describe('what Tembrix writes it reads back', () => {
  const writable = anyModule
    .filter(({ ranks }) => ranks !== 'unknown')
    .map((module): MemoryModule => ({ ...module, maker: '3-4F' }));

  test('as the same module, for every generation', () => {
    let count = 0;
    fc.assert(
      fc.property(writable, (module) => {
        const spd = writeSpd(module);
        // Sizes no chip adds up to, and CLs no image lists, are refused, not bent.
        if (!spd.ok) {
          expect(spd.error.type).toMatch(/no-such-|time-too-long/);
          return;
        }
        count += 1;
        const reading = readInventory(spd.value);
        const read = reading.devices[0]?.module;
        const { capacity, ranks, chipWidth, ecc, formFactor, buffering, rate, voltagesMv } = module;
        expect(read).toMatchObject({ capacity, ranks, chipWidth, ecc, formFactor, buffering });
        expect(read).toMatchObject({ rate, voltagesMv, maker: '3-4F' });
        const isOddCl = module.generation === 'DDR5' && module.timings.cl % 2 === 1;
        expect(read?.timings.cl).toBe(module.timings.cl + (isOddCl ? 1 : 0));
        if (module.timings.trcd !== undefined && module.generation !== 'DDR2')
          expect(read?.timings.trcd).toBe(module.timings.trcd);
        if (module.profile && (module.generation === 'DDR4' || module.generation === 'DDR5')) {
          expect(read?.profile).toMatchObject({ voltageMv: module.profile.voltageMv });
          expect(read?.profile?.timings.cl).toBe(module.profile.timings.cl);
        }
      }),
      { seed: 31, numRuns: 400 },
    );
    expect(count).toBeGreaterThan(200);
  });

  test.each(['DDR3', 'DDR4', 'DDR5'] as const)(
    '%s with its times between commands',
    (generation) => {
      // Each standard keeps a place for these.
      const kept: readonly CommandTime[] = {
        DDR3: ['rrdShort', 'faw', 'wtrShort', 'rtp', 'wr', 'rfc'] as const,
        DDR4: [
          'rrdShort',
          'rrdLong',
          'faw',
          'ccdLong',
          'wtrShort',
          'wtrLong',
          'wr',
          'rfc',
        ] as const,
        DDR5: ['rrdLong', 'faw', 'ccdLong', 'wtrShort', 'wtrLong', 'rtp', 'wr', 'rfc'] as const,
      }[generation];
      const anyTimes = fc.record(
        Object.fromEntries(kept.map((name) => [name, fc.integer({ min: 1, max: 30 })])),
        { requiredKeys: [] },
      );
      const module = anyModuleOf(generation).filter(({ ranks }) => ranks !== 'unknown');
      fc.assert(
        fc.property(module, anyTimes, (plain, ns) => {
          const commandTimesPs = Object.fromEntries(
            Object.entries(ns).map(([name, one = 0]) => [name, one * 1000]),
          );
          const spd = writeSpd({ ...plain, commandTimesPs });
          if (!spd.ok) return;
          const read = readInventory(spd.value).devices[0]?.module?.commandTimesPs;
          expect(read ?? {}).toEqual(commandTimesPs);
        }),
        { numRuns: 100 },
      );
    },
  );

  test('also as hex text in the ways dump tools print it, and several images in one file', () => {
    const module = labelled('16GB 2Rx8 PC4-2666V-SE1-11 TV-16S26');
    const spd = spdOf(module);
    const rows = Array.from({ length: 32 }, (_, row) =>
      [...spd.subarray(row * 16, row * 16 + 16)].map((byte) => byte.toString(16).padStart(2, '0')),
    );
    const offset = (row: number) => (row * 16).toString(16).padStart(8, '0');
    const forms = [
      rows.map((row) => row.join(' ')).join('\r\n'),
      rows.map((row, at) => `${offset(at)}: ${row.join(' ')}  |................|`).join('\n'),
      rows.map((row, at) => `${offset(at)}  ${row.join(' ')}`).join('\n'),
      `\uFEFF${rows.flat().join('').toUpperCase()}`,
      rows.map((row) => row.map((byte) => `0x${byte},`).join(' ')).join('\n'),
    ];
    for (const form of forms)
      expect(readInventory(new TextEncoder().encode(form)).devices[0]?.partNumber).toBe('TV-16S26');
    const blank = new Uint8Array(512).fill(0xff);
    const both = readInventory(Uint8Array.from([...spd, ...blank, ...spd]));
    expect(both.images?.map(({ offset: at }) => at)).toEqual([0, 1024]);
    expect(both.findings).toContainEqual({
      ...{ type: 'blank-image', severity: 'error', filling: 255 },
      place: { part: 'image', number: 2 },
    });
  });
});
