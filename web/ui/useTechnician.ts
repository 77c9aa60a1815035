import { useCallback, useState } from 'react';

const KEY = 'tembrix.technician';

/** Who works at this browser, as they sign; kept here until someone else sits down. */
export function useTechnician(): [name: string, rename: (name: string) => void] {
  const [name, setName] = useState(() => localStorage.getItem(KEY) ?? '');
  const rename = useCallback((next: string) => {
    setName(next);
    localStorage.setItem(KEY, next.trim());
  }, []);
  return [name, rename];
}

/** What a record is signed with where nobody gave a name. */
export const signature = (name: string) => name.trim() || 'the bench';
