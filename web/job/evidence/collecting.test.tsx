import { screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useForm } from 'react-hook-form';
import { describe, expect, test, vi } from 'vitest';
import type { EvidenceRecord } from '#contract/evidence';
import { writeCollected } from '#core/inventory';
import type { CollectedFact, CollectedFactName } from '#core/inventory';
import { readWithParts } from '#core/reconciling';
import { aJob } from '../../../test/support/aJob.ts';
import { labelled } from '../../../test/support/builders.ts';
import { show } from '../../../test/support/screen.tsx';
import { base64FromText } from '../../ui/base64.ts';
import * as documents from '../../workers/readDocuments.ts';
import { RunsForm } from '../runs/RunsForm.tsx';
import { SeenPeak } from '../SeenPeak.tsx';
import type { NeedForm } from '../needForm.ts';
import { CollectingHelp } from './CollectingHelp.tsx';
import { SystemNotice } from './SystemNotice.tsx';
import { useEvidence } from './useEvidence.ts';

// Workers are not to be had here; what they do is.
vi.spyOn(documents, 'readDocumentAside').mockImplementation((document) => {
  const [read] = readWithParts(document);
  return read ? Promise.resolve(read) : Promise.reject(new Error('expected a document'));
});

const fact = (name: CollectedFactName, value: string): CollectedFact => ({
  ...{ name, value, from: '/proc/meminfo' },
});
const GIB = 2 ** 20;
const record: EvidenceRecord = {
  ...{ id: 'e1', kind: 'file', name: 'counter.json', slotIds: [], by: 'Ottoline', size: 900 },
  addedAt: '2026-11-02T09:30:00.000Z',
  hasPhoto: false,
};
const answers = (...facts: CollectedFact[]) => ({
  readEvidence: { documents: [record], decisions: [] },
  readEvidenceContent: {
    base64: base64FromText(writeCollected({ shell: 'unix', parts: [], facts, notRead: [] })),
  },
});

describe('the peak a collected file tells of', () => {
  const blank: NeedForm = {
    ...{ idle: { low: '2', high: '3' }, activities: [], peak: '', paging: false },
    ...{ drive: 'unknown', graphicsShort: false, margin: '25' },
    ...{ school: 'balanced', capacityFirst: false },
  };
  let values = () => blank;
  function Page({ isClosed }: { readonly isClosed: boolean }) {
    const form = useForm<NeedForm>({ defaultValues: blank });
    values = form.getValues;
    return <SeenPeak jobId="job-1" form={form} isClosed={isClosed} />;
  }
  const watched = answers(
    ...[fact('memory-visible', String(8 * GIB)), fact('memory-peak', String(6.4 * GIB))],
    ...[fact('watched-for', '600'), fact('paged-in', '300000'), fact('drive-kind', 'spinning')],
  );

  test('is said with its source, and one press puts it into the form', async () => {
    show(<Page isClosed={false} />, watched);
    expect(
      await screen.findByText(/at most 6.4 GB in use over 10 min; it was paging/),
    ).toBeDefined();
    expect(screen.getByText(/counter.json, \/proc\/meminfo/)).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'Use it' }));
    expect(values()).toMatchObject({ peak: '6.4', paging: true, drive: 'spinning' });
    expect(screen.queryByRole('button', { name: 'Use it' })).toBeNull();
    expect(screen.getByText('in use below')).toBeDefined();
  });

  test('a closed job shows it without a button; a file without figures shows nothing', async () => {
    const view = show(<Page isClosed />, watched);
    await screen.findByText(/at most 6.4 GB/);
    expect(screen.queryByRole('button')).toBeNull();
    view.unmount();
    const { server } = show(<Page isClosed={false} />, answers(fact('system-bits', '64')));
    await waitFor(() => expect(server.asked.length).toBe(2));
    expect(screen.queryByText(/Seen on the machine/)).toBeNull();
  });
});

