import { gib } from '../../units/index.ts';
import type { ByteView } from '../byteView.ts';
import { makerFromBytes } from '../maker.ts';
import { checkCrc } from './checksums.ts';
import { madeFromBcd, rateOfPeriod, setBits } from './decodeParts.ts';
import { DDR5_DENSITY, DDR5_NS, DDR5_PS, DDR5_STACK, DDR5_TYPES } from './layouts.ts';
import type { SpdParts } from './parts.ts';
import { readDdr5Profiles } from './profiles.ts';
import type { SpdTimeName } from './types.ts';

/** Reads a DDR5 image. Source: JESD400-5. */
export function readDdr5(view: ByteView): SpdParts {
  const subchannels = view.bits(235, 5, 2) === 1 ? 2 : 1;
  const perSubchannel = 8 << view.bits(235, 0, 2);
  const eccPerSubchannel = [0, 4, 8, 0][view.bits(235, 3, 2)] ?? 0;
  const ranks = view.bits(234, 3, 3) + 1;
  const asymmetric = view.bits(234, 6, 1) === 1;
  const chipWidth = chipWidthAt(view, 6);
  const times: Partial<Record<SpdTimeName, number>> = {};
  for (const [name, at] of DDR5_PS) if (view.u16(at)) times[name] = view.u16(at);
  for (const [name, at] of DDR5_NS) if (view.u16(at)) times[name] = view.u16(at) * 1000;
  const odd = asymmetric ? Math.floor(ranks / 2) : 0;
  const first = rankGib(view, 4, perSubchannel);
  const second = rankGib(view, 8, perSubchannel);
  const perSide =
    first === undefined || (odd > 0 && second === undefined)
      ? undefined
      : first * (ranks - odd) + (second ?? 0) * odd;
  const type = DDR5_TYPES[view.bits(3, 0, 4)];
  const { profiles, damaged } = readDdr5Profiles(view);
  return {
    generation: 'DDR5',
    revision: `${view.u8(1) >> 4}.${view.u8(1) & 15}`,
    wanted: 640,
    ...(type ? { formFactor: type[0], buffering: type[1] } : {}),
    ...(perSide ? { capacity: gib(perSide * subchannels) } : {}),
    ...{ ranks, asymmetric, chipWidth },
    busWidth: perSubchannel * subchannels,
    eccWidth: eccPerSubchannel * subchannels,
    times,
    rate: rateOfPeriod('DDR5', times.tCK),
    // Bit n stands for CL 20 + 2n: standard DDR5 CLs are even.
    supportedCls: setBits(view, 24, 5).map((bit) => 20 + 2 * bit),
    voltagesMv: [1100],
    maker: makerFromBytes(view.u8(512), view.u8(513)),
    made: madeFromBcd(view.u8(515), view.u8(516)),
    serial: view.hex(517, 4),
    partNumber: view.ascii(521, 30),
    partRevision: view.hex(551, 1),
    dramMaker: makerFromBytes(view.u8(552), view.u8(553)),
    profiles,
    damagedProfiles: damaged,
    checksums: [checkCrc(view, 'base', 0, 509, 510)],
  };
}

function chipWidthAt(view: ByteView, at: number): number | undefined {
  const code = view.bits(at, 5, 3);
  return code <= 3 ? 4 << code : undefined;
}

/** One rank of one subchannel, GiB, by the chip described at `at`. */
function rankGib(view: ByteView, at: number, busWidth: number): number | undefined {
  const density = DDR5_DENSITY[view.bits(at, 0, 5)];
  const stack = DDR5_STACK[view.bits(at, 5, 3)];
  const width = chipWidthAt(view, at + 2);
  if (density === undefined || stack === undefined || width === undefined) return undefined;
  return (density / 8) * stack * (busWidth / width);
}
