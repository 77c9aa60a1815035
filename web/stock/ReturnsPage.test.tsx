import { screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { beforeEach, describe, expect, test } from 'vitest';
import type { ReturnRecord } from '#contract/bench';
import { labelled } from '../../test/support/builders.ts';
import { show } from '../../test/support/screen.tsx';
import { ReturnsPage } from './ReturnsPage.tsx';

const sentBack = (id: string, label: string, reason: string, jobNumber: number): ReturnRecord => ({
  ...{
    id,
    reason,
    jobNumber,
    jobId: `j${id}`,
    slotId: 'a1',
    supplier: '',
    serial: '',
    state: 'to send',
  },
  ...{ module: labelled(label), by: 'Ottoline', at: '2026-05-04T12:00:00.000Z' },
  version: 1,
});

const rows = () =>
  within(screen.getByRole('table'))
    .getAllByRole('row')
    .slice(1)
    .map((row) => row.querySelector('td')?.textContent);

describe('modules sent back', () => {
  let shown: ReturnType<typeof show>;
  beforeEach(async () => {
    shown = show(<ReturnsPage />, {
      changeReturn: [],
      listReturns: [
        sentBack('1', '8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24', 'fails test 5', 12),
        sentBack('2', '16GB 2Rx8 PC4-2666V-SE1-11 QL-16S26', 'not seen in any slot', 31),
        sentBack('3', '8GB 1Rx8 PC4-2400T-SA1-11 TV-8S24', 'fails test 7', 40),
      ],
    });
    await screen.findByRole('table');
  });

  test('take the serial number their supplier asks for', async () => {
    const [note] = screen.getAllByRole('button', { name: 'note its serial number' });
    await userEvent.click(note ?? document.body);
    await userEvent.type(screen.getByLabelText('Serial number'), '0921AB77F300');
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(shown.server.sent('changeReturn')).toHaveLength(1));
    expect(shown.server.sent('changeReturn')[0]).toEqual({
      ...{ state: 'to send', serial: '0921AB77F300', version: 1 },
    });
  });

  test.each([
    ['a label in full', '8GB 1Rx8 PC4-2400T-UA1-11', ['TV-8U24']],
    ['a label of a module nobody sent', '32GB 2Rx8 PC4-3200AA-UB1-11', undefined],
    ['part of a part number', 'tv-8', ['TV-8U24', 'TV-8S24']],
    ['words of the reason', 'not seen', ['QL-16S26']],
    ['the job', '0040', ['TV-8S24']],
    ['nothing', '', ['TV-8U24', 'QL-16S26', 'TV-8S24']],
  ])('are found by %s', async (_name, sought, parts) => {
    const field = screen.getByLabelText('Which module is it?');
    if (sought) await userEvent.type(field, sought);
    if (!parts) {
      expect(screen.getByText('None of the modules sent back is like this.')).toBeDefined();
      expect(screen.queryByRole('table')).toBeNull();
      return;
    }
    expect(rows()).toEqual(parts.map((part) => expect.stringContaining(part) as string));
  });
});
