import { expectTypeOf, test } from 'vitest';
import { gib, peakBandwidth, dataRate } from './index.ts';
import type { Gibibytes, GigabytesPerSecond, Nanoseconds, Picoseconds } from './index.ts';

test('GiB and GB/s cannot stand for one another', () => {
  expectTypeOf<Gibibytes>().not.toExtend<GigabytesPerSecond>();
  expectTypeOf<GigabytesPerSecond>().not.toExtend<Gibibytes>();
  expectTypeOf<Picoseconds>().not.toExtend<Nanoseconds>();
  expectTypeOf(gib(8)).not.toExtend<ReturnType<typeof peakBandwidth>>();
});

test('a bare number is no rate', () => {
  expectTypeOf(peakBandwidth).parameter(0).not.toEqualTypeOf<number>();
  // @ts-expect-error a rate must come through its constructor
  peakBandwidth(3200, 64);
  expectTypeOf(peakBandwidth(dataRate(3200), 64)).toEqualTypeOf<GigabytesPerSecond>();
});
