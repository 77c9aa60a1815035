import { GRADES, specsAgree } from '../matching/index.ts';
import type { Setting, SlotId } from '../machine/index.ts';
import type { Arranger, Unit } from './arrange.ts';
import { assess } from './assess.ts';
import type { Assessment } from './assess.ts';
import { Board, isPlainBoard } from './board.ts';
import { Front, vectorOf } from './front.ts';
import type { Vector } from './front.ts';
import { poolsOf } from './pools.ts';
import type { PoolMode } from './pools.ts';
import type { Plan, PlanQuery, PlannedUnit } from './query.ts';
import { boughtModule, slotBySlot, sourceOf } from './slotBySlot.ts';
import { Stairs } from './stairs.ts';
import type { Step } from './stairs.ts';
import { sourcesOf, withVerified } from './supply.ts';
import type { Exclusion, Fitted, Source } from './supply.ts';
import { sweep } from './sweep.ts';
import type { Candidate, SweepHost } from './sweep.ts';

/** How far a search has come. */
export interface SearchProgress {
  /** 0 to 1. */
  readonly done: number;
  readonly found: number;
}

/** A front, and whether it is the whole of it. */
export interface SearchResult {
  /** Cheapest first. None is at least as good in all six objectives as another. */
  readonly plans: readonly Plan[];
  /** False when stopped early: then it is the best found so far. */
  readonly complete: boolean;
  readonly exclusions: readonly Exclusion[];
  /** Offers and drawer modules that fit the machine. */
  readonly considered: number;
}

/** A plan of the front before its modules are seated in slots. */
interface Draft {
  readonly step: Step;
  readonly setting: Setting;
  plan: Plan | undefined;
  readonly settle: () => Plan;
}

/**
 * A search under way. Nothing in it knows the time: the caller decides after every step whether to
 * go on, and may look at the front at any moment.
 */
export class PlanSearch {
  readonly query: PlanQuery;
  readonly #front = new Front<Draft>();
  readonly #exclusions: readonly Exclusion[];
  readonly #sources: readonly Source[];
  readonly #fitted: readonly Fitted[];
  #version = 0;
  #done = 0;
  #complete = false;
  #stop: () => boolean = () => false;

