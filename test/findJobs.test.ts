import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { StockValueAnswer } from '#contract/stockKeeping';
import type { Customer, JobSummary, ListedMachine } from '#contract/records';
import type { SupplierRecord } from '#contract/suppliers';
import { Api } from './support/api.ts';
import { desktop, labelled } from './support/builders.ts';
import { often } from './support/draws.ts';

// Looking for jobs by a word of theirs: what is found, in what order, cut into pages, and how many.
const WORDS = ['rope', 'Roper', 'loft', '100%', 'a_b', 'tide'] as const;
const word = (n: number) => WORDS[n % WORDS.length] ?? '';

interface Kept {
  readonly id: string;
  readonly number: number;
  readonly texts: readonly string[];
  readonly isClosed: boolean;
}

let api: Api;
/** In the order they were taken in. */
const all: Kept[] = [];

async function takeIn(n: number): Promise<Kept> {
  const machine = { ...desktop(), name: `Board ${word(n * 5 + 1)} ${n % 7}` };
  const { id: machineId } = await api.ok<{ id: string }>('POST', '/machines', { machine });
  const customer = { name: `${word(n)} ${word(n >> 2)} ${n % 4}`, contact: '' };
  const complaint = `Slow ${word(n * 11 + 3)}`;
  let job = await api.ok('POST', '/jobs', { customer, machineId, complaint });
  const isClosed = n % 3 === 0;
  if (isClosed) {
    const nothing = { placement: {}, setting: 'standard', version: 0 };
    job = await api.ok('PUT', `/jobs/${job.id}/snapshots/as-found`, nothing);
    job = await api.ok('PUT', `/jobs/${job.id}/snapshots/as-fitted`, nothing);
    await api.ok('POST', `/jobs/${job.id}/close`, { version: job.version });
  }
  const texts = [String(job.number), complaint, customer.name, machine.name];
  return { id: job.id, number: job.number, texts, isClosed };
}

beforeAll(async () => {
  api = await Api.start();
  for (let n = 0; n < 40; n++) all.push(await takeIn(n));
});
afterAll(() => api.server.stop());

const asked = fc.record({
  search: fc.oneof(
    fc.constantFrom(...WORDS, 'ROPE', 'board', 'slow', '%', '_', '1', '12', 'nothing like it'),
    fc.string({ minLength: 1, maxLength: 3 }).filter((text) => text.trim() !== ''),
  ),
  state: fc.constantFrom('open', 'closed'),
  limit: fc.integer({ min: 1, max: 15 }),
  offset: fc.integer({ min: 0, max: 50 }),
});

test('every page holds what has the word, in order, and the number of all that do', async () => {
  await fc.assert(
    fc.asyncProperty(asked, async ({ search, state, limit, offset }) => {
      const query = new URLSearchParams({ search, state, limit: `${limit}`, offset: `${offset}` });
      const answer = await api.ok<{ jobs: JobSummary[]; total: number }>('GET', `/jobs?${query}`);
      const wanted = all.filter(
        ({ texts, isClosed }) =>
          isClosed === (state === 'closed') &&
          texts.some((text) => text.toLowerCase().includes(search.toLowerCase())),
      );
      // Open ones the longest waiting first, closed ones the latest first.
      if (state === 'closed') wanted.reverse();
      expect(answer.total).toBe(wanted.length);
      expect(answer.jobs.map(({ id }) => id)).toEqual(
        wanted.slice(offset, offset + limit).map(({ id }) => id),
      );
    }),
    { numRuns: often(50) },
  );
});

test('a line found says the same as in the list of all', async () => {
  const everything = await api.ok<{ jobs: JobSummary[] }>('GET', '/jobs?limit=200');
  const found = await api.ok<{ jobs: JobSummary[] }>('GET', '/jobs?search=slow&limit=200');
  expect(found.jobs).toEqual(everything.jobs);
});

test('lists of names take capitals and small letters alike, and places are counted', async () => {
  const names = ['Quoin Elm', 'quoin apple', 'Quoin oak', 'quoin Zed'];
  const sorted = ['quoin apple', 'Quoin Elm', 'Quoin oak', 'quoin Zed'];
  for (const name of names) {
    const machine = { ...desktop(), name };
    const { id: machineId } = await api.ok<{ id: string }>('POST', '/machines', { machine });
    const customer = { name, contact: '' };
    await api.ok('POST', '/jobs', { customer, machineId, complaint: 'Slow' });
    await api.ok('POST', '/suppliers', { name, contact: '', serviceUrl: '' });
    await api.ok('POST', '/accounts', { name, role: 'counter', password: 'brine harbour 7 oak' });
  }
  const namesAt = async <T>(path: string, nameOf: (one: T) => string) =>
    (await api.ok<T[]>('GET', path)).map(nameOf).filter((name) => /quoin/i.test(name));
  expect(await namesAt<Customer>('/customers?search=quoin', ({ name }) => name)).toEqual(sorted);
  expect(await namesAt<Customer>('/customers/held?search=quoin', ({ name }) => name)).toEqual(
    sorted,
  );
  const machines = await namesAt<ListedMachine>('/machines', ({ machine }) => machine.name);
  expect(machines).toEqual(sorted);
  expect(await namesAt<SupplierRecord>('/suppliers', ({ name }) => name)).toEqual(sorted);
  expect(await namesAt<Customer>('/accounts', ({ name }) => name)).toEqual(sorted);

  for (const place of ['Shelf 10', 'shelf 9', 'Shelf 1', 'Ark'])
    await api.ok('POST', '/drawer', {
      ...{ label: '8GB 1Rx8 PC4-2400T-UA1-11', module: labelled('8GB 1Rx8 PC4-2400T-UA1-11') },
      ...{ state: 'tested', price: 900, origin: 'quay', cost: null, place },
    });
  const { places } = await api.ok<StockValueAnswer>('GET', '/stock/value');
  expect(places.map(({ place }) => place)).toEqual(['Ark', 'Shelf 1', 'shelf 9', 'Shelf 10']);
});

test('a letter with a mark is the same in one piece and in two: no second customer, and found either way', async () => {
  const { id: machineId } = await api.ok<{ id: string }>('POST', '/machines', {
    machine: { ...desktop(), name: 'Entr\u00e9e' },
  });
  const takenIn = async (name: string) =>
    api.ok('POST', '/jobs', { customer: { name, contact: '' }, machineId, complaint: 'Slow' });
  const [one, two] = [await takenIn('Zo\u00eb’s inn'), await takenIn('Zoe\u0308’s inn')];
  expect(two.customer.id).toBe(one.customer.id);
  for (const search of ['zo\u00eb', 'zoe\u0308', 'entre\u0301e']) {
    const query = new URLSearchParams({ search }).toString();
    const { jobs } = await api.ok<{ jobs: JobSummary[] }>('GET', `/jobs?${query}`);
    expect(jobs.map(({ id }) => id).sort()).toEqual([one.id, two.id].sort());
  }
});
