import type { Machine, Setting } from '../machine/index.ts';
import { isLowPower, snapDown } from '../memory/index.ts';
import type { Generation } from '../memory/index.ts';
import { compareRates, exactRate, lowestRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import type { ChannelLoad, Fitted, Flag, PartPlace, Rung } from './types.ts';

/** Rungs before timings are looked at, and the rate they leave. */
export interface RateFinding {
  readonly rungs: readonly Rung[];
  /** Absent when no standard rate lies at or below the lowest rung. */
  readonly rate: DataRate | undefined;
  /** The lowest rung's value, unsnapped. */
  readonly lowest: DataRate;
  /** The modules' profiles are in use. */
  readonly profiled: boolean;
  readonly flags: readonly Flag[];
}

/** Whether every part has a profile and the machine takes profiles at all. */
export function profilesUsable(machine: Machine, fitted: readonly Fitted[]): boolean {
  return machine.profiles.support !== 'no' && fitted.every(({ module }) => module.profile);
}

/** All limits on the rate, which of them bind, and the rate that results. */
export function climb(
  machine: Machine,
  fitted: readonly Fitted[],
  loads: readonly ChannelLoad[],
  setting: Setting,
  generation: Generation,
): RateFinding {
  const profiled = setting === 'profile' && profilesUsable(machine, fitted);
  const flags: Flag[] = [];
  const own = moduleRung(fitted, profiled);
  const table = tableRung(machine, loads, flags);
  const controller = plainRung('controller', machine.controllerLimit);
  const open: Rung[] = [own, table, controller, plainRung('firmware-cap', machine.firmwareCap)];
  if (profiled) open.push(plainRung('profile-ceiling', machine.profiles.ceiling));

  const holds = (rung: Rung) => !(profiled && (rung === table || rung === controller));
  const limits: DataRate[] = [];
  for (const rung of open) if (holds(rung) && isRate(rung.limit)) limits.push(rung.limit);
  const lowest = lowestRate(limits) ?? own.limit;
  if (!isRate(lowest)) throw new Error('expected the modules to state a rate');

  const snap = (rate: DataRate): DataRate | undefined =>
    // A profile runs at its own odd rate, and soldered LPDDR at whatever it was built for.
    isLowPower(generation) || (profiled && own.limit === rate) ? rate : snapDown(generation, rate);
  const rate = snap(lowest);
  const roleOf = (rung: Rung): Rung['role'] => {
    if (!isRate(rung.limit)) return 'idle';
    // What runs in the end counts: a profile snapped down to a stated limit does not exceed it.
    if (!holds(rung)) return compareRates(rung.limit, rate ?? lowest) < 0 ? 'warning' : 'slack';
    return compareRates(rung.limit, lowest) === 0 ? 'binds' : 'slack';
  };

  const rateWithout = (rung: Rung): DataRate | undefined => {
    const others: DataRate[] = [];
    for (const other of open)
      if (other !== rung && holds(other) && isRate(other.limit)) others.push(other.limit);
    const next = rung === own ? nextModuleRate(fitted, profiled, lowest) : undefined;
    const lifted = lowestRate(next === undefined ? others : [...others, next]);
    const higher = lifted && snap(lifted);
    return higher && compareRates(higher, lowest) > 0 ? higher : undefined;
  };
  const rungs = open.map((rung): Rung => {
    const { rule, limit, slotIds, load } = rung;
    const role = roleOf(rung);
    const liftsTo = role === 'binds' ? rateWithout(rung) : undefined;
    return { rule, limit, role, slotIds, load, liftsTo };
  });
  return { rungs, rate, lowest, profiled, flags };
}

const isRate = (limit: Rung['limit']): limit is DataRate => typeof limit === 'number';

const plainRung = (rule: Rung['rule'], limit: Rung['limit']): Rung => ({
  rule,
  limit,
  role: 'idle',
  slotIds: [],
});

const rateOf = (part: Fitted, profiled: boolean): DataRate =>
  (profiled ? part.module.profile?.rate : undefined) ?? part.module.rate;

function moduleRung(fitted: readonly Fitted[], profiled: boolean): Rung {
  const limit = lowestRate(fitted.map((part) => rateOf(part, profiled))) ?? 'none';
  const slotIds: PartPlace[] = fitted
    .filter((part) => limit !== 'none' && compareRates(rateOf(part, profiled), limit) === 0)
    .map(({ slotId }) => slotId ?? null);
  return { rule: profiled ? 'profile' : 'slowest-module', limit, role: 'idle', slotIds };
}

/** The slowest rate among the modules that are not already the slowest. */
function nextModuleRate(
  fitted: readonly Fitted[],
  profiled: boolean,
  lowest: DataRate,
): DataRate | undefined {
  const soldered = fitted.find(
    ({ slotId, module }) => slotId === undefined && exactRate(module.rate) === exactRate(lowest),
  );
  if (soldered) return lowest; // soldered memory cannot be changed for a faster part
  return lowestRate(
    fitted.map((part) => rateOf(part, profiled)).filter((rate) => compareRates(rate, lowest) > 0),
  );
}

/**
 * The rate table read for the worst channel, by modules in it and the sum of their ranks. A
 * missing row gives way to the next higher rank row; unknown ranks take the slowest row that
 * could apply. Machines without a table have no rung here.
 */
function tableRung(machine: Machine, loads: readonly ChannelLoad[], flags: Flag[]): Rung {
  let worst: { rate: DataRate; load: ChannelLoad } | undefined;
  if (machine.rateTable.length > 0)
    for (const load of loads) {
      if (load.modules === 0) continue;
      const rate = tableRate(machine, load, flags);
      if (rate !== undefined && (!worst || compareRates(rate, worst.rate) < 0))
        worst = { rate, load };
    }
  const none = machine.rateTable.length > 0 ? 'none' : 'unknown';
  if (!worst) return plainRung('rate-table', none);
  return { rule: 'rate-table', limit: worst.rate, role: 'idle', slotIds: [], load: worst.load };
}

function tableRate(machine: Machine, load: ChannelLoad, flags: Flag[]): DataRate | undefined {
  const { ranks, modules } = load;
  const rows = machine.rateTable.filter((row) => row.modulesPerChannel === modules);
  if (ranks === 'unknown') return lowestRate(rows.map((row) => row.rate));
  const exact = rows.find((row) => row.ranksPerChannel === ranks);
  if (exact) return exact.rate;
  const higher = rows
    .filter((row) => row.ranksPerChannel > ranks)
    .sort((a, b) => a.ranksPerChannel - b.ranksPerChannel)[0];
  const used = higher ? 'next higher row' : 'none';
  flags.push({ type: 'table-row-missing', severity: 'caution', load, used });
  return higher?.rate;
}
