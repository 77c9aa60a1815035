import { TROUBLES, modelOf } from '../diagnosing/index.ts';
import type { Check, CheckKind, Model, Observation, Situation } from '../diagnosing/index.ts';
import type { Placement, SlotId } from '../machine/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import type { Exercise } from './exercise.ts';
import type { FirmwareScreen, LookedAt, Seen } from './seen.ts';
import { beginWorld, sitting } from './world.ts';

/** What fault-finding looks at, told from an exercise that has something wrong; `undefined` otherwise. */
export function situationOf(exercise: Exercise): Situation | undefined {
  const { machine, symptom, setting, moved, record } = exercise;
  if (!symptom) return undefined;
  return {
    ...{ machine, setting, moved, symptom },
    placement: sitting(beginWorld(exercise)),
    ...(record
      ? { planned: { placement: recorded(exercise) ?? {}, setting: record.setting } }
      : {}),
  };
}

/** Modules the job on record wants, by slot. */
export function recorded({ record, pieces }: Exercise): Placement | undefined {
  if (!record) return undefined;
  return Object.fromEntries(
    Object.entries(record.placement).flatMap(([slotId, pieceId]) => {
      const piece = pieces.find(({ id }) => id === pieceId);
      return piece ? [[slotId, piece.module]] : [];
    }),
  );
}

/** A case of fault-finding at the simulated bench: what it is about, and what an act tells of it. */
export class Telling {
  readonly situation: Situation;
  readonly model: Model;
  readonly #exercise: Exercise;

  private constructor(exercise: Exercise, situation: Situation) {
    this.#exercise = exercise;
    this.situation = situation;
    this.model = modelOf(situation);
  }

  /** `undefined` where nothing is wrong and nothing is looked for. */
  static of(exercise: Exercise): Telling | undefined {
    const situation = situationOf(exercise);
    return situation && new Telling(exercise, situation);
  }

  /** A check of the model by its kind. */
  check(kind: CheckKind): Check | undefined {
    return this.model.checks.find((one) => one.kind === kind);
  }

  /**
   * What an act told, as an answer to a check of fault-finding; `undefined` where it answers none.
   *
   * @param now - what sits in the slots
   * @param bandwidth - GB/s, where the measuring page was run
   */
  observe(seen: Seen, now: Placement, bandwidth?: number): Observation | undefined {
    const trouble = TROUBLES[this.situation.symptom];
    const answer = (kind: CheckKind, outcome: string): Observation | undefined => {
      const check = this.check(kind);
      return check?.outcomes.includes(outcome) ? { checkId: check.id, outcome } : undefined;
    };
    switch (seen.type) {
      case 'firmware':
        return trouble === 'slow'
          ? answer('firmware’s rate', this.#rate(seen.screen, now))
          : answer('firmware’s page', this.#page(seen.screen, now));
      case 'system':
        return answer('system’s page', SYSTEM[seen.limitedBy ?? 'nothing']);
      case 'looked':
        return answer('look it over', this.#look(seen.slots, seen.leadOff, now));
      case 'measured':
        return answer('measure again', this.#width(bandwidth ?? 0));
      case 'log':
        return answer('log and warmth', seen.says);
      case 'notes':
        return answer(
          'firmware’s age',
          seen.namesMemory ? 'a newer one names memory' : 'newest, or says nothing of it',
        );
      case 'test': {
        const { errors } = seen;
        const outcome =
          errors === 'none' ? 'passes' : errors === 'all over' ? errors : errors.slotId;
        return answer('test with addresses', outcome);
      }
      default:
        return undefined;
    }
  }

  #missing({ rows }: FirmwareScreen, now: Placement): SlotId[] {
    return this.#exercise.machine.slots
      .filter(({ id, printedName }) => {
        const row = rows.find(({ name }) => name === printedName);
        return now[id] && row?.capacity === undefined;
      })
      .map(({ id }) => id);
  }

  #page(screen: FirmwareScreen, now: Placement): string {
    const [one, ...more] = this.#missing(screen, now);
    if (one) return more.length > 0 ? 'several are missing' : one;
    return screen.reserved >= screen.total * RESERVED ? 'a large share is reserved' : 'all show';
  }

  #rate(screen: FirmwareScreen, now: Placement): string {
    const [one, ...more] = this.#missing(screen, now);
    if (one) return more.length > 0 ? 'several are missing' : one;
    const wanted = this.#expected();
    const rate = wanted?.rate ?? 0;
    if (screen.rate >= rate - 1) return 'as planned';
    if (Math.abs(screen.rate * 2 - rate) <= 2) return 'half the figure';
    return wanted?.setting === 'profile' && screen.setting === 'standard'
      ? 'lower, profile off'
      : 'lower, not by the profile';
  }

  /** What should run: the plan on record, else what sits there. */
  #expected() {
    const { machine, placement, setting, planned } = this.situation;
    const point = operatingPoint(
      machine,
      planned?.placement ?? placement,
      planned?.setting ?? setting,
    );
    if (point.type !== 'runs') return undefined;
    // What the modules and the controller would give, whatever holds them back where they sit.
    const rates = Object.values(planned?.placement ?? placement).map((module) => module?.rate ?? 0);
    const rated = planned?.setting === 'profile' ? point.rate : Math.max(...rates, point.rate);
    return { rate: planned ? point.rate : rated, setting: point.setting, peak: point.peak };
  }

  #look(slots: readonly LookedAt[], leadOff: boolean, now: Placement): string {
    const [one, ...more] = slots.filter(({ pieceId, isHome }) => pieceId && !isHome);
    if (leadOff) return 'a lead is off';
    if (one) return more.length > 0 ? 'several are not level' : one.slotId;
    const point = operatingPoint(this.#exercise.machine, now, 'standard');
    if (point.type === 'blocked')
      return point.blockers.every(({ type }) => type === 'first-slot-empty')
        ? 'other slots than planned'
        : 'other modules than on record';
    const wanted = this.#exercise.record?.placement;
    if (!wanted) return 'all as it should be';
    const sits = new Map(slots.map(({ slotId, pieceId }) => [slotId, pieceId]));
    const isSame = slots.every(({ slotId }) => wanted[slotId] === sits.get(slotId));
    if (isSame) return 'all as it should be';
    const inside = [...sits.values()].filter((id) => id !== undefined).sort();
    const meant = Object.values(wanted).sort();
    return inside.join(' ') === meant.join(' ')
      ? 'other slots than planned'
      : 'other modules than on record';
  }

  #width(bandwidth: number): string {
    const share = bandwidth / (this.#widest() || 1);
    return share < ONE_CHANNEL
      ? 'one channel’s worth'
      : share < FULL
        ? 'a little low'
        : 'as promised';
  }

  /** Peak over all channels at the rate that should run. */
  #widest(): number {
    const { machine } = this.situation;
    const rate = this.#expected()?.rate ?? 0;
    return ((rate * machine.channelBits) / 8000) * machine.channels.length;
  }
}

const SYSTEM = {
  nothing: 'as the firmware says',
  system: '32-bit or limited',
  'start option': 'a start option limits it',
} as const;
/** A share of memory that is worth a question. */
const RESERVED = 0.1;
/** Of all channels together, what a page draws at least from one too few, and from all. */
const ONE_CHANNEL = 0.45;
const FULL = 0.55;
