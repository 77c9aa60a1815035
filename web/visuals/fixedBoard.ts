import type { Machine, Placement, Setting } from '#core/machine';
import { operatingPoint } from '#core/operating-point';
import type { PlacementBoard } from './usePlacementBoard.ts';

const ignore = () => undefined as never;

/** A board to look at only: nothing on it moves. */
export function fixedBoard(
  machine: Machine,
  placement: Placement = {},
  setting: Setting = 'standard',
): PlacementBoard {
  const board = { placement, setting, tray: [] };
  return {
    present: board,
    shown: board,
    point: operatingPoint(machine, placement, setting),
    carry: undefined,
    carried: undefined,
    isPreview: false,
    isChanged: false,
    canUndo: false,
    canRedo: false,
    baseVersion: 0,
    actions: {
      ...{
        pickUp: ignore,
        carryOver: ignore,
        letGo: ignore,
        move: ignore,
        add: ignore,
        take: ignore,
        remove: ignore,
      },
      ...{ setSetting: ignore, undo: ignore, redo: ignore, discard: ignore },
    },
  };
}
