import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Door, MadeTicket, ProbeRecord, Ticket } from '#contract/measuring';
import type { Problem } from '#contract/problem';
import type { Job } from '#contract/records';
import { carryCode, simulateProbe } from '#core/proving';
import type { ProbeResult } from '#core/proving';
import { probeResults, tickets } from '../server/store/schema/index.ts';
import { Api, module } from './support/api.ts';
import { desktop, running } from './support/builders.ts';
import { freePort } from './support/freePort.ts';

const PAGE = '<!doctype html><title>page</title><script type="module">document.title</script>';

let api: Api;
let door: string;
let visit = 0;

async function openDoor(port: number, address = '127.0.0.1'): Promise<Door> {
  const { version } = await api.ok<Door>('GET', '/door');
  return api.ok<Door>('PUT', '/door', { terms: { isOpen: true, address, port }, version });
}

beforeAll(async () => {
  api = await Api.start(undefined, { measuringPage: PAGE, isDemo: true });
  expect(await api.ok<Door>('GET', '/door')).toMatchObject({ url: null, version: 0 });
  door = (await openDoor(await freePort())).url ?? '';
});
afterAll(() => api.server.stop());

/** What the page would bring from the machine as found; each visit is another result. */
const result = (more: Partial<ProbeResult> = {}): ProbeResult => ({
  ...simulateProbe(desktop(), running(desktop(), { a1: module }), 'none', ++visit),
  ...{ marks: ['no plateau'], ...more },
});
const newTicket = (job: Job, more: object = {}) =>
  api.ok<MadeTicket>('POST', `/jobs/${job.id}/tickets`, {
    ...{ kind: 'as-found', power: 'mains, full power', ...more },
  });
async function post(token: string, body: unknown, base = door) {
  const response = await fetch(`${base}/results`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: typeof body === 'string' ? body : JSON.stringify({ token, result: body }),
  });
  return { status: response.status, body: (await response.json()) as Partial<Problem> };
}
const read = (job: Job) => api.ok('GET', `/jobs/${job.id}`);

describe('a link', () => {
  test('brings one result to its job, with what sat in the machine and how it was fed', async () => {
    const [job, other] = [await api.jobWithFound(), await api.jobWithFound()];
    const made = await newTicket(job);
    expect(made.link).toBe(`${door}/#${made.token}`);
    expect(made.token).toMatch(/^[2-9a-z]{4}-[2-9a-z]{4}-[2-9a-z]{4}$/);
    const brought = result();
    // As it may be typed: in capitals, without hyphens.
    const typed = made.token.toUpperCase().replaceAll('-', '');
    expect(await post(typed, brought)).toMatchObject({ status: 201, body: { ok: true } });
    const { measurements, events } = await read(job);
    expect(measurements.map(({ test: name }) => name).sort()).toEqual([
      'measuring page: copy',
      'measuring page: latency',
      'measuring page: multiply-add',
      'measuring page: read',
    ]);
    expect(measurements.find(({ test: name }) => name === 'measuring page: read')).toMatchObject({
      ...{ runs: brought.read, power: 'mains, full power', isLowerBound: true },
      resolution: `${brought.threads} threads`,
      fingerprint: expect.stringContaining('a1=8GB') as string,
    });
    expect(events.at(-1)?.text).toContain('Measuring page, as-found, sent');
    const kept = await api.ok<ProbeRecord[]>('GET', `/jobs/${job.id}/results`);
    expect(kept).toMatchObject([{ id: brought.id, way: 'sent', result: brought }]);
    expect((await read(other)).measurements).toEqual([]);
  });

  test('is good once: the same result again is taken for said, another is not', async () => {
    const job = await api.jobWithFound();
    const { token } = await newTicket(job);
    const brought = result();
    // Both at once, as after a lost answer: it stands once.
    const answers = await Promise.all([post(token, brought), post(token, brought)]);
    expect(answers.map(({ status }) => status)).toContain(201);
    expect((await post(token, brought)).status).toBe(201);
    const again = await post(token, result());
    expect(again).toMatchObject({ status: 409, body: { mend: expect.any(String) as string } });
    const { measurements } = await read(job);
    expect(measurements[0]?.runs).toHaveLength(brought.read.length);
    const [ticket] = await api.ok<Ticket[]>('GET', `/jobs/${job.id}/tickets`);
    expect(ticket?.state).toBe('used');
  });

  test('expires, can be withdrawn, and an invented one is not known', async () => {
    const job = await api.jobWithFound();
    const [old, withdrawn] = [await newTicket(job), await newTicket(job)];
    await api.server.db
      .update(tickets)
      .set({ expiresAt: new Date(Date.now() - 1000) })
      .where(eq(tickets.id, old.id));
    await api.ok('DELETE', `/jobs/${job.id}/tickets/${withdrawn.id}`);
    expect(await post(old.token, result())).toMatchObject({ status: 410 });
    expect(await post(withdrawn.token, result())).toMatchObject({ status: 410 });
    expect(await post('abcd-efgh-2345', result())).toMatchObject({ status: 404 });
    expect((await read(job)).measurements).toEqual([]);
  });

  test('is refused where nothing is on record that could be measured', async () => {
    const job = await api.jobWithFound();
    const problem = await api.problem('POST', `/jobs/${job.id}/tickets`, {
      ...{ kind: 'as-fitted' },
    });
    expect(problem).toMatchObject({ status: 409, mend: expect.stringMatching(/Save/) as string });
  });

  test('a second visit adds to the first; other conditions take its place', async () => {
    const job = await api.jobWithFound();
    const bring = async (more: Partial<ProbeResult>, power = 'mains, full power') =>
      post((await newTicket(job, { power })).token, result(more));
    await bring({ threads: 8 });
    await bring({ threads: 8, marks: [] });
    const runsOf = async () =>
      (await read(job)).measurements.find(({ test: name }) => name === 'measuring page: read');
    expect(await runsOf()).toMatchObject({ isLowerBound: false });
    expect((await runsOf())?.runs).toHaveLength(18);
    await bring({ threads: 4 }, 'battery');
    expect(await runsOf()).toMatchObject({ power: 'battery', resolution: '4 threads' });
    expect((await runsOf())?.runs).toHaveLength(9);
    expect(await api.ok<ProbeRecord[]>('GET', `/jobs/${job.id}/results`)).toHaveLength(3);
  });
});

