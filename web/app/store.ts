import { combineSlices, configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import boardsSlice from './boardsSlice.ts';
import type { BoardDraft } from './boardsSlice.ts';
import connectionSlice, { watchConnection } from './connectionSlice.ts';

const PREFIX = 'tembrix.board.';

/** Boards left in this browser; anything unreadable is dropped rather than stopping the app. */
function storedBoards(): Record<string, BoardDraft> {
  const keys = Object.keys(localStorage).filter((key) => key.startsWith(PREFIX));
  return Object.fromEntries(
    keys.flatMap((key) => {
      try {
        const draft = JSON.parse(localStorage.getItem(key) ?? 'null') as BoardDraft | null;
        return draft ? [[key.slice(PREFIX.length), draft]] : [];
      } catch {
        return [];
      }
    }),
  );
}

const reducer = combineSlices(api, boardsSlice, connectionSlice);

/** The one store. Boards are kept in the browser, so that closing a tab loses no work. */
export const store = configureStore({
  reducer,
  preloadedState: { boards: storedBoards() },
  middleware: (base) => base().concat(api.middleware, watchConnection),
});

// Only what changed is written, so that two tabs never wipe each other's boards.
let saved: Record<string, BoardDraft> = store.getState().boards;
store.subscribe(() => {
  const boards: Record<string, BoardDraft> = store.getState().boards;
  if (boards === saved) return;
  for (const key of new Set([...Object.keys(saved), ...Object.keys(boards)])) {
    const draft = boards[key];
    if (draft === saved[key]) continue;
    if (draft) localStorage.setItem(PREFIX + key, JSON.stringify(draft));
    else localStorage.removeItem(PREFIX + key);
  }
  saved = boards;
});

export type RootState = ReturnType<typeof reducer>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
