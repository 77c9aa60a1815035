import { cyclesForTime, generationTraits, listedTimePs, tableTckPs } from '../../memory/index.ts';
import type { Generation, MemoryModule } from '../../memory/index.ts';
import { compareRates, err, ok } from '../../units/index.ts';
import type { Result } from '../../units/index.ts';
import { makerToBytes, readMakerCode } from '../maker.ts';
import { ByteWriter } from './byteWriter.ts';
import { crc16, sum8 } from './checksums.ts';
import {
  DDR2_TYPES,
  DDR3_DENSITY,
  DDR3_TIMES,
  DDR3_TYPES,
  DDR4_DENSITY,
  DDR4_TIMES,
  DDR4_TYPES,
  DDR5_DENSITY,
  DDR5_NS,
  DDR5_PS,
  DDR5_TYPES,
  LPDDR_TIMES,
  LPDDR_TYPES,
} from './layouts.ts';
import { writeDdr4Profile, writeDdr5Profile } from './writeProfiles.ts';
import type { SpdTimeName, SpdTimes } from './types.ts';

/** Why a module has no SPD image. */
export type SpdWriteError =
  | { readonly type: 'organisation-unknown' }
  | { readonly type: 'no-such-chip'; readonly gigabits: number; readonly generation: Generation }
  | { readonly type: 'no-such-module-type' }
  | { readonly type: 'time-too-long'; readonly name: SpdTimeName }
  | { readonly type: 'no-such-cl'; readonly cl: number; readonly generation: Generation };

/** CLs an image of a generation can list; low-power images list none. */
const CL_RANGE: Partial<Record<Generation, readonly [least: number, most: number]>> = {
  DDR2: [2, 7],
  DDR3: [4, 18],
  DDR4: [7, 52],
  DDR5: [20, 98],
};

/** What an image states that a module's description does not. */
export interface SpdIdentity {
  /** Eight hex digits. */
  readonly serial?: string | undefined;
  readonly made?: { readonly year: number; readonly week: number } | undefined;
}

interface Chip {
  readonly width: 4 | 8 | 16 | 32;
  readonly ranks: number;
  readonly gigabits: number;
  readonly times: SpdTimes;
  readonly cls: readonly number[];
}

/**
 * The SPD image a module would carry, with checksums. Times the module does not state are the
 * generation's usual ones. What is written reads back as the same module.
 */
export function writeSpd(
  module: MemoryModule,
  identity: SpdIdentity = {},
): Result<Uint8Array, SpdWriteError> {
  const { generation, ranks, chipWidth, capacity } = module;
  if (ranks === 'unknown' || chipWidth === 'unknown') return err({ type: 'organisation-unknown' });
  const [least, most] = CL_RANGE[generation] ?? [1, 200];
  const { cl } = module.timings;
  if (cl < least || cl > most) return err({ type: 'no-such-cl', cl, generation });
  const gigabits = (capacity * 8 * chipWidth) / (64 * ranks);
  const width = chipWidth as Chip['width'];
  const chip: Chip = { width, ranks, gigabits, times: timesOf(module), cls: clsOf(module) };
  const written =
    generation === 'DDR2'
      ? writeDdr2(module, chip, identity)
      : generation === 'DDR5'
        ? writeDdr5(module, chip, identity)
        : writeMediumTimebase(module, chip, identity);
  if (!written.ok) return written;
  const { tooLong } = written.value;
  return tooLong ? err({ type: 'time-too-long', name: tooLong }) : ok(written.value.done());
}

/** Times of a module: SPD's own, else from its cycles. Times between commands only where it states them. */
function timesOf(module: MemoryModule): SpdTimes {
  const { generation, rate, timings, timesPs, commandTimesPs: between } = module;
  const ps = (own: number | undefined, cycles: number | undefined) =>
    own ?? (cycles === undefined ? undefined : listedTimePs(generation, cycles, rate));
  const tAA = ps(timesPs?.cl, timings.cl);
  const tRP = ps(timesPs?.trp, timings.trp ?? timings.cl) ?? 0;
  const tRAS = ps(timesPs?.tras, timings.tras) ?? 32_000;
  return {
    tCK: tableTckPs(generation, rate),
    ...{ tAA, tRP, tRAS, tRC: tRAS + tRP },
    tRCD: ps(timesPs?.trcd, timings.trcd ?? timings.cl),
    ...{ tRFC1: between?.rfc, tFAW: between?.faw, tWR: between?.wr, tRTP: between?.rtp },
    ...{ tRRD_S: between?.rrdShort, tRRD_L: between?.rrdLong, tCCD_L: between?.ccdLong },
    ...{ tWTR_S: between?.wtrShort, tWTR_L: between?.wtrLong },
  };
}

