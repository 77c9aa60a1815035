import { simulate } from '#core/timing-simulation';
import type { MemorySystem, Run, Workload } from '#core/timing-simulation';
import { CommandChecker, limitsOf } from './commandChecker.ts';

/** Runs and replays every command; the rules that were broken, and how many commands there were. */
export function checked(
  system: MemorySystem,
  workload: Workload,
  more: Partial<Pick<Run, 'times' | 'seed' | 'requests' | 'choices'>> = {},
) {
  const subs = system.generation === 'DDR5' ? 2 : 1;
  const checkers = system.ranks.flatMap((ranks) =>
    Array.from({ length: subs }, () => new CommandChecker(limitsOf(system, ranks))),
  );
  let last = 0;
  const { requests } = simulate(system, {
    ...{ workload, seed: 1, requests: 4000, ...more },
    listener: (at, channel, command, bank, row, request) => {
      checkers[channel]?.hear(at, command, bank, row, request);
      last = at;
    },
  });
  for (const checker of checkers) checker.finish(last);
  const rules = [...new Set(checkers.flatMap(({ violations }) => [...violations.keys()]))];
  const sum = (of: (checker: CommandChecker) => number) =>
    checkers.reduce((total, one) => total + of(one), 0);
  return {
    rules,
    commands: sum((one) => one.commands),
    served: sum((one) => one.served.size),
    requests,
  };
}
