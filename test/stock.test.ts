import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { DrawerRecord, GoneRecord } from '#contract/drawer';
import { queryForJob } from '#contract/jobPlan';
import type { Quote, Shop } from '#contract/quotes';
import type {
  CountAnswer,
  CountRecord,
  GonePage,
  StockPage,
  StockValueAnswer,
} from '#contract/stockKeeping';
import { assess } from '#core/planning';
import type { PlannedUnit } from '#core/planning';
import { Api, module } from './support/api.ts';
import { pdfText } from './support/pdfText.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

const put = (more: object = {}) =>
  api.ok<DrawerRecord>('POST', '/drawer', {
    ...{ label: 'used', module, state: 'tested', price: 900, origin: 'a trade', cost: 400 },
    ...more,
  });
const readPiece = (id: string) => api.ok<DrawerRecord>('GET', `/drawer/${id}`);
const listStock = (query: string) => api.ok<StockPage>('GET', `/stock?${query}`);

describe('the list', () => {
  test('pages by key through everything once, whatever is added meanwhile', async () => {
    const labels = Array.from({ length: 25 }, (_, at) => `paged ${String(at % 5)} wide`);
    for (const label of labels) await put({ label, place: 'paging' });
    const seen: string[] = [];
    let after = '';
    for (let turn = 0; turn < 10; turn++) {
      const page = await listStock(`place=paging&limit=7${after}`);
      expect(page.total).toBeGreaterThanOrEqual(25);
      seen.push(...page.pieces.map(({ id }) => id));
      // Something before the place where the reader stands does not shift what follows.
      if (turn === 1) await put({ label: 'paged 0 early', place: 'paging' });
      if (page.next === null) break;
      after = `&after=${encodeURIComponent(page.next)}`;
    }
    expect(new Set(seen).size).toBe(seen.length);
    expect(seen).toHaveLength(25);
  });

  test('finds by words, place and state', async () => {
    const tin = await put({ label: 'TIN-100%_odd', place: 'tin', state: 'suspect' });
    expect((await listStock('search=100%25_odd')).pieces.map(({ id }) => id)).toEqual([tin.id]);
    const marked = await put({ label: 'marked', serial: ' 0921AB77F300 ' });
    expect(marked.serial).toBe('0921AB77F300');
    expect((await listStock('search=ab77')).pieces.map(({ id }) => id)).toEqual([marked.id]);
    expect((await listStock('place=tin&state=suspect')).total).toBe(1);
    expect((await listStock('place=tin&state=tested')).total).toBe(0);
    expect((await listStock('place=tin&state=free')).total).toBe(1);
  });

  test('is asked for by generation where a machine takes but one', async () => {
    const old = await put({ label: 'old', module: { ...module, generation: 'DDR3' } });
    const listed = async (generations: string) =>
      (await api.ok<DrawerRecord[]>('GET', `/drawer?generations=${generations}`)).map(
        (one) => one.module.generation,
      );
    expect(new Set(await listed('DDR3'))).toEqual(new Set(['DDR3']));
    expect(new Set(await listed('DDR3,DDR4'))).toEqual(new Set(['DDR3', 'DDR4']));
    expect(await listed('DDR2')).toEqual([]);
    const all = await api.ok<DrawerRecord[]>('GET', '/drawer');
    expect(all.map(({ id }) => id)).toContain(old.id);
  });

  test.each(['[]', 'x', '["only one"]', '[1,2]'])(
    'a page after “%s” is refused in words',
    async (after) => {
      const problem = await api.problem('GET', `/stock?after=${encodeURIComponent(after)}`);
      expect([problem.status, problem.mend]).toEqual([409, 'Start from the first one.']);
      expect(
        (await api.problem('GET', `/stock/gone?after=${encodeURIComponent('["soon","x"]')}`))
          .status,
      ).toBe(409);
    },
  );
});

describe('what leaves stock', () => {
  test('keeps its row, is in no plan and no list, and comes back as it was', async () => {
    const { id, version } = await put({ place: 'box', label: 'leaver' });
    const gone = await api.ok<GoneRecord>('POST', `/drawer/${id}/gone`, {
      ...{ how: 'written off', note: 'dropped', version },
    });
    expect(gone.gone).toMatchObject({ how: 'written off', note: 'dropped', job: null });
    expect((await api.ok<DrawerRecord[]>('GET', '/drawer')).map((one) => one.id)).not.toContain(id);
    expect((await api.problem('GET', `/drawer/${id}`)).status).toBe(404);
    const { pieces } = await api.ok<GonePage>('GET', '/stock/gone?search=leaver');
    expect(pieces.map((one) => one.id)).toEqual([id]);
    // Twice is a conflict: the second does not write it off again.
    const again = await api.problem('POST', `/drawer/${id}/gone`, {
      how: 'sold',
      note: '',
      version,
    });
    expect(again.status).toBe(404);
    const back = await api.ok<DrawerRecord>('POST', `/drawer/${id}/back`, {
      version: gone.version,
    });
    expect(back).toMatchObject({ id, place: 'box', price: 900, cost: 400, reservedFor: null });
    expect(
      (await api.problem('POST', `/drawer/${id}/back`, { version: gone.version })).status,
    ).toBe(409);
  });

  test('what a job holds does not leave under its hands', async () => {
    const job = await api.jobWithFound();
    const piece = await put();
    const held = await api.ok<DrawerRecord>('PUT', `/drawer/${piece.id}/reservation`, {
      ...{ jobNumber: job.number, version: piece.version },
    });
    expect(held.reservedFor).toEqual({ jobId: job.id, number: job.number });
    const problem = await api.problem('POST', `/drawer/${piece.id}/gone`, {
      ...{ how: 'sold', note: '', version: held.version },
    });
    expect(problem.title + problem.detail).toContain(String(job.number).padStart(4, '0'));
    const free = await api.ok<DrawerRecord>('PUT', `/drawer/${piece.id}/reservation`, {
      ...{ jobNumber: null, version: held.version },
    });
    expect(free.reservedFor).toBeNull();
  });
});

