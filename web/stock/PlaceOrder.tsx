import { nanoid } from '@reduxjs/toolkit';
import { useState } from 'react';
import type { OrderLine } from '#contract/quotes';
import type { PlacedAnswer, SupplierRecord } from '#contract/suppliers';
import { ageText, count } from '#core/explaining';
import { benchNow } from '../app/benchClock.ts';
import { stockApi } from '../app/stockApi.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';

interface PlaceOrderProps {
  readonly supplier: string;
  /** Its record; absent for parts no supplier is named for. */
  readonly record: SupplierRecord | undefined;
  readonly lines: readonly OrderLine[];
}

/** Orders the chosen lines of one supplier: by its service, or noted as ordered by hand. */
export function PlaceOrder({ supplier, record, lines }: PlaceOrderProps) {
  const [reference, setReference] = useState('');
  const [refused, setRefused] = useState<PlacedAnswer['refused']>([]);
  // One order until it is placed: pressed again after a failure, it is still the same.
  const [orderId, setOrderId] = useState(() => nanoid(16));
  const [place] = stockApi.usePlaceOrderMutation();
  const placing = useSave(place, (answer) => {
    setOrderId(nanoid(16));
    setReference('');
    setRefused(answer.refused);
  });
  const send = (isSent: boolean) =>
    void placing.save({
      ...{ id: orderId, supplier, reference, send: isSent },
      lines: lines.map(({ quoteId, at }) => ({ quoteId, at })),
    });
  const isBusy = placing.state.type === 'saving';
  return (
    <div className="mt-3 grid gap-2">
      {record && record.serviceUrl !== '' && <AskService record={record} />}
      <div className="flex flex-wrap items-end gap-3">
        {record && record.serviceUrl !== '' && (
          <Button look="main" disabled={lines.length === 0 || isBusy} onClick={() => send(true)}>
            {isBusy ? 'Being ordered …' : `Order ${count(lines.length, 'line')} there`}
          </Button>
        )}
        <div className="w-44">
          <TextField
            label="Their number of it"
            hint="if you have one"
            maxLength={60}
            value={reference}
            onChange={({ target }) => setReference(target.value)}
          />
        </div>
        <div className="pb-6">
          <Button disabled={lines.length === 0 || isBusy} onClick={() => send(false)}>
            Ordered by hand
          </Button>
        </div>
      </div>
      {refused.length > 0 && (
        <Notice
          alert
          kind="stop"
          title={`${supplier} did not take ${count(refused.length, 'article')}`}
          why={refused.map(({ article, why }) => `${article}: ${why}`).join('; ')}
          mend="Quote another part, or order it elsewhere. All else is ordered."
        />
      )}
      <SaveNotice state={placing.state} />
    </div>
  );
}

/** How old its prices are, and fresh ones at a press. */
export function AskService({ record }: { readonly record: SupplierRecord }) {
  const [ask, asked] = stockApi.useAskSupplierMutation();
  return (
    <div>
      <p className="flex flex-wrap items-center gap-x-3 text-aside">
        <span className="text-muted">
          {record.pricedAt === null
            ? 'Prices never asked'
            : `Prices ${ageText(record.pricedAt, benchNow())}`}
        </span>
        <Button look="quiet" disabled={asked.isLoading} onClick={() => void ask(record.id)}>
          {asked.isLoading ? 'Asking …' : 'Ask now'}
        </Button>
        {asked.data && !asked.isLoading && (
          <span role="status">
            {asked.data.answered} of {asked.data.asked} articles answered, {asked.data.changed}{' '}
            changed, {asked.data.soldOut} sold out
            {asked.data.tries > 1 && ` – at the ${asked.data.tries === 2 ? 'second' : 'third'} try`}
          </span>
        )}
      </p>
      {asked.error && !asked.isLoading && (
        <Failed failure={asked.error} what="its prices" onRetry={() => void ask(record.id)} />
      )}
    </div>
  );
}
