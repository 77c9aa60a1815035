import { actionFor, diagnose } from '../diagnosing/index.ts';
import type { Cause, CauseKind, Observation } from '../diagnosing/index.ts';
import { withoutSlots } from '../machine/index.ts';
import type { SlotId } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { runToEnd } from '../planning/index.ts';
import type { Plan, PlanQuery } from '../planning/index.ts';
import type { Action } from './actions.ts';
import type { Exercise, PieceId } from './exercise.ts';
import { goalLines, isSolved } from './goal.ts';
import { Hand, seatsOf } from './hand.ts';
import type { Seats } from './hand.ts';
import { makeCheck } from './policyChecks.ts';
import { found, statusOf } from './running.ts';
import { Telling } from './telling.ts';
import { pieceIn, piecesAt } from './world.ts';
import type { World } from './world.ts';

/** How the house's own way goes through an exercise. */
export interface Par {
  readonly actions: readonly Action[];
  readonly world: World;
  readonly isSolved: boolean;
  readonly observations: readonly Observation[];
}

/** Checks it makes at most, and suspects it mends one after the other. */
const MOST = { checks: 30, suspects: 4 } as const;

/**
 * Plays an exercise as the core would have it: next the check that tells most a minute, then the plan
 * that meets the goal for the least money and the fewest moves, then the fit sheet. It knows the
 * machine's manual and what is on record, and of what is hidden only what its acts show.
 */
export function playPar(exercise: Exercise): Par {
  const hand = new Hand(exercise);
  const walk = new Walk(hand);
  const finding = walk.findFault();
  walk.meetGoal();
  hand.start();
  walk.prove();
  hand.close();
  hand.do({ type: 'hand over', finding: finding ?? 'nothing' });
  const { world, actions } = hand;
  return { world, actions, isSolved: isSolved(world), observations: walk.observations };
}

class Walk {
  readonly observations: Observation[] = [];
  readonly #hand: Hand;
  /** Pieces and slots that are of no use any more. */
  readonly #bad = new Set<PieceId>();
  readonly #dead = new Set<SlotId>();
  /** Modules of this size and more, GB, are not seen. */
  #tooLarge = Infinity;
  #alike = false;

  constructor(hand: Hand) {
    this.#hand = hand;
  }

