import { gib } from '../../units/index.ts';
import type { ByteView } from '../byteView.ts';
import type { MakerCode } from '../maker.ts';
import { checkSum } from './checksums.ts';
import { madeFromBcd, rateOfPeriod } from './decodeParts.ts';
import { DDR2_TYPES } from './layouts.ts';
import type { SpdParts } from './parts.ts';

/** Low nibbles of a clock period that stand for other than tenths (Annex J, byte 9). */
const PERIOD_FRACTION: Readonly<Record<number, number>> = {
  10: 250,
  11: 330,
  12: 660,
  13: 750,
  14: 875,
};

/** A clock period of Annex J: whole ns in the high nibble, tenths or a listed fraction in the low. */
export function ddr2PeriodPs(byte: number): number | undefined {
  const [ns, low] = [byte >> 4, byte & 15];
  if (ns === 0) return undefined;
  const fraction = low <= 9 ? low * 100 : PERIOD_FRACTION[low];
  return fraction === undefined ? undefined : ns * 1000 + fraction;
}

/** Rank sizes by bit of byte 31, GiB. */
const RANK_GIB = [1, 2, 4, 8, 16, 0.125, 0.25, 0.5] as const;
/** Fractions of tRC and tRFC in byte 40, ps. */
const REFRESH_FRACTION = [0, 250, 330, 500, 660, 750, 0, 0] as const;

const quarters = (byte: number) => (byte === 0 ? undefined : byte * 250);

/** Reads a DDR2 image. Source: JEDEC Std 21-C, Annex J. */
export function readDdr2(view: ByteView): SpdParts {
  const ranks = view.bits(5, 0, 3) + 1;
  const dataWidth = view.u8(6);
  const eccWidth = view.bits(11, 1, 1) ? Math.max(0, dataWidth - 64) : 0;
  const busWidth = dataWidth - eccWidth;
  const chipWidth = view.u8(13) || undefined;
  const rankGib = RANK_GIB.find((_, bit) => (view.u8(31) >> bit) & 1);
  const type = DDR2_TYPES[view.u8(20)];
  // Bits 2 to 7 stand for CL 2 to 7.
  const cls = [2, 3, 4, 5, 6, 7].filter((cl) => (view.u8(18) >> cl) & 1);
  const highest = cls.at(-1);
  const tCK = ddr2PeriodPs(view.u8(9));
  // Annex J states no tAA: the highest CL at its own clock period is what the module promises.
  const tAA = highest === undefined || tCK === undefined ? undefined : highest * tCK;
  // Rows, columns and banks give the size once more; ECC chips are not counted.
  const banks = view.u8(17);
  const cells = 2 ** (view.bits(3, 0, 5) + view.bits(4, 0, 4)) * banks * (busWidth / 8) * ranks;
  const computed = cells / 2 ** 30;
  const capacity = rankGib === undefined ? undefined : rankGib * ranks;
  return {
    generation: 'DDR2',
    revision: `${view.u8(62) >> 4}.${view.u8(62) & 15}`,
    wanted: 128,
    ...(type ? { formFactor: type[0], buffering: type[1] } : {}),
    ...(capacity === undefined ? {} : { capacity: gib(capacity) }),
    ...(capacity !== undefined && computed > 0 && Math.abs(computed - capacity) > 1e-9
      ? { sizes: { computed, stated: capacity, used: 'stated' as const } }
      : {}),
    ...{ ranks, asymmetric: false, chipWidth, busWidth, eccWidth },
    times: {
      tCK,
      tAA,
      tRP: quarters(view.u8(27)),
      tRRD_S: quarters(view.u8(28)),
      tRCD: quarters(view.u8(29)),
      tRAS: view.u8(30) ? view.u8(30) * 1000 : undefined,
      tWR: quarters(view.u8(36)),
      tWTR_S: quarters(view.u8(37)),
      tRTP: quarters(view.u8(38)),
      tRC: view.u8(41)
        ? view.u8(41) * 1000 + (REFRESH_FRACTION[view.bits(40, 4, 3)] ?? 0)
        : undefined,
      tRFC1: view.u8(42)
        ? (view.u8(42) + view.bits(40, 0, 1) * 256) * 1000 +
          (REFRESH_FRACTION[view.bits(40, 1, 3)] ?? 0)
        : undefined,
    },
    rate: rateOfPeriod('DDR2', tCK),
    supportedCls: cls,
    // Byte 8: 05h is the 1.8 V interface, the only one DDR2 has.
    voltagesMv: [1800],
    maker: makerOfContinuations(view),
    partNumber: view.ascii(73, 18),
    partRevision: view.hex(91, 2),
    serial: view.hex(95, 4),
    made: madeFromBcd(view.u8(93), view.u8(94)),
    profiles: [],
    checksums: [checkSum(view)],
  };
}

/** Bytes 64–71: one 7Fh for every bank before the maker's own code. */
function makerOfContinuations(view: ByteView): MakerCode | undefined {
  for (let at = 64; at < 72; at++) {
    const byte = view.u8(at);
    if (byte === 0 || byte === 0xff) return undefined;
    if (byte !== 0x7f) return { bank: at - 63, code: byte };
  }
  return undefined;
}