describe('the power source a collected file tells of', () => {
  const told = answers(
    { ...fact('power-source', 'mains'), from: 'supply' },
    { ...fact('power-mode', 'low-power'), from: 'profile' },
  );
  const power = () => screen.getByLabelText<HTMLSelectElement>('Power source').value;

  test('is taken into the baseline’s conditions with one press', async () => {
    show(<RunsForm job={aJob()} kind="as-found" onDone={() => undefined} />, told);
    expect(await screen.findByText(/Collected on the machine: mains, saving/)).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'use it' }));
    expect(power()).toBe('mains, saving');
    expect(screen.queryByText(/Collected on the machine/)).toBeNull();
  });

  test('says nothing of the machine after the change, nor where nobody saw it', async () => {
    const after = show(<RunsForm job={aJob()} kind="as-fitted" onDone={() => undefined} />, told);
    await waitFor(() => expect(after.server.asked.length).toBeGreaterThan(0));
    expect(screen.queryByText(/Collected on the machine/)).toBeNull();
    after.unmount();
    const blind = show(
      <RunsForm job={aJob()} kind="as-found" onDone={() => undefined} />,
      answers(fact('system-bits', '64')),
    );
    await waitFor(() => expect(blind.server.asked.length).toBe(2));
    expect(screen.queryByText(/Collected on the machine/)).toBeNull();
  });
});

describe('what the running system shows of the machine', () => {
  const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
  const job = aJob();
  function Page() {
    const evidence = useEvidence(job);
    const reconciled = { ...evidence.reconciled, placement: { a1: module, b1: module } };
    return <SystemNotice job={job} evidence={{ ...evidence, reconciled }} />;
  }

  test('is offered, and written into the machine with its version', async () => {
    const { server } = show(<Page />, {
      ...answers(fact('memory-visible', String(15.4 * GIB)), fact('system-bits', '64')),
      changeMachine: job.machine,
    });
    expect(await screen.findByText(/0.6 GB of 16 GB is held back/)).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'Write it into the machine' }));
    await waitFor(() => expect(server.sent('changeMachine')).toHaveLength(1));
    expect(server.sent('changeMachine')[0]).toMatchObject({
      version: job.machine.version,
      machine: { ...job.machine.machine, graphicsCarveOut: { low: 0.25, high: 0.625 } },
    });
  });

  test('where nothing is missing nothing is said', async () => {
    const { server } = show(<Page />, answers(fact('memory-visible', String(15.9 * GIB))));
    await waitFor(() =>
      expect(server.asked.map(({ route }) => route)).toContain('readEvidenceContent'),
    );
    expect(screen.queryByRole('button')).toBeNull();
  });
});

describe('how to collect', () => {
  const made = {
    ...{ id: 't1', brings: 'files', kind: 'as-found', power: 'unknown', by: 'Ottoline' },
    ...{ createdAt: '2026-11-02T09:30:00.000Z', expiresAt: '2026-11-02T10:30:00.000Z' },
    ...{ state: 'waiting', token: 'abcd-efgh-jkmn' },
  };
  const open = async (jobId?: string, more: object = {}) => {
    const view = show(<CollectingHelp {...(jobId === undefined ? {} : { jobId })} />, more);
    await userEvent.click(screen.getByText('No files yet? Have the machine collect them'));
    return view;
  };

  test.each([
    ['Get-CimInstance', 'collect.ps1', /Get-CimInstance CIM_PhysicalMemory/],
    ['Unix with /sys', 'collect.sh', /\/sys\/firmware\/dmi/],
    ['system_profiler', 'collect.sh', /system_profiler SPMemoryDataType -json/],
  ])('%s: a script, how to run it, and one line', async (tab, script, line) => {
    await open();
    await userEvent.click(screen.getByRole('tab', { name: tab }));
    expect(screen.getByRole('link', { name: `Save ${script}` }).getAttribute('href')).toBe(
      `/measure/${script}`,
    );
    expect(screen.getByLabelText(`Run ${script}`).textContent).toContain(script);
    expect(screen.getByLabelText('The list of memory alone').textContent).toMatch(line);
    // Without a job there is nowhere to send to.
    expect(screen.queryByRole('button', { name: /over the network/ })).toBeNull();
  });

  test('a link of its own gives the line to paste; with the door shut it says what to do', async () => {
    const link = 'http://192.168.1.20:4880/#abcd-efgh-jkmn';
    const { server } = await open('job-1', {
      ...{ makeTicket: { ...made, link }, listTickets: [made] },
    });
    await userEvent.click(screen.getByRole('button', { name: /over the network/ }));
    const line = await screen.findByLabelText('Collect and send');
    expect(line.textContent).toContain('http://192.168.1.20:4880/collect.ps1');
    expect(line.textContent).toContain(`-To '${link}'`);
    expect(server.sent('makeTicket')).toMatchObject([{ brings: 'files', kind: 'as-found' }]);
  });

  test('with the door shut it says who opens it', async () => {
    await open('job-1', { makeTicket: { ...made, link: null }, listTickets: [made] });
    await userEvent.click(screen.getByRole('button', { name: /over the network/ }));
    expect(await screen.findByText('Other machines cannot reach this bench')).toBeDefined();
  });
});
