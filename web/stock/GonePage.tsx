import { useDeferredValue, useState } from 'react';
import { Link } from 'react-router';
import type { GoneRecord } from '#contract/drawer';
import { gb, money, momentText } from '#core/explaining';
import { moduleSummary } from '#core/memory';
import { stockApi } from '../app/stockApi.ts';
import { Button } from '../ui/Button.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { useCurrency } from '../ui/useCurrency.ts';
import { useSave } from '../ui/useSave.ts';
import { Page } from '../ui/Page.tsx';

const HEADS = ['When', 'What', 'Label', 'How', 'Job', 'Price', ''];

/** Modules that left stock: where to, and back again where that was a slip. */
export function GonePage() {
  const [search, setSearch] = useState('');
  const { data, error, refetch, hasNextPage, fetchNextPage, isFetching } =
    stockApi.useGoneInfiniteQuery(
      { search: useDeferredValue(search) },
      { refetchOnMountOrArgChange: true },
    );
  const pieces = data?.pages.flatMap((page) => page.pieces) ?? [];
  return (
    <Page
      title="What left the drawer"
      actions={
        <>
          <input
            type="search"
            aria-label="Search what left"
            placeholder="Label, part, serial, where from"
            className="input max-w-80"
            value={search}
            onChange={({ target }) => setSearch(target.value)}
          />
        </>
      }
    >
      {!data ? (
        error ? (
          <Failed failure={error} what="what left" onRetry={() => void refetch()} />
        ) : (
          <Loading what="what left" />
        )
      ) : pieces.length === 0 ? (
        <Empty title={search === '' ? 'Nothing has left the drawer.' : 'No module is like that.'}>
          Modules that are fitted, sold, sent back or written off are kept here, with why.
        </Empty>
      ) : (
        <div className="sheet overflow-x-auto p-0!">
          <table className="stacks w-full text-left tabular-nums">
            <caption className="sr-only">Modules that left</caption>
            <TableHead heads={HEADS} />
            <tbody>
              {pieces.map((piece) => (
                <Row key={`${piece.id} ${piece.version}`} piece={piece} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {hasNextPage && (
        <Button
          className="mt-3"
          look="quiet"
          disabled={isFetching}
          onClick={() => void fetchNextPage()}
        >
          Show more
        </Button>
      )}
    </Page>
  );
}

function Row({ piece }: { readonly piece: GoneRecord }) {
  const currency = useCurrency();
  const [back] = stockApi.useTakeBackMutation();
  const taking = useSave(back);
  const { id, version, label, module, gone } = piece;
  return (
    <>
      <tr className="h-12 border-b border-line">
        <td data-head="When" className="px-3 whitespace-nowrap">
          {momentText(gone.at)}
        </td>
        <td data-head="What" className="px-3">
          <b>{gb(module.capacity)}</b> <span className="figure">{moduleSummary(module)}</span>
        </td>
        <td data-head="Label" className="figure max-w-72 px-3 text-aside break-words">
          {label}
        </td>
        <td data-head="How" className="max-w-60 px-3 break-words">
          {gone.how}
          {gone.note !== '' && <span className="text-muted">, {gone.note}</span>}
        </td>
        <td data-head="Job" className="px-3">
          {gone.job && (
            <Link className="link figure" to={`/jobs/${gone.job.jobId}`}>
              {String(gone.job.number).padStart(4, '0')}
            </Link>
          )}
        </td>
        <td data-head="Price" className="px-3 whitespace-nowrap">
          {money(piece.price, currency)}
        </td>
        <td className="px-3 whitespace-nowrap">
          <Button
            look="quiet"
            aria-label={`Take ${label} back`}
            onClick={() => void taking.save({ id, body: { version } })}
          >
            it is here
          </Button>
        </td>
      </tr>
      {taking.state.type === 'failed' && (
        <tr>
          <td colSpan={HEADS.length} className="px-3 py-2">
            <SaveNotice state={taking.state} />
          </td>
        </tr>
      )}
    </>
  );
}
