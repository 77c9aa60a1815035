import { useLayoutEffect, useSyncExternalStore } from 'react';

let pages = 0;
const heard = new Set<() => void>();
const tell = (by: number) => {
  pages += by;
  for (const one of heard) one();
};
const listen = (one: () => void) => {
  heard.add(one);
  return () => void heard.delete(one);
};

/** Gives the page that asks the whole screen while it is shown: the bar is gone, not only covered. */
export function useWholeScreen(): void {
  useLayoutEffect(() => {
    tell(1);
    return () => tell(-1);
  }, []);
}

/** Whether a page has the whole screen. */
export const useIsWholeScreen = (): boolean => useSyncExternalStore(listen, () => pages > 0);
