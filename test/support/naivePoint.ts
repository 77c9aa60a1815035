import type { Machine, Placement } from '#core/machine';
import { generationTraits } from '#core/memory';
import type { MemoryModule } from '#core/memory';

/**
 * The rules of the operating point written a second time, as slowly and plainly as possible, to
 * check the fast ones against. Whole GiB per channel; standard setting; unbuffered DDR4.
 */
export interface NaivePoint {
  readonly rate: number | undefined;
  readonly cl: number;
  /** Channels in use at each GiB of depth, depth 0 first. */
  readonly widths: readonly number[];
}

const THIRD = 200 / 3;

/** 2666 stands for 2666⅔: tried against every multiple rather than computed. */
function exact(name: number): number {
  for (let n = 1; n < 400; n++) if (Math.abs(n * THIRD - name) <= 1) return n * THIRD;
  return name;
}

/** Every module on a channel, soldered ones too. */
function onChannel(machine: Machine, placement: Placement, channel: string): MemoryModule[] {
  const soldered = machine.soldered
    .filter((one) => one.channel === channel)
    .map(({ part }) => part);
  const seated = machine.slots
    .filter(({ channels }) => channels[0] === channel)
    .flatMap(({ id }) => placement[id] ?? []);
  return [...soldered, ...seated];
}

function tableLimit(machine: Machine, modules: readonly MemoryModule[]): number {
  if (modules.length === 0) return Infinity;
  const rows = machine.rateTable.filter(
    ({ modulesPerChannel }) => modulesPerChannel === modules.length,
  );
  if (modules.some(({ ranks }) => ranks === 'unknown'))
    return Math.min(Infinity, ...rows.map(({ rate }) => exact(rate)));
  const ranks = modules.reduce((sum, module) => sum + Number(module.ranks), 0);
  // One rank at a time upwards, until a row is met.
  for (let tried = ranks; tried <= 64; tried++) {
    const row = rows.find(({ ranksPerChannel }) => ranksPerChannel === tried);
    if (row) return exact(row.rate);
  }
  return Infinity;
}

/** Cycles by the DDR4 rule, counted up one by one until they cover the time. */
function ddr4Cycles(timePs: number, rate: number): number {
  const tck = Math.round(2_000_000 / rate + 1e-6);
  let cycles = 0;
  // n cycles cover a time when the excess over n × tCK is at most 2.5 % of a clock.
  while ((timePs * 1000) / tck >= cycles * 1000 + 26) cycles++;
  return cycles;
}

/** See {@link NaivePoint}. The placement must not be blocked. */
export function naivePoint(machine: Machine, placement: Placement): NaivePoint {
  const columns = machine.channels.map((channel) => onChannel(machine, placement, channel));
  const modules = columns.flat();
  const limits = [
    ...modules.map(({ rate }) => exact(rate)),
    ...columns.map((column) => tableLimit(machine, column)),
    machine.controllerLimit === 'unknown' ? Infinity : exact(machine.controllerLimit),
    typeof machine.firmwareCap === 'number' ? exact(machine.firmwareCap) : Infinity,
  ];
  const lowest = Math.min(...limits);
  const rate = [...generationTraits('DDR4').standardRates]
    .reverse()
    .find((name) => exact(name) <= lowest);
  const cycles = modules.map((module) => {
    if (rate === undefined || exact(module.rate) === exact(rate)) return module.timings.cl;
    const time = Math.trunc((module.timings.cl * 2_000_000) / exact(module.rate) + 1e-6);
    return ddr4Cycles(time, exact(rate));
  });
  const heights = columns.map((column) => column.reduce((sum, { capacity }) => sum + capacity, 0));
  const widths: number[] = [];
  for (let depth = 0; depth < Math.max(...heights); depth++)
    widths.push(heights.filter((height) => height > depth).length);
  return { rate, cl: Math.max(...cycles), widths };
}
