import type { ReactNode } from 'react';
import type { Header, Row, Table } from '@tanstack/react-table';

interface SortedTableProps<T> {
  readonly table: Table<T>;
  readonly caption: string;
  /** The rows to show; all of the table's page where absent. */
  readonly rows?: readonly Row<T>[];
  /** The row looked at. */
  readonly chosenId?: string | undefined;
}

/** A table whose columns are sorted by a press on their heads. */
export function SortedTable<T>({ table, caption, rows, chosenId }: SortedTableProps<T>) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left tabular-nums">
        <caption className="sr-only">{caption}</caption>
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id} className="border-b border-edge text-aside text-muted">
              {group.headers.map((header) => (
                <Head key={header.id} header={header} />
              ))}
            </tr>
          ))}
        </thead>
        <tbody>
          {(rows ?? table.getRowModel().rows).map((row) => (
            <tr
              key={row.id}
              className={`border-b border-line last:border-0 ${row.id === chosenId ? 'bg-teal-wash' : ''}`}
            >
              {row.getVisibleCells().map((cell) => (
                <td key={cell.id} className="px-2 py-0.5">
                  {contentOf(cell.column.columnDef.cell, cell)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/**
 * What a column shows in a place. Asked for, and not taken for a component: columns made anew, as a search
 * or a simulation goes on, would have React put other elements in its place, and a press or the focus be lost.
 */
function contentOf<C>(content: unknown, place: { getContext: () => C }): ReactNode {
  return typeof content === 'function'
    ? (content as (context: C) => ReactNode)(place.getContext())
    : (content as ReactNode);
}

function Head<T>({ header }: { readonly header: Header<T, unknown> }) {
  const { column } = header;
  const sorted = column.getIsSorted();
  const name = contentOf(column.columnDef.header, header);
  return (
    <th
      scope="col"
      className="px-2 py-1 font-normal"
      aria-sort={sorted ? (sorted === 'asc' ? 'ascending' : 'descending') : undefined}
    >
      {column.getCanSort() ? (
        <button
          type="button"
          className="min-h-8 text-left"
          onClick={column.getToggleSortingHandler()}
        >
          {name}
          {sorted && (sorted === 'asc' ? ' ▲' : ' ▼')}
        </button>
      ) : (
        name
      )}
    </th>
  );
}
