import { serverSeen } from '#web/app/connectionSlice.ts';
import { act, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test } from 'vitest';
import { aJob } from '../../test/support/aJob.ts';
import { show } from '../../test/support/screen.tsx';
import { api } from '../app/api.ts';
import { SaveNotice } from './SaveNotice.tsx';
import { useSave } from './useSave.ts';
import { useSaveSnapshot } from './useSaveSnapshot.ts';

const job = aJob();
const settled = () => act(() => new Promise((later) => setTimeout(later, 30)));

function Page({ ids }: { readonly ids: readonly string[] }) {
  const saving = useSaveSnapshot();
  const [refresh] = api.useLazyShopQuery();
  const found = job.snapshots[0];
  const saveAll = () => {
    for (const id of ids)
      void saving.save({
        id,
        kind: 'as-found',
        body: { placement: found?.placement ?? {}, setting: 'standard', version: 1 } as never,
      });
  };
  return (
    <>
      <button onClick={saveAll}>save all</button>
      <button onClick={() => void refresh()}>look again</button>
      <p>state: {saving.state.type}</p>
      <SaveNotice state={saving.state} />
    </>
  );
}

const answers = {
  readShop: () => ({ status: 500 }),
  saveSnapshot: ({ path, body }: { path: string; body: unknown }) => {
    const { version } = body as { version: number };
    const id = path.split('/')[2];
    const snapshots = job.snapshots.map((one) => ({ ...one, version: version + 1 }));
    return { ...job, id, snapshots };
  },
};

describe('several saves while the server is away', () => {
  test('all arrive when it is back, in order, and the page says how many are left', async () => {
    const { server, store } = show(<Page ids={['a', 'b', 'c']} />, answers);
    server.isAway = true;
    await userEvent.click(screen.getByText('save all'));
    await settled();
    expect(screen.getByRole('alert').textContent).toContain('3 saves are kept here');
    // Loaded again now they would be lost: the browser asks first.
    const isLeft = () => window.dispatchEvent(new Event('beforeunload', { cancelable: true }));
    expect(isLeft()).toBe(false);
    server.isAway = false;
    act(() => void store.dispatch(serverSeen({ online: true })));
    await settled();
    expect(
      server.asked.filter(({ route }) => route === 'saveSnapshot').map(({ path }) => path),
    ).toEqual(['a', 'b', 'c'].map((id) => `/jobs/${id}/snapshots/as-found`));
    expect(screen.getByText('state: done')).toBeDefined();
    expect(screen.queryByRole('alert')).toBeNull();
    expect(isLeft()).toBe(true);
  });

  test('of one configuration each carry the version of the one before', async () => {
    const { server } = show(<Page ids={['a', 'a']} />, answers);
    await userEvent.click(screen.getByText('save all'));
    await settled();
    const versions = server
      .sent('saveSnapshot')
      .map((body) => (body as { version: number }).version);
    expect(versions).toEqual([1, 2]);
  });
});

test('a problem is shown with its mend, and the page stays', async () => {
  const problem = {
    ...{ type: 'about:blank#state', title: 'Cannot be done yet', status: 409 },
    ...{ detail: 'The job is closed.', mend: 'Open it again.' },
  };
  show(<Page ids={['a']} />, { saveSnapshot: problem });
  await userEvent.click(screen.getByText('save all'));
  await settled();
  expect(screen.getByRole('alert').textContent).toContain('Open it again.');
});

test('a save goes on when its page is left while the server is away', async () => {
  const { server, store, reshow } = show(<Page ids={['a']} />, answers);
  server.isAway = true;
  await userEvent.click(screen.getByText('save all'));
  await settled();
  reshow(<p>another page</p>);
  server.isAway = false;
  act(() => void store.dispatch(serverSeen({ online: true })));
  await settled();
  expect(server.sent('saveSnapshot')).toHaveLength(1);
});

test('what a save is for is told once it is through', async () => {
  const seen: string[] = [];
  function Naming() {
    const [name] = api.useNameMakerMutation();
    const saving = useSave(name, (list) => seen.push(String(list.length)));
    return (
      <button onClick={() => void saving.save({ key: '1-2C', body: { name: 'Orrel' } })}>
        name
      </button>
    );
  }
  show(<Naming />, { nameMaker: [] });
  await userEvent.click(screen.getByText('name'));
  await settled();
  expect(seen).toEqual(['0']);
});
