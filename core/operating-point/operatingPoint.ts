import type { GibRange, Machine, Placement, Setting } from '../machine/index.ts';
import { compareRates, gib, peakBandwidth, sumGib } from '../units/index.ts';
import type { DataRate, Gibibytes } from '../units/index.ts';
import { findBlockers, sharedRails } from './blockers.ts';
import { raiseFlags } from './flags.ts';
import { channelLoads, fittedParts } from './load.ts';
import { layOut, pairedCapacity } from './regions.ts';
import { settleRate } from './settleRate.ts';
import type { Blocked, Blocker, ClockMode, Fitted, OperatingPoint, Rung } from './types.ts';

/**
 * What a placement does in a machine: whether it fits, at what rate and timings it runs, how its
 * capacity lies over the channels, what is usable, and every reason.
 *
 * @param machine - a description without faults (see `findMachineFaults`)
 * @param placement - modules by slot; soldered memory comes from the machine
 * @param setting - standard bins, or the modules' overclock profiles
 * @returns the running point, or all blockers with causes before consequences
 */
export function operatingPoint(
  machine: Machine,
  placement: Placement,
  setting: Setting,
): OperatingPoint {
  const fitted = fittedParts(machine, placement);
  const loads = channelLoads(machine, fitted);
  const blockers = findBlockers(machine, placement, fitted, loads);
  const settled = settleRate(machine, fitted, loads, setting);
  if (settled?.type === 'failed' && isOwnFault(settled.blocker, machine))
    blockers.push(settled.blocker);
  const generation = fitted[0]?.module.generation;
  if (blockers.length > 0 || settled?.type !== 'settled' || generation === undefined)
    return blocked(blockers);

  const { climbed, timed } = settled;
  const { rate, timings, steppedDown, raisedFrom } = timed;
  const { profiled } = climbed;
  const rungs = steppedDown ? bindByCommonCl(climbed.rungs, rate) : climbed.rungs;
  const layouts = layOut(machine, loads, rate);
  const [worse] = layouts;
  const installed = sumGib(loads.map(({ capacity }) => capacity));
  const flags = raiseFlags(
    {
      machine,
      placement,
      fitted,
      loads,
      setting,
      profiled,
      rate,
      rungs,
      layouts,
      timings,
      raisedFrom,
    },
    climbed.flags,
  );
  return {
    type: 'runs',
    generation,
    setting,
    rate,
    timings,
    voltageMv: railMv(machine, fitted, profiled),
    installed,
    usable: usableRange(machine, installed),
    loads,
    layouts,
    paired: pairedCapacity(worse, loads.filter(({ capacity }) => capacity > 0).length),
    peak: worse.regions[0]?.peak ?? peakBandwidth(rate, machine.channelBits),
    clocks: clockMode(machine, rate),
    rungs,
    flags,
  };
}

/** A rate that another generation cannot be set to is that generation's fault, already named. */
const isOwnFault = (blocker: Blocker, { generations }: Machine): boolean =>
  blocker.type !== 'no-standard-rate' || generations.includes(blocker.generation);

function blocked(blockers: readonly Blocker[]): Blocked {
  const [first = { type: 'nothing-fitted' } as const, ...rest] = blockers;
  return { type: 'blocked', blockers: [first, ...rest] };
}

/** A missing CL binds after a step down; what bound before has slack now. */
function bindByCommonCl(rungs: readonly Rung[], rate: DataRate): Rung[] {
  const eased = rungs.map((rung): Rung =>
    rung.role === 'binds' ? { ...rung, role: 'slack' } : rung,
  );
  return [...eased, { rule: 'common-cl', limit: rate, role: 'binds', slotIds: [] }];
}

function railMv(machine: Machine, fitted: readonly Fitted[], profiled: boolean): number {
  if (profiled) return Math.max(...fitted.map(({ module }) => module.profile?.voltageMv ?? 0));
  return Math.min(...sharedRails(machine, fitted));
}

/** min(installed, OS limit) − graphics carve-out, as a range, GiB. */
function usableRange({ osLimit, graphicsCarveOut }: Machine, installed: Gibibytes): GibRange {
  const limited = osLimit === 'none' ? { low: installed, high: installed } : osLimit;
  const less = (limit: number, carveOut: number) =>
    gib(Math.max(0, Math.min(installed, limit) - carveOut));
  return {
    low: less(limited.low, graphicsCarveOut.high),
    high: less(limited.high, graphicsCarveOut.low),
  };
}

function clockMode({ sync }: Machine, rate: DataRate): ClockMode {
  if (sync.limit === 'unknown') return 'unknown';
  return sync.limit === 'none' || compareRates(rate, sync.limit) <= 0 ? 'in step' : 'halved';
}