  constructor(query: PlanQuery) {
    this.query = { ...query, machine: withVerified(query.machine, query.offers) };
    const { sources, exclusions } = sourcesOf(this.query);
    this.#sources = sources;
    this.#exclusions = exclusions;
    this.#fitted = query.machine.slots.flatMap(({ id }): Fitted[] => {
      const module = query.fitted[id];
      return module ? [{ slotId: id, module, credit: query.credit[id] ?? 0 }] : [];
    });
  }

  /**
   * Runs step by step; each step is short enough for a page to stay awake.
   *
   * @param stop - asked often; once true the search ends early
   */
  *run(stop: () => boolean = () => false): Generator<SearchProgress, SearchResult> {
    this.#stop = stop;
    this.#takeAsFound();
    yield this.progress;
    const modes = this.#modes();
    for (const [at, mode] of modes.entries()) {
      for (const share of isPlainBoard(this.query.machine)
        ? this.#sweeps(mode)
        : this.#slots(mode)) {
        this.#done = (at + share) / modes.length;
        yield this.progress;
        if (stop()) return this.result();
      }
    }
    this.#complete = !stop();
    this.#done = 1;
    return this.result();
  }

  get progress(): SearchProgress {
    return { done: this.#done, found: this.#front.size };
  }

  /** The front as it stands. */
  result(): SearchResult {
    return {
      plans: this.#front.items.map((draft) => (draft.plan ??= draft.settle())),
      complete: this.#complete,
      exclusions: this.#exclusions,
      considered: this.#sources.length,
    };
  }

  /** Settings to try, and whether profiles are in use there. */
  #modes(): Mode[] {
    const { settings, machine } = this.query;
    const modes: Mode[] = [];
    const canProfile =
      settings.includes('profile') &&
      machine.profiles.support !== 'no' &&
      machine.soldered.every(({ part }) => part.profile);
    if (settings.includes('standard'))
      modes.push({ setting: 'standard', profiled: false, mustMiss: false });
    // Under the profile setting a set with a module that has none runs as under the standard one.
    else modes.push({ setting: 'profile', profiled: false, mustMiss: canProfile });
    if (canProfile) modes.push({ setting: 'profile', profiled: true, mustMiss: false });
    return modes;
  }

  /** What is there now, untouched: no labour, under each setting. And soldered memory alone. */
  #takeAsFound(): void {
    const units = this.#fitted.map(({ slotId, module }): PlannedUnit => ({
      slotId,
      module,
      source: { type: 'kept', from: slotId },
    }));
    for (const setting of this.query.settings)
      for (const set of [units, []]) this.#takeAssessed(assess(this.query, set, setting));
  }

  #takeAssessed({ plan, objections }: Assessment): void {
    if (objections.length > 0) return;
    const { cost, usable, bandwidth, grade, displaced, freeSlots } = plan.worth;
    const reach = (bandwidth * 8000) / this.query.machine.channelBits;
    const step = { cost, usable, reach, grade: GRADES.indexOf(grade), displaced, free: freeSlots };
    this.#add(vectorOf(plan.worth), { step, setting: plan.setting, plan, settle: () => plan });
  }

  #add(vector: Vector, draft: Draft): void {
    if (this.#front.add(vector, draft)) this.#version += 1;
  }

  *#slots({ setting, profiled }: Mode): Generator<number> {
    const { machine } = this.query;
    const fastest = 20_000;
    const isIdle = (cost: number, installed: number, modules: number, displaced: number) =>
      (this.query.budget !== undefined && cost > this.query.budget) ||
      this.#covers(
        cost,
        installed,
        fastest * machine.channels.length,
        0,
        displaced,
        machine.slots.length - modules,
      );
    if (setting === 'profile' && !profiled && this.query.settings.includes('standard')) return;
    let steps = 0;
    for (const found of slotBySlot(this.query, this.#sources, this.#fitted, setting, isIdle)) {
      this.#takeAssessed(found);
      if (++steps % 200 === 0) yield 0.5;
    }
  }

  *#sweeps(mode: Mode): Generator<number> {
    const { machine, school, capacityFirst, need } = this.query;
    const { profiled } = mode;
    const board = new Board(machine, { school, need, capacityFirst, profiled });
    const host = this.#host(mode);
    const pools = poolsOf(board, school, this.#sources, this.#fitted, mode);
    for (const [at, make] of pools.entries()) {
      const next = make();
      for (const _ of sweep(board, next, host)) yield at / pools.length;
      if (at % 16 === 0) yield at / pools.length;
      if (this.#stop()) return;
    }
  }

  #host(mode: Mode): SweepHost {
    const { machine, labour, need = 0 } = this.query;
    const solderedCapacity = machine.soldered.reduce((sum, { part }) => sum + part.capacity, 0);
    const sizes: number[] = [...this.#sources, ...this.#fitted].map(
      ({ module }) => module.capacity,
    );
    const limit = machine.maxTotal === 'unknown' ? Infinity : machine.maxTotal;
    const largest = Math.max(0, ...sizes);
    const unit = sizes.concat(solderedCapacity).reduce(commonUnit, 0) || 1;
    const most = solderedCapacity + machine.slots.length * largest;
    const stairs = new Stairs(
      unit,
      most,
      (installed) => this.#usable(installed),
      () => this.#front.items.map(({ step }) => step),
      () => this.#version,
    );
    const isRefused = (installed: number) => installed > limit || this.#usable(installed) < need;
    return {
      slots: machine.slots.length,
      found: this.#fitted,
      ...{ solderedCapacity, labour, stairs },
      budget: this.query.budget ?? Infinity,
      toBeat: (installed, ...others) =>
        isRefused(installed) ? -Infinity : stairs.least(installed, ...others),
      isCovered: (cost, installed, reach, grade, displaced, free) =>
        isRefused(installed) || this.#covers(cost, installed, reach, grade, displaced, free),
      costToBeat: (...others) => this.#front.costToBeat(this.#vector(0, ...others)),
      take: (candidate, arranger) => this.#take(candidate, arranger, mode),
      shouldStop: this.#stop,
    };
  }

  /** Low end of what is usable of so much installed memory, GiB; see the operating point. */
  #usable(installed: number): number {
    const { osLimit, graphicsCarveOut } = this.query.machine;
    const limit = osLimit === 'none' ? Infinity : osLimit.low;
    return Math.max(0, Math.min(installed, limit) - graphicsCarveOut.high);
  }

  #covers(
    cost: number,
    installed: number,
    reach: number,
    grade: number,
    displaced: number,
    free: number,
  ): boolean {
    return this.#front.isCovered(this.#vector(cost, installed, reach, grade, displaced, free));
  }

  #vector(
    cost: number,
    installed: number,
    reach: number,
    grade: number,
    displaced: number,
    free: number,
  ): Vector {
    const bandwidth = reach === 0 ? 0 : (reach * this.query.machine.channelBits) / 8;
    return [cost, -this.#usable(installed), -Math.round(bandwidth), grade, displaced, -free];
  }

  #take(candidate: Candidate, arranger: Arranger, { setting }: Mode): void {
    const { units, reach, cost, installed, own, pairs } = candidate;
    const { machine } = this.query;
    const grade = gradeOf(units, machine.soldered.length, arranger.soldered);
    const displaced = this.#fitted.length - units.filter(({ kept }) => kept).length;
    const free = machine.slots.length - units.length;
    const vector = this.#vector(cost, installed, reach, grade, displaced, free);
    if (this.#front.isCovered(vector)) return;
    const usable = this.#usable(installed);
    const step: Step = { cost, usable, reach, grade, displaced, free };
    const settle = (): Plan => {
      let plan: Plan | undefined;
      arranger.place(units, own, reach, pairs, (slots) => {
        const seated = machine.slots.flatMap(({ id }) => seatedUnit(id, slots.get(id)));
        const found = assess(this.query, seated, setting);
        if (found.objections.length === 0) plan = found.plan;
        return found.objections.length === 0;
      });
      if (!plan) throw new Error('expected a placement that was found once to be found again');
      return plan;
    };
    this.#add(vector, { step, setting, plan: undefined, settle });
  }
}

