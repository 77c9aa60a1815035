import { listedTimePs, tableTckPs } from '../../memory/index.ts';
import type { OverclockProfile } from '../../memory/index.ts';
import type { ByteWriter } from './byteWriter.ts';
import { crc16 } from './checksums.ts';
import {
  DDR4_PROFILE,
  DDR4_PROFILE_TIMES,
  DDR5_PROFILE,
  DDR5_PROFILE_PS,
  PROFILE_MARK,
  shifted,
} from './profiles.ts';
import type { SpdTimes } from './types.ts';

function timesOf(generation: 'DDR4' | 'DDR5', { rate, timings }: OverclockProfile): SpdTimes {
  const ps = (cycles: number | undefined) =>
    cycles === undefined ? undefined : listedTimePs(generation, cycles, rate);
  return {
    tCK: tableTckPs(generation, rate),
    tAA: ps(timings.cl),
    tRCD: ps(timings.trcd),
    tRP: ps(timings.trp),
    tRAS: ps(timings.tras),
  };
}

/** Writes overclock profile 1 of a DDR4 image. */
export function writeDdr4Profile(to: ByteWriter, profile: OverclockProfile): void {
  const { header, first } = DDR4_PROFILE;
  to.bytes(header, [...PROFILE_MARK, 0x01, 0x20]);
  const volts = Math.floor(profile.voltageMv / 1000);
  to.set(first, (volts << 7) | Math.round((profile.voltageMv % 1000) / 10));
  to.times(shifted(DDR4_PROFILE_TIMES, first), timesOf('DDR4', profile));
}

/** Writes overclock profile 1 of a DDR5 image. */
export function writeDdr5Profile(to: ByteWriter, profile: OverclockProfile): void {
  const { header, first } = DDR5_PROFILE;
  to.bytes(header, [...PROFILE_MARK, 0x30, 0x01]);
  const volts = Math.floor(profile.voltageMv / 1000);
  to.set(first + 1, (volts << 5) | Math.round((profile.voltageMv % 1000) / 50));
  const times = timesOf('DDR5', profile);
  for (const [name, offset] of DDR5_PROFILE_PS) to.u16(first + offset, times[name] ?? 0);
  to.u16(first + 62, crc16(to.slice(first, first + 62)));
}
