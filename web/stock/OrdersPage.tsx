import { useState } from 'react';
import { Link } from 'react-router';
import type { OrderLine } from '#contract/quotes';
import type { SupplierRecord } from '#contract/suppliers';
import { count, money } from '#core/explaining';
import { amountText } from '#core/quoting';
import { api } from '../app/api.ts';
import { stockApi } from '../app/stockApi.ts';
import { useCurrency } from '../ui/useCurrency.ts';
import { Button } from '../ui/Button.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { saveTable } from '../ui/table.ts';
import { useMay } from '../ui/useMay.ts';
import { Page } from '../ui/Page.tsx';
import { PlaceOrder } from './PlaceOrder.tsx';
import { PlacedOrders } from './PlacedOrders.tsx';

const jobNumber = ({ jobNumber: number }: OrderLine) => String(number).padStart(4, '0');

async function save(lines: readonly OrderLine[], currency: string, name: string): Promise<void> {
  const rows = lines.map((line) => [
    ...[line.supplier, line.article, line.text, line.packs, amountText(line.each, currency)],
    ...[amountText(line.packs * line.each, currency), line.leadDays ?? '', jobNumber(line)],
  ]);
  const head = ['supplier', 'article', 'what', 'packs', 'each', 'together', 'lead days', 'job'];
  await saveTable(name, [head, ...rows]);
}

/** What is to be ordered for every accepted quote, one list per supplier; and what is on its way. */
export function OrdersPage() {
  const { data, error, refetch } = api.useOrdersQuery(undefined, {
    refetchOnMountOrArgChange: true,
  });
  const { data: records } = stockApi.useSuppliersQuery();
  const currency = useCurrency();
  const suppliers = [...new Set((data ?? []).map(({ supplier }) => supplier))];
  return (
    <Page
      title="Orders"
      actions={
        data &&
        data.length > 0 && (
          <Button look="quiet" onClick={() => void save(data, currency, 'orders.csv')}>
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
          Parts of accepted quotes appear here until they are ordered or fitted.
        </Empty>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
        {suppliers.map((supplier) => (
          <ToOrder
            key={supplier}
            supplier={supplier}
            record={records?.find(({ name }) => name === supplier)}
            lines={(data ?? []).filter((line) => line.supplier === supplier)}
            currency={currency}
          />
        ))}
        <PlacedOrders currency={currency} />
      </div>
    </Page>
  );
}

interface ToOrderProps {
  readonly supplier: string;
  readonly record: SupplierRecord | undefined;
  readonly lines: readonly OrderLine[];
  readonly currency: string;
}

const keyOf = ({ quoteId, at }: OrderLine) => `${quoteId} ${at}`;

function ToOrder({ supplier, record, lines, currency }: ToOrderProps) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const mayOrder = useMay('prices');
  const name = supplier || 'No supplier named';
  const total = lines.reduce((sum, { packs, each }) => sum + packs * each, 0);
  const toggle = (key: string) => {
    const next = new Set(left);
    if (!next.delete(key)) next.add(key);
    setLeft(next);
  };
  return (
    <section className="sheet" aria-label={`To order from ${name}`}>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h2 className="font-bold">{name}</h2>
        <span className="text-aside text-muted">
          {count(lines.length, 'line')}, {money(total, currency)}
        </span>
        {record && record.contact !== '' && <span className="text-aside">{record.contact}</span>}
        <Button
          look="quiet"
          className="ml-auto text-aside"
          onClick={() => void save(lines, currency, `order-${supplier || 'other'}.csv`)}
        >
          save as CSV
        </Button>
      </div>
      <div className="overflow-x-auto">
        <table className="w-full text-left tabular-nums">
          <caption className="sr-only">To order from {name}</caption>
          <thead>
            <tr className="border-b border-edge text-aside text-muted">
              {['Order', 'Packs', 'What', 'Article', 'Each', 'Days', 'For'].map((head) => (
                <th key={head} scope="col" className="py-1 pr-4 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={keyOf(line)} className="border-b border-line last:border-0">
                <td className="pr-4">
                  <label className="flex size-10 items-center">
                    <input
                      type="checkbox"
                      className="size-5 accent-teal"
                      aria-label={`Order ${line.text} for job ${jobNumber(line)}`}
                      disabled={!mayOrder}
                      checked={!left.has(keyOf(line))}
                      onChange={() => toggle(keyOf(line))}
                    />
                  </label>
                </td>
                <td className="py-1.5 pr-4 font-bold">{line.packs}</td>
                <td className="py-1.5 pr-4 break-words">{line.text}</td>
                <td className="figure py-1.5 pr-4">{line.article || '–'}</td>
                <td className="py-1.5 pr-4 whitespace-nowrap">{money(line.each, currency)}</td>
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
      {mayOrder && (
        <PlaceOrder
          supplier={supplier}
          record={record}
          lines={lines.filter((line) => !left.has(keyOf(line)))}
        />
      )}
    </section>
  );
}
