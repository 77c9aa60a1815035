import { createSlice } from '@reduxjs/toolkit';
import type { PayloadAction } from '@reduxjs/toolkit';
import type { Placement, Setting, SlotId } from '#core/machine';
import type { MemoryModule } from '#core/memory';

/** A placement being tried: what sits where, what lies in the tray, and the firmware setting. */
export interface Board {
  readonly placement: Placement;
  readonly tray: readonly MemoryModule[];
  readonly setting: Setting;
}

/** A place on a board: a slot, or a position in the tray. */
export type Place =
  | { readonly type: 'slot'; readonly slotId: SlotId }
  | { readonly type: 'tray'; readonly index: number };

/** A board with what can be undone and redone, and the saved version it started from. */
export interface BoardDraft {
  readonly present: Board;
  readonly past: readonly Board[];
  readonly future: readonly Board[];
  /** Version of the snapshot it would replace; 0 for none. */
  readonly baseVersion: number;
}

const HISTORY_LIMIT = 100;

/** The module at a place. */
export function moduleAt({ placement, tray }: Board, place: Place): MemoryModule | undefined {
  return place.type === 'slot' ? placement[place.slotId] : tray[place.index];
}

/** A board after a module went from one place to another; one already there changes places with it. */
export function afterMove(board: Board, from: Place, to: Place): Board {
  const moving = moduleAt(board, from);
  if (!moving || (from.type === 'slot' && to.type === 'slot' && from.slotId === to.slotId))
    return board;
  if (from.type === 'tray' && to.type === 'tray') return board;
  const displaced = to.type === 'slot' ? board.placement[to.slotId] : undefined;
  const placement: Partial<Record<SlotId, MemoryModule>> = { ...board.placement };
  const tray = [...board.tray];
  if (from.type === 'slot') delete placement[from.slotId];
  else tray.splice(from.index, 1);
  if (to.type === 'slot') placement[to.slotId] = moving;
  else tray.push(moving);
  if (displaced && from.type === 'slot') placement[from.slotId] = displaced;
  else if (displaced) tray.push(displaced);
  return { ...board, placement, tray };
}

function commit(draft: BoardDraft, present: Board): BoardDraft {
  if (present === draft.present) return draft;
  const past = [...draft.past, draft.present].slice(-HISTORY_LIMIT);
  return { ...draft, present, past, future: [] };
}

/** Immer's draft of so deep a type is beyond the compiler; these reducers replace, never mutate. */
const draftOf = (state: object, key: string): BoardDraft | undefined =>
  (state as Record<string, BoardDraft>)[key];

const boardsSlice = createSlice({
  name: 'boards',
  initialState: {},
  reducers: (create) => {
    type On<T> = PayloadAction<{ key: string } & T>;
    /** A change to the present board of a draft that exists. */
    const change = <T>(next: (board: Board, payload: T) => Board) =>
      create.reducer((state, action: On<T>) => {
        const { key } = action.payload;
        const draft = draftOf(state, key);
        return draft
          ? { ...state, [key]: commit(draft, next(draft.present, action.payload)) }
          : state;
      });
    return {
      boardStarted: create.reducer(
        (state, { payload }: On<{ board: Board; baseVersion: number }>) => ({
          ...state,
          [payload.key]: {
            present: payload.board,
            past: [],
            future: [],
            baseVersion: payload.baseVersion,
          },
        }),
      ),
      boardLeft: create.reducer((state, { payload }: On<object>) => {
        const { [payload.key]: _left, ...rest } = state as Record<string, BoardDraft>;
        return rest;
      }),
      moduleMoved: change<{ from: Place; to: Place }>((board, { from, to }) =>
        afterMove(board, from, to),
      ),
      modulesAdded: change<{ placement: Placement; tray: readonly MemoryModule[] }>(
        (board, added) => ({
          ...board,
          placement: { ...board.placement, ...added.placement },
          tray: [...board.tray, ...added.tray],
        }),
      ),
      placementTaken: change<{ placement: Placement }>((board, { placement }) => ({
        ...board,
        placement,
      })),
      moduleRemoved: change<{ place: Place }>((board, { place }) => {
        if (place.type === 'tray')
          return { ...board, tray: board.tray.filter((_, at) => at !== place.index) };
        const { [place.slotId]: _removed, ...placement } = board.placement;
        return { ...board, placement };
      }),
      settingChosen: change<{ setting: Setting }>((board, { setting }) => ({ ...board, setting })),
      undone: create.reducer((state, { payload }: On<object>) => {
        const draft = draftOf(state, payload.key);
        const last = draft?.past.at(-1);
        if (!draft || !last) return state;
        const future = [draft.present, ...draft.future];
        return {
          ...state,
          [payload.key]: { ...draft, present: last, past: draft.past.slice(0, -1), future },
        };
      }),
      redone: create.reducer((state, { payload }: On<object>) => {
        const draft = draftOf(state, payload.key);
        const [next, ...future] = draft?.future ?? [];
        if (!draft || !next) return state;
        return {
          ...state,
          [payload.key]: { ...draft, present: next, past: [...draft.past, draft.present], future },
        };
      }),
    };
  },
  selectors: { selectDraft: (state, key: string) => draftOf(state, key) },
});

export const boardActions = boardsSlice.actions;
export const { selectDraft } = boardsSlice.selectors;
export default boardsSlice;
