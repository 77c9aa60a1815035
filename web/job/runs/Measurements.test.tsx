import { screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test } from 'vitest';
import type { Job, MeasurementRecord } from '#contract/records';
import { aJob } from '../../../test/support/aJob.ts';
import { show } from '../../../test/support/screen.tsx';
import { Measurements } from './Measurements.tsx';

const measured: MeasurementRecord = {
  ...{ id: 'm1', version: 4, kind: 'as-found', metric: 'bandwidth', sense: null, activity: null },
  ...{ test: 'memory copy', runs: [14.1, 14.2], warmUp: 0, isLowerBound: false, sittings: [] },
  ...{ step: null, doubts: [], power: 'unknown', resolution: '', tool: '', conditions: '' },
  ...{ fingerprint: '', takenAt: '2026-05-04T12:00:00.000Z' },
};
const baseline = (job: Job = aJob(), isReady = true) =>
  show(<Measurements job={job} kind="as-found" title="Baseline" isReady={isReady} />, {
    ...{ results: [], health: { status: 'ok', isDemo: false }, addMeasurement: job },
    changeMeasurement: job,
  });
const opener = () => screen.queryByRole('button', { name: /Add runs/ });
const open = () => userEvent.click(screen.getByRole('button', { name: /Add runs/ }));
const way = (name: string) => userEvent.click(screen.getByRole('tab', { name }));
const runs = () => screen.getByLabelText<HTMLInputElement>(/^Runs, GB/);

describe('the runs of one side', () => {
  test('are added behind one button, in three ways, and nothing is open before it is asked for', async () => {
    baseline();
    expect(screen.getByText('Nothing measured yet.')).toBeDefined();
    expect(screen.queryByRole('tab')).toBeNull();
    expect(screen.queryByRole('textbox')).toBeNull();
    await open();
    expect(screen.getAllByRole('tab').map((tab) => tab.textContent)).toEqual([
      ...['Measuring page', 'Type them', 'From a table'],
    ]);
    expect(screen.getByLabelText('Code from the measuring page')).toBeDefined();
    await open();
    expect(screen.queryByRole('tab')).toBeNull();
  });

  test('typed and left half-way stay over the other ways, and over a visit elsewhere', async () => {
    const { unmount } = baseline();
    await open();
    await way('Type them');
    await userEvent.type(runs(), '14.1 14');
    await way('From a table');
    await way('Type them');
    expect(runs().value).toBe('14.1 14');
    unmount();
    baseline();
    expect(runs().value).toBe('14.1 14');
    expect(screen.getByRole('tab', { name: 'Type them', selected: true })).toBeDefined();
  });

  test('that cannot be added say why, and offer no way', () => {
    baseline(aJob(), false);
    expect(screen.getByText('Save what was found first.')).toBeDefined();
    expect(opener()).toBeNull();
  });

  test('of a closed job are shown, and neither corrected nor added to', () => {
    const { machine } = aJob().machine;
    const result = { closedAt: '2026-05-05T12:00:00.000Z', headline: 'Better', machine };
    const job = aJob({ measurements: [measured], result });
    baseline(job);
    expect(screen.getByText('memory copy')).toBeDefined();
    expect(opener()).toBeNull();
    expect(screen.queryByRole('button', { name: /Correct|Remove/ })).toBeNull();
  });

  test('are corrected in their own line', async () => {
    const { server } = baseline(aJob({ measurements: [measured] }));
    await userEvent.click(screen.getByRole('button', { name: 'Correct memory copy' }));
    expect(runs().value).toBe('14.1 14.2');
    await userEvent.type(runs(), ' 14');
    await userEvent.click(screen.getByRole('button', { name: 'Save the correction' }));
    await waitFor(() => expect(server.sent('changeMeasurement')).toHaveLength(1));
    await waitFor(() => expect(screen.queryByLabelText(/^Runs, GB/)).toBeNull());
  });

  test('in a table are shown before they are added; what is there already is left as it is', async () => {
    const { server } = baseline(aJob({ measurements: [measured] }));
    await open();
    await way('From a table');
    const input = document.querySelector<HTMLInputElement>('input[accept*=csv]');
    if (!input) throw new Error('expected a file picker');
    const text = 'test,runs\nmemory copy,1 2 3\nfilm export,12 13 12.5\nbroken,';
    await userEvent.upload(input, new File([text], 'runs.csv', { type: 'text/csv' }));
    expect(await screen.findByText(/there already: left as it is/)).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'Add 1 test' }));
    await waitFor(() => expect(server.sent('addMeasurement')).toHaveLength(1));
    expect(server.sent('addMeasurement')[0]).toMatchObject({
      ...{ kind: 'as-found', test: 'film export', runs: [12, 13, 12.5] },
    });
  });
});
