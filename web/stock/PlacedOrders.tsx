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
import { TableHead } from '../ui/TableHead.tsx';
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

/** What came of an order: as typed, line by line, and taking it in. */
function useComing({ order, currency }: ComingProps) {
  const { id, lines } = order;
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
  const packsOf = (line: PlacedLine) => {
    const text = came[line.id] ?? String(toCome(line));
    return /^\d{1,4}$/.test(text) ? Number(text) : NaN;
  };
  const costOf = (line: PlacedLine) => readAmount(costs[line.id] ?? '', currency);
  const open = lines.filter((line) => toCome(line) > 0);
  const typed = open.map((line) => ({
    line,
    packs: came[line.id] ?? String(toCome(line)),
    cost: costs[line.id] ?? '',
    packsFault: packsOf(line) <= toCome(line) ? undefined : `0 to ${toCome(line)}`,
    costFault: costOf(line) === undefined ? amountHint(currency) : undefined,
  }));
  const received = open.filter((line) => packsOf(line) > 0);
  return {
    ...{ typed, place, setPlace, receipt, receiving, cancelling },
    receivedCount: received.length,
    isRight: typed.every(({ packsFault, costFault }) => !packsFault && !costFault),
    setPacks: (line: PlacedLine, text: string) => setCame({ ...came, [line.id]: text }),
    setCost: (line: PlacedLine, text: string) => setCosts({ ...costs, [line.id]: text }),
    cancel: (line: PlacedLine) => void cancelling.save({ id, body: { lineIds: [line.id] } }),
    take: () =>
      void receiving.save({
        id,
        body: {
          place,
          lines: received.map((line) => {
            const cost = costOf(line);
            return { lineId: line.id, packs: packsOf(line), ...(cost == null ? {} : { cost }) };
          }),
        },
      }),
  };
}

type ComingState = ReturnType<typeof useComing>;

function Coming({ order, currency }: ComingProps) {
  const { number, supplier, reference, isSent, placedAt, by, expectedOn, lines } = order;
  const coming = useComing({ order, currency });
  const { receipt, receivedCount } = coming;
  const heads = ['Came, packs', 'of', 'What', 'Article', `Cost of a pack, ${currency}`, 'For', ''];
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
          <TableHead heads={heads} />
          <tbody>
            {lines.map((line) => (
              <ComingLine key={line.id} line={line} coming={coming} currency={currency} />
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <div className="w-56">
          <PlaceField label="Goes to" value={coming.place} onChange={coming.setPlace} />
        </div>
        <Button look="main" disabled={!coming.isRight || receivedCount === 0} onClick={coming.take}>
          Take {count(receivedCount, 'line')} in
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
      <SaveNotice state={coming.receiving.state} />
      <SaveNotice state={coming.cancelling.state} />
    </section>
  );
}

interface ComingLineProps {
  readonly line: PlacedLine;
  readonly coming: ComingState;
  readonly currency: string;
}

function ComingLine({ line, coming, currency }: ComingLineProps) {
  const mayCancel = useMay('prices');
  const { text, article, packs, received, job, isCancelled } = line;
  const typed = coming.typed.find((one) => one.line === line);
  return (
    <tr className="border-b border-line last:border-0">
      <td className="px-3 py-1">
        {typed ? (
          <>
            <input
              className="input w-16!"
              inputMode="numeric"
              aria-label={`Packs of ${text} that came`}
              aria-invalid={typed.packsFault !== undefined}
              value={typed.packs}
              onChange={({ target }) => coming.setPacks(line, target.value)}
            />
            {typed.packsFault && (
              <span className="block text-aside text-stop">✕ {typed.packsFault}</span>
            )}
          </>
        ) : isCancelled ? (
          'cancelled'
        ) : (
          'all here'
        )}
      </td>
      <td className="px-3 py-1 whitespace-nowrap">
        {packs}
        {received > 0 && typed && <span className="text-aside text-muted"> ({received} here)</span>}
      </td>
      <td className="px-3 py-1 break-words">{text}</td>
      <td className="figure px-3 py-1">{article || '–'}</td>
      <td className="px-3 py-1">
        {typed && (
          <input
            className="input w-28!"
            inputMode="decimal"
            aria-label={`Cost of a pack of ${text}, without tax`}
            aria-invalid={typed.costFault !== undefined}
            title={typed.costFault}
            placeholder={line.cost === null ? 'not known' : amountField(line.cost, currency)}
            value={typed.cost}
            onChange={({ target }) => coming.setCost(line, target.value)}
          />
        )}
      </td>
      <td className="px-3 py-1">
        {job && (
          <Link className="link figure" to={`/jobs/${job.jobId}`}>
            {String(job.number).padStart(4, '0')}
          </Link>
        )}
      </td>
      <td className="px-3 py-1">
        {typed && mayCancel && (
          <Button
            look="quiet"
            aria-label={`Cancel what has not come of ${text}`}
            onClick={() => coming.cancel(line)}
          >
            cancel
          </Button>
        )}
      </td>
    </tr>
  );
}