interface Mode extends PoolMode {
  readonly setting: Setting;
}

function seatedUnit(slotId: SlotId, unit: Unit | undefined): PlannedUnit[] {
  if (unit?.kept)
    return [{ slotId, module: unit.kept.module, source: { type: 'kept', from: unit.kept.slotId } }];
  if (!unit?.bought) return [];
  const { source, copy } = unit.bought;
  return [{ slotId, module: boughtModule(source, copy), source: sourceOf(source, copy) }];
}

/** Place in the list of grades; see `matchGrade`, which this repeats on prepared keys. */
function gradeOf(units: readonly Unit[], soldered: number, board: readonly Unit['keys'][]): number {
  const keys = [...board, ...units.map((unit) => unit.keys)];
  const [first, ...rest] = keys;
  if (!first || rest.length === 0) return 0;
  const all = (test: (one: Unit['keys']) => boolean) => rest.every(test);
  if (!all((one) => one.capacity === first.capacity)) return 4;
  if (soldered === 0 && first.kit !== undefined && all((one) => one.kit === first.kit)) return 0;
  if (soldered === 0 && first.part !== undefined && all((one) => one.part === first.part)) return 1;
  const isSpec = keys.every((a, at) => keys.slice(at + 1).every((b) => specsAgree(a.spec, b.spec)));
  return isSpec ? 2 : 3;
}

/** Greatest capacity both are whole multiples of, GiB; half a GiB exists on DDR2. */
function commonUnit(a: number, b: number): number {
  let [x, y] = [Math.round(a * 1024), Math.round(b * 1024)];
  while (y > 0) [x, y] = [y, x % y];
  return x / 1024;
}
