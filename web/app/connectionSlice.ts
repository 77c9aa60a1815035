import { createSlice, isFulfilled, isRejectedWithValue } from '@reduxjs/toolkit';
import type { Middleware, PayloadAction } from '@reduxjs/toolkit';
import type { ApiFailure } from './api.ts';

/** Whether the server answered the last request, and whether somebody is signed in. */
const connectionSlice = createSlice({
  name: 'connection',
  initialState: { online: true, isIn: true },
  reducers: {
    serverSeen: (state, { payload }: PayloadAction<Partial<typeof state>>) => ({
      ...state,
      ...payload,
    }),
  },
  selectors: {
    selectOnline: ({ online }) => online,
    selectIsIn: ({ isIn }) => isIn,
    /** Saves may go out. */
    selectReachable: ({ online, isIn }) => online && isIn,
  },
});

export const { serverSeen } = connectionSlice.actions;
export const { selectOnline, selectIsIn, selectReachable } = connectionSlice.selectors;

/** Notes from every request's outcome whether the server is there, and lets one in. */
export const watchConnection: Middleware = (store) => (next) => (action) => {
  const { online, isIn } = (store.getState() as { connection: { online: boolean; isIn: boolean } })
    .connection;
  if (isRejectedWithValue(action)) {
    const { type } = action.payload as ApiFailure;
    if ((type === 'offline') === online) store.dispatch(serverSeen({ online: !online }));
    if (type === 'signed out' && isIn) store.dispatch(serverSeen({ isIn: false }));
  } else if (
    isFulfilled(action) &&
    !online &&
    !(action.meta as { condition?: boolean }).condition
  ) {
    store.dispatch(serverSeen({ online: true }));
  }
  return next(action);
};

export default connectionSlice;
