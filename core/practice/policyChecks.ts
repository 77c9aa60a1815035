import type { Check, CheckKind, Observation } from '../diagnosing/index.ts';
import { TROUBLES } from '../diagnosing/index.ts';
import type { SlotId } from '../machine/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import type { Hand, Seats } from './hand.ts';
import { seatsOf } from './hand.ts';
import { piecesAt } from './world.ts';
import type { Status } from './running.ts';
import type { Telling } from './telling.ts';

const signal = (status: Status): string => {
  if (status.type === 'up') return 'starts now';
  if (status.type === 'dark') return `${status.signal} code`;
  return 'nothing';
};

/** Makes one check of fault-finding with the hands, and tells what came out; `unknown` where it cannot be made. */
export function makeCheck(hand: Hand, telling: Telling, check: Check): Observation {
  const trouble = TROUBLES[telling.situation.symptom];
  const said = (outcome: string): Observation => ({ checkId: check.id, outcome });
  const unknown = said('unknown');
  const observed = (of: Observation | undefined) => of ?? unknown;

  /** Whether the trouble is still there, with what it takes to see that. */
  const isGone = (): boolean => {
    const status = hand.start();
    if (status.type !== 'up') return false;
    if (trouble === 'stopped') return true;
    if (trouble === 'unstable') {
      if (logNow(hand) !== 'nothing') return false;
      const seen = hand.do({ type: 'memory test' });
      return seen.type === 'test' && seen.errors === 'none';
    }
    const seen = hand.do({ type: 'firmware screen' });
    const outcome = telling.observe(seen, hand.sitting)?.outcome;
    if (trouble === 'slow') return outcome === 'as planned' && isWide(hand, telling);
    const system = telling.observe(hand.do({ type: 'system page' }), hand.sitting)?.outcome;
    return outcome === 'all show' && system === 'as the firmware says';
  };
  const mended = (): Observation => said(isGone() ? 'gone' : 'still there');

  /** Only some modules fitted, the rest on the mat: does what is left work? Then all goes back. */
  const withOnly = (seats: Seats): Observation => {
    const all = seatsOf(hand.world);
    if (!runs(hand, seats)) return unknown;
    hand.fit(seats);
    const isGood = isGone();
    hand.fit(all);
    return said(isGood ? 'works' : 'fault is there');
  };

  const makers: Readonly<Record<CheckKind, () => Observation>> = {
    'wait and listen': () => {
      const status = hand.start();
      if (status.type !== 'up') hand.do({ type: 'wait', minutes: 10 });
      return said(signal(status));
    },
    'firmware’s page': () => {
      hand.start();
      return observed(telling.observe(hand.do({ type: 'firmware screen' }), hand.sitting));
    },
    'firmware’s rate': () => {
      hand.start();
      return observed(telling.observe(hand.do({ type: 'firmware screen' }), hand.sitting));
    },
    'system’s page': () => {
      hand.start();
      return observed(telling.observe(hand.do({ type: 'system page' }), hand.sitting));
    },
    'measure again': () => {
      hand.start();
      const bandwidth = hand.measure();
      return observed(telling.observe({ type: 'measured' }, hand.sitting, bandwidth));
    },
    'firmware’s age': () => {
      if (hand.start().type !== 'up') return unknown;
      return observed(telling.observe(hand.do({ type: 'firmware notes' }), hand.sitting));
    },
    'log and warmth': () => {
      hand.start();
      return observed(telling.observe(hand.do({ type: 'read log' }), hand.sitting));
    },
    'test with addresses': () => {
      hand.start();
      return observed(telling.observe(hand.do({ type: 'memory test' }), hand.sitting));
    },
    'standard setting': () => {
      hand.set('standard');
      return mended();
    },
    'clear settings': () => {
      if (hand.world.power === 'off') hand.start();
      hand.do({ type: 'clear settings' });
      return mended();
    },
    'update firmware': () => {
      if (hand.start().type !== 'up') return unknown;
      hand.do({ type: 'update firmware' });
      return mended();
    },
    'look it over': () => {
      hand.open();
      return observed(telling.observe(hand.do({ type: 'look' }), hand.sitting));
    },
    'reseat and clean': () => {
      hand.reseat(Object.keys(seatsOf(hand.world)));
      return mended();
    },
    'only these modules': () => {
      const seats = seatsOf(hand.world);
      return withOnly(pick(seats, check.slotIds));
    },
    'only this module': () => {
      const [slotId = ''] = check.slotIds;
      const pieceId = seatsOf(hand.world)[slotId];
      const good = Object.keys(seatsOf(hand.world)).find((id) => id !== slotId) ?? slotId;
      return pieceId ? withOnly({ [good]: pieceId }) : unknown;
    },
    'change places': () => changePlaces(hand, telling, check.slotIds, isGone, said),
    'known good module': () => {
      const [slotId = ''] = check.slotIds;
      const [spare] = piecesAt(hand.world, 'drawer');
      return spare ? withOnly({ ...seatsOf(hand.world), [slotId]: spare.id }) : unknown;
    },
    'other supply or drive': () => {
      hand.plain('shut down', 'unplug');
      hand.do({ type: 'other supply or drive' });
      return mended();
    },
  };
  return makers[check.kind]();
}

const pick = (seats: Seats, slotIds: readonly SlotId[]): Seats =>
  Object.fromEntries(Object.entries(seats).filter(([id]) => slotIds.includes(id)));

/** By the rules; what does not run by them tells nothing when it does not run. */
function runs({ world }: Hand, seats: Seats): boolean {
  const placement = Object.fromEntries(
    Object.entries(seats).flatMap(([slotId, pieceId]) => {
      const piece = world.pieces.find(({ id }) => id === pieceId);
      return piece ? [[slotId, piece.module]] : [];
    }),
  );
  return operatingPoint(world.exercise.machine, placement, 'standard').type === 'runs';
}

function isWide(hand: Hand, telling: Telling): boolean {
  const bandwidth = hand.measure();
  const outcome = telling.observe({ type: 'measured' }, hand.sitting, bandwidth)?.outcome;
  return outcome === undefined || outcome === 'as promised';
}

function logNow(hand: Hand) {
  const seen = hand.do({ type: 'read log' });
  return seen.type === 'log' ? seen.says : 'nothing';
}

/** Two modules change places: a fault that moves with one is its own. */
function changePlaces(
  hand: Hand,
  telling: Telling,
  slotIds: readonly SlotId[],
  isGone: () => boolean,
  said: (outcome: string) => Observation,
): Observation {
  const before = seatsOf(hand.world);
  const [one = '', named] = slotIds;
  const other = named ?? Object.keys(before).find((id) => id !== one);
  const [first, second] = [before[one], other === undefined ? undefined : before[other]];
  if (!first || !second || other === undefined) return said('unknown');
  const swapped = { ...before, [one]: second, [other]: first };
  if (!runs(hand, swapped)) return said('unknown');
  const trouble = TROUBLES[telling.situation.symptom];
  const where = () => {
    if (hand.start().type !== 'up') return undefined;
    const kind = trouble === 'unstable' ? 'memory test' : 'firmware screen';
    return telling.observe(hand.do({ type: kind }), hand.sitting)?.outcome;
  };
  const was = where();
  hand.fit(swapped);
  if (isGone()) return said('gone');
  const is = where();
  // What is found out holds for the slots as they were: back it goes.
  hand.fit(before);
  if (was === one && is === other) return said('goes with the module');
  if (was === other && is === one) return said('goes with the module');
  return said(was === is && (is === one || is === other) ? 'stays with the slot' : 'no change');
}
