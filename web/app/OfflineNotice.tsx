import { useEffect } from 'react';
import { api } from './api.ts';
import { selectOnline } from './connectionSlice.ts';
import { useAppSelector } from './store.ts';

const RETRY_MS = 2000;

/** Says that the bench is away, and looks whether it is back. */
export function OfflineNotice() {
  const online = useAppSelector(selectOnline);
  const [ask] = api.useLazyHealthQuery();
  useEffect(() => {
    if (online) return;
    const timer = setInterval(() => void ask(), RETRY_MS);
    return () => clearInterval(timer);
  }, [online, ask]);
  if (online) return null;
  return (
    <p role="status" className="no-print bg-caution-wash px-5 py-2 font-bold text-caution">
      The server does not answer. What you enter is kept in this browser and saved when it is back.
    </p>
  );
}
