import { gib } from '../../units/index.ts';
import type { Generation } from '../../memory/index.ts';
import type { ByteView } from '../byteView.ts';
import { makerFromBytes } from '../maker.ts';
import { checkCrc } from './checksums.ts';
import {
  STANDARD_TIMEBASES,
  madeFromBcd,
  rateOfPeriod,
  readTimes,
  setBits,
} from './decodeParts.ts';
import type { Timebases } from './decodeParts.ts';
import {
  DDR3_DENSITY,
  DDR3_TIMES,
  DDR3_TYPES,
  DDR4_DENSITY,
  DDR4_TIMES,
  DDR4_TYPES,
  LPDDR_TIMES,
  LPDDR_TYPES,
} from './layouts.ts';
import type { SpdParts } from './parts.ts';
import { readDdr4Profiles } from './profiles.ts';

const chipWidthOf = (code: number) => (code <= 3 ? 4 << code : undefined);
const busWidthOf = (code: number) => (code <= 3 ? 8 << code : undefined);
const revisionOf = (view: ByteView) => `${view.u8(1) >> 4}.${view.u8(1) & 15}`;

/** Size of the ranks that carry one kind of chip, GiB. */
function ranksGib(
  densityGbit: number | undefined,
  busWidth: number | undefined,
  chipWidth: number | undefined,
  ranks: number,
): number | undefined {
  if (densityGbit === undefined || !busWidth || !chipWidth) return undefined;
  return (densityGbit / 8) * (busWidth / chipWidth) * ranks;
}

/**
 * Dies that count: only a true stack (3DS, signal loading 2) multiplies the size. A two-die package
 * that loads the bus twice already shows as two ranks or as its full density.
 */
const stackOf = (view: ByteView, at: number) =>
  view.bits(at, 0, 2) === 2 ? view.bits(at, 4, 3) + 1 : 1;

/** Reads a DDR3 image. Source: JEDEC Std 21-C, Annex K. */
export function readDdr3(view: ByteView): SpdParts {
  const ranks = [1, 2, 3, 4, 8][view.bits(7, 3, 3)];
  const chipWidth = chipWidthOf(view.bits(7, 0, 3));
  const busWidth = busWidthOf(view.bits(8, 0, 3));
  const capacity = ranksGib(DDR3_DENSITY[view.bits(4, 0, 4)], busWidth, chipWidth, ranks ?? 0);
  const times = readTimes(view, DDR3_TIMES, ddr3Timebases(view));
  const type = DDR3_TYPES[view.bits(3, 0, 4)];
  const voltage = view.u8(6);
  return {
    generation: 'DDR3',
    revision: revisionOf(view),
    wanted: 176,
    ...(type ? { formFactor: type[0], buffering: type[1] } : {}),
    // Byte 33 counts dies, but the density is the package's: it never multiplies.
    ...(capacity ? { capacity: gib(capacity) } : {}),
    ...{ ranks, asymmetric: false, chipWidth, busWidth },
    eccWidth: view.bits(8, 3, 2) === 1 ? 8 : 0,
    times,
    rate: rateOfPeriod('DDR3', times.tCK),
    supportedCls: setBits(view, 14, 2).map((bit) => bit + 4),
    // Byte 6: bit 1 = runs at 1.35 V, bit 0 set = does NOT run at 1.5 V.
    voltagesMv: [...(voltage & 2 ? [1350] : []), ...(voltage & 1 ? [] : [1500])],
    maker: makerFromBytes(view.u8(117), view.u8(118)),
    dramMaker: makerFromBytes(view.u8(148), view.u8(149)),
    partNumber: view.ascii(128, 18),
    partRevision: view.hex(146, 2),
    serial: view.hex(122, 4),
    made: madeFromBcd(view.u8(120), view.u8(121)),
    profiles: [],
    // Byte 0 bit 7: the CRC covers 0–116 instead of 0–125, so that serials can be written later.
    checksums: [checkCrc(view, 'base', 0, view.u8(0) & 0x80 ? 116 : 125, 126)],
  };
}

/** Bytes 9–11: the units are fractions of a ns; 0 or nonsense falls back to 125 ps and 1 ps. */
function ddr3Timebases(view: ByteView): Timebases {
  const [dividend, divisor] = [view.u8(10), view.u8(11)];
  const [fineDividend, fineDivisor] = [view.bits(9, 4, 4), view.bits(9, 0, 4)];
  return {
    mtb: dividend && divisor ? (1000 * dividend) / divisor : STANDARD_TIMEBASES.mtb,
    ftb: fineDividend && fineDivisor ? fineDividend / fineDivisor : STANDARD_TIMEBASES.ftb,
  };
}

/** Reads a DDR4 image. Source: JEDEC Std 21-C, Annex L. */
export function readDdr4(view: ByteView): SpdParts {
  const ranks = view.bits(12, 3, 3) + 1;
  const chipWidth = chipWidthOf(view.bits(12, 0, 3));
  const busWidth = busWidthOf(view.bits(13, 0, 3));
  const asymmetric = view.bits(12, 6, 1) === 1;
  const times = readTimes(view, DDR4_TIMES);
  const type = DDR4_TYPES[view.bits(3, 0, 4)];
  const capacity = ddr4Capacity(view, ranks, asymmetric, busWidth, chipWidth);
  // Byte 23 bit 7: the mask starts at CL 23 instead of CL 7.
  const lowest = view.bits(23, 7, 1) ? 23 : 7;
  const { profiles, damaged } = readDdr4Profiles(view);
  return {
    generation: 'DDR4',
    revision: revisionOf(view),
    wanted: 384,
    ...(type ? { formFactor: type[0], buffering: type[1] } : {}),
    ...(capacity ? { capacity: gib(capacity) } : {}),
    ...{ ranks, asymmetric, chipWidth, busWidth },
    eccWidth: view.bits(13, 3, 2) === 1 ? 8 : 0,
    times,
    rate: rateOfPeriod('DDR4', times.tCK),
    supportedCls: setBits(view, 20, 4)
      .filter((bit) => bit < 30)
      .map((bit) => bit + lowest),
    voltagesMv: [1200],
    ...identityAt(view, 320),
    profiles,
    damagedProfiles: damaged,
    checksums: [checkCrc(view, 'base', 0, 125, 126), checkCrc(view, 'module', 128, 253, 254)],
  };
}

