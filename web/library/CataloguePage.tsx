import { useCallback, useState } from 'react';
import type { ModuleRecord } from '#contract/records';
import { api } from '../app/api.ts';
import { useCurrency } from '../ui/useCurrency.ts';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { CatalogueCsv } from './CatalogueCsv.tsx';
import { CatalogueTable } from './CatalogueTable.tsx';
import { ModuleForm } from './ModuleForm.tsx';
import { useMay } from '../ui/useMay.ts';
import { Page } from '../ui/Page.tsx';

/** Everything the shop knows and can get: filtered by what matters to fit, priced, in and out as CSV. */
export function CataloguePage() {
  const { data, error, refetch } = api.useModulesQuery('', { refetchOnMountOrArgChange: true });
  const machines = api.useMachinesQuery('');
  const currency = useCurrency();
  const mayChange = useMay('prices');
  const [edited, setEdited] = useState<ModuleRecord>();
  const correct = useCallback((one: ModuleRecord) => {
    setEdited(one);
    window.scrollTo({ top: 0 });
  }, []);
  return (
    <Page
      title="Modules"
      actions={mayChange && <CatalogueCsv currency={currency} modules={data ?? []} />}
    >
      {mayChange && (
        <ModuleForm
          key={edited?.id ?? 'new'}
          edited={edited}
          currency={currency}
          machines={machines.data ?? []}
          onDone={() => setEdited(undefined)}
        />
      )}
      {!data &&
        (error ? (
          <Failed failure={error} what="the modules" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the modules" />
        ))}
      {data?.length === 0 && (
        <Empty title="The catalogue is empty.">
          Type a label above, or import a supplier’s list as CSV; plans are made of what stands
          here.
        </Empty>
      )}
      {data && data.length > 0 && (
        <CatalogueTable
          modules={data}
          machines={machines.data ?? []}
          currency={currency}
          onCorrect={mayChange ? correct : undefined}
        />
      )}
    </Page>
  );
}
