import { Outlet } from 'react-router';
import { Failed, Loading } from '../ui/States.tsx';
import { api } from './api.ts';

/**
 * Pages that show or take amounts, once the shop's currency is known: in another one 12,000 without
 * decimals would be read as a hundred times too much or too little.
 */
export function WithTerms() {
  const { data, error, refetch } = api.useShopQuery();
  if (data) return <Outlet />;
  return (
    <main className="p-5">
      {error ? (
        <Failed failure={error} what="the shop’s terms" onRetry={() => void refetch()} />
      ) : (
        <Loading what="the shop’s terms" />
      )}
    </main>
  );
}
