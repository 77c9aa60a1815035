import { Link } from 'react-router';
import type { OrderLine } from '#contract/quotes';
import { count, money } from '#core/explaining';
import { amountText } from '#core/quoting';
import { api } from '../app/api.ts';
import { useCurrency } from '../ui/useCurrency.ts';
import { Button } from '../ui/Button.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { saveTable } from '../ui/table.ts';
import { Page } from '../ui/Page.tsx';

const jobNumber = ({ jobNumber: number }: OrderLine) => String(number).padStart(4, '0');

/** What is to be ordered for every accepted quote, one list per supplier. */
export function OrdersPage() {
  const { data, error, refetch } = api.useOrdersQuery(undefined, {
    refetchOnMountOrArgChange: true,
  });
  const currency = useCurrency();
  const suppliers = [...new Set((data ?? []).map(({ supplier }) => supplier))];
  const save = async (lines: readonly OrderLine[], name: string) => {
    const rows = lines.map((line) => [
      ...[line.supplier, line.article, line.text, line.packs, amountText(line.each, currency)],
      ...[amountText(line.packs * line.each, currency), line.leadDays ?? '', jobNumber(line)],
    ]);
    const head = ['supplier', 'article', 'what', 'packs', 'each', 'together', 'lead days', 'job'];
    await saveTable(name, [head, ...rows]);
  };
  return (
    <Page
      title="To order"
      actions={
        data &&
        data.length > 0 && (
          <Button look="quiet" onClick={() => void save(data, 'orders.csv')}>
            Save all as CSV
          </Button>
        )
      }
    >
      {!data &&
        (error ? (
          <Failed failure={error} what="the orders" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the orders" />
        ))}
      {data?.length === 0 && (
        <Empty title="Nothing is to be ordered.">
          Parts of accepted quotes appear here until they are fitted.
        </Empty>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
        {suppliers.map((supplier) => {
          const lines = (data ?? []).filter((line) => line.supplier === supplier);
          const total = lines.reduce((sum, { packs, each }) => sum + packs * each, 0);
          return (
            <section key={supplier} className="sheet">
              <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
                <h2 className="font-bold">{supplier || 'No supplier named'}</h2>
                <span className="text-aside text-muted">
                  {count(lines.length, 'line')}, {money(total, currency)}
                </span>
                <Button
                  look="quiet"
                  className="ml-auto text-aside"
                  onClick={() => void save(lines, `order-${supplier || 'other'}.csv`)}
                >
                  save as CSV
                </Button>
              </div>
              <div className="overflow-x-auto">
                <table className="w-full text-left tabular-nums">
                  <caption className="sr-only">
                    To order from {supplier || 'unnamed suppliers'}
                  </caption>
                  <thead>
                    <tr className="border-b border-edge text-aside text-muted">
                      {['Packs', 'What', 'Article', 'Each', 'Days', 'For'].map((head) => (
                        <th key={head} scope="col" className="py-1 pr-4 font-normal">
                          {head}
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody>
                    {lines.map((line, at) => (
                      <tr key={at} className="border-b border-line last:border-0">
                        <td className="py-1.5 pr-4 font-bold">{line.packs}</td>
                        <td className="py-1.5 pr-4 break-words">{line.text}</td>
                        <td className="figure py-1.5 pr-4">{line.article || '–'}</td>
                        <td className="py-1.5 pr-4 whitespace-nowrap">
                          {money(line.each, currency)}
                        </td>
                        <td className="py-1.5 pr-4">{line.leadDays ?? '?'}</td>
                        <td className="py-1.5 pr-4">
                          <Link className="link font-bold" to={`/jobs/${line.jobId}/quote`}>
                            {jobNumber(line)}
                          </Link>{' '}
                          <span className="text-aside text-muted">{line.customerName}</span>
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            </section>
          );
        })}
      </div>
    </Page>
  );
}
