import { useCallback, useEffect, useRef, useState } from 'react';
import type { ApiFailure } from '../app/api.ts';
import { selectOnline } from '../app/connectionSlice.ts';
import { useAppSelector } from '../app/store.ts';

/** Where a save stands. */
export type SaveState =
  | { readonly type: 'idle' }
  | { readonly type: 'saving' }
  | { readonly type: 'waiting' }
  | { readonly type: 'failed'; readonly failure: Extract<ApiFailure, { type: 'problem' }> }
  | { readonly type: 'done' };

type Trigger<Arg, Result> = (arg: Arg) => { unwrap: () => Promise<Result> };

/**
 * Runs a save and keeps it until it is through: while the server is away it waits and is sent
 * again when the server is back; a problem is kept to be shown, with what was sent.
 */
export function useSave<Arg, Result>(
  trigger: Trigger<Arg, Result>,
  onDone?: (result: Result) => void,
) {
  const [state, setState] = useState<SaveState>({ type: 'idle' });
  const last = useRef<Arg>(undefined);
  const done = useRef(onDone);
  useEffect(() => {
    done.current = onDone;
  });
  const save = useCallback(
    async (arg: Arg): Promise<void> => {
      last.current = arg;
      setState({ type: 'saving' });
      try {
        const result = await trigger(arg).unwrap();
        setState({ type: 'done' });
        done.current?.(result);
      } catch (error) {
        const failure = error as ApiFailure;
        setState(failure.type === 'problem' ? { type: 'failed', failure } : { type: 'waiting' });
      }
    },
    [trigger],
  );
  const online = useAppSelector(selectOnline);
  const isWaiting = state.type === 'waiting';
  useEffect(() => {
    if (online && isWaiting && last.current !== undefined) void save(last.current);
  }, [online, isWaiting, save]);
  const clear = useCallback(() => setState({ type: 'idle' }), []);
  return { save, state, clear };
}
