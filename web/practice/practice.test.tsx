import { screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { describe, expect, test, vi } from 'vitest';
import type { HeldExercise, ListedExercise, PracticeRunInput } from '#contract/practice';
import { debriefOf, playPar } from '#core/practice';
import type { Action } from '#core/practice';
import { SHIPPED, shipped } from '../../test/support/exercises.ts';
import { show } from '../../test/support/screen.tsx';
import * as worked from '../workers/practice.ts';
import { EditExercisePage } from './EditExercisePage.tsx';
import { ExercisePage } from './ExercisePage.tsx';
import { PracticePage } from './PracticePage.tsx';

// Here is no worker: what it works out is worked out at once.
vi.spyOn(worked, 'goneThrough').mockImplementation((exercise, actions) => {
  const par = playPar(exercise);
  return Promise.resolve({ par, debrief: debriefOf(exercise, actions, par) });
});
vi.spyOn(worked, 'drawnFrom').mockResolvedValue(40.4);

const held = (id: string): HeldExercise => ({
  ...{ source: 'shipped', version: 0, exercise: shipped(id) },
});
const listed = SHIPPED.map(({ id, title, level, teaches, customer }): ListedExercise => ({
  ...{ id, title, level, teaches: [...teaches], says: customer.says, source: 'shipped' },
}));

function showExercise(id: string, actions: readonly Action[] = [], more: object = {}) {
  if (actions.length > 0) localStorage.setItem(`tembrix.practice.${id}`, JSON.stringify(actions));
  return show(
    <Routes>
      <Route path="/practice/:exerciseId" element={<ExercisePage />} />
    </Routes>,
    {
      readExercise: held(id),
      recordPracticeRun: ({ body }: { body: PracticeRunInput }) => ({
        ...body,
        ...{ id: 'run-1', by: 'Ottoline V.', at: '2026-11-01T10:00:00Z' },
      }),
      ...more,
    },
    `/practice/${id}`,
  );
}

test('what was shown to be known is not told as never tried where it cannot be fetched', async () => {
  const { server } = show(<PracticePage />, {
    listExercises: listed,
    listPracticeRuns: { status: 503 },
  });
  const again = await screen.findByRole('button', { name: 'Try again' });
  expect(screen.queryByText(/Rules shown to be known/)).toBeNull();
  server.answers = { ...server.answers, listPracticeRuns: [] };
  await userEvent.click(again);
  await screen.findByText(/Rules shown to be known/);
});

const press = async (name: string | RegExp) =>
  userEvent.click((await screen.findAllByRole('button', { name }))[0] as HTMLElement);
const log = () => screen.getByRole('log').textContent;

describe('the bench', () => {
  test('keeps slots and their modules out of sight until it is opened', async () => {
    showExercise('ticket-window');
    expect(await screen.findByText(/Closed\. The slots lie under the cover/)).toBeDefined();
    expect(screen.queryByRole('group', { name: 'Slot A2' })).toBeNull();
    for (const name of ['Pull the lead', 'Hold 5 s', 'Wear it', 'Open, plastic tool'])
      await press(name);
    const slot = screen.getByRole('group', { name: 'Slot A2' });
    expect(within(slot).getByText('8 GB')).toBeDefined();
    // What is wrong with B2 does not show before somebody looks.
    expect(screen.queryByText(/one side stands up/)).toBeNull();
    await press('Look along the slots');
    expect(screen.getAllByText(/one side stands up/).length).toBeGreaterThan(0);
    await userEvent.click(
      within(screen.getByRole('group', { name: 'Slot B2' })).getByRole('button', {
        name: 'Press home',
      }),
    );
    expect(
      within(screen.getByRole('group', { name: 'Slot B2' })).queryByText(/stands up/),
    ).toBeNull();
  });

  test('says what is unsafe, why, and what makes it safe; the clock ran on', async () => {
    showExercise('ticket-window');
    await press('Open, plastic tool');
    const alert = screen.getByRole('alert');
    expect(alert.textContent).toMatch(/Stopped: opened under power.*What to do:.*pull the lead/);
    const bar = screen.getByRole('region', { name: 'Clock and money' });
    expect(bar.textContent).toMatch(/On the clock2 min.*Unsafe acts1/);
    await press('Start again');
    expect(screen.queryByRole('alert')).toBeNull();
    expect(bar.textContent).toMatch(/On the clock0 min/);
  });

  test('shows on its screen what such a machine shows: nothing, training, the pages read', async () => {
    showExercise('purser');
    const shown = () => screen.getByRole('region', { name: 'Its screen' }).textContent;
    await screen.findByRole('region', { name: 'Its screen' });
    expect(shown()).toContain('It is off.');
    await press('Switch on');
    await press('Firmware screen');
    expect(shown()).toMatch(/32 GB2133 MHzstandard, a profile is offered/);
    await press('Profile on');
    expect(shown()).not.toContain('2133');
    await press('Measuring page');
    await waitFor(() => expect(shown()).toContain('40.4 GB/s read'));
    await press('Shut down');
    expect(shown()).toContain('It is off.');
  });

  test('what was kept half-way is taken up; what cannot be read begins anew', async () => {
    const { unmount } = showExercise('purser', [{ type: 'switch', to: 'on' }]);
    await screen.findByRole('log');
    expect(log()).toContain('Switched it on');
    unmount();
    for (const kept of ['{"no": "list"}', '[{"type":', '[null, {"type": "fly"}, 7]']) {
      localStorage.setItem('tembrix.practice.purser', kept);
      const view = show(
        <Routes>
          <Route path="/practice/:exerciseId" element={<ExercisePage />} />
        </Routes>,
        { readExercise: held('purser') },
        '/practice/purser',
      );
      await screen.findByRole('log');
      expect(log()).not.toContain('Switched it on');
      view.unmount();
    }
  });
});

describe('the debrief', () => {
  const solved = playPar(shipped('ticket-window')).actions;

  test('sums up, marks each line, and is recorded once under the name of who practised', async () => {
    const { server, unmount } = showExercise('ticket-window', solved);
    expect(await screen.findByRole('heading', { name: /^Solved/ })).toBeDefined();
    await waitFor(() => expect(server.sent('recordPracticeRun')).toHaveLength(1));
    expect(server.sent('recordPracticeRun')[0]).toMatchObject({
      ...{ exerciseId: 'ticket-window', solved: true, unsafe: 0 },
    });
    unmount();
    // Coming back to look at it again is no second walk.
    const again = showExercise('ticket-window', solved);
    await screen.findByRole('heading', { name: /^Solved/ });
    expect(again.server.sent('recordPracticeRun')).toEqual([]);
  });

  test('one the bench did not take is recorded when somebody looks at it again', async () => {
    const walk = playPar(shipped('after-dusting')).actions;
    const problem = {
      ...{ type: 'about:blank#full', title: 'The disk is full', status: 507 },
      ...{ detail: 'There was no room left.', mend: 'Make room.' },
    };
    const first = showExercise('after-dusting', walk, { recordPracticeRun: problem });
    await waitFor(() => expect(first.server.sent('recordPracticeRun')).toHaveLength(1));
    first.unmount();
    const again = showExercise('after-dusting', walk);
    await waitFor(() => expect(again.server.sent('recordPracticeRun')).toHaveLength(1));
    await waitFor(() =>
      expect(localStorage.getItem('tembrix.practised.after-dusting')).toBeTruthy(),
    );
  });

  test('of a walk that left it open says what is wanted, and begins anew at a press', async () => {
    showExercise('ticket-window', [{ type: 'hand over', finding: 'nothing' }]);
    expect(
      await screen.findByRole('heading', { name: /Not solved yet: 16 GB to use/ }),
    ).toBeDefined();
    const asked = screen.getByRole('heading', { name: 'What was asked for' }).parentElement;
    expect(
      within(asked as HTMLElement).getAllByRole('img', { name: 'stop' }).length,
    ).toBeGreaterThan(1);
    await press('Start again');
    expect(await screen.findByText('Nothing yet. The clock stands.')).toBeDefined();
  });
});

describe('the list', () => {
  const run = { id: 'r', by: 'Ottoline', at: '2026-11-01T10:00:00Z', spent: 0, acts: 9 };

  test('has all exercises by level, with how this person stands with each', async () => {
    localStorage.setItem('tembrix.practice.purser', '[{"type":"hold power"}]');
    const walks = { minutes: 22, parMinutes: 25, unsafe: 0 };
    show(<PracticePage />, {
      listExercises: listed,
      listPracticeRuns: [
        { ...run, ...walks, exerciseId: 'ticket-window', solved: true },
        { ...run, ...walks, exerciseId: 'deck-plan', solved: false, unsafe: 1 },
      ],
    });
    const line = async (title: string) =>
      (await screen.findAllByRole('link', { name: title }))[0]?.closest('li')?.textContent;
    await screen.findByText(/Rules shown to be known: 1 of/);
    expect(await line('Half of it is missing at the ticket window')).toContain(
      'solved, best 22 min',
    );
    expect(await line('The deck plans crawl')).toContain('tried 1 time, not solved');
    expect(await line('The purser paid for a fast kit')).toContain('begun, not handed over');
    expect(await line('Sold half the speed?')).toContain('not tried');
    expect(screen.getByText(/2 walks, 1 time solved at our pace, 1 unsafe act\./)).toBeDefined();
  });

  test('a server that is away is said, and asked again at a press', async () => {
    const { server } = show(<PracticePage />, { listExercises: listed, listPracticeRuns: [] });
    server.isAway = true;
    expect((await screen.findByRole('alert')).textContent).toContain(
      'Could not fetch the exercises',
    );
    server.isAway = false;
    await press('Try again');
    expect(await screen.findByText('First days')).toBeDefined();
  });
});

describe('goal and words', () => {
  test('go with the version they started from; an empty budget is none', async () => {
    const own: HeldExercise = { ...held('gangway-laptop'), source: 'job', version: 3 };
    const { server } = show(
      <Routes>
        <Route path="/practice/:exerciseId/edit" element={<EditExercisePage />} />
        <Route path="/practice/:exerciseId" element={<p>saved</p>} />
      </Routes>,
      { readExercise: own, changeExercise: own },
      '/practice/gangway-laptop/edit',
    );
    await userEvent.clear(await screen.findByLabelText('Most that may be spent'));
    await userEvent.click(screen.getByLabelText('A memory test passed'));
    await press('Save');
    expect(await screen.findByText('saved')).toBeDefined();
    const [sent] = server.sent('changeExercise') as { goal: object }[];
    expect(sent).toMatchObject({ version: 3, goal: { usable: 16, paired: 'all', tested: true } });
    expect(sent?.goal).not.toHaveProperty('budget');
  });
});
