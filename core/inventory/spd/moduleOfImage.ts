import {
  COMMAND_TIMES,
  cyclesForTime,
  generationTraits,
  isBuildableCapacity,
} from '../../memory/index.ts';
import type {
  CommandTime,
  CommandTimesPs,
  MemoryModule,
  TimesPs,
  TimingCycles,
} from '../../memory/index.ts';
import { makerKey } from '../maker.ts';
import type { SpdImage, SpdTimeName } from './types.ts';

/**
 * The module an image describes; its times outrank any label. `undefined` where the image lacks
 * what a module cannot be without: type, size, clock period or first time.
 */
export function moduleOfImage(image: SpdImage): MemoryModule | undefined {
  const { generation, formFactor, buffering, capacity, rate, times, chipWidth } = image;
  if (!formFactor || !buffering || capacity === undefined || rate === undefined) return undefined;
  if (times.tAA === undefined || !isBuildableCapacity(capacity)) return undefined;
  const timesPs: TimesPs = { cl: times.tAA, trcd: times.tRCD, trp: times.tRP, tras: times.tRAS };
  const timings = timingsAt(image, timesPs);
  const commandTimesPs = commandTimesOf(image);
  if (timings === undefined) return undefined;
  const width = ([4, 8, 16, 32] as const).find((known) => known === chipWidth);
  const ranks = image.ranks !== undefined && image.ranks <= 8 ? image.ranks : undefined;
  return {
    ...(image.maker ? { maker: makerKey(image.maker) } : {}),
    ...(image.partNumber ? { partNumber: image.partNumber } : {}),
    ...{ generation, formFactor, buffering, capacity, rate, timings, timesPs },
    ...(Object.keys(commandTimesPs).length > 0 ? { commandTimesPs } : {}),
    ecc: image.eccWidth > 0,
    ranks: ranks ?? 'unknown',
    chipWidth: width ?? 'unknown',
    ...(image.supportedCls.length > 0 ? { supportedCls: image.supportedCls } : {}),
    voltagesMv:
      image.voltagesMv.length > 0 ? image.voltagesMv : [generationTraits(generation).nominalMv],
    ...(image.profiles[0] ? { profile: image.profiles[0] } : {}),
    ...(formFactor === 'compression' ? { channels: 2 } : {}),
  };
}

/** Clocks at the module's own rate; CL goes up to the next one its list has. */
function timingsAt(
  { generation, rate, supportedCls }: SpdImage,
  { cl: tAA = 0, trcd, trp, tras }: TimesPs,
): TimingCycles | undefined {
  if (rate === undefined) return undefined;
  const clocks = (ps: number | undefined) => {
    const count = ps === undefined ? undefined : cyclesForTime(generation, ps, rate);
    return count !== undefined && count >= 1 && count <= 200 ? count : undefined;
  };
  const needed = clocks(tAA);
  if (needed === undefined) return undefined;
  const cl = supportedCls.find((one) => one >= needed) ?? needed;
  return { cl, trcd: clocks(trcd), trp: clocks(trp), tras: clocks(tras) };
}

const STATED = {
  ...{ rrdShort: 'tRRD_S', rrdLong: 'tRRD_L', faw: 'tFAW', ccdLong: 'tCCD_L' },
  ...{ wtrShort: 'tWTR_S', wtrLong: 'tWTR_L', rtp: 'tRTP', wr: 'tWR', rfc: 'tRFC1' },
} as const satisfies Record<CommandTime, SpdTimeName>;

/** Times between commands the image states; 0 was never written. */
function commandTimesOf({ times }: SpdImage): CommandTimesPs {
  return Object.fromEntries(
    COMMAND_TIMES.flatMap((name) => {
      const ps = times[STATED[name]];
      return ps === undefined || ps <= 0 ? [] : [[name, ps]];
    }),
  );
}
