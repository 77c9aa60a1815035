import { useState } from 'react';
import { Link } from 'react-router';
import type { PlacedLine, PlacedOrder, Receipt } from '#contract/suppliers';
import { amountField, amountHint, count, momentText, shortDay } from '#core/explaining';
import { readAmount } from '#core/quoting';
import { stockApi } from '../app/stockApi.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed } from '../ui/States.tsx';
import { useMay } from '../ui/useMay.ts';
import { useSave } from '../ui/useSave.ts';
import { LabelPrint } from './LabelPrint.tsx';
import { PlaceField } from './PlaceField.tsx';

const toCome = ({ packs, received, isCancelled }: PlacedLine) =>
  isCancelled ? 0 : packs - received;

/** Orders on their way, with what came of them taken in; below, those that came lately. */
export function PlacedOrders({ currency }: { readonly currency: string }) {
  const { data, error, refetch } = stockApi.usePlacedOrdersQuery(undefined, {
    refetchOnMountOrArgChange: true,
  });
  if (error)
    return <Failed failure={error} what="the orders placed" onRetry={() => void refetch()} />;
  const isComing = ({ lines }: PlacedOrder) => lines.some((line) => toCome(line) > 0);
  const coming = data?.filter(isComing) ?? [];
  const here = data?.filter((order) => !isComing(order)) ?? [];
  return (
    <>
      {coming.length > 0 && <h2 className="mt-2 text-answer font-bold">On the way</h2>}
      {coming.map((order) => (
        <Coming key={order.id} order={order} currency={currency} />
      ))}
      {here.length > 0 && (
        <section className="sheet" aria-label="Orders that came">
          <h2 className="mb-1 font-bold">Came in the last 30 days</h2>
          <ul className="grid gap-1 text-aside">
            {here.map((order) => (
              <li key={order.id}>
                Order {order.number}, {order.supplier}, {momentText(order.placedAt)}:{' '}
                {order.lines
                  .map(({ received, text, isCancelled }) =>
                    isCancelled ? `${text} cancelled` : `${received} × ${text}`,
                  )
                  .join('; ')}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

interface ComingProps {
  readonly order: PlacedOrder;
  readonly currency: string;
}

function Coming({ order, currency }: ComingProps) {
  const { id, number, supplier, reference, isSent, placedAt, by, expectedOn, lines } = order;
  const [came, setCame] = useState<Readonly<Record<string, string>>>({});
  const [costs, setCosts] = useState<Readonly<Record<string, string>>>({});
  const [place, setPlace] = useState('');
  const [receipt, setReceipt] = useState<Receipt>();
  const [receive] = stockApi.useReceiveOrderMutation();
  const [cancel] = stockApi.useCancelOrderLinesMutation();
  const receiving = useSave(receive, (done) => {
    setReceipt(done);
    setCame({});
    setCosts({});
  });
  const cancelling = useSave(cancel);
  const mayCancel = useMay('prices');
  const open = lines.filter((line) => toCome(line) > 0);
  const packsOf = (line: PlacedLine) => {
    const text = came[line.id] ?? String(toCome(line));
    return /^\d{1,4}$/.test(text) ? Number(text) : NaN;
  };
  const costOf = (line: PlacedLine) => readAmount(costs[line.id] ?? '', currency);
  const fault = (line: PlacedLine) =>
    packsOf(line) <= toCome(line) ? undefined : `0 to ${toCome(line)}`;
  const isRight = open.every((line) => fault(line) === undefined && costOf(line) !== undefined);
  const received = open.filter((line) => packsOf(line) > 0);
  const take = () =>
    void receiving.save({
      id,
      body: {
        place,
        lines: received.map((line) => {
          const cost = costOf(line);
          return { lineId: line.id, packs: packsOf(line), ...(cost == null ? {} : { cost }) };
        }),
      },
    });
  return (
    <section className="sheet" aria-label={`Order ${number}`}>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
        <h3 className="font-bold">
          Order {number}, {supplier}
        </h3>
        <span className="text-aside text-muted">
          {isSent ? 'sent' : 'by hand'} {momentText(placedAt)} by {by}
          {reference !== '' && `, their number ${reference}`}
        </span>
        <span className="ml-auto text-aside">
          {expectedOn === null ? 'nobody said when it comes' : `expected ${shortDay(expectedOn)}`}
        </span>
      </div>
      <div className="overflow-x-auto">
        <table className="w-full text-left tabular-nums">
          <caption className="sr-only">Lines of order {number}</caption>
          <thead>
            <tr className="border-b border-edge text-aside text-muted">
              {[
                'Came, packs',
                'of',
                'What',
                'Article',
                `Cost of a pack, ${currency}`,
                'For',
                '',
              ].map((head) => (
                <th key={head} scope="col" className="py-1 pr-4 font-normal">
                  {head || <span className="sr-only">Cancel</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => {
              const left = toCome(line);
              const wrong = left > 0 ? fault(line) : undefined;
              return (
                <tr key={line.id} className="border-b border-line last:border-0">
                  <td className="py-1 pr-4">
                    {left > 0 ? (
                      <>
                        <input
                          className="input w-16!"
                          inputMode="numeric"
                          aria-label={`Packs of ${line.text} that came`}
                          aria-invalid={wrong !== undefined}
                          value={came[line.id] ?? String(left)}
                          onChange={({ target }) => setCame({ ...came, [line.id]: target.value })}
                        />
                        {wrong && <span className="block text-aside text-stop">✕ {wrong}</span>}
                      </>
                    ) : line.isCancelled ? (
                      'cancelled'
                    ) : (
                      'all here'
                    )}
                  </td>
                  <td className="py-1 pr-4 whitespace-nowrap">
                    {line.packs}
                    {line.received > 0 && left > 0 && (
                      <span className="text-aside text-muted"> ({line.received} here)</span>
                    )}
                  </td>
                  <td className="py-1 pr-4 break-words">{line.text}</td>
                  <td className="figure py-1 pr-4">{line.article || '–'}</td>
                  <td className="py-1 pr-4">
                    {left > 0 && (
                      <input
                        className="input w-28!"
                        inputMode="decimal"
                        aria-label={`Cost of a pack of ${line.text}, without tax`}
                        aria-invalid={costOf(line) === undefined}
                        title={costOf(line) === undefined ? amountHint(currency) : undefined}
                        placeholder={
                          line.cost === null ? 'not known' : amountField(line.cost, currency)
                        }
                        value={costs[line.id] ?? ''}
                        onChange={({ target }) => setCosts({ ...costs, [line.id]: target.value })}
                      />
                    )}
                  </td>
                  <td className="py-1 pr-4">
                    {line.job && (
                      <Link className="link figure" to={`/jobs/${line.job.jobId}`}>
                        {String(line.job.number).padStart(4, '0')}
                      </Link>
                    )}
                  </td>
                  <td className="py-1">
                    {left > 0 && mayCancel && (
                      <Button
                        look="quiet"
                        aria-label={`Cancel what has not come of ${line.text}`}
                        onClick={() => void cancelling.save({ id, body: { lineIds: [line.id] } })}
                      >
                        cancel
                      </Button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <div className="w-56">
          <PlaceField label="Goes to" value={place} onChange={setPlace} />
        </div>
        <Button look="main" disabled={!isRight || received.length === 0} onClick={take}>
          Take {count(received.length, 'line')} in
        </Button>
      </div>
      {receipt && (
        <div className="mt-3" role="status">
          <Notice
            kind="ok"
            title={`${count(receipt.pieces.length, 'module')} in stock`}
            why="Held for their jobs while those are open."
          >
            <LabelPrint ids={receipt.pieces} />
          </Notice>
        </div>
      )}
      <SaveNotice state={receiving.state} />
      <SaveNotice state={cancelling.state} />
    </section>
  );
}