describe('the measuring door', () => {
  test('serves the page and nothing else of Tembrix', async () => {
    const page = await fetch(door);
    expect(await page.text()).toBe(PAGE);
    expect(page.headers.get('content-security-policy')).toMatch(/script-src 'sha256-/);
    for (const path of [
      '/api/jobs',
      '/api/health',
      '/jobs',
      '/measure',
      '/assets/a.js',
      '/results',
    ])
      expect([path, (await fetch(`${door}${path}`)).status]).toEqual([path, 404]);
    // At the bench itself the same page measures the bench's computer.
    expect(await (await fetch(`${api.server.url}/measure/`)).text()).toBe(PAGE);
  });

  test.each([
    ['a rate of no machine', { read: Array<number>(9).fill(90_000) }, /read.*5000 GB\/s or less/],
    ['a reply quicker than light', { reply: Array<number>(9).fill(0.01) }, /0.2 ns or more/],
    ['too few windows', { multiplyAdd: [20, 20] }, /5 runs or more/],
    ['no number', { copy: [null, 2, 3, 4, 5] }, /copy/],
    ['something smuggled in', { note: 'x' }, /note/],
    ['a thousand times the threads', { threads: 4096 }, /1024 threads at most/],
  ])('%s is refused, the bound said, the link still good', async (_what, more, words) => {
    const job = await api.jobWithFound();
    const { token } = await newTicket(job);
    const refused = await post(token, { ...result(), ...more }, `${api.server.url}/measure`);
    expect(refused).toMatchObject({ status: 422 });
    expect(refused.body.detail).toMatch(words);
    expect((await post(token, result(), `${api.server.url}/measure`)).status).toBe(201);
  });

  test('takes 4 kB and no more, JSON and nothing else', async () => {
    const { token } = await newTicket(await api.jobWithFound());
    expect(JSON.stringify({ token, result: result() }).length).toBeLessThan(4096);
    expect(await post('', '{')).toMatchObject({ status: 400 });
    const large = await post('', JSON.stringify({ token, result: 'x'.repeat(5000) }));
    expect(large).toMatchObject({ status: 413 });
    expect(large.body.detail).toContain('4 kB');
  });

  test('lets one machine try thirty times a minute, then asks it to wait', async () => {
    const base = (await openDoor(await freePort())).url ?? '';
    const tried = [];
    for (let at = 0; at < 32; at++)
      tried.push((await post('abcd-efgh-2345', result(), base)).status);
    expect(tried.slice(0, 30).every((status) => status === 404)).toBe(true);
    expect(tried.slice(30)).toEqual([429, 429]);
    door = (await openDoor(await freePort())).url ?? '';
  });

  test('opens only at an address of its own, says when a port is taken, and shuts', async () => {
    const { version } = await api.ok<Door>('GET', '/door');
    const stray = { isOpen: true, address: '203.0.113.9', port: 4881 };
    expect(await api.problem('PUT', '/door', { terms: stray, version })).toMatchObject({
      fields: [{ path: 'terms.address' }],
    });
    const taken = Number(new URL(api.server.url).port);
    expect(await openDoor(taken)).toMatchObject({
      url: null,
      fault: expect.stringMatching(/is taken. Choose another/) as string,
    });
    const open = await openDoor(await freePort());
    const shut = await api.ok<Door>('PUT', '/door', {
      ...{ terms: { ...open.terms, isOpen: false }, version: open.version },
    });
    expect(shut).toMatchObject({ url: null, fault: null });
    await expect(fetch(open.url ?? '')).rejects.toThrow();
    expect((await newTicket(await api.jobWithFound())).link).toBeNull();
    const stale = { terms: open.terms, version: open.version };
    expect(await api.problem('PUT', '/door', stale)).toMatchObject({ status: 409 });
    door = (await openDoor(await freePort())).url ?? '';
  });
});

describe('a result carried by hand', () => {
  const bring = (more: object) => ({
    ...{ kind: 'as-found', power: 'unknown', ...more },
  });

  test('by code: five runs of each test; the same code twice counts once', async () => {
    const job = await api.jobWithFound();
    const path = `/jobs/${job.id}/carried`;
    const brought = result({ marks: ['battery'] });
    const after = await api.ok('POST', path, bring({ code: carryCode(brought) }));
    expect(after.measurements).toHaveLength(3);
    expect(after.measurements[0]).toMatchObject({ power: 'battery' });
    expect(after.measurements[0]?.runs).toHaveLength(5);
    const twice = await api.problem('POST', path, bring({ code: carryCode(brought) }));
    expect(twice.detail).toContain('on the job already');
    const wrong = await api.problem('POST', path, bring({ code: '5010 M7Q0' }));
    expect(wrong).toMatchObject({ fields: [{ path: 'code' }] });
    expect(wrong.detail).toContain('8 characters instead of 32');
  });

  test('by file, and as kept: the multiply-add kernel is read by its earlier name too', async () => {
    const job = await api.jobWithFound();
    const { multiplyAdd, ...rest } = result();
    const earlier = { ...rest, triad: multiplyAdd };
    await api.ok('POST', `/jobs/${job.id}/carried`, bring({ file: earlier }));
    const { measurements } = await read(job);
    const own = measurements.find(({ test: name }) => name === 'measuring page: multiply-add');
    expect(own?.runs).toEqual(multiplyAdd);
    // A row as an earlier server wrote it, or a backup of one brings it.
    await api.server.db
      .update(probeResults)
      .set({ result: earlier as never })
      .where(eq(probeResults.jobId, job.id));
    const [kept] = await api.ok<ProbeRecord[]>('GET', `/jobs/${job.id}/results`);
    expect(kept?.result).toEqual({ multiplyAdd, ...rest });
  });

  test('by file: whole; a file already sent is known again, another file is refused', async () => {
    const job = await api.jobWithFound();
    const path = `/jobs/${job.id}/carried`;
    const brought = result();
    const after = await api.ok('POST', path, bring({ file: brought }));
    expect(after.measurements).toHaveLength(4);
    const sent = await post((await newTicket(job)).token, brought);
    expect(sent.body.detail).toContain('on the job already');
    const stray = await api.problem('POST', path, bring({ file: { hello: 1 } }));
    expect(stray).toMatchObject({ fields: [{ path: 'file' }] });
  });
});

describe('a simulated machine', () => {
  test('sends through the same door, always marked, and only in a made-up world', async () => {
    const job = await api.jobWithFound();
    const body = { kind: 'as-found', fault: 'none' };
    const after = await api.ok('POST', `/jobs/${job.id}/simulated`, body);
    expect(after.measurements).toHaveLength(4);
    expect(after.measurements.every(({ conditions }) => conditions === 'simulated')).toBe(true);
    const [kept] = await api.ok<ProbeRecord[]>('GET', `/jobs/${job.id}/results`);
    expect(kept).toMatchObject({ way: 'simulated' });
    expect(kept?.result.marks).toContain('simulated');
    const real = await Api.start();
    try {
      const own = await real.jobWithFound();
      const refused = await real.problem('POST', `/jobs/${own.id}/simulated`, body);
      expect(refused.detail).toContain('made-up world only');
    } finally {
      await real.server.stop();
    }
  });
});