describe('holding for a job', () => {
  test.each([
    ['a job there is not', 999_999, {}, /no job/],
    ['what is faulty', 0, { state: 'faulty' }, /faulty/],
    ['what is suspect', 0, { state: 'suspect' }, /suspect/],
  ])('is refused: %s', async (_what, jobNumber, more, words) => {
    const job = await api.jobWithFound();
    const piece = await put(more);
    const problem = await api.problem('PUT', `/drawer/${piece.id}/reservation`, {
      ...{ jobNumber: jobNumber || job.number, version: piece.version },
    });
    expect(problem.detail).toMatch(words);
    expect((await readPiece(piece.id)).reservedFor).toBeNull();
  });

  test('two jobs: the first keeps it', async () => {
    const [one, other] = [await api.jobWithFound(), await api.jobWithFound()];
    const piece = await put();
    const path = `/drawer/${piece.id}/reservation`;
    const answers = await Promise.all(
      [one, other].map(({ number }) =>
        api.send('PUT', path, { jobNumber: number, version: piece.version }),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  test('a job handed over lets go of what it did not use', async () => {
    const job = await api.jobWithFound();
    const piece = await put();
    await api.ok('PUT', `/drawer/${piece.id}/reservation`, {
      ...{ jobNumber: job.number, version: piece.version },
    });
    await api.ok('PUT', `/jobs/${job.id}/snapshots/as-fitted`, {
      ...{ placement: { a1: module }, setting: 'standard', version: 0 },
    });
    const { version } = await api.ok('GET', `/jobs/${job.id}`);
    await api.ok('POST', `/jobs/${job.id}/close`, { version });
    expect((await readPiece(piece.id)).reservedFor).toBeNull();
  });
});

test('one put in for a module of its own kind is sold, a spare of that kind is not', async () => {
  const bare = await api.jobWithFound();
  const [planned, spare] = [await put({ label: 'planned' }), await put({ label: 'spare' })];
  const { terms } = await api.ok<Shop>('GET', '/shop');
  const stock = await api.ok<DrawerRecord[]>('GET', '/drawer');
  const query = queryForJob(bare, [], stock, terms);
  const units: PlannedUnit[] = [
    { slotId: 'a1', module, source: { type: 'drawer', drawerId: planned.id } },
  ];
  const { plan } = assess(query, units, 'standard');
  const [quote] = await api.ok<Quote[]>('POST', `/jobs/${bare.id}/quotes`, {
    ...{ units, setting: 'standard', expected: plan.cost.net },
  });
  await api.ok('POST', `/jobs/${bare.id}/quotes/${quote?.id ?? ''}/answer`, {
    ...{ what: 'accepted', by: 'student' },
  });
  await api.ok('PUT', `/drawer/${spare.id}/reservation`, {
    ...{ jobNumber: bare.number, version: spare.version },
  });
  await api.ok('PUT', `/jobs/${bare.id}/snapshots/as-fitted`, {
    ...{ placement: { a1: module }, setting: 'standard', version: 0 },
  });
  const { version } = await api.ok('GET', `/jobs/${bare.id}`);
  await api.ok('POST', `/jobs/${bare.id}/close`, { version });
  const gone = await api.ok<GonePage>('GET', `/stock/gone?search=planned`);
  expect(gone.pieces.map(({ id, gone }) => [id, gone.how])).toEqual([[planned.id, 'sold']]);
  expect(await readPiece(spare.id)).toMatchObject({ reservedFor: null, state: 'tested' });
});

test('the value counts what is here, at cost and at price, by place', async () => {
  const before = await api.ok<StockValueAnswer>('GET', '/stock/value');
  await put({ place: 'vault', price: 1000, cost: 700 });
  await put({ place: 'vault', price: 5000, cost: null, state: 'faulty' });
  const { id, version } = await put({ place: 'vault', price: 99, cost: 1 });
  await api.ok('POST', `/drawer/${id}/gone`, { how: 'sold', note: '', version });
  const after = await api.ok<StockValueAnswer>('GET', '/stock/value');
  expect(after.cost - before.cost).toBe(700);
  expect(after.price - before.price).toBe(1000);
  expect(after.withoutCost - before.withoutCost).toBe(1);
  expect(after.unsound - before.unsound).toBe(1);
  expect(after.places.find(({ place }) => place === 'vault')?.pieces).toBe(2);
});

describe('a count', () => {
  const count = (body: object) => api.ok<CountAnswer>('POST', '/stock/count', body);
  test('compares without changing, and is taken over on what holds then', async () => {
    const [here, lost, kept] = [
      await put({ place: 'C', label: 'here' }),
      await put({ place: 'C', label: 'lost' }),
      await put({ place: 'C', label: 'kept' }),
    ];
    const stray = await put({ place: 'D', label: 'stray' });
    const left = await put({ place: 'D', label: 'left' });
    const { id, version } = left;
    await api.ok('POST', `/drawer/${id}/gone`, { how: 'sold', note: '', version });
    const scanned = [here.id, stray.id, left.id, here.id, 'XQ-11'];
    const seen = await count({ place: 'C', scanned });
    expect(seen).toMatchObject({
      ...{ expected: 3, found: 1, twice: 1, strange: ['XQ-11'] },
      elsewhere: [{ id: stray.id, label: 'stray', place: 'D' }],
      back: [{ id: left.id, gone: 'sold' }],
    });
    expect(seen.missing.map((one) => one.label).sort()).toEqual(['kept', 'lost']);
    expect((await readPiece(stray.id)).place).toBe('D');

    const body = { place: 'C', scanned, writeOff: [lost.id] };
    const record = await api.ok<CountRecord>('POST', '/stock/counts', body);
    expect(record).toMatchObject({
      ...{ by: 'Ottoline V.', place: 'C', expected: 3, found: 1 },
      missing: 2,
      moved: 1,
      back: 1,
    });
    expect((await api.problem('GET', `/drawer/${lost.id}`)).status).toBe(404);
    expect(await readPiece(kept.id)).toMatchObject({ state: 'suspect', place: 'C' });
    expect(await readPiece(stray.id)).toMatchObject({ state: 'tested', place: 'C' });
    expect(await readPiece(left.id)).toMatchObject({ state: 'suspect', place: 'C' });
    // Counted once more, the place is as the records say.
    const again = await count({ place: 'C', scanned: [here.id, kept.id, stray.id, left.id] });
    expect([again.found, again.missing, again.elsewhere, again.back]).toEqual([4, [], [], []]);
    expect((await api.ok<CountRecord[]>('GET', '/stock/counts'))[0]?.id).toBe(record.id);
  });

  test('nothing is written off that is not missing', async () => {
    const piece = await put({ place: 'E' });
    const body = { place: 'E', scanned: [piece.id], writeOff: [piece.id] };
    expect((await api.problem('POST', '/stock/counts', body)).status).toBe(409);
    expect((await readPiece(piece.id)).state).toBe('tested');
  });

  test('of everything at once is one question', async () => {
    const all = await api.ok<DrawerRecord[]>('GET', '/drawer');
    const seen = await count({ place: null, scanned: all.map(({ id }) => id) });
    expect([seen.found, seen.missing, seen.elsewhere]).toEqual([all.length, [], []]);
  });
});

describe('labels', () => {
  test('are printed on the shop’s sheets, each with its code’s id', async () => {
    const { terms, version } = await api.ok<Shop>('GET', '/shop');
    await api.ok('PUT', '/shop', { terms: { ...terms, labelSheet: 'a4-24' }, version });
    const ids = [];
    for (let at = 0; at < 25; at++) ids.push((await put({ place: `tray ${at}` })).id);
    const response = await api.fetch(`/stock/labels.pdf?ids=${ids.join(',')}&used=3`);
    expect(response.headers.get('content-type')).toBe('application/pdf');
    const pages = await pdfText(Buffer.from(await response.arrayBuffer()));
    // 24 to a sheet, three of the first gone.
    expect(pages).toHaveLength(2);
    // Letters set close together, “q” and “j”, are read as two words.
    const [first, second] = pages.map((page) => page.replaceAll(' ', ''));
    for (const [at, id] of ids.entries()) expect(at < 21 ? first : second).toContain(id);
  });

  test.each(['', '?ids=', '?ids=nobody', '?ids=a&used=-1'])(
    '“%s” is refused in words',
    async (query) => {
      const response = await api.fetch(`/stock/labels.pdf${query}`);
      expect([404, 422]).toContain(response.status);
      expect(((await response.json()) as { mend: string }).mend).not.toBe('');
    },
  );
});

test('a note of a module carries the version it began with', async () => {
  const { id, label } = await put({ cost: null, state: 'untested' });
  const body = { label, module, price: 1200, origin: '', place: 'shelf', cost: 350, version: 1 };
  const changed = await api.ok<DrawerRecord>('PUT', `/drawer/${id}`, { ...body, state: 'tested' });
  expect(changed).toMatchObject({
    state: 'tested',
    price: 1200,
    cost: 350,
    place: 'shelf',
    version: 2,
  });
  expect((await api.problem('PUT', `/drawer/${id}`, { ...body, state: 'faulty' })).status).toBe(
    409,
  );
  expect((await readPiece(id)).state).toBe('tested');
});
