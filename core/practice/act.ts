import { actHandsIn } from './handsIn.ts';
import { minutesOf } from './actions.ts';
import type { Action } from './actions.ts';
import type { PieceId } from './exercise.ts';
import { errorsOf, fault, logOf, statusOf, trainingDue, usableOf } from './running.ts';
import type { HiddenFault } from './exercise.ts';
import { firmwareScreen, tableRows } from './screens.ts';
import type { Seen } from './seen.ts';
import { cannot, done } from './step.ts';
import type { Step } from './step.ts';
import { keyOf, seatedKey, stickerOf } from './world.ts';
import type { Unsafe, World } from './world.ts';

/** What came of an act. */
export interface Outcome {
  readonly world: World;
  readonly seen: Seen;
  /** What would have been hurt; the act was stopped. */
  readonly unsafe?: Unsafe | undefined;
  readonly minutes: number;
}

/**
 * Does one thing at the simulated bench. What comes of it follows from the rules of the operating point,
 * the hidden faults and the state of the machine; nothing is scripted. An act that is not possible takes
 * no time; an unsafe one is stopped before it hurts, and counted.
 */
export function act(world: World, action: Action): Outcome {
  const [next, seen, unsafe] = world.over
    ? cannot(world, 'it is over')
    : (actHandsIn(world, action) ?? actHandsOff(world, action));
  if (seen.type === 'cannot') return { world, seen, minutes: 0 };
  const minutes = minutesOf(action, world.exercise);
  const passed = letPass(next, minutes, action);
  const counted = unsafe ? { ...passed, unsafe: [...passed.unsafe, unsafe] } : passed;
  return { world: counted, seen: refreshed(counted, seen), minutes, ...(unsafe ? { unsafe } : {}) };
}

/** The clock goes on; a board in training trains. */
function letPass(world: World, minutes: number, action: Action): World {
  const later = { ...world, minutes: world.minutes + minutes };
  if (world.power === 'off' || world.training <= 0 || action.type === 'switch') return later;
  const training = Math.max(0, world.training - minutes);
  return { ...later, training, trainedFor: training === 0 ? seatedKey(world) : world.trainedFor };
}

/** A status is told as it is at the end of the act. */
const refreshed = (world: World, seen: Seen): Seen =>
  seen.type === 'status' ? { type: 'status', status: statusOf(world) } : seen;

const status = (world: World): Step => [world, { type: 'status', status: statusOf(world) }];

const without = (world: World, ...kinds: readonly HiddenFault['kind'][]): World => ({
  ...world,
  faults: world.faults.filter(({ kind }) => !kinds.includes(kind)),
});

/** Acts with the hands off the board: asking, reading, switching, setting. */
function actHandsOff(world: World, action: Action): Step {
  const { exercise } = world;
  switch (action.type) {
    case 'ask':
      return [
        world,
        { type: 'answer', about: action.about, text: exercise.customer.answers[action.about] },
      ];
    case 'read sticker': {
      const piece = world.pieces.find(({ id }) => id === action.pieceId);
      if (!piece) return cannot(world, 'no such piece');
      if (world.places[piece.id]?.at === 'slot' && world.cover === 'on')
        return cannot(world, 'cover is on');
      return [world, { type: 'sticker', pieceId: piece.id, text: stickerOf(piece) }];
    }
    case 'switch':
      return switchTo(world, action.to);
    case 'wait':
      return status(world);
    case 'order':
      return order(world, action.offerId);
    case 'other supply or drive':
      if (world.lead === 'in') return cannot(world, 'machine is on');
      return done(without(world, 'not the memory'));
    case 'hand over':
      return [{ ...world, over: { finding: action.finding } }, { type: 'handed over' }];
    default:
      return atScreen(world, action);
  }
}

function switchTo(world: World, to: 'on' | 'off'): Step {
  if (world.power === to) return cannot(world, 'already so');
  if (to === 'off') return done({ ...world, power: 'off', training: 0 });
  if (world.lead === 'out' && world.battery !== 'on') return cannot(world, 'no power');
  const on: World = { ...world, power: 'on', isDrained: false };
  return status({ ...on, training: trainingDue(on) });
}

/** Comes after its days, and lies on the mat. */
function order(world: World, offerId: string): Step {
  const offer = world.exercise.offers.find(({ id }) => id === offerId);
  if (!offer) return cannot(world, 'not sold');
  const packs = (world.bought[offerId] ?? 0) + 1;
  const pieces = Array.from({ length: offer.units }, (_, at) => ({
    id: `${offerId} ${packs}.${at + 1}`,
    module: { ...offer.module, kitId: `${offerId} ${packs}` },
    at: 'drawer' as const,
  }));
  const places = pieces.map(({ id }): [PieceId, { at: 'mat' }] => [id, { at: 'mat' }]);
  return [
    {
      ...world,
      pieces: [...world.pieces, ...pieces],
      places: { ...world.places, ...Object.fromEntries(places) },
      bought: { ...world.bought, [offerId]: packs },
      spent: world.spent + offer.price,
      days: world.days + offer.days,
    },
    { type: 'delivered', pieces: pieces.map(({ id }) => id) },
  ];
}

/** Acts at a machine that shows something; each says what it cannot do without a picture. */
function atScreen(world: World, action: Action): Step {
  const now = statusOf(world);
  if (now.type === 'off') return cannot(world, 'machine is off');
  // A jumper does it: no picture is needed.
  if (action.type === 'clear settings')
    return status(without({ ...world, setting: 'standard' }, 'stale settings'));
  if (now.type !== 'up') return cannot(world, 'no picture');
  switch (action.type) {
    case 'read tables':
      return [world, { type: 'tables', rows: tableRows(world) ?? [] }];
    case 'firmware screen': {
      const screen = firmwareScreen(world);
      return screen ? [world, { type: 'firmware', screen }] : cannot(world, 'no picture');
    }
    case 'set':
      if (action.setting === world.setting) return cannot(world, 'already so');
      if (action.setting === 'profile' && !firmwareScreen(world)?.offersProfile)
        return cannot(world, 'no profile here');
      return status({ ...world, setting: action.setting });
    case 'firmware notes':
      return [world, { type: 'notes', namesMemory: !!fault(world, 'firmware outdated') }];
    case 'update firmware':
      return status(without(world, 'firmware outdated', 'stale settings'));
    case 'system page':
      return [
        world,
        { type: 'system', installed: now.point.installed, ...usableOf(world, now.point) },
      ];
    case 'lift start option':
      return fault(world, 'start option')
        ? done(without(world, 'start option'))
        : cannot(world, 'nothing to lift');
    case 'read log':
      return [world, { type: 'log', says: logOf(world) }];
    case 'measure':
      return [{ ...world, measured: keyOf(world) }, { type: 'measured' }];
    case 'memory test': {
      const errors = errorsOf(world);
      const passed = errors === 'none';
      return [
        { ...world, tested: { passed, of: keyOf(world) } },
        { type: 'test', errors },
      ];
    }
    default:
      return cannot(world, 'no picture');
  }
}
