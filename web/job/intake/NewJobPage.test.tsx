import { serverSeen } from '#web/app/connectionSlice.ts';
import { act, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test, vi } from 'vitest';
import { writeSmbios } from '#core/inventory';
import type { Machine } from '#core/machine';
import { readWithParts } from '#core/reconciling';
import { DEFAULT_TERMS } from '#core/quoting';
import { dataRate } from '#core/units';
import { aJob } from '../../../test/support/aJob.ts';
import { desktop, labelled } from '../../../test/support/builders.ts';
import { show } from '../../../test/support/screen.tsx';
import * as documents from '../../workers/readDocuments.ts';
import { NewJobPage } from './NewJobPage.tsx';

// What a worker does, done here: there are no workers in a made-up page.
vi.spyOn(documents, 'readWithPartsAside').mockImplementation((document) =>
  Promise.resolve(readWithParts(document)),
);

const job = aJob();
const { machine } = job;
const customers = [{ id: 'known', version: 1, name: 'Harbour office', contact: '12' }];
const answers = {
  listMachines: [{ ...machine, jobs: 2 }],
  listCustomers: customers,
  createJob: job,
  addEvidence: { documents: [], decisions: [] },
};
const open = () => userEvent.click(screen.getByRole('button', { name: 'Open the job' }));
const field = (label: string | RegExp) => screen.getByLabelText<HTMLInputElement>(label);

async function page(more: object = {}) {
  const shown = show(<NewJobPage />, { ...answers, ...more }, '/jobs/new');
  await waitFor(() => expect(field('Machine')).toBeDefined());
  return shown;
}

async function fill(name = 'Net loft') {
  await userEvent.type(field(/^Customer/), name);
  await userEvent.type(field('Machine'), 'test bo');
  await userEvent.click(await screen.findByRole('option', { name: /Test board/ }));
  await userEvent.type(field('Complaint'), 'Slow with the drawings open');
}

describe('a new job', () => {
  test('names every field that is missing, and sends nothing', async () => {
    const { server } = await page();
    await open();
    expect(await screen.findByText(/Enter the customer’s name/)).toBeDefined();
    expect(screen.getByText(/Choose the machine, or describe it first/)).toBeDefined();
    expect(screen.getByText(/Enter the complaint/)).toBeDefined();
    expect(server.sent('createJob')).toEqual([]);
  });

  test('says anew what is wrong each time, after some of it was mended', async () => {
    const { server } = await page();
    await open();
    await screen.findByText(/Choose the machine, or describe it first/);
    await userEvent.click(field(/^Customer/));
    await userEvent.paste('x'.repeat(130));
    await open();
    expect(await screen.findByText(/120 characters at most/)).toBeDefined();
    await userEvent.clear(field(/^Customer/));
    await fill();
    await open();
    await waitFor(() => expect(server.sent('createJob')).toHaveLength(1));
  });

  test('is sent as it was typed, and its draft is forgotten', async () => {
    const { server } = await page();
    await fill();
    expect(localStorage.getItem('tembrix.form.new-job')).toContain('Slow with the drawings');
    await open();
    await waitFor(() => expect(server.sent('createJob')).toHaveLength(1));
    expect(server.sent('createJob')[0]).toMatchObject({
      ...{ customer: { name: 'Net loft' }, machineId: 'machine-1', count: 1 },
      complaint: 'Slow with the drawings open',
    });
    await waitFor(() => expect(localStorage.getItem('tembrix.form.new-job')).toBeNull());
  });

  test('a customer of that name is not made twice by accident', async () => {
    const { server } = await page();
    await fill('Harbour office');
    await waitFor(() => expect(screen.getAllByText(/Harbour office/).length).toBeGreaterThan(0));
    await open();
    expect(await screen.findByText(/There is a customer of this name/)).toBeDefined();
    expect(server.sent('createJob')).toEqual([]);
    await userEvent.click(
      screen.getByRole('button', { name: 'A different customer of this name' }),
    );
    await open();
    await waitFor(() => expect(server.sent('createJob')).toHaveLength(1));
  });

  test('a count that is none is said at its field', async () => {
    const { server } = await page();
    await fill();
    await userEvent.clear(field('Identical machines'));
    await userEvent.type(field('Identical machines'), 'six');
    await open();
    expect(await screen.findByText(/Type a number, 1 to 50/)).toBeDefined();
    await userEvent.clear(field('Identical machines'));
    await userEvent.type(field('Identical machines'), '51');
    await open();
    expect(await screen.findByText(/A batch has 50 machines at most/)).toBeDefined();
    expect(server.sent('createJob')).toEqual([]);
  });

  test('what the shop itself calls usual is proposed, counted, and sent with its figures', async () => {
    const own = { name: 'Tide tables and charts', low: 2, high: 6 };
    const shop = { terms: { ...DEFAULT_TERMS, activities: [own] }, version: 1, hasLogo: false };
    const { server } = await page({ readShop: shop });
    await fill();
    await userEvent.type(field(/What they do with it/), 'charts, tide tables and e-mail');
    await userEvent.click(await screen.findByRole('button', { name: 'Count it in the need' }));
    await open();
    await waitFor(() => expect(server.sent('createJob')).toHaveLength(1));
    expect(server.sent('createJob')[0]).toMatchObject({ needInput: { activities: [own] } });
  });

  test('is kept and sent later when the server is away', async () => {
    const { server, store } = await page();
    await fill();
    server.isAway = true;
    await open();
    expect((await screen.findByRole('alert')).textContent).toContain('Not saved yet');
    expect(field('Complaint').value).toBe('Slow with the drawings open');
    server.isAway = false;
    act(() => void store.dispatch(serverSeen({ online: true })));
    await waitFor(() => expect(server.sent('createJob')).toHaveLength(1));
  });

  test('what the server refuses is shown with its mend, and nothing typed is lost', async () => {
    const problem = {
      ...{ type: 'about:blank#state', title: 'Cannot be done yet', status: 409 },
      ...{ detail: 'The machine was removed.', mend: 'Choose another machine.' },
    };
    await page({ createJob: problem });
    await fill();
    await open();
    const alert = await screen.findByRole('alert');
    expect(within(alert).getByText(/Choose another machine/)).toBeDefined();
    expect(field(/^Customer/).value).toBe('Net loft');
  });

  test('files that are refused once the job is open are told of, beside the way to it', async () => {
    const problem = {
      ...{ type: 'about:blank#full', title: 'The disk is full', status: 507 },
      ...{ detail: 'There was no room left.', mend: 'Make room on the disk.' },
    };
    const { server } = await page({ addEvidence: problem });
    await fill();
    const notes = Array.from(
      { length: 51 },
      (_, at) => new File([`a note, ${at}`], `${at}.txt`, { type: 'text/plain' }),
    );
    await userEvent.upload(field('Files from the machine'), notes);
    await screen.findByRole('button', { name: 'leave out' });
    await open();
    expect((await screen.findByRole('alert')).textContent).toContain('Make room on the disk.');
    expect(screen.getByRole('link', { name: 'Go to the job' }).getAttribute('href')).toBe(
      `/jobs/${job.id}/inspect`,
    );
    // Pressed again it would open a second one.
    expect(screen.queryByRole('button', { name: 'Open the job' })).toBeNull();
    expect(server.sent('createJob')).toHaveLength(1);
  });

  test('what they do with it proposes activities, which count once they are accepted', async () => {
    const { server } = await page();
    await fill();
    await userEvent.type(field('What they do with it'), 'film editing and photos');
    expect(screen.getByText(/Photo editing \(4 to 10 GB\) and Video editing/)).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'Count them in the need' }));
    expect(screen.getByText(/Counted in the need: Photo editing and Video editing/)).toBeDefined();
    await open();
    await waitFor(() => expect(server.sent('createJob')).toHaveLength(1));
    expect(server.sent('createJob')[0]).toMatchObject({
      needInput: { activities: [{ name: 'Photo editing' }, { name: 'Video editing' }] },
    });
  });

  test('without a word about their work no need is sent', async () => {
    const { server } = await page();
    await fill();
    await open();
    await waitFor(() => expect(server.sent('createJob')).toHaveLength(1));
    expect(server.sent('createJob')[0]).not.toHaveProperty('needInput');
  });

  test('machines that cannot be fetched are said, and the rest can be typed', async () => {
    show(<NewJobPage />, { ...answers, listMachines: { status: 500 } }, '/jobs/new');
    expect(await screen.findByText('The machines could not be fetched')).toBeDefined();
    await userEvent.type(field('Complaint'), 'Slow');
    expect(field('Complaint').value).toBe('Slow');
  });
});

