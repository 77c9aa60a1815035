import { useEffect, useRef, useState } from 'react';
import type { FormEvent } from 'react';
import { Link, useParams } from 'react-router';
import type { DrawerRecord } from '#contract/quotes';
import { amountHint, gb, money } from '#core/explaining';
import { moduleSummary, readLabel } from '#core/memory';
import { DRAWER_STATES } from '#core/planning';
import type { DrawerState } from '#core/planning';
import { readAmount } from '#core/quoting';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { Mark } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { useCurrency } from '../ui/useCurrency.ts';
import { useSave } from '../ui/useSave.ts';
import { LabelPhoto } from '../visuals/LabelPhoto.tsx';
import { photoHints } from '../visuals/photoHints.ts';
import { LabelReport } from '../visuals/LabelReport.tsx';
import { Page } from '../ui/Page.tsx';

const STATE_MARKS = { tested: 'ok', untested: 'caution', faulty: 'stop' } as const;

/** Used modules the shop keeps: pulled modules are stock. */
export function DrawerPage() {
  const { data, error, refetch } = api.useDrawerQuery(undefined, {
    refetchOnMountOrArgChange: true,
  });
  const currency = useCurrency();
  const { pieceId } = useParams();
  return (
    <Page title="Drawer">
      {pieceId !== undefined && data?.every(({ id }) => id !== pieceId) && (
        <Notice
          kind="caution"
          title="This module is not in the drawer any more"
          why="It was taken out, or fitted in a job."
          mend="Put it in again by its label, or look for its part number with Find."
        />
      )}
      <DrawerForm currency={currency} />
      {!data &&
        (error ? (
          <Failed failure={error} what="the drawer" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the drawer" />
        ))}
      {data?.length === 0 && (
        <Empty title="The drawer is empty.">
          Put pulled modules in by their label; plans then use them before anything is bought.
        </Empty>
      )}
      {data && data.length > 0 && (
        <div className="sheet overflow-x-auto p-0!">
          <table className="w-full text-left tabular-nums">
            <caption className="sr-only">Modules in the drawer</caption>
            <thead>
              <tr className="border-b border-edge text-aside text-muted">
                {['Size', 'Runs at', 'Label', 'From', 'State', 'Price', 'Held for', ''].map(
                  (head) => (
                    <th key={head} scope="col" className="px-3 py-2 font-normal">
                      {head || <span className="sr-only">Actions</span>}
                    </th>
                  ),
                )}
              </tr>
            </thead>
            <tbody>
              {data.map((record) => (
                <Row
                  key={record.id}
                  record={record}
                  currency={currency}
                  isFound={record.id === pieceId}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Page>
  );
}

interface RowProps {
  readonly record: DrawerRecord;
  readonly currency: string;
  /** Its tag was scanned. */
  readonly isFound: boolean;
}

function Row({ record, currency, isFound }: RowProps) {
  const row = useRef<HTMLTableRowElement>(null);
  useEffect(() => {
    if (isFound) row.current?.scrollIntoView({ block: 'center' });
  }, [isFound]);
  const { id, version, reservedFor, ...input } = record;
  const [change] = api.useChangeInDrawerMutation();
  const [take] = api.useTakeFromDrawerMutation();
  const changing = useSave(change);
  const taking = useSave(take);
  return (
    <>
      <tr
        ref={row}
        aria-current={isFound || undefined}
        className="h-12 border-b border-line last:border-0 aria-[current=true]:bg-teal-wash"
      >
        <td className="px-3 font-bold whitespace-nowrap">
          {gb(record.module.capacity)}
          {isFound && <span className="block text-aside font-normal">scanned</span>}
        </td>
        <td className="figure px-3">
          {moduleSummary(record.module)} {record.module.formFactor}
        </td>
        <td className="figure max-w-72 px-3 text-aside break-words">{record.label}</td>
        <td className="max-w-60 px-3 text-aside break-words">{record.origin || '–'}</td>
        <td className="px-3">
          <span className="flex items-center gap-1.5">
            <Mark kind={STATE_MARKS[record.state]} />
            <select
              aria-label={`State of ${record.label}, ${record.origin}`}
              className="input min-w-28"
              value={record.state}
              onChange={({ target }) =>
                void changing.save({
                  id,
                  body: {
                    ...input,
                    module: input.module,
                    state: target.value as DrawerState,
                    version,
                  },
                })
              }
            >
              {DRAWER_STATES.map((state) => (
                <option key={state}>{state}</option>
              ))}
            </select>
          </span>
        </td>
        <td className="px-3 whitespace-nowrap">{money(record.price, currency)}</td>
        <td className="px-3">
          {reservedFor ? (
            <Link className="link font-bold" to={`/jobs/${reservedFor.jobId}`}>
              job {String(reservedFor.number).padStart(4, '0')}
            </Link>
          ) : (
            <span className="text-muted">free</span>
          )}
        </td>
        <td className="px-3 whitespace-nowrap">
          <a
            className="link mr-4 inline-flex min-h-10 items-center"
            href={`/api/drawer/${id}/tag.pdf`}
            target="_blank"
            rel="noreferrer"
            aria-label={`Tag for ${record.label}, ${record.origin}`}
          >
            tag
          </a>
          <Button
            look="quiet"
            className="whitespace-nowrap"
            aria-label={`Take out ${record.label}, ${record.origin}`}
            onClick={() => void taking.save(id)}
          >
            take out
          </Button>
        </td>
      </tr>
      {(changing.state.type === 'failed' || taking.state.type === 'failed') && (
        <tr>
          <td colSpan={8} className="px-3 py-2">
            <SaveNotice state={changing.state} />
            <SaveNotice state={taking.state} />
          </td>
        </tr>
      )}
    </>
  );
}

function DrawerForm({ currency }: { readonly currency: string }) {
  const [label, setLabel] = useState('');
  const [origin, setOrigin] = useState('');
  const [state, setState] = useState<DrawerState>('untested');
  const [price, setPrice] = useState('');
  const [isAsked, setAsked] = useState(false);
  const { data: catalogue } = api.useModulesQuery('');
  const [add] = api.useAddToDrawerMutation();
  const adding = useSave(add, () => {
    setLabel('');
    setOrigin('');
    setPrice('');
    setAsked(false);
  });
  const reading = readLabel(label);
  const amount = readAmount(price, currency);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (!reading.module || amount === undefined) return;
    const module = reading.module as never;
    void adding.save({ label: label.trim(), module, origin, state, price: amount ?? 0 });
  };
  return (
    <form noValidate onSubmit={submit} className="sheet mb-4">
      <div className="grid items-start gap-3 sm:grid-cols-2 lg:grid-cols-[2fr_2fr_9rem_8rem_auto]">
        <div>
          <TextField
            label="Put a module in by its label"
            spellCheck={false}
            value={label}
            error={isAsked && !reading.module ? 'The label is incomplete; see below.' : undefined}
            onChange={({ target }) => setLabel(target.value)}
          />
          <LabelPhoto hints={photoHints(catalogue ?? [])} onLabel={setLabel} />
        </div>
        <TextField
          label="Where it came from"
          value={origin}
          maxLength={200}
          onChange={({ target }) => setOrigin(target.value)}
        />
        <SelectField
          label="State"
          value={state}
          options={DRAWER_STATES.map((one) => [one, one])}
          onChange={({ target }) => setState(target.value as DrawerState)}
        />
        <TextField
          label={`Price, ${currency}`}
          value={price}
          inputMode="decimal"
          error={isAsked && amount === undefined ? amountHint(currency) : undefined}
          onChange={({ target }) => setPrice(target.value)}
        />
        <div className="pt-6">
          <Button type="submit" look="main">
            Put it in
          </Button>
        </div>
      </div>
      {(label !== '' || isAsked) && (
        <div className="mt-2" aria-live="polite">
          <LabelReport reading={reading} />
        </div>
      )}
      <SaveNotice state={adding.state} />
    </form>
  );
}