/** CLs the image lists: the module's own, else what its time needs at each rate up to its own. */
function clsOf({ generation, rate, timings, timesPs, supportedCls }: MemoryModule): number[] {
  if (supportedCls) return [...supportedCls];
  const tAA = timesPs?.cl ?? listedTimePs(generation, timings.cl, rate);
  const even = (cl: number) => (generation === 'DDR5' ? cl + (cl % 2) : cl);
  const below = generationTraits(generation)
    .standardRates.filter((one) => compareRates(one, rate) < 0)
    .map((one) => even(cyclesForTime(generation, tAA, one)));
  return [...new Set([...below, even(timings.cl)])].sort((a, b) => a - b);
}

function typeCode(
  types: typeof DDR4_TYPES,
  { formFactor, buffering, ecc }: MemoryModule,
): number | undefined {
  const fits = Object.entries(types).filter(
    ([, [form, drive]]) => form === formFactor && drive === buffering,
  );
  // A type of its own stands for SODIMMs with ECC (DDR3 and DDR4: 8 or 9; DDR2: 6).
  const wide = ecc && formFactor === 'SODIMM' ? fits.at(-1) : fits[0];
  return wide && Number(wide[0]);
}

const bcd = (value: number) => (Math.floor(value / 10) << 4) | (value % 10);
const log2 = (value: number) => Math.round(Math.log2(value));

function writeIdentity(
  to: ByteWriter,
  module: MemoryModule,
  { serial, made }: SpdIdentity,
  at: { maker: number; year: number; serial: number; part: number; partLength: number },
): void {
  const code = module.maker === undefined ? undefined : readMakerCode(module.maker);
  if (code) to.bytes(at.maker, makerToBytes(code));
  if (made) to.bytes(at.year, [bcd(made.year % 100), bcd(made.week)]);
  if (serial) to.hex(at.serial, serial);
  if (module.partNumber) to.ascii(at.part, module.partNumber, at.partLength);
}

function writeMediumTimebase(
  module: MemoryModule,
  chip: Chip,
  identity: SpdIdentity,
): Result<ByteWriter, SpdWriteError> {
  const { generation, ecc } = module;
  const isDdr3 = generation === 'DDR3';
  const isLow = generation.startsWith('LPDDR');
  const density = (isDdr3 ? DDR3_DENSITY : DDR4_DENSITY).findIndex((one) => one === chip.gigabits);
  if (density < 0) return err({ type: 'no-such-chip', gigabits: chip.gigabits, generation });
  const type = typeCode(isDdr3 ? DDR3_TYPES : isLow ? LPDDR_TYPES : DDR4_TYPES, module);
  if (type === undefined) return err({ type: 'no-such-module-type' });
  const to = new ByteWriter(isDdr3 ? 256 : 512);
  to.bytes(0, [isDdr3 ? 0x92 : 0x23, 0x11, KEY_BYTES[generation] ?? 0, type, density]);
  const organisation =
    ((chip.ranks === 8 && isDdr3 ? 4 : chip.ranks - 1) << 3) | log2(chip.width / 4);
  const bus = 0x03 | (ecc ? 0x08 : 0);
  if (isDdr3) {
    const rails = module.voltagesMv;
    to.set(6, (rails.includes(1350) ? 2 : 0) | (rails.includes(1500) ? 0 : 1));
    to.bytes(7, [organisation, bus, 0x11, 1, 8]);
    to.times(DDR3_TIMES, chip.times);
    to.mask(
      14,
      chip.cls.map((cl) => cl - 4),
      16,
    );
    to.u16(126, crc16(to.slice(0, 126)));
    writeIdentity(to, module, identity, DDR3_IDENTITY);
    // The CRC covers only bytes before the identity when byte 0 says so; here it covers all of it.
    to.u16(126, crc16(to.slice(0, 126)));
    return ok(to);
  }
  to.set(12, organisation);
  to.set(13, isLow ? 0x03 : bus);
  to.times(isLow ? LPDDR_TIMES : DDR4_TIMES, chip.times);
  if (!isLow) {
    to.set(11, 0x03);
    const base = chip.cls.some((cl) => cl > 36) ? 23 : 7;
    to.mask(
      20,
      chip.cls.map((cl) => cl - base),
      30,
    );
    if (base === 23) to.set(23, to.get(23) | 0x80);
    if (module.profile) writeDdr4Profile(to, module.profile);
  }
  writeIdentity(to, module, identity, DDR4_IDENTITY);
  to.u16(126, crc16(to.slice(0, 126)));
  if (!isLow) to.u16(254, crc16(to.slice(128, 254)));
  return ok(to);
}

