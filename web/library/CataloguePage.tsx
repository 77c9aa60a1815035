import { useDeferredValue, useMemo, useState } from 'react';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getPaginationRowModel,
  getSortedRowModel,
  useReactTable,
} from '@tanstack/react-table';
import type { SortingState } from '@tanstack/react-table';
import type { ModuleRecord } from '#contract/records';
import { ageText, count, gb, money } from '#core/explaining';
import { moduleSummary, profileSummary } from '#core/memory';
import { api } from '../app/api.ts';
import { useCurrency } from '../ui/useCurrency.ts';
import { Button } from '../ui/Button.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { CatalogueCsv } from './CatalogueCsv.tsx';
import { CatalogueFilters, NO_FILTER, passes } from './CatalogueFilters.tsx';
import { ModuleForm } from './ModuleForm.tsx';
import { useMay } from '../ui/useMay.ts';
import { Page } from '../ui/Page.tsx';

const column = createColumnHelper<ModuleRecord>();
const PAGE = 50;

/** Everything the shop knows and can get: filtered by what matters to fit, priced, in and out as CSV. */
export function CataloguePage() {
  const { data, error, refetch } = api.useModulesQuery('', { refetchOnMountOrArgChange: true });
  const machines = api.useMachinesQuery('');
  const currency = useCurrency();
  const [edited, setEdited] = useState<ModuleRecord>();
  const [filter, setFilter] = useState(NO_FILTER);
  const [sorting, setSorting] = useState<SortingState>([]);
  const asked = useDeferredValue(filter);
  const machine = machines.data?.find(({ id }) => id === asked.machineId);
  const rows = useMemo(
    () => (data ?? []).filter((one) => passes(one, asked, machine)),
    [data, asked, machine],
  );
  const columns = useMemo(
    () => [
      column.accessor(({ module }) => module.capacity, {
        id: 'size',
        header: 'Size',
        cell: ({ row, getValue }) => (
          <b className="whitespace-nowrap">
            {row.original.units > 1 && `${row.original.units} × `}
            {gb(getValue())}
          </b>
        ),
      }),
      column.accessor(({ module }) => moduleSummary(module), {
        id: 'runs',
        header: 'Runs at',
        cell: ({ row, getValue }) => (
          <span className="figure">
            {getValue()}
            {profileSummary(row.original.module) && (
              <span className="block text-aside">{profileSummary(row.original.module)}</span>
            )}
          </span>
        ),
      }),
      column.accessor(({ module }) => module.formFactor, { id: 'form', header: 'Form' }),
      column.accessor('label', {
        header: 'Label as typed',
        cell: ({ getValue }) => <span className="figure text-aside break-words">{getValue()}</span>,
      }),
      column.accessor('supplier', {
        header: 'Supplier',
        cell: ({ row }) => (
          <span className="text-aside">
            {row.original.supplier || '–'}
            {row.original.article && <span className="figure block">{row.original.article}</span>}
          </span>
        ),
      }),
      column.accessor(({ price }) => price ?? Infinity, {
        id: 'price',
        header: 'Price',
        cell: ({ row }) =>
          row.original.price === null ? (
            <span className="text-aside text-muted">not for sale</span>
          ) : (
            <span className="whitespace-nowrap">
              {money(row.original.price, currency)}
              <span className="block text-aside text-muted">
                {ageText(row.original.pricedAt, Date.now())}
              </span>
            </span>
          ),
      }),
      column.accessor(({ stock }) => stock ?? -1, {
        id: 'stock',
        header: 'Stock',
        cell: ({ row }) => row.original.stock ?? '?',
      }),
      column.display({
        id: 'actions',
        header: () => <span className="sr-only">Actions</span>,
        cell: ({ row }) => (
          <Button
            look="quiet"
            aria-label={`Correct ${row.original.label}`}
            onClick={() => {
              setEdited(row.original);
              window.scrollTo({ top: 0 });
            }}
          >
            correct
          </Button>
        ),
      }),
    ],
    [currency],
  );
  const mayChange = useMay('prices');
  const table = useReactTable({
    data: rows,
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getPaginationRowModel: getPaginationRowModel(),
    initialState: { pagination: { pageSize: PAGE } },
    getRowId: ({ id }) => id,
  });
  const { pageIndex } = table.getState().pagination;
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
        <div className="sheet p-0!">
          <CatalogueFilters
            filter={filter}
            modules={data}
            machines={machines.data ?? []}
            onChange={setFilter}
          />
          <div className="overflow-x-auto">
            <table className="w-full text-left tabular-nums">
              <caption className="sr-only">Modules of the catalogue</caption>
              <thead>
                {table.getHeaderGroups().map((group) => (
                  <tr key={group.id} className="border-b border-edge text-aside text-muted">
                    {group.headers.map((header) => {
                      const sorted = header.column.getIsSorted();
                      const name = flexRender(header.column.columnDef.header, header.getContext());
                      return (
                        <th
                          key={header.id}
                          scope="col"
                          className="px-3 py-1 font-normal"
                          aria-sort={
                            sorted ? (sorted === 'asc' ? 'ascending' : 'descending') : undefined
                          }
                        >
                          {header.column.getCanSort() ? (
                            <button
                              type="button"
                              className="min-h-8 text-left"
                              onClick={header.column.getToggleSortingHandler()}
                            >
                              {name}
                              {sorted && (sorted === 'asc' ? ' ▲' : ' ▼')}
                            </button>
                          ) : (
                            name
                          )}
                        </th>
                      );
                    })}
                  </tr>
                ))}
              </thead>
              <tbody>
                {table.getRowModel().rows.map((row) => (
                  <tr key={row.id} className="border-b border-line last:border-0">
                    {row.getVisibleCells().map((cell) => (
                      <td key={cell.id} className="px-3">
                        {flexRender(cell.column.columnDef.cell, cell.getContext())}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <p className="flex flex-wrap items-center gap-4 px-3 py-2 text-aside text-muted">
            {count(rows.length, 'entry')} of {data.length}
            {table.getPageCount() > 1 && (
              <>
                <Button disabled={!table.getCanPreviousPage()} onClick={() => table.previousPage()}>
                  Back
                </Button>
                page {pageIndex + 1} of {table.getPageCount()}
                <Button disabled={!table.getCanNextPage()} onClick={() => table.nextPage()}>
                  On
                </Button>
              </>
            )}
          </p>
        </div>
      )}
    </Page>
  );
}
