import { useCallback, useEffect, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { selectReachable } from '../app/connectionSlice.ts';
import type { RootState } from '../app/store.ts';
import { onItsWay } from './onItsWay.ts';
import { SaveQueue, renewed, versionOfRow } from './saveQueue.ts';
import type { SaveState } from './saveQueue.ts';

export type { SaveState } from './saveQueue.ts';

type Trigger<Arg, Result> = (arg: Arg) => { unwrap: () => Promise<Result> };

/**
 * Runs saves and keeps each until it is through: while the server is away they wait, in order, and are
 * sent again when it is back; a problem is kept to be shown, with what was sent.
 *
 * @param versionIn - the row's version by the answer, where that is not the row itself
 */
export function useSave<Arg, Result>(
  trigger: Trigger<Arg, Result>,
  onDone?: (result: Result) => void,
  versionIn: (result: Result, sent: Arg) => number | undefined = versionOfRow,
) {
  const [state, setState] = useState<SaveState>({ type: 'idle' });
  const store = useStore<RootState>();
  const current = useRef({ trigger, onDone, versionIn });
  useEffect(() => {
    current.current = { trigger, onDone, versionIn };
  });
  const [queue] = useState(
    () =>
      new SaveQueue<Arg, Result>({
        send: (arg) => current.current.trigger(arg).unwrap(),
        renew: (later, sent, result) => renewed(later, sent, result, current.current.versionIn),
        onState: setState,
        onDone: (result) => current.current.onDone?.(result),
        whenOnline: () =>
          new Promise((settle) => {
            const check = () => {
              if (!selectReachable(store.getState())) return false;
              settle();
              return true;
            };
            if (check()) return;
            const stop = store.subscribe(() => {
              if (check()) stop();
            });
          }),
      }),
  );
  /** Settles when this save is through, as true, or refused, as false. */
  const save = useCallback((arg: Arg): Promise<boolean> => onItsWay(queue.add(arg)), [queue]);
  const clear = useCallback(() => setState({ type: 'idle' }), []);
  return { save, state, clear };
}
