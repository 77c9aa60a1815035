import { useSyncExternalStore } from 'react';

const NARROW = '(max-width: 639px)';

const listen = (onChange: () => void) => {
  const media = window.matchMedia(NARROW);
  media.addEventListener('change', onChange);
  return () => media.removeEventListener('change', onChange);
};

/** Whether the screen is a phone's, where a table becomes cards. */
export function useNarrow(): boolean {
  return useSyncExternalStore(listen, () => window.matchMedia(NARROW).matches);
}
