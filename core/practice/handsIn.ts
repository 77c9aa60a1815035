import type { Action } from './actions.ts';
import type { HiddenFault, PieceId } from './exercise.ts';
import { fault } from './running.ts';
import { cannot, done } from './step.ts';
import type { Step } from './step.ts';
import { hasPack, pieceIn } from './world.ts';
import type { Place, Unsafe, World } from './world.ts';

const stopped = (world: World, unsafe: Unsafe): Step => [world, { type: 'stopped' }, unsafe];

/** Whether anything in the machine still carries a charge. */
const isLive = (world: World) =>
  world.power === 'on' || world.lead === 'in' || world.battery === 'on' || !world.isDrained;

/** What makes it unsafe to touch the board now. */
const unsafeToTouch = (world: World): Unsafe | undefined =>
  isLive(world) ? 'touched under power' : world.hasStrap ? undefined : 'no strap';

const put = (world: World, pieceId: PieceId, place: Place): World => ({
  ...world,
  places: { ...world.places, [pieceId]: place },
});

const mended = (world: World, is: (fault: HiddenFault) => boolean): World => ({
  ...world,
  faults: world.faults.filter((one) => !is(one)),
});

/** Acts with lead, cover and board; `undefined` where the act is none of them. */
export function actHandsIn(world: World, action: Action): Step | undefined {
  switch (action.type) {
    case 'lead':
      if (world.lead === action.to) return cannot(world, 'already so');
      return done(plugged(world, action.to));
    case 'hold power':
      // With the lead in, holding it only switches off.
      return done({ ...world, power: 'off', training: 0, isDrained: world.lead === 'out' });
    case 'strap':
      if (world.hasStrap === (action.to === 'on')) return cannot(world, 'already so');
      return done({ ...world, hasStrap: action.to === 'on' });
    case 'open':
      if (world.cover === 'off') return cannot(world, 'already so');
      if (world.power === 'on' || world.lead === 'in') return stopped(world, 'opened under power');
      if (action.tool === 'metal' && hasPack(world.exercise))
        return stopped(world, 'metal at the pack');
      return done({ ...world, cover: 'off' });
    case 'close':
      if (world.cover === 'on') return cannot(world, 'already so');
      return done({ ...world, cover: 'on' });
    case 'battery':
      if (world.battery === 'none') return cannot(world, 'no battery inside');
      if (world.cover === 'on' && isInside(world)) return cannot(world, 'cover is on');
      if (world.battery === action.to) return cannot(world, 'already so');
      return done({
        ...world,
        battery: action.to,
        isDrained: action.to === 'off' ? world.isDrained : false,
      });
    case 'look':
      return look(world);
    case 'pull':
    case 'seat':
    case 'press home':
    case 'clean':
    case 'put leads on':
    case 'clear dust':
      return atTheBoard(world, action);
    default:
      return undefined;
  }
}

/** Whether the pack is parted from the board inside the machine. */
const isInside = ({ exercise: { machine } }: World) =>
  !['taken out from outside', 'service mode'].includes(machine.access.battery);

const plugged = (world: World, to: 'in' | 'out'): World => {
  const isDead = to === 'out' && world.battery !== 'on';
  return {
    ...world,
    lead: to,
    ...(isDead ? { power: 'off', training: 0 } : {}),
    ...(to === 'in' ? { isDrained: false } : {}),
  };
};

function look(world: World): Step {
  if (world.cover === 'on') return cannot(world, 'cover is on');
  const slots = world.exercise.machine.slots.map(({ id }) => {
    const piece = pieceIn(world, id);
    const place = piece && world.places[piece.id];
    return { slotId: id, pieceId: piece?.id, isHome: place?.at === 'slot' && place.isHome };
  });
  const leadOff = fault(world, 'lead left off') !== undefined;
  return [world, { type: 'looked', slots, leadOff, dusty: fault(world, 'heat') !== undefined }];
}

type AtBoard = Extract<
  Action,
  { type: 'pull' | 'seat' | 'press home' | 'clean' | 'put leads on' | 'clear dust' }
>;

/** Acts that touch the board or what was in it. */
function atTheBoard(world: World, action: AtBoard): Step {
  // A module that lies on the mat can be cleaned whatever the machine does; it still wants the strap.
  if (action.type === 'clean') return clean(world, action.pieceId);
  if (world.cover === 'on') return cannot(world, 'cover is on');
  const why = impossible(world, action);
  if (why) return cannot(world, why);
  const unsafe = unsafeToTouch(world);
  if (unsafe) return stopped(world, unsafe);
  switch (action.type) {
    case 'put leads on':
      return done(mended(world, ({ kind }) => kind === 'lead left off'));
    case 'clear dust':
      return done(mended(world, ({ kind }) => kind === 'heat'));
    case 'pull': {
      const piece = pieceIn(world, action.slotId);
      return piece ? done(put(world, piece.id, { at: 'mat' })) : cannot(world, 'slot is empty');
    }
    case 'press home': {
      const piece = pieceIn(world, action.slotId);
      const home = { at: 'slot', slotId: action.slotId, isHome: true } as const;
      return piece ? done(put(world, piece.id, home)) : cannot(world, 'slot is empty');
    }
    case 'seat':
      return seat(world, action);
  }
}

function impossible(world: World, action: Exclude<AtBoard, { type: 'clean' }>) {
  const isSlot = (id: string) => world.exercise.machine.slots.some((slot) => slot.id === id);
  if (action.type === 'put leads on' || action.type === 'clear dust') return undefined;
  if (!isSlot(action.slotId)) return 'no such slot' as const;
  const piece = pieceIn(world, action.slotId);
  if (action.type !== 'seat') return piece ? undefined : ('slot is empty' as const);
  const place = world.places[action.pieceId];
  if (!place) return 'no such piece' as const;
  if (place.at === 'slot') return 'piece is in a slot' as const;
  if (world.broken.includes(action.pieceId)) return 'piece is broken' as const;
  return piece ? ('slot is taken' as const) : undefined;
}

/** Key, way round and pressure decide whether it is in, and whether it is home. */
function seat(world: World, action: Extract<Action, { type: 'seat' }>): Step {
  const { pieceId, slotId, way, pressed, force } = action;
  const module = world.pieces.find(({ id }) => id === pieceId)?.module;
  if (!module) return cannot(world, 'no such piece');
  const { generations, formFactor } = world.exercise.machine;
  const fits = generations.includes(module.generation) && module.formFactor === formFactor;
  if (!fits || way === 'turned') {
    if (!force) return [world, { type: 'does not go in', because: fits ? 'turned' : 'key' }];
    return [
      put({ ...world, broken: [...world.broken, pieceId] }, pieceId, { at: 'mat' }),
      { type: 'broke', pieceId },
      'forced key',
    ];
  }
  return done(put(world, pieceId, { at: 'slot', slotId, isHome: pressed === 'both' }));
}

function clean(world: World, pieceId: PieceId): Step {
  const place = world.places[pieceId];
  if (!place) return cannot(world, 'no such piece');
  if (place.at === 'slot') return cannot(world, 'piece is in a slot');
  if (!world.hasStrap) return stopped(world, 'no strap');
  return done(mended(world, (one) => one.kind === 'dirty contacts' && one.pieceId === pieceId));
}