  get #exercise(): Exercise {
    return this.#hand.world.exercise;
  }

  /** Looks for what is wrong and mends it; the cause it found. */
  findFault(): CauseKind | undefined {
    const telling = Telling.of(this.#exercise);
    if (!telling) return undefined;
    for (let made = 0; made < MOST.checks; made++) {
      const { state, next } = diagnose(telling.model, this.observations);
      if (state !== 'open' || !next) break;
      const seen = makeCheck(this.#hand, telling, next.check);
      this.observations.push(seen);
      // Patience was all it took: there is nothing left to look for.
      if (seen.outcome === 'starts now') break;
    }
    const { suspects, state } = diagnose(telling.model, this.observations);
    if (state === 'mended') return suspects[0]?.cause.kind;
    for (const [at, { cause }] of suspects.slice(0, MOST.suspects).entries()) {
      this.#mend(cause);
      // A cause that stands out is the cause, even where more than mending it is wanted.
      if (state === 'found') return cause.kind;
      // Of several the likeliest first; only for that one is anything bought.
      this.meetGoal(at === 0);
      if (this.#isMet()) return cause.kind;
      this.#forget();
    }
    return suspects[0]?.cause.kind;
  }

  /** What was only suspected is held against nothing any more. */
  #forget(): void {
    this.#bad.clear();
    this.#dead.clear();
    this.#tooLarge = Infinity;
    this.#alike = false;
  }

  #isMet(): boolean {
    return goalLines(this.#hand.world).every(
      ({ what, holds }) => holds || ['finding', 'closed', 'tested', 'measured'].includes(what),
    );
  }

  #mend(cause: Cause): void {
    const hand = this.#hand;
    const action = actionFor(cause);
    if (action.type === 'reseat') hand.reseat(action.slotIds);
    else if (action.type === 'return') {
      const piece = pieceIn(hand.world, action.slotId);
      if (piece) this.#bad.add(piece.id);
    } else if (action.type === 'leave slot') this.#dead.add(action.slotId);
    else if (action.type === 'move') this.#asRecorded();
    else if (action.type === 'standard setting') hand.set('standard');
    else if (action.type === 'profile on') hand.set('profile');
    else if (action.type === 'plan anew') this.#planAnew(cause);
    else if (action.type === 'by hand') this.#byHand(cause.kind);
  }

  #asRecorded(): void {
    const { record } = this.#exercise;
    if (!record) return;
    this.#hand.open();
    this.#hand.fit(record.placement);
  }

  /** What does not go together, or is not taken, is left out of the next plan. */
  #planAnew({ kind }: Cause): void {
    const { world } = this.#hand;
    if (kind === 'mixed timings') this.#alike = true;
    if (kind === 'wrong type') for (const id of Object.values(seatsOf(world))) this.#bad.add(id);
    if (kind !== 'density not supported') return;
    const shown = found(world);
    const sizes = Object.entries(seatsOf(world)).flatMap(([slotId, id]) => {
      const piece = world.pieces.find((one) => one.id === id);
      return piece && !shown[slotId] ? [piece.module.capacity] : [];
    });
    this.#tooLarge = Math.min(...sizes, this.#tooLarge);
  }

  #byHand(kind: CauseKind): void {
    const hand = this.#hand;
    if (kind === 'lead left off' || kind === 'heat') {
      hand.open();
      hand.do({ type: kind === 'heat' ? 'clear dust' : 'put leads on' });
    } else if (kind === 'not the memory') {
      hand.plain('shut down', 'unplug');
      hand.do({ type: 'other supply or drive' });
    } else if (kind === 'stale settings') {
      if (hand.world.power === 'off') hand.start();
      hand.do({ type: 'clear settings' });
    } else if (hand.start().type === 'up') {
      if (kind === 'firmware outdated') hand.do({ type: 'update firmware' });
      if (kind === 'start option') hand.do({ type: 'lift start option' });
    }
  }

  /** Buys, moves and sets what the goal takes, where it does not hold yet. */
  meetGoal(buys = true): void {
    const hand = this.#hand;
    const seated = Object.entries(seatsOf(hand.world));
    const parts = new Set(
      seated.map(([, id]) => hand.world.pieces.find((one) => one.id === id)?.module.partNumber),
    );
    const isUseless =
      seated.some(([slotId, id]) => this.#bad.has(id) || this.#dead.has(slotId)) ||
      (this.#alike && parts.size > 1);
    if (!isUseless && this.#isMet()) return;
    const plan = this.#bestPlan();
    if (!plan || (!buys && plan.purchases.length > 0)) return;
    for (const { offerId, packs } of plan.purchases)
      for (let pack = 0; pack < packs; pack++) hand.do({ type: 'order', offerId });
    const seats = this.#seatsFor(plan);
    if (JSON.stringify(sorted(seats)) !== JSON.stringify(sorted(seatsOf(hand.world)))) {
      hand.open();
      hand.fit(seats);
    }
    hand.set(plan.setting);
  }

  #query(): PlanQuery {
    const { world } = this.#hand;
    const { machine, goal, offers } = this.#exercise;
    const fitted = Object.fromEntries(
      machine.slots.flatMap(({ id }) => {
        const piece = pieceIn(world, id);
        return piece && !this.#bad.has(piece.id) ? [[id, piece.module]] : [];
      }),
    );
    const isOfUse = ({ capacity, chipWidth }: MemoryModule) =>
      capacity < this.#tooLarge && !(goal?.narrowChips && chipWidth === 16);
    return {
      ...{ machine: withoutSlots(machine, [...this.#dead]), fitted },
      ...{ need: goal?.usable, budget: goal?.budget, school: 'lenient', capacityFirst: true },
      ...{ memoryTestPassed: true, credit: {}, labour: 0 },
      settings: machine.profiles.support === 'no' ? ['standard'] : ['standard', 'profile'],
      offers: offers
        .filter(({ module }) => isOfUse(module))
        .map(({ id, module, units, price }) => ({
          ...{ id, module, units, price, stock: 'unknown', verified: false },
        })),
      drawer: [...piecesAt(world, 'drawer'), ...piecesAt(world, 'mat')]
        .filter(({ id, module }) => !this.#bad.has(id) && isOfUse(module))
        .filter(({ id }) => !world.broken.includes(id))
        .map(({ id, module }) => ({ id, module, state: 'tested', price: 0 })),
    };
  }

  /** The cheapest plan under which every line of the goal would hold, with the fewest moves. */
  #bestPlan(): Plan | undefined {
    const asIf = (plan: Plan): boolean => {
      const { world } = this.#hand;
      const pieces = plan.units.map(({ module }, at) => ({ id: `planned ${at}`, module, at: '' }));
      const places = plan.units.map(({ slotId }, at) => [
        `planned ${at}`,
        { at: 'slot', slotId, isHome: true },
      ]);
      const planned: World = {
        ...world,
        ...{ pieces, setting: plan.setting },
        places: Object.fromEntries(places) as World['places'],
        faults: [],
        spent: world.spent + plan.cost.net,
      };
      return goalLines(planned).every(
        ({ what, holds }) => holds || ['finding', 'closed', 'tested', 'measured'].includes(what),
      );
    };
    const isAlike = ({ units }: Plan) =>
      !this.#alike || new Set(units.map(({ module }) => module.partNumber)).size === 1;
    const moves = ({ pulled, moved, setting }: Plan) =>
      pulled.length + moved.length + (setting === 'profile' ? 0.5 : 0);
    return runToEnd(this.#query())
      .plans.filter((plan) => isAlike(plan) && asIf(plan))
      .sort((a, b) => a.cost.net - b.cost.net || moves(a) - moves(b))[0];
  }

  #seatsFor({ units }: Plan): Seats {
    const { world } = this.#hand;
    const before = seatsOf(world);
    const bought = new Map<string, PieceId[]>();
    for (const { id } of piecesAt(world, 'mat')) {
      const offer = this.#exercise.offers.find((one) => id.startsWith(`${one.id} `));
      if (offer) bought.set(offer.id, [...(bought.get(offer.id) ?? []), id]);
    }
    return Object.fromEntries(
      units.flatMap(({ slotId, source }): [SlotId, PieceId][] => {
        const id =
          source.type === 'kept'
            ? before[source.from]
            : source.type === 'drawer'
              ? source.drawerId
              : bought.get(source.offerId)?.shift();
        return id === undefined ? [] : [[slotId, id]];
      }),
    );
  }

  /** Sees for itself, and shows what the goal wants shown. */
  prove(): void {
    const { goal } = this.#exercise;
    const hand = this.#hand;
    if (statusOf(hand.world).type !== 'up') return;
    hand.do({ type: 'firmware screen' });
    if (goal?.tested) hand.do({ type: 'memory test' });
    if (goal?.measured) hand.measure();
  }
}

const sorted = (seats: Seats) => Object.entries(seats).sort(([a], [b]) => (a < b ? -1 : 1));
