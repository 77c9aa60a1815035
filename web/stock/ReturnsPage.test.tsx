// @vitest-environment happy-dom
import { screen, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { beforeEach, describe, expect, test } from 'vitest';
import type { ReturnRecord } from '#contract/bench';
import { labelled } from '../../test/support/builders.ts';
import { show } from '../../test/support/screen.tsx';
import { ReturnsPage } from './ReturnsPage.tsx';

const sentBack = (id: string, label: string, reason: string, jobNumber: number): ReturnRecord => ({
  ...{ id, reason, jobNumber, jobId: `j${id}`, slotId: 'a1', supplier: '', state: 'to send' },
  ...{ module: labelled(label), by: 'Ottoline', at: '2026-05-04T12:00:00.000Z' },
  version: 1,
});

const rows = () =>
  within(screen.getByRole('table'))
    .getAllByRole('row')
    .slice(1)
    .map((row) => row.querySelector('td')?.textContent);

describe('modules sent back', () => {
  beforeEach(async () => {
    show(<ReturnsPage />, {
      listReturns: [
        sentBack('1', '8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24', 'fails test 5', 12),
        sentBack('2', '16GB 2Rx8 PC4-2666V-SE1-11 QL-16S26', 'not seen in any slot', 31),
        sentBack('3', '8GB 1Rx8 PC4-2400T-SA1-11 TV-8S24', 'fails test 7', 40),
      ],
    });
    await screen.findByRole('table');
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
