import { useDeferredValue, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import type { DrawerRecord, GoneRecord } from '#contract/drawer';
import { count, gb, money } from '#core/explaining';
import { moduleSummary } from '#core/memory';
import { DRAWER_STATES } from '#core/planning';
import type { ApiFailure } from '../app/api.ts';
import { stockApi } from '../app/stockApi.ts';
import { Button } from '../ui/Button.tsx';
import { Mark } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { useCurrency } from '../ui/useCurrency.ts';
import { useMay } from '../ui/useMay.ts';
import { useSave } from '../ui/useSave.ts';
import { Page } from '../ui/Page.tsx';
import { DrawerForm } from './DrawerForm.tsx';
import { LabelPrint } from './LabelPrint.tsx';
import { PieceSheet } from './PieceSheet.tsx';
import { placeName } from './PlaceField.tsx';

const STATE_MARKS = {
  tested: 'ok',
  untested: 'caution',
  suspect: 'caution',
  faulty: 'stop',
} as const;
const HEADS = ['Size', 'Module', 'Place', 'From', 'State', 'Price', 'Held for', ''];

/** Modules in stock, pulled and bought: found, valued, changed, held and let go of. */
export function DrawerPage() {
  const currency = useCurrency();
  const { pieceId } = useParams();
  const [gone, setGone] = useState<GoneRecord>();
  const mayPut = useMay('bench');
  return (
    <Page title="Drawer" actions={<Value currency={currency} />}>
      {gone && <JustGone gone={gone} onBack={() => setGone(undefined)} />}
      {pieceId !== undefined && <Scanned id={pieceId} currency={currency} onGone={setGone} />}
      {mayPut && <DrawerForm currency={currency} />}
      <StockList currency={currency} onGone={setGone} />
    </Page>
  );
}

function Value({ currency }: { readonly currency: string }) {
  const { data } = stockApi.useStockValueQuery();
  if (!data || data.pieces === 0) return null;
  const asides = [
    data.reserved > 0 && `${data.reserved} held for jobs`,
    data.unsound > 0 && `${data.unsound} suspect or faulty, worth nothing until tested`,
    data.withoutCost > 0 && `${data.withoutCost} without a known cost`,
    data.withoutPrice > 0 && `${data.withoutPrice} without a price`,
  ].filter((one) => one !== false);
  return (
    <p>
      <b>{count(data.pieces, 'module')}</b>, <b>{money(data.price, currency)}</b> at price,{' '}
      {money(data.cost, currency)} at cost
      {asides.length > 0 && (
        <span className="block text-aside text-muted">{asides.join(' · ')}</span>
      )}
    </p>
  );
}

function JustGone({ gone, onBack }: { readonly gone: GoneRecord; readonly onBack: () => void }) {
  const [back] = stockApi.useTakeBackMutation();
  const taking = useSave(back, onBack);
  return (
    <div className="mb-3" role="status">
      <Notice kind="ok" title={`${gone.label}: ${gone.gone.how}`}>
        <Button onClick={() => void taking.save({ id: gone.id, body: { version: gone.version } })}>
          Undo
        </Button>
      </Notice>
      <SaveNotice state={taking.state} />
    </div>
  );
}

interface ListProps {
  readonly currency: string;
  readonly onGone: (gone: GoneRecord) => void;
}

/** The module whose tag was scanned. */
function Scanned({ id, currency, onGone }: ListProps & { readonly id: string }) {
  const { data, error, refetch } = stockApi.usePieceQuery(id);
  const failure = error as ApiFailure | undefined;
  const isGone = failure?.type === 'problem' && failure.problem.status === 404;
  if (failure && !isGone)
    return (
      <div className="mb-3">
        <Failed failure={failure} what="the module scanned" onRetry={() => void refetch()} />
      </div>
    );
  if (isGone)
    return (
      <div className="mb-3">
        <Notice
          kind="caution"
          title="This module is not in the drawer any more"
          why="It was fitted, sold, or written off: “What left” says which."
          mend="If it lies before you, take it back there, or put it in again by its label."
        />
      </div>
    );
  if (!data) return null;
  return (
    <section className="sheet mb-4" aria-label="Scanned module">
      <h2 className="font-bold">
        {gb(data.module.capacity)} <span className="figure">{moduleSummary(data.module)}</span>,{' '}
        {placeName(data.place)}
      </h2>
      <p className="figure text-aside break-words">{data.label}</p>
      <PieceSheet piece={data} currency={currency} onGone={onGone} />
    </section>
  );
}

const STATES = ['free', 'reserved', ...DRAWER_STATES] as const;

function StockList({ currency, onGone }: ListProps) {
  const [query, setQuery] = useSearchParams();
  const asked = useDeferredValue({
    search: query.get('search') ?? '',
    place: query.get('place') ?? undefined,
    state: STATES.find((one) => one === query.get('state')),
  });
  const { data, error, refetch, hasNextPage, fetchNextPage, isFetching } =
    stockApi.useStockInfiniteQuery(asked, { refetchOnMountOrArgChange: true });
  const { data: value } = stockApi.useStockValueQuery();
  const ask = (name: string, to: string | undefined) => {
    const next = new URLSearchParams(query);
    if (to === undefined) next.delete(name);
    else next.set(name, to);
    setQuery(next, { replace: true });
  };
  const pieces = data?.pages.flatMap((page) => page.pieces) ?? [];
  const total = data?.pages[0]?.total ?? 0;
  const isAsked = query.size > 0;
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <input
          type="search"
          aria-label="Search the drawer"
          placeholder="Label, part, serial, where from"
          className="input max-w-80"
          value={query.get('search') ?? ''}
          onChange={({ target }) => ask('search', target.value || undefined)}
        />
        <select
          aria-label="Show the place"
          className="input w-auto!"
          value={query.get('place') ?? '*'}
          onChange={({ target }) => ask('place', target.value === '*' ? undefined : target.value)}
        >
          <option value="*">every place</option>
          {value?.places.map(({ place, pieces: number }) => (
            <option key={place} value={place}>
              {placeName(place)} ({number})
            </option>
          ))}
        </select>
        <select
          aria-label="Show the state"
          className="input w-auto!"
          value={query.get('state') ?? ''}
          onChange={({ target }) => ask('state', target.value || undefined)}
        >
          <option value="">every state</option>
          {STATES.map((state) => (
            <option key={state}>{state}</option>
          ))}
        </select>
        {pieces.length > 0 && <LabelPrint ids={pieces.map(({ id }) => id)} />}
      </div>
      {!data &&
        (error ? (
          <Failed failure={error} what="the drawer" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the drawer" />
        ))}
      {data && total === 0 && (
        <Empty title={isAsked ? 'No module is like that.' : 'The drawer is empty.'}>
          {isAsked
            ? 'Take a word or a filter away.'
            : 'Put pulled modules in by their label; plans then use them before anything is bought.'}
        </Empty>
      )}
      {pieces.length > 0 && (
        <div className="sheet overflow-x-auto p-0!">
          <table className="stacks w-full text-left tabular-nums">
            <caption className="sr-only">Modules in the drawer</caption>
            <TableHead heads={HEADS} />
            <tbody>
              {pieces.map((piece) => (
                <Row key={piece.id} piece={piece} currency={currency} onGone={onGone} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {hasNextPage && (
        <p className="mt-3">
          <span className="text-muted">
            {pieces.length} of {total} shown.
          </span>{' '}
          <Button look="quiet" disabled={isFetching} onClick={() => void fetchNextPage()}>
            Show more
          </Button>
        </p>
      )}
    </>
  );
}

interface RowProps extends ListProps {
  readonly piece: DrawerRecord;
}

function Row({ piece, currency, onGone }: RowProps) {
  const [isOpen, setOpen] = useState(false);
  const { id, label, module, origin, reservedFor, state } = piece;
  return (
    <>
      <tr className="h-12 border-b border-line">
        <td data-head="Size" className="px-3 font-bold whitespace-nowrap">
          {gb(module.capacity)}
        </td>
        <td data-head="Module" className="figure min-w-40 px-3 py-1 lg:min-w-56">
          {moduleSummary(module)} {module.formFactor}
          {piece.isNew && <span className="ml-2 font-bold">new</span>}
          <span className="block text-aside break-words text-muted">{label}</span>
        </td>
        <td data-head="Place" className="max-w-40 px-3 break-words">
          {placeName(piece.place)}
        </td>
        <td data-head="From" className="max-w-60 px-3 text-aside break-words">
          {piece.pulledIn ? (
            <Link className="link" to={`/jobs/${piece.pulledIn.jobId}`}>
              {origin || `job ${String(piece.pulledIn.number).padStart(4, '0')}`}
            </Link>
          ) : (
            [origin, piece.supplier].filter((text) => text !== '').join(', ') || '–'
          )}
        </td>
        <td data-head="State" className="px-3 whitespace-nowrap">
          <span className="flex items-center gap-1.5">
            <Mark kind={STATE_MARKS[state]} /> {state}
          </span>
        </td>
        <td data-head="Price" className="px-3 whitespace-nowrap">
          {piece.price > 0 ? (
            money(piece.price, currency)
          ) : (
            <span className="text-muted">none</span>
          )}
        </td>
        <td data-head="Held for" className="px-3 whitespace-nowrap">
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
            aria-label={`Tag for ${label}, ${origin}`}
          >
            tag
          </a>
          <Button
            look="quiet"
            aria-expanded={isOpen}
            aria-label={`Change ${label}, ${origin}`}
            onClick={() => setOpen(!isOpen)}
          >
            {isOpen ? 'close' : 'change'}
          </Button>
        </td>
      </tr>
      {isOpen && (
        <tr className="border-b border-line bg-teal-wash">
          <td colSpan={HEADS.length} className="px-3">
            <PieceSheet piece={piece} currency={currency} onGone={onGone} />
          </td>
        </tr>
      )}
    </>
  );
}
