import { useState } from 'react';
import { createColumnHelper, getCoreRowModel, useReactTable } from '@tanstack/react-table';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, test } from 'vitest';
import { SortedTable } from './SortedTable.tsx';

interface Plan {
  readonly name: string;
}

const column = createColumnHelper<Plan>();
const PLANS: readonly Plan[] = [{ name: 'One like it' }, { name: 'A fresh pair' }];

/** A table of what goes on being reckoned: what its columns show changes with every step. */
function Reckoned({ share }: { readonly share: number }) {
  const [looked, setLooked] = useState('');
  const table = useReactTable({
    data: [...PLANS],
    columns: [
      column.accessor('name', {
        header: () => <span>Plan, {share} %</span>,
        // oxlint-disable-next-line react/no-unstable-nested-components -- made anew is what it is about
        cell: ({ row }) => (
          <button type="button" onClick={() => setLooked(row.original.name)}>
            {row.original.name} at {share} %
          </button>
        ),
      }),
    ],
    getCoreRowModel: getCoreRowModel(),
    getRowId: ({ name }) => name,
  });
  return <SortedTable table={table} caption="Plans" chosenId={looked} />;
}

test('what a table shows is told anew in place: a press and the focus outlast it', async () => {
  const user = userEvent.setup();
  const { rerender } = render(<Reckoned share={10} />);
  const button = screen.getByRole('button', { name: 'A fresh pair at 10 %' });
  const head = screen.getByText('Plan, 10 %');
  button.focus();
  // A finger goes down on it, the next step is reckoned, the finger comes up.
  await user.pointer({ keys: '[MouseLeft>]', target: button });
  rerender(<Reckoned share={20} />);
  expect(screen.getByRole('button', { name: 'A fresh pair at 20 %' })).toBe(button);
  expect(screen.getByText('Plan, 20 %')).toBe(head);
  expect(document.activeElement).toBe(button);
  await user.pointer({ keys: '[/MouseLeft]', target: button });
  expect(screen.getByRole('row', { name: /A fresh pair/ }).className).toContain('bg-teal-wash');
});
