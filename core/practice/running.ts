import { expectStart } from '../fitting/index.ts';
import type { Placement, SlotId } from '../machine/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import type { Running } from '../operating-point/index.ts';
import type { HiddenFault } from './exercise.ts';
import { pieceIn, seatedKey, sitting } from './world.ts';
import type { World } from './world.ts';

/** What the machine does at this moment. */
export type Status =
  | { readonly type: 'off' }
  /** No picture; what its signals name. */
  | { readonly type: 'dark'; readonly signal: 'memory' | 'other' }
  | { readonly type: 'restarting' }
  | { readonly type: 'training'; readonly left: number }
  | { readonly type: 'up'; readonly point: Running; readonly seen: Placement };

type Of<Kind extends HiddenFault['kind']> = Extract<HiddenFault, { kind: Kind }>;

/** A fault of a kind, if it is still there. */
export function fault<Kind extends HiddenFault['kind']>(
  world: World,
  kind: Kind,
): Of<Kind> | undefined {
  return world.faults.find((one): one is Of<Kind> => one.kind === kind);
}

const faultsOf = <Kind extends HiddenFault['kind']>(world: World, kind: Kind): Of<Kind>[] =>
  world.faults.filter((one): one is Of<Kind> => one.kind === kind);

/** Modules the board finds: seated home, clean, alive, in a slot that is, and not too large. */
export function found(world: World): Placement {
  const dead = new Set(faultsOf(world, 'dead slot').map(({ slotId }) => slotId));
  const dirty = new Set(faultsOf(world, 'dirty contacts').map(({ pieceId }) => pieceId));
  const unseen = new Set(
    faultsOf(world, 'bad module').flatMap(({ pieceId, shows }) =>
      shows === 'not seen' ? [pieceId] : [],
    ),
  );
  const largest = Math.min(
    ...world.faults.flatMap((one) =>
      one.kind === 'firmware outdated' || one.kind === 'density not supported' ? [one.upTo] : [],
    ),
    Infinity,
  );
  return Object.fromEntries(
    world.exercise.machine.slots.flatMap(({ id }) => {
      const piece = pieceIn(world, id);
      const place = piece && world.places[piece.id];
      if (!piece || place?.at !== 'slot' || !place.isHome || dead.has(id)) return [];
      const isLost = dirty.has(piece.id) || unseen.has(piece.id) || world.broken.includes(piece.id);
      return isLost || piece.module.capacity > largest ? [] : [[id, piece.module]];
    }),
  );
}

/** What the machine does at this moment, by the rules of the operating point and what is hidden in it. */
export function statusOf(world: World): Status {
  if (world.power === 'off') return { type: 'off' };
  if (fault(world, 'lead left off')) return { type: 'dark', signal: 'other' };
  if (fault(world, 'not the memory')?.shows === 'no start')
    return { type: 'dark', signal: 'other' };
  const { machine } = world.exercise;
  const stops = faultsOf(world, 'bad module').some(
    ({ pieceId, shows }) => shows === 'no start' && world.places[pieceId]?.at === 'slot',
  );
  // What sits there decides about keys and kinds, seen or not; what is seen decides what runs.
  const sits = operatingPoint(machine, sitting(world), 'standard');
  const isRefused =
    sits.type === 'blocked' && sits.blockers.some(({ type }) => type !== 'nothing-fitted');
  if (stops || isRefused) return { type: 'dark', signal: 'memory' };
  if (fault(world, 'stale settings')) return { type: 'restarting' };
  const seen = found(world);
  const point = operatingPoint(machine, seen, world.setting);
  if (point.type === 'blocked') return { type: 'dark', signal: 'memory' };
  if (world.training > 0) return { type: 'training', left: world.training };
  return { type: 'up', point, seen };
}

/** Minutes the board trains when it is switched on now: none where it knows its modules. */
export function trainingDue(world: World): number {
  if (world.trainedFor === seatedKey(world)) return 0;
  return Math.ceil(expectStart(world.exercise.machine, found(world)).usual);
}

/** GB a system can use, and what keeps the rest from it. */
export function usableOf(
  world: World,
  point: Running,
): { readonly usable: number; readonly limitedBy: 'system' | 'start option' | undefined } {
  const option = fault(world, 'start option');
  const { low, high } = point.usable;
  // A limit known as a range lies somewhere in it; the low end is safe to plan with and to show.
  const usable = low === high ? low : (low + high) / 2;
  if (option && option.usable < usable) return { usable: option.usable, limitedBy: 'start option' };
  const isLimited = point.flags.some(({ type }) => type === 'os-limit');
  return { usable, limitedBy: isLimited ? 'system' : undefined };
}

/** What a long memory test finds: nothing, errors within one module, or all over. */
export function errorsOf(world: World): 'none' | 'all over' | { readonly slotId: SlotId } {
  const unlike = new Set(
    Object.values(found(world)).map((module) => module?.partNumber ?? JSON.stringify(module)),
  );
  if (world.setting === 'profile' && fault(world, 'profile unstable')) return 'all over';
  if (fault(world, 'mixed timings') && unlike.size > 1) return 'all over';
  for (const { pieceId, shows } of faultsOf(world, 'bad module')) {
    const place = world.places[pieceId];
    if (shows === 'errors' && place?.at === 'slot') return { slotId: place.slotId };
  }
  return 'none';
}

/** What the system's log and a hand over the heatsinks tell. */
export function logOf(
  world: World,
): 'memory errors' | 'far too warm' | 'drive or program' | 'nothing' {
  if (fault(world, 'heat')) return 'far too warm';
  if (fault(world, 'not the memory')) return 'drive or program';
  return errorsOf(world) === 'none' ? 'nothing' : 'memory errors';
}