const KEY_BYTES: Partial<Record<Generation, number>> = {
  DDR3: 0x0b,
  DDR4: 0x0c,
  LPDDR3: 0x0f,
  LPDDR4: 0x10,
  LPDDR4X: 0x11,
  LPDDR5: 0x13,
  LPDDR5X: 0x15,
};
const DDR3_IDENTITY = { maker: 117, year: 120, serial: 122, part: 128, partLength: 18 };
const DDR4_IDENTITY = { maker: 320, year: 323, serial: 325, part: 329, partLength: 20 };
const DDR5_IDENTITY = { maker: 512, year: 515, serial: 517, part: 521, partLength: 30 };

function writeDdr5(
  module: MemoryModule,
  chip: Chip,
  identity: SpdIdentity,
): Result<ByteWriter, SpdWriteError> {
  const density = DDR5_DENSITY.findIndex((one) => one === chip.gigabits);
  if (density < 0)
    return err({ type: 'no-such-chip', gigabits: chip.gigabits, generation: 'DDR5' });
  const type = typeCode(DDR5_TYPES, module);
  if (type === undefined) return err({ type: 'no-such-module-type' });
  const to = new ByteWriter(1024);
  to.bytes(0, [0x30, 0x10, 0x12, type, density]);
  to.set(6, log2(chip.width / 4) << 5);
  to.set(7, ((chip.width === 16 ? 2 : 3) << 5) | 2);
  for (const [name, at] of DDR5_PS) to.u16(at, chip.times[name] ?? 0);
  for (const [name, at] of DDR5_NS) to.u16(at, Math.ceil((chip.times[name] ?? 0) / 1000));
  to.mask(
    24,
    chip.cls.map((cl) => (cl - 20) / 2),
    40,
  );
  to.set(234, (chip.ranks - 1) << 3);
  // Two subchannels of 32 bits; ECC adds 8 bits to each.
  to.set(235, 0x20 | (module.ecc ? 0x10 : 0) | 0x02);
  to.u16(510, crc16(to.slice(0, 510)));
  writeIdentity(to, module, identity, DDR5_IDENTITY);
  if (module.profile) writeDdr5Profile(to, module.profile);
  return ok(to);
}

const PERIODS: readonly (readonly [ps: number, byte: number])[] = [
  [5000, 0x50],
  [3750, 0x3d],
  [3000, 0x30],
  [2500, 0x25],
  [1875, 0x1e],
];

function writeDdr2(
  module: MemoryModule,
  chip: Chip,
  identity: SpdIdentity,
): Result<ByteWriter, SpdWriteError> {
  const rankGib = module.capacity / chip.ranks;
  const bit = [1, 2, 4, 8, 16, 0.125, 0.25, 0.5].indexOf(rankGib);
  const period = PERIODS.find(([ps]) => Math.abs(ps - (chip.times.tCK ?? 0)) <= 20);
  if (bit < 0 || !period)
    return err({ type: 'no-such-chip', gigabits: chip.gigabits, generation: 'DDR2' });
  const type = typeCode(DDR2_TYPES, module);
  if (type === undefined) return err({ type: 'no-such-module-type' });
  const to = new ByteWriter(256);
  // Eight banks; ten columns; the rest of the size is rows.
  const rows = log2((rankGib * 2 ** 30) / 8 / 8) - 10;
  to.bytes(0, [0x80, 0x08, 0x08, rows, 10, 0x60 | (chip.ranks - 1), module.ecc ? 72 : 64]);
  to.bytes(8, [0x05, period[1], 0x40, module.ecc ? 0x02 : 0, 0x82, chip.width]);
  to.bytes(16, [0x0c, 8]);
  const cls = chip.cls.filter((cl) => cl >= 2 && cl <= 7);
  to.set(
    18,
    cls.reduce((mask, cl) => mask | (1 << cl), 0),
  );
  to.set(20, type);
  const quarter = (ps: number | undefined) => Math.min(255, Math.ceil((ps ?? 0) / 250));
  to.bytes(27, [quarter(chip.times.tRP), quarter(chip.times.tRRD_S), quarter(chip.times.tRCD)]);
  to.bytes(30, [Math.ceil((chip.times.tRAS ?? 0) / 1000), 1 << bit]);
  to.bytes(36, [quarter(chip.times.tWR), quarter(chip.times.tWTR_S), quarter(chip.times.tRTP)]);
  to.bytes(41, [Math.ceil((chip.times.tRC ?? 0) / 1000), 105]);
  to.set(62, 0x13);
  const code = module.maker === undefined ? undefined : readMakerCode(module.maker);
  if (code) to.bytes(64, [...Array<number>(Math.min(7, code.bank - 1)).fill(0x7f), code.code]);
  writeIdentity(to, { ...module, maker: undefined }, identity, DDR2_IDENTITY);
  to.set(63, sum8(to.slice(0, 63)));
  return ok(to);
}

const DDR2_IDENTITY = { maker: 64, year: 93, serial: 95, part: 73, partLength: 18 };
