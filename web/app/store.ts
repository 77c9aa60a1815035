import { combineSlices, configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import boardsSlice from './boardsSlice.ts';
import type { BoardDraft } from './boardsSlice.ts';
import connectionSlice, { watchConnection } from './connectionSlice.ts';

const KEY = 'tembrix.boards';

/** Boards left in this browser; anything unreadable is dropped rather than stopping the app. */
function storedBoards(): Record<string, BoardDraft> {
  try {
    return (
      (JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, BoardDraft> | null) ?? {}
    );
  } catch {
    return {};
  }
}

const reducer = combineSlices(api, boardsSlice, connectionSlice);

/** The one store. Boards are kept in the browser, so that closing a tab loses no work. */
export const store = configureStore({
  reducer,
  preloadedState: { boards: storedBoards() },
  middleware: (base) => base().concat(api.middleware, watchConnection),
});

let saved = store.getState().boards;
store.subscribe(() => {
  const { boards } = store.getState();
  if (boards === saved) return;
  saved = boards;
  localStorage.setItem(KEY, JSON.stringify(boards));
});

export type RootState = ReturnType<typeof reducer>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
