import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { JobEvidence } from '#contract/evidence';
import type { Job, ListedMachine } from '#contract/records';
import { writeSmbios } from '#core/inventory';
import { Api, module } from './support/api.ts';
import { desktop } from './support/builders.ts';

// A job opens whole: machine, files and what they say is fitted, or none of it.

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

const wire = <T>(value: T) => JSON.parse(JSON.stringify(value)) as T;
const board = desktop({ name: 'Lantern A3' });
const placement = { a1: module, b1: module };
const dump = Buffer.from(writeSmbios(board, placement)).toString('base64');
const file = (name: string, base64 = dump) => ({ kind: 'file', name, base64, slotIds: [] });
const customer = { name: 'Net loft', contact: '' };
const opening = (more: object = {}) => ({
  ...{ customer, complaint: 'Slow', newMachine: board, knownAs: 'lantern a3 | lantern a3' },
  ...{ documents: [file('table.dmp')], found: { placement, setting: 'standard' } },
  ...more,
});
const machines = (query = '') => api.ok<ListedMachine[]>('GET', `/machines${query}`);

describe('a job opened from files', () => {
  test('has its machine, its files and what is fitted, and says so in its history', async () => {
    const job = await api.ok('POST', '/jobs', wire(opening()));
    expect(job.machine).toMatchObject({ machine: { name: 'Lantern A3' } });
    expect(job.snapshots).toMatchObject([
      { kind: 'as-found', version: 1, placement: { a1: { capacity: module.capacity } } },
    ]);
    expect(job.events.map(({ type }) => type)).toEqual(['opened', 'evidence', 'as-found']);
    const evidence = await api.ok<JobEvidence>('GET', `/jobs/${job.id}/evidence`);
    expect(evidence.documents.map(({ name, size }) => [name, size > 100])).toEqual([
      ['table.dmp', true],
    ]);
  });

  test('makes its firmware known: the next one finds the machine and how many jobs it had', async () => {
    const [known] = await machines('?knownAs=lantern%20a3%20%7C%20lantern%20a3');
    expect(known).toMatchObject({ machine: { name: 'Lantern A3' }, jobs: 1 });
    const id = known?.id ?? '';
    const more = { newMachine: undefined, machineId: id, found: undefined };
    await api.ok('POST', '/jobs', wire(opening(more)));
    const other = wire(opening({ ...more, knownAs: 'reading room | b7' }));
    await api.ok('POST', '/jobs', other);
    const [again] = await machines();
    // Said twice, it is kept once; the second name is kept beside it.
    expect(again).toMatchObject({
      ...{ jobs: 3, knownAs: ['lantern a3 | lantern a3', 'reading room | b7'] },
    });
    expect(await machines('?knownAs=nobody')).toEqual([]);
    // The same board in a machine of another name is told too; half a board’s name is not.
    expect(await machines(`?knownAs=${encodeURIComponent('beacon 7 | lantern a3')}`)).toHaveLength(
      1,
    );
    expect(await machines(`?knownAs=${encodeURIComponent('beacon 7 | a3')}`)).toEqual([]);
    expect(await machines(`?knownAs=${encodeURIComponent('beacon 7 | ')}`)).toEqual([]);
  });

  test('of several like machines carries files and findings with the first only', async () => {
    const first = await api.ok('POST', '/jobs', wire(opening({ count: 3 })));
    const batch = await api.ok<Job[]>('GET', `/batches/${first.batch?.id ?? ''}`);
    expect(batch.map(({ snapshots }) => snapshots.length)).toEqual([1, 0, 0]);
    expect(new Set(batch.map(({ machine }) => machine.id)).size).toBe(1);
  });

  test('sums the need itself from the activities that were accepted', async () => {
    const needInput = {
      ...{ idle: { low: 2, high: 3 }, activities: [{ name: 'Games', low: 6, high: 12 }] },
      ...{ peak: null, drive: 'unknown', graphicsShort: false },
    };
    const job = await api.ok('POST', '/jobs', wire(opening({ needInput })));
    expect(job).toMatchObject({ need: 15, needInput });
  });

  test.each([
    ['no machine at all', { newMachine: undefined }, 'machineId'],
    ['two machines', { machineId: 'x' }, 'newMachine'],
    ['a machine that contradicts itself', { newMachine: { ...board, channels: [] } }, 'newMachine'],
    [
      'a slot it does not have',
      { found: { placement: { z9: module }, setting: 'standard' } },
      'placement.z9',
    ],
    [
      'files beyond what one request carries',
      {
        documents: Array.from({ length: 6 }, (_, at) =>
          file(`${at}.bin`, 'QUFB'.repeat(1_000_000)),
        ),
      },
      'documents',
    ],
    ['an unnamed file', { documents: [file('')] }, 'documents'],
  ])('is refused with %s, and leaves nothing behind', async (_what, more, at) => {
    const before = [await machines(), await api.ok<{ total: number }>('GET', '/jobs')];
    const problem = await api.problem('POST', '/jobs', wire(opening(more)));
    expect(JSON.stringify(problem.fields)).toContain(at);
    expect([await machines(), await api.ok('GET', '/jobs')]).toEqual(before);
  });

  test('sent again because the answer was lost, it stands once with its machine', async () => {
    const before = (await machines()).length;
    const send = () =>
      api
        .fetch(`/jobs`, {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'idempotency-key': 'one-and-the-same' },
          body: JSON.stringify(opening({ newMachine: desktop({ name: 'Beacon 7' }) })),
        })
        .then((answer) => answer.json() as Promise<Job>);
    const [first, second] = await Promise.all([send(), send()]);
    expect(second.id).toBe(first.id);
    expect(await machines()).toHaveLength(before + 1);
  });
});
