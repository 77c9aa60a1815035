import type { DataRate } from '../units/index.ts';
import { Arranger } from './arrange.ts';
import type { Unit } from './arrange.ts';
import { Round } from './round.ts';
import type { Board } from './board.ts';
import type { Stairs } from './stairs.ts';
import type { Fitted, ModuleClass, Supply } from './supply.ts';

/** A set worth placing, with what it costs and how it lies. */
export interface Candidate {
  readonly units: readonly Unit[];
  readonly own: DataRate;
  readonly reach: number;
  readonly cost: number;
  readonly installed: number;
  /** The placement was sought among pairs that agree. */
  readonly pairs: boolean;
}

/** What a sweep asks of its surroundings. */
export interface SweepHost {
  readonly slots: number;
  /** Modules as found, all of them. */
  readonly found: readonly Fitted[];
  readonly solderedCapacity: number;
  readonly labour: number;
  /** Net cost may not exceed it. */
  readonly budget: number;
  /** Whether a plan of such worth would add nothing. */
  isCovered: (
    cost: number,
    installed: number,
    reach: number,
    grade: number,
    displaced: number,
    free: number,
  ) => boolean;
  /** What a set has to stay below to add anything, all but its cost given. */
  costToBeat: (
    installed: number,
    reach: number,
    grade: number,
    displaced: number,
    free: number,
  ) => number;
  /** The same for a set not chosen yet, in one look-up; −Infinity where no set of such worth will do. */
  toBeat: (
    installed: number,
    reach: number,
    grade: number,
    displaced: number,
    free: number,
  ) => number;
  /** Fills a staircase; see {@link Stairs}. */
  readonly stairs: Stairs;
  take: (candidate: Candidate, arranger: Arranger) => void;
  /** Asked now and then; true ends the sweep. */
  shouldStop: () => boolean;
}

/** Which modules a sweep may combine, and how well they can match at best. */
export interface Pool {
  readonly supply: Supply;
  /** Place in the list of grades that no set of this pool can beat; others were swept before. */
  readonly bestGrade: number;
  /** The n-th modules of all channels have to agree, and this pool does not see to it by itself. */
  readonly pairs: boolean;
  /** Most modules in slots. */
  readonly most: number;
  /** Whether a staircase pays: pools with many sets only. */
  readonly large: boolean;
}

/**
 * Goes through every set of modules a pool allows, best rate first: for each minimum rate modules
 * fall into few kinds, of each kind the cheapest are taken, and sets that cannot beat what is
 * already known are dropped before any placing.
 */
export function* sweep(board: Board, pool: Pool, host: SweepHost): Generator<void> {
  const arranger = new Arranger(board, pool.supply);
  const speeds = [...new Set(pool.supply.classes.map(({ speed }) => speed))].sort((a, b) => b - a);
  for (const speed of speeds) {
    const classes = pool.supply.classes.filter((one) => one.speed >= speed);
    const round = new Round(board, pool, host, arranger, classes, speed);
    for (const kept of keptChoices(classes, pool.supply, pool.most)) {
      round.run(kept);
      if (host.shouldStop()) return;
      if (pool.large) yield;
    }
  }
}

/** Ways to keep fitted modules: of a class always those that would earn the least. */
function keptChoices(classes: readonly ModuleClass[], supply: Supply, most: number): Unit[][] {
  let choices: Unit[][] = [[]];
  for (const of of classes) {
    const cheapest = [...of.fitted].sort((a, b) => a.credit - b.credit);
    choices = choices.flatMap((chosen) =>
      Array.from({ length: cheapest.length + 1 }, (_, count) => [
        ...chosen,
        ...cheapest.slice(0, count).map((kept): Unit => keptUnit(of, kept, supply)),
      ]),
    );
  }
  return choices.filter((chosen) => chosen.length <= most).sort((a, b) => b.length - a.length);
}

function keptUnit(of: ModuleClass, kept: Fitted, supply: Supply): Unit {
  const keys = supply.keysOf.get(kept) ?? of.keys;
  return { of, keys, mark: `${of.id} ${keys.kit ?? ''}`, kept };
}
