import { useCallback, useEffect, useMemo, useState } from 'react';
import { samePlacement } from '#core/machine';
import type { Machine, Placement, Setting } from '#core/machine';
import type { MemoryModule } from '#core/memory';
import { operatingPoint } from '#core/operating-point';
import { afterMove, boardActions, moduleAt, selectDraft } from '../app/boardsSlice.ts';
import type { Board, Place } from '../app/boardsSlice.ts';
import { useAppDispatch, useAppSelector } from '../app/store.ts';

/** A module picked up, and the place it would go to if let go now. */
interface Carry {
  readonly from: Place;
  readonly over: Place | undefined;
}

const isSame = (a: Board, b: Pick<Board, 'placement' | 'setting'>) =>
  a.setting === b.setting && samePlacement(a.placement, b.placement);

interface Saved {
  readonly placement: Placement;
  readonly setting: Setting;
  readonly version: number;
}

/**
 * A placement draft with undo and redo, what is being carried, and what would run. Starts from
 * what is saved, or from `start` where nothing is; nothing reaches the server until it is saved.
 *
 * @param key - names the draft; it outlives the page in the browser's store
 */
export function usePlacementBoard(
  key: string,
  machine: Machine,
  saved: Saved | undefined,
  start: Omit<Board, 'tray'>,
) {
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => selectDraft(state, key));
  const [carry, setCarry] = useState<Carry>();
  const fresh: Board = useMemo(
    () => ({ placement: (saved ?? start).placement, setting: (saved ?? start).setting, tray: [] }),
    [saved, start],
  );
  const present = draft?.present ?? fresh;
  const baseVersion = saved?.version ?? 0;

  // A draft without changes of its own follows what is saved; one with changes is left alone.
  const isUntouched = draft !== undefined && draft.past.length === 0 && draft.future.length === 0;
  const isStale = draft === undefined || (isUntouched && draft.baseVersion !== baseVersion);
  useEffect(() => {
    if (isStale) dispatch(boardActions.boardStarted({ key, board: fresh, baseVersion }));
  }, [dispatch, isStale, key, fresh, baseVersion]);

  const shown = carry?.over ? afterMove(present, carry.from, carry.over) : present;
  const point = useMemo(
    () => operatingPoint(machine, shown.placement, shown.setting),
    [machine, shown.placement, shown.setting],
  );

  const pickUp = useCallback((from: Place) => setCarry({ from, over: undefined }), []);
  const carryOver = useCallback(
    (over: Place | undefined) => setCarry((now) => now && { ...now, over }),
    [],
  );
  const letGo = useCallback(() => setCarry(undefined), []);
  const actions = useMemo(
    () => ({
      pickUp,
      carryOver,
      letGo,
      move: (from: Place, to: Place) => {
        setCarry(undefined);
        dispatch(boardActions.moduleMoved({ key, from, to }));
      },
      add: (placement: Placement, tray: readonly MemoryModule[]) =>
        dispatch(boardActions.modulesAdded({ key, placement, tray })),
      /** Puts a whole placement on the board; what lay in the tray stays there. */
      take: (placement: Placement) => dispatch(boardActions.placementTaken({ key, placement })),
      remove: (place: Place) => dispatch(boardActions.moduleRemoved({ key, place })),
      setSetting: (setting: Setting) => dispatch(boardActions.settingChosen({ key, setting })),
      undo: () => dispatch(boardActions.undone({ key })),
      redo: () => dispatch(boardActions.redone({ key })),
      /** Drops the draft; the board starts again from what is saved. */
      discard: () => dispatch(boardActions.boardLeft({ key })),
    }),
    [dispatch, key, pickUp, carryOver, letGo],
  );
  return {
    present,
    shown,
    point,
    carry,
    carried: carry && moduleAt(present, carry.from),
    isPreview: carry?.over !== undefined && shown !== present,
    isChanged: !saved || !isSame(present, saved),
    canUndo: (draft?.past.length ?? 0) > 0,
    canRedo: (draft?.future.length ?? 0) > 0,
    baseVersion: draft?.baseVersion ?? baseVersion,
    actions,
  };
}

export type PlacementBoard = ReturnType<typeof usePlacementBoard>;