function ddr4Capacity(
  view: ByteView,
  ranks: number,
  asymmetric: boolean,
  busWidth: number | undefined,
  chipWidth: number | undefined,
): number | undefined {
  const code = view.bits(4, 0, 4);
  const density = DDR4_DENSITY[code];
  const first = (count: number) => ranksGib(density, busWidth, chipWidth, count * stackOf(view, 6));
  if (!asymmetric) return first(ranks);
  // Byte 10 bits 3–2: the chips of odd ranks are one or two standard densities smaller.
  const smaller = density === undefined ? undefined : density / 2 ** view.bits(10, 2, 2);
  const odd = Math.floor(ranks / 2);
  const second = ranksGib(smaller, busWidth, chipWidth, odd * stackOf(view, 10));
  const even = first(ranks - odd);
  return even === undefined || second === undefined ? undefined : even + second;
}

/** Maker, date, serial, part and revision where Annex L (and M) keep them. */
function identityAt(view: ByteView, at: number) {
  return {
    maker: makerFromBytes(view.u8(at), view.u8(at + 1)),
    made: madeFromBcd(view.u8(at + 3), view.u8(at + 4)),
    serial: view.hex(at + 5, 4),
    partNumber: view.ascii(at + 9, 20),
    partRevision: view.hex(at + 29, 1),
    dramMaker: makerFromBytes(view.u8(at + 30), view.u8(at + 31)),
  };
}

/**
 * Reads the base block of a low-power image, as soldered parts or a compression module.
 * Sources: JEDEC Std 21-C, Annex M (LPDDR3 to 4X); JESD406-5 (LPDDR5, 5X).
 */
export function readLpddr(view: ByteView, generation: Generation): SpdParts {
  const ranks = view.bits(12, 3, 3) + 1;
  const chipWidth = chipWidthOf(view.bits(12, 0, 3));
  const perChannel = busWidthOf(view.bits(13, 0, 3));
  const channels = [1, 2, 3, 4, 8][view.bits(13, 5, 3)];
  const stated = ranksGib(
    DDR4_DENSITY[view.bits(4, 0, 4)],
    perChannel,
    chipWidth,
    ranks * (channels ?? 0),
  );
  const computed = addressedGib(view, generation, (perChannel ?? 0) * (channels ?? 0) * ranks);
  const differ = computed !== undefined && stated !== undefined && computed !== stated;
  const capacity = computed ?? stated;
  const times = readTimes(view, LPDDR_TIMES);
  const type = LPDDR_TYPES[view.bits(3, 0, 4)] ?? LPDDR_TYPES[14];
  return {
    generation,
    revision: revisionOf(view),
    wanted: 128,
    ...(type ? { formFactor: type[0], buffering: type[1] } : {}),
    ...(capacity ? { capacity: gib(capacity) } : {}),
    ...(differ ? { sizes: { computed, stated, used: 'computed' as const } } : {}),
    ...{ ranks, asymmetric: false, chipWidth, channels },
    busWidth:
      perChannel === undefined || channels === undefined ? undefined : perChannel * channels,
    eccWidth: 0,
    times,
    rate: rateOfPeriod(generation, times.tCK),
    // The bits stand for read latencies by speed set, not for a list of CLs.
    supportedCls: [],
    voltagesMv: [],
    ...identityAt(view, 320),
    profiles: [],
    checksums: [
      checkCrc(view, 'base', 0, 125, 126),
      // A dump of the base block alone has no second one to check.
      ...(view.has(254, 255) ? [checkCrc(view, 'module', 128, 253, 254)] : []),
    ],
  };
}

/**
 * Size by rows, columns and banks of LPDDR4 and 4X, GiB. Their images state density per die, per
 * channel or per x16 channel, depending on who wrote them; addresses leave no doubt.
 * Source: JEDEC Std 21-C, Annex M, bytes 4 (bits 7–4) and 5.
 *
 * @param bits - data bits over all channels and ranks
 * @returns `undefined` where the bytes were not written or hold reserved codes
 */
function addressedGib(view: ByteView, generation: Generation, bits: number): number | undefined {
  if (generation !== 'LPDDR4' && generation !== 'LPDDR4X') return undefined;
  const [rows, columns] = [view.bits(5, 3, 3), view.bits(5, 0, 3)];
  const [banks, groups] = [view.bits(4, 4, 2), view.bits(4, 6, 2)];
  if (view.u8(5) === 0 || rows > 6 || columns > 3 || banks > 1 || groups > 2 || bits === 0)
    return undefined;
  const cells = 2 ** (12 + rows + 9 + columns + 2 + banks + groups);
  return (cells * bits) / 8 / 2 ** 30;
}