describe('a machine on a board the shop knows under another name', () => {
  const tables = writeSmbios(desktop({ name: 'Lantern A3' }), {
    a1: labelled('8GB 1Rx8 PC4-2400T-UA1-11'),
  });
  const alike = {
    ...{ ...machine, jobs: 2, knownAs: ['beacon 7 | lantern a3'] },
    machine: desktop({ name: 'Beacon 7', firmwareCap: dataRate(2133) }),
  };
  const drop = async () => {
    const shown = await page({ listMachines: [alike] });
    await userEvent.type(field(/^Customer/), 'Net loft');
    await userEvent.type(field('Complaint'), 'Slow');
    await userEvent.upload(
      field('Files from the machine'),
      new File([Uint8Array.from(tables)], 'a3.dmp'),
    );
    await screen.findByText(/Beacon 7 has the same board under another name/);
    return shown;
  };
  const sent = async (server: Awaited<ReturnType<typeof drop>>['server']) => {
    await open();
    await waitFor(() => expect(server.sent('createJob')).toHaveLength(1));
    return server.sent('createJob')[0] as { newMachine?: Machine; machineId?: string };
  };

  test('is a new one, and takes over no limit by itself', async () => {
    const { server } = await drop();
    expect((await sent(server)).newMachine).toMatchObject({ firmwareCap: 'unknown' });
  });

  test('takes over its limits after a yes, and gives them back', async () => {
    const { server } = await drop();
    await userEvent.click(screen.getByRole('button', { name: 'Take over its limits' }));
    await userEvent.click(screen.getByRole('button', { name: /Limits taken over/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Take over its limits' }));
    const { newMachine } = await sent(server);
    expect(newMachine?.firmwareCap).toBe(2133);
    expect(newMachine?.name).not.toBe('Beacon 7');
  });

  test('is the same machine when somebody says so', async () => {
    const { server } = await drop();
    await userEvent.click(screen.getByRole('button', { name: 'It is the same machine' }));
    expect(await sent(server)).toMatchObject({ machineId: machine.id });
  });
});
