import { useDeferredValue, useMemo, useState } from 'react';
import {
  createColumnHelper,
  getCoreRowModel,
  getPaginationRowModel,
  getSortedRowModel,
  useReactTable,
} from '@tanstack/react-table';
import type { SortingState } from '@tanstack/react-table';
import type { ListedMachine, ModuleRecord } from '#contract/records';
import { ageText, count, gb, money } from '#core/explaining';
import { moduleSummary, profileSummary } from '#core/memory';
import { benchNow } from '../app/benchClock.ts';
import { Button } from '../ui/Button.tsx';
import { SortedTable } from '../ui/SortedTable.tsx';
import { CatalogueFilters, NO_FILTER, passes } from './CatalogueFilters.tsx';

const column = createColumnHelper<ModuleRecord>();
const PAGE = 50;

interface CatalogueTableProps {
  readonly modules: readonly ModuleRecord[];
  readonly machines: readonly ListedMachine[];
  readonly currency: string;
  /** Absent where nothing may be changed. */
  readonly onCorrect: ((module: ModuleRecord) => void) | undefined;
}

/** The catalogue, filtered by what matters to fit and sorted by any column. */
export function CatalogueTable({ modules, machines, currency, onCorrect }: CatalogueTableProps) {
  const [filter, setFilter] = useState(NO_FILTER);
  const [sorting, setSorting] = useState<SortingState>([]);
  const asked = useDeferredValue(filter);
  const machine = machines.find(({ id }) => id === asked.machineId);
  const rows = useMemo(
    () => modules.filter((one) => passes(one, asked, machine)),
    [modules, asked, machine],
  );
  const table = useReactTable({
    data: rows,
    columns: useColumns(currency, onCorrect),
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getPaginationRowModel: getPaginationRowModel(),
    initialState: { pagination: { pageSize: PAGE } },
    getRowId: ({ id }) => id,
  });
  return (
    <div className="sheet p-0!">
      <CatalogueFilters
        filter={filter}
        modules={modules}
        machines={machines}
        onChange={setFilter}
      />
      <SortedTable table={table} caption="Modules of the catalogue" />
      <p className="flex flex-wrap items-center gap-4 px-3 py-2 text-aside text-muted">
        {count(rows.length, 'entry')} of {modules.length}
        {table.getPageCount() > 1 && (
          <>
            <Button disabled={!table.getCanPreviousPage()} onClick={() => table.previousPage()}>
              Back
            </Button>
            page {table.getState().pagination.pageIndex + 1} of {table.getPageCount()}
            <Button disabled={!table.getCanNextPage()} onClick={() => table.nextPage()}>
              On
            </Button>
          </>
        )}
      </p>
    </div>
  );
}

/** What the catalogue tells of a module. */
function useColumns(currency: string, onCorrect: CatalogueTableProps['onCorrect']) {
  return useMemo(
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
                {ageText(row.original.pricedAt, benchNow())}
              </span>
            </span>
          ),
      }),
      column.accessor(({ stock }) => stock ?? -1, {
        id: 'stock',
        header: 'Stock',
        cell: ({ row }) => row.original.stock ?? '?',
      }),
      ...(onCorrect
        ? [
            column.display({
              id: 'actions',
              header: () => <span className="sr-only">Actions</span>,
              cell: ({ row }) => (
                <Button
                  look="quiet"
                  aria-label={`Correct ${row.original.label}`}
                  onClick={() => onCorrect(row.original)}
                >
                  correct
                </Button>
              ),
            }),
          ]
        : []),
    ],
    [currency, onCorrect],
  );
}
