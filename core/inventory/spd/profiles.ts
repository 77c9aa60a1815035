import { dataRate } from '../../units/index.ts';
import type { OverclockProfile } from '../../memory/index.ts';
import { cyclesForTime } from '../../memory/index.ts';
import type { ByteView } from '../byteView.ts';
import { crc16 } from './checksums.ts';
import { rateOfPeriod, readTimes } from './decodeParts.ts';
import type { TimeField } from './layouts.ts';
import type { SpdTimes } from './types.ts';

/** Two bytes that open an overclock-profile area in the end-user block. */
export const PROFILE_MARK = [0x0c, 0x4a] as const;

export interface ProfileFindings {
  readonly profiles: OverclockProfile[];
  /** Profiles, counted from 1, that are switched on but cannot be used. */
  readonly damaged: number[];
}

/** DDR4: area at byte 384, profile n at 393 + 47 × (n − 1). */
export const DDR4_PROFILE = { header: 384, first: 393, size: 47, count: 2 } as const;

/** Times of a DDR4 profile, relative to its start; units as in the base block. */
export const DDR4_PROFILE_TIMES: readonly TimeField[] = [
  { name: 'tCK', mtb: 3, fine: 38 },
  { name: 'tAA', mtb: 8, fine: 37 },
  { name: 'tRCD', mtb: 9, fine: 36 },
  { name: 'tRP', mtb: 10, fine: 35 },
  { name: 'tRAS', mtb: 12, high: { at: 11, shift: 0, bits: 4 } },
  { name: 'tRC', mtb: 13, high: { at: 11, shift: 4, bits: 4 }, fine: 34 },
];

/** DDR5: area at byte 640, profile n at 704 + 64 × (n − 1), each with a CRC in its last two bytes. */
export const DDR5_PROFILE = { header: 640, first: 704, size: 64, count: 3 } as const;

/** Times of a DDR5 profile, ps, relative to its start. */
export const DDR5_PROFILE_PS = [
  ['tCK', 5],
  ['tAA', 13],
  ['tRCD', 15],
  ['tRP', 17],
  ['tRAS', 19],
] as const;

const isMarked = (view: ByteView, at: number) =>
  view.u8(at) === PROFILE_MARK[0] && view.u8(at + 1) === PROFILE_MARK[1];

/** Clocks of a profile; `undefined` where its period or first time is missing or absurd. */
function profileOf(
  generation: 'DDR4' | 'DDR5',
  { tCK, tAA, tRCD, tRP, tRAS }: SpdTimes,
  voltageMv: number,
): OverclockProfile | undefined {
  const rate = rateOfPeriod(generation, tCK);
  if (rate === undefined || tAA === undefined || tCK === undefined) return undefined;
  if (voltageMv < 900 || voltageMv > 2200) return undefined;
  const clocks = (ps: number | undefined) =>
    ps === undefined ? undefined : cyclesForTime(generation, ps, dataRate(rate));
  const cl = clocks(tAA) ?? 0;
  if (cl < 1 || cl > 200) return undefined;
  return {
    rate,
    timings: { cl, trcd: clocks(tRCD), trp: clocks(tRP), tras: clocks(tRAS) },
    voltageMv,
  };
}

/** Overclock profiles 1 and 2 of a DDR4 image. */
export function readDdr4Profiles(view: ByteView): ProfileFindings {
  const found: ProfileFindings = { profiles: [], damaged: [] };
  const { header, first, size, count } = DDR4_PROFILE;
  if (!isMarked(view, header)) return found;
  for (let n = 0; n < count; n++) {
    if (!view.bits(header + 2, n, 1)) continue;
    const at = first + n * size;
    // Voltage: bit 7 is a whole volt, the rest hundredths.
    const voltageMv = view.bits(at, 7, 1) * 1000 + view.bits(at, 0, 7) * 10;
    const profile =
      view.has(at, at + size - 1) &&
      profileOf('DDR4', readTimes(view, shifted(DDR4_PROFILE_TIMES, at)), voltageMv);
    if (profile) found.profiles.push(profile);
    else found.damaged.push(n + 1);
  }
  return found;
}

/** The time fields of a profile that starts at `base`. */
export const shifted = (fields: readonly TimeField[], base: number): TimeField[] =>
  fields.map(({ name, mtb, high, fine }) => ({
    name,
    mtb: mtb + base,
    ...(high ? { high: { ...high, at: high.at + base } } : {}),
    ...(fine === undefined ? {} : { fine: fine + base }),
  }));

/** Overclock profiles of a DDR5 image; one whose CRC fails is not used. */
export function readDdr5Profiles(view: ByteView): ProfileFindings {
  const found: ProfileFindings = { profiles: [], damaged: [] };
  const { header, first, size, count } = DDR5_PROFILE;
  if (!isMarked(view, header)) return found;
  for (let n = 0; n < count; n++) {
    if (!view.bits(header + 3, n, 1)) continue;
    const at = first + n * size;
    const isSound =
      view.has(at, at + size - 1) && view.u16(at + 62) === crc16(view.slice(at, at + 62));
    const times: SpdTimes = Object.fromEntries(
      DDR5_PROFILE_PS.map(([name, offset]) => [name, view.u16(at + offset) || undefined]),
    );
    // VDD: bits 6–5 whole volts, bits 4–0 steps of 50 mV.
    const voltageMv = view.bits(at + 1, 5, 2) * 1000 + view.bits(at + 1, 0, 5) * 50;
    const profile = isSound && profileOf('DDR5', times, voltageMv);
    if (profile) found.profiles.push(profile);
    else found.damaged.push(n + 1);
  }
  return found;
}
