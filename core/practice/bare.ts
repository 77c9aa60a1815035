import type { Machine, Placement, Setting } from '../machine/index.ts';
import type { Exercise, HiddenFault } from './exercise.ts';
import { beginWorld } from './world.ts';
import type { World } from './world.ts';

/** A machine with what sits in it and what is hidden, and nothing to be solved; a piece is named by its slot. */
export function bareExercise(
  id: string,
  machine: Machine,
  placement: Placement,
  setting: Setting,
  faults: readonly HiddenFault[],
): Exercise {
  const pieces = machine.slots.flatMap((slot) => {
    const module = placement[slot.id];
    return module ? [{ id: slot.id, module, at: slot.id }] : [];
  });
  return {
    ...{ id, title: machine.name, level: 1, teaches: [], customer: { says: '', answers: {} } },
    ...{ machine, pieces, offers: [], setting, faults, moved: true },
    firmware: { showsClock: false, phantoms: [] },
  };
}

/** The same machine switched on, trained and up, where the rules and its faults let it. */
export function runningWorld(exercise: Exercise): World {
  return { ...beginWorld(exercise), power: 'on', training: 0 };
}

/** What keeps a machine on one channel though more are filled: the other modules are in and not home. */
export function oneChannelFaults(machine: Machine, placement: Placement): HiddenFault[] {
  const filled = machine.slots.filter(({ id }) => placement[id]);
  const kept = machine.soldered[0]?.channel ?? filled[0]?.channels[0];
  return filled
    .filter(({ channels }) => kept !== undefined && !channels.includes(kept))
    .map(({ id }) => ({ kind: 'not seated', slotId: id }));
}
