import { createSlice, isFulfilled, isRejectedWithValue } from '@reduxjs/toolkit';
import type { Middleware } from '@reduxjs/toolkit';
import type { ApiFailure } from './api.ts';

/** Whether the server answered the last request. */
const connectionSlice = createSlice({
  name: 'connection',
  initialState: { online: true },
  reducers: {
    serverLost: (state) => {
      state.online = false;
    },
    serverFound: (state) => {
      state.online = true;
    },
  },
  selectors: { selectOnline: (state) => state.online },
});

const { serverFound, serverLost } = connectionSlice.actions;
export const { selectOnline } = connectionSlice.selectors;

/** Notes from every request's outcome whether the server is there. */
export const watchConnection: Middleware = (store) => (next) => (action) => {
  const { online } = (store.getState() as { connection: { online: boolean } }).connection;
  if (isRejectedWithValue(action)) {
    const isOffline = (action.payload as ApiFailure).type === 'offline';
    if (isOffline === online) store.dispatch(isOffline ? serverLost() : serverFound());
  } else if (
    isFulfilled(action) &&
    !online &&
    !(action.meta as { condition?: boolean }).condition
  ) {
    store.dispatch(serverFound());
  }
  return next(action);
};

export default connectionSlice;
