import { screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test, vi } from 'vitest';
import type { MeasurementRecord } from '#contract/records';
import { aJob } from '../../../test/support/aJob.ts';
import { show } from '../../../test/support/screen.tsx';
import { storedDraft } from '../../ui/useDraft.ts';
import { RunsForm } from './RunsForm.tsx';
import { runsDraft } from './runsForm.ts';

const job = aJob();
const field = (label: string | RegExp) => screen.getByLabelText<HTMLInputElement>(label);
const answers = { addMeasurement: job, changeMeasurement: job };
const measured: MeasurementRecord = {
  ...{ id: 'm1', version: 4, kind: 'as-found', metric: 'bandwidth', sense: null, activity: null },
  ...{ test: 'memory copy', runs: [14.1, 14.2], warmUp: 0, isLowerBound: false, sittings: [] },
  ...{ step: null, doubts: [], power: 'unknown', resolution: '', tool: '', conditions: '' },
  ...{ fingerprint: '', takenAt: '2026-05-04T12:00:00.000Z' },
};
const withRuns = aJob({ measurements: [measured] });

function form(more: Partial<Parameters<typeof RunsForm>[0]> = {}) {
  const onDone = vi.fn();
  const shown = show(<RunsForm {...{ job, kind: 'as-found', onDone, ...more }} />, answers);
  return { ...shown, onDone };
}
const add = () => userEvent.click(screen.getByRole('button', { name: 'Save runs' }));

describe('runs typed in a row', () => {
  test('are sent with their conditions, and the form is ready for the next', async () => {
    const { server, onDone } = form();
    await userEvent.type(field(/^Runs, GB\/s/), '14.1 14,2 13.9');
    await userEvent.type(field('Conditions'), 'lid open');
    await add();
    await waitFor(() => expect(onDone).toHaveBeenCalled());
    expect(server.sent('addMeasurement')).toMatchObject([
      {
        ...{ kind: 'as-found', metric: 'bandwidth', test: 'memory copy', warmUp: 0 },
        ...{ runs: [14.1, 14.2, 13.9], sittings: [], conditions: 'lid open', step: null },
      },
    ]);
    expect(field(/^Runs/).value).toBe('');
    // Saved, they are no draft any more.
    expect(storedDraft(runsDraft(job.id, 'as-found'))).toBeUndefined();
  });

  test('of two sittings keep their sittings', async () => {
    const { server } = form();
    await userEvent.type(field(/^Runs/), '14.1 14.2 // 13.9 14 14.1');
    await add();
    await waitFor(() => expect(server.sent('addMeasurement')).toHaveLength(1));
    expect(server.sent('addMeasurement')[0]).toMatchObject({ sittings: [2, 3] });
  });

  test('are added to a test that is there, as another sitting where // stands in front', async () => {
    const { server } = form({ job: withRuns });
    await userEvent.type(field(/^Runs/), '// 14.5 14.6');
    await add();
    await waitFor(() => expect(server.sent('changeMeasurement')).toHaveLength(1));
    expect(server.sent('changeMeasurement')[0]).toMatchObject({
      ...{ version: 4, runs: [14.1, 14.2, 14.5, 14.6], sittings: [2, 2] },
    });
  });

  test('being corrected show what stands there, and go under their own version', async () => {
    const { server } = form({ job: withRuns, edited: measured });
    expect(field(/^Runs/).value).toBe('14.1 14.2');
    await userEvent.type(field(/^Runs/), ' 14.3');
    await userEvent.click(screen.getByRole('button', { name: 'Save the correction' }));
    await waitFor(() => expect(server.sent('changeMeasurement')).toHaveLength(1));
    expect(server.sent('changeMeasurement')[0]).toMatchObject({
      version: 4,
      runs: [14.1, 14.2, 14.3],
    });
  });

  test.each([
    ['14.1 fast', /“fast”/],
    ['-3', /-3|−3/],
    ['99999', /99999|99,999/],
  ])('“%s” is named while it is typed, and nothing is sent', async (typed, said) => {
    const { server } = form();
    await userEvent.type(field(/^Runs/), typed);
    expect((await screen.findAllByText(said)).length).toBeGreaterThan(0);
    await add();
    expect(server.sent('addMeasurement')).toEqual([]);
    expect(field(/^Runs/).value).toBe(typed);
  });

  test('one run alone is taken, with a word on how many are sound', async () => {
    form();
    await userEvent.type(field(/^Runs/), '14.1');
    expect(await screen.findByText(/One run says nothing about noise/)).toBeDefined();
  });

  test('take test and conditions over from the other side', () => {
    const other = { ...measured, kind: 'as-found', test: 'walk', tool: 'page 2' } as const;
    form({ job: aJob({ measurements: [other] }), kind: 'as-fitted' });
    expect(field('Test').value).toBe('walk');
    expect(field('Browser or program').value).toBe('page 2');
  });

  const changedBy = (runs: readonly number[]) => ({
    ...{ type: 'about:blank#stale', title: 'Somebody saved first', status: 409 },
    ...{ detail: '', mend: 'Compare, then choose.', yours: { runs: [14.1, 14.2, 15] } },
    theirs: aJob({
      measurements: runs.length > 0 ? [{ ...measured, version: 9, runs: [...runs] }] : [],
    }),
  });

  test('added to a test somebody else added to meanwhile, both are kept', async () => {
    const { server } = form({ job: withRuns });
    server.answers = { ...answers, changeMeasurement: changedBy([14.1, 14.2, 14.9]) };
    await userEvent.type(field(/^Runs/), '15');
    await add();
    expect(await screen.findByRole('cell', { name: '14.1 14.2 14.9' })).toBeDefined();
    server.answers = answers;
    await userEvent.click(screen.getByRole('button', { name: 'Save mine over theirs' }));
    await waitFor(() => expect(server.sent('changeMeasurement')).toHaveLength(2));
    expect(server.sent('changeMeasurement')[1]).toMatchObject({
      ...{ version: 9, runs: [14.1, 14.2, 14.9, 15] },
    });
  });

  test('corrected while somebody else removed them, they stand again', async () => {
    const { server } = form({ job: withRuns, edited: measured });
    server.answers = { ...answers, changeMeasurement: changedBy([]) };
    await userEvent.type(field(/^Runs/), ' 15');
    await userEvent.click(screen.getByRole('button', { name: 'Save the correction' }));
    expect(await screen.findByRole('cell', { name: 'removed' })).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'Save mine over theirs' }));
    await waitFor(() => expect(server.sent('addMeasurement')).toHaveLength(1));
    expect(server.sent('addMeasurement')[0]).toMatchObject({ runs: [14.1, 14.2, 15] });
  });
});
