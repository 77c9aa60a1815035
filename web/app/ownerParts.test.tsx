import { screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test, vi } from 'vitest';
import type { RestorePreview } from '#contract/backups';
import { show } from '../../test/support/screen.tsx';
import { CustomersPage } from '../access/CustomersPage.tsx';
import { LogoPart } from '../stock/LogoPart.tsx';
import { RestorePart } from '../stock/RestorePart.tsx';

const refused = (detail: string, mend: string) => ({
  ...{ type: 'about:blank#state', title: 'Cannot be done yet', status: 409, detail, mend },
});

describe('going back', () => {
  const kept = ['20260502', '20260501'].map((day) => ({
    ...{
      name: `tembrix-${day}-120000.tar.gz`,
      at: '2026-05-02T12:00:00Z',
      size: 10,
      isGiven: false,
    },
  }));
  const preview: RestorePreview = {
    ...{ name: kept[1]?.name ?? '', at: '2026-05-01T12:00:00Z' },
    tables: [{ name: 'jobs', here: 9, there: 8, lost: 1, back: 0, changed: 1 }],
    jobs: {
      named: [
        {
          ...{ id: 'j1', number: 7, customerName: 'Net loft' },
          ...{ changedAt: '2026-05-02T10:00:00Z', isLost: true },
        },
      ],
      more: 3,
    },
  };

  test('nothing is put back before it was seen what is lost', async () => {
    const { server } = show(<RestorePart newest={kept[0]?.name} />, {
      listBackups: kept,
      previewRestore: preview,
    });
    await screen.findByText('Go back to a backup');
    expect(screen.queryByRole('button', { name: 'Go back to it' })).toBeNull();
    await userEvent.selectOptions(screen.getByRole('combobox'), kept[1]?.name ?? '');
    await userEvent.click(screen.getByRole('button', { name: 'What would change?' }));
    const row = within(await screen.findByRole('row', { name: /^jobs/ }));
    expect(row.getAllByRole('cell').map((cell) => cell.textContent)).toEqual([
      'jobs',
      '1',
      '0',
      '1',
    ]);
    expect(screen.getByText(/4 jobs are newer here, 1 of these taken in since/)).toBeDefined();
    expect(screen.getByText('… and 3 more')).toBeDefined();
    expect(server.sent('previewRestore')).toEqual([{ name: kept[1]?.name }]);
    // Another one chosen: what was seen of the first says nothing of it.
    await userEvent.selectOptions(screen.getByRole('combobox'), kept[0]?.name ?? '');
    expect(screen.queryByRole('button', { name: 'Go back to it' })).toBeNull();
  });

  test('a backup that is damaged says so and leaves the page as it is', async () => {
    const damaged = refused('The archive is cut off.', 'Use another backup.');
    show(<RestorePart newest={kept[0]?.name} />, {
      ...{ listBackups: kept, previewRestore: preview, restoreBackup: damaged },
    });
    await userEvent.click(await screen.findByRole('button', { name: 'What would change?' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Go back to it' }));
    expect(await screen.findByText('The archive is cut off.')).toBeDefined();
    expect(screen.getByText(/Use another backup/)).toBeDefined();
  });

  test('the same as it is now is said to be the same', async () => {
    const same = { ...preview, tables: [], jobs: { named: [], more: 0 } };
    show(<RestorePart newest={kept[0]?.name} />, { listBackups: kept, previewRestore: same });
    await userEvent.click(await screen.findByRole('button', { name: 'What would change?' }));
    expect(await screen.findByText(/Nothing: all of it is as it was/)).toBeDefined();
    expect(screen.queryByRole('button', { name: 'Go back to it' })).toBeNull();
  });
});

describe('customers’ data', () => {
  const held = (more: object = {}) => ({
    ...{ id: 'c1', name: 'Net loft', contact: '12', isErased: false },
    ...{ jobs: 2, openJobs: 0, files: 5, ...more },
  });

  test('is erased only once the name is typed as it stands, and says what still holds it', async () => {
    const { server } = show(<CustomersPage />, {
      listHeldCustomers: [held()],
      eraseCustomer: { jobs: 2, files: 5, backups: ['tembrix-20260501-120000.tar.gz'] },
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Erase Net loft' }));
    const erase = screen.getByRole<HTMLButtonElement>('button', { name: 'Erase for good' });
    await userEvent.type(screen.getByLabelText('Their name, to be sure'), 'net loft');
    expect(erase.disabled).toBe(true);
    await userEvent.clear(screen.getByLabelText('Their name, to be sure'));
    await userEvent.type(screen.getByLabelText('Their name, to be sure'), 'Net loft');
    await userEvent.click(erase);
    await waitFor(() => expect(server.sent('eraseCustomer')).toEqual([{ name: 'Net loft' }]));
    expect(await screen.findByText(/tembrix-20260501-120000/)).toBeDefined();
  });

  test('with an open job is not erased, and says what comes first', async () => {
    show(<CustomersPage />, { listHeldCustomers: [held({ openJobs: 1 })] });
    await userEvent.click(await screen.findByRole('button', { name: 'Erase Net loft' }));
    await userEvent.type(screen.getByLabelText('Their name, to be sure'), 'Net loft');
    expect(screen.getByText(/Hand over 1 open job first/)).toBeDefined();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Erase for good' }).disabled).toBe(
      true,
    );
  });

  test('of somebody erased already offers neither', async () => {
    show(<CustomersPage />, {
      listHeldCustomers: [held({ name: 'Erased customer c1', isErased: true })],
    });
    await screen.findByText('Erased customer c1');
    expect(screen.queryByRole('button', { name: /^Erase/ })).toBeNull();
    expect(screen.queryByRole('link')).toBeNull();
  });
});

test('the sign of the shop is sent as it is; a refusal says what would be taken', async () => {
  const answer = vi.fn(() => refused('It cannot be printed.', 'Take a JPEG or PNG file.'));
  const { server } = show(<LogoPart hasLogo={false} />, { saveLogo: answer });
  const file = new File([new Uint8Array([1, 2, 3])], 'sign.png', { type: 'image/png' });
  await userEvent.upload(screen.getByLabelText('Choose a picture'), file);
  expect(await screen.findByText('It cannot be printed.')).toBeDefined();
  expect(server.sent('saveLogo')).toEqual([{ base64: 'AQID' }]);
  expect(screen.queryByAltText(/as it is printed/)).toBeNull();
});
