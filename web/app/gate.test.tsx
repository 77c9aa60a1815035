import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, describe, expect, test } from 'vitest';
import type { Session } from '#contract/access';
import { money } from '#core/explaining';
import { DEFAULT_WRITING, writeAs, writing } from '#core/units';
import { api } from '#web/app/api.ts';
import { Gate } from '#web/app/Gate.tsx';
import { startWriting } from '#web/app/shopWriting.ts';
import { useSave } from '#web/ui/useSave.ts';
import { show } from '../../test/support/screen.tsx';

const OTTOLINE = { id: 'o', name: 'Ottoline V.', role: 'owner' } as const;
const BRAM = { id: 'b', name: 'Bram Oddmund', role: 'technician' } as const;
const session = (more: Partial<Session>): Session => ({
  ...{ state: 'signed in', person: OTTOLINE, jobId: null, hasPin: true, holdAfter: 10 },
  ...{ onDevice: [OTTOLINE, BRAM].map(({ id, name }) => ({ id, name })), signsInByItself: false },
  writing: DEFAULT_WRITING,
  ...more,
});
const problem = (status: number, type: string, detail = 'said') => ({
  ...{ type: `about:blank#${type}`, title: 'Refused', status, detail, mend: 'do this' },
});

afterEach(() => writeAs(DEFAULT_WRITING));

/** A page with something typed and a save. */
function Work() {
  const [text, setText] = useState('');
  const [name] = api.useNameMakerMutation();
  const saving = useSave(name);
  return (
    <>
      <input aria-label="typed" value={text} onChange={({ target }) => setText(target.value)} />
      <button onClick={() => void saving.save({ key: '1-01', body: { name: text } })}>save</button>
      <p>state {saving.state.type}</p>
    </>
  );
}
const work = (
  <Gate>
    <Work />
  </Gate>
);

describe('the door', () => {
  test('nobody in: the page behind it is not there at all', async () => {
    show(work, { readSession: session({ state: 'signed out', person: null, onDevice: [] }) });
    await screen.findByRole('heading', { name: 'Sign in' });
    expect(screen.queryByLabelText('typed')).toBeNull();
  });

  test('a shop that writes otherwise has its pages written again, and is remembered here', async () => {
    function Written() {
      return <p>{money(123_450, 'EUR')}</p>;
    }
    const written = (
      <Gate>
        <Written />
      </Gate>
    );
    show(written, {
      readSession: session({ writing: { dates: 'year first', numbers: 'comma' } }),
    });
    await screen.findByText('€1.234,50');
    writeAs(DEFAULT_WRITING);
    startWriting();
    expect(writing()).toEqual({ dates: 'year first', numbers: 'comma' });
    // What another version or a hand left there is not taken.
    writeAs(DEFAULT_WRITING);
    for (const left of ['', 'year first', 'year last|comma', '|', 'year first|roman']) {
      localStorage.setItem('tembrix.writing', left);
      startWriting();
      expect(writing()).toEqual(DEFAULT_WRITING);
    }
  });

  test('held while a save is out: what was typed is out of sight, and goes out once they are back', async () => {
    const { server } = show(work, { readSession: session({}) });
    const field = await screen.findByLabelText('typed');
    fireEvent.change(field, { target: { value: 'Quay & Co' } });
    server.answers = {
      nameMaker: problem(401, 'held'),
      readSession: session({ state: 'held' }),
      takeOver: problem(403, 'wrong-pin', '4 more tries'),
    };
    fireEvent.click(screen.getByText('save'));
    await screen.findByRole('heading', { name: 'Held for Ottoline V.' });
    expect(field.closest('[hidden]')).not.toBeNull();
    fireEvent.change(screen.getByLabelText('PIN'), { target: { value: '0000' } });
    fireEvent.click(screen.getByText('Take over'));
    await screen.findByText('4 more tries');
    server.answers = { nameMaker: [], readSession: session({}), takeOver: session({}) };
    fireEvent.change(screen.getByLabelText('PIN'), { target: { value: '4711' } });
    fireEvent.click(screen.getByText('Take over'));
    await screen.findByText('state done');
    expect(screen.getByLabelText<HTMLInputElement>('typed').value).toBe('Quay & Co');
    const sent = server.sent('nameMaker').map((body) => JSON.stringify(body));
    expect(sent.length).toBeGreaterThan(1);
    expect(new Set(sent)).toEqual(new Set(['{"name":"Quay & Co"}']));
    expect(server.sent('takeOver')).toEqual([
      { accountId: 'o', pin: '0000' },
      { accountId: 'o', pin: '4711' },
    ]);
  });

  test('somebody else takes over: the page begins anew, without what the first one typed', async () => {
    const { server, store } = show(work, { readSession: session({}) });
    const field = await screen.findByLabelText('typed');
    fireEvent.change(field, { target: { value: 'mine' } });
    server.answers = {
      readSession: session({ state: 'held' }),
      takeOver: session({ person: BRAM }),
    };
    await act(async () => {
      await store.dispatch(api.endpoints.session.initiate(undefined, { forceRefetch: true }));
    });
    fireEvent.click(await screen.findByLabelText('Bram Oddmund'));
    fireEvent.change(screen.getByLabelText('PIN'), { target: { value: '2580' } });
    fireEvent.click(screen.getByText('Take over'));
    await waitFor(() => expect(screen.queryByLabelText('PIN')).toBeNull());
    expect(screen.getByLabelText<HTMLInputElement>('typed').value).toBe('');
    expect(server.sent('takeOver')).toEqual([{ accountId: 'b', pin: '2580' }]);
  });

  test('a first start asks for the owner, and says how a lost password is mended', async () => {
    const { server } = show(work, {
      readSession: session({ state: 'no owner', person: null, onDevice: [] }),
      setUp: session({}),
    });
    fireEvent.change(await screen.findByLabelText('Your name'), {
      target: { value: 'Ottoline V.' },
    });
    fireEvent.change(screen.getByLabelText('Password'), { target: { value: 'kelp lantern tide' } });
    expect(screen.getByText('npm run owner -- --reset')).toBeDefined();
    fireEvent.click(screen.getByText('Open the bench'));
    await screen.findByLabelText('typed');
    expect(server.sent('setUp')).toEqual([{ name: 'Ottoline V.', password: 'kelp lantern tide' }]);
  });

  test('a tablet joins by its code once, and is told when the code is used up', async () => {
    const { server } = show(
      work,
      {
        readSession: session({ state: 'signed out', person: null, onDevice: [] }),
        joinJob: problem(403, 'used-code', 'A code lets one tablet in.'),
      },
      '/jobs/j/fit#tablet=abcdefghijklmnopqrstuvwxyz',
    );
    await screen.findByText('A code lets one tablet in.');
    expect(server.sent('joinJob')).toEqual([{ token: 'abcdefghijklmnopqrstuvwxyz' }]);
    fireEvent.click(screen.getByText('Sign in instead'));
    await screen.findByRole('heading', { name: 'Sign in' });
  });
});
