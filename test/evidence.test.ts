import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { JobEvidence } from '#contract/evidence';
import type { Job } from '#contract/records';
import { writeSmbios } from '#core/inventory';
import { Api, module } from './support/api.ts';
import { desktop, labelled, spdOf } from './support/builders.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

const base64 = (content: Uint8Array | string) => Buffer.from(content).toString('base64');
const image = spdOf(module);
const file = (name: string, content: Uint8Array | string) => ({
  ...{ kind: 'file', name, base64: base64(content), slotIds: [] },
});

describe('POST /api/inventory/read', () => {
  const first = labelled('8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24');
  const second = labelled('8GB 2Rx8 PC4-2133P-UB1-11 PV-8U21');
  const placement = { a1: first, a2: second, b2: first };
  const read = (files: object[]) =>
    api.ok<{
      files: { kind: string; devices: unknown[]; findings: { title: string; mend?: string }[] }[];
      picture?: {
        machine: { slots: unknown[] };
        placement: object;
        headline: string;
        grade: string;
        questions: { title: string }[];
      };
    }>('POST', '/inventory/read', { files });

  test('a dump alone gives slots, sizes, rate and grade; an image with it adds its times', async () => {
    const style = { configuredRate: 2133, mapsAddresses: true, interleaves: true };
    const dump = { name: 'table.dmp', base64: base64(writeSmbios(desktop(), placement, style)) };
    const { files, picture } = await read([dump]);
    expect(files[0]).toMatchObject({ kind: 'smbios', findings: [] });
    expect(picture?.machine.slots).toHaveLength(4);
    expect(Object.keys(picture?.placement ?? {})).toHaveLength(3);
    expect(picture?.headline).toBe('DDR4-2133 · CL 16 · 16 of 24 GB dual-channel · 34.1 GB/s');
    expect(picture?.grade).toBe('same size');
    const own = spdOf(first);
    const both = await read([dump, { name: 'A1.bin', base64: base64(own) }]);
    expect(both.files[1]?.kind).toBe('spd');
    expect(both.picture?.placement).toMatchObject({ s1: { timesPs: { cl: 14_166 } } });
  });

  test.each([
    ['no file', [], 422, /one file or more/],
    ['no base64', [{ name: 'x', base64: '%%' }], 422, /not base64/],
    ['no name', [{ name: '', base64: '' }], 422, /Enter the name/],
  ])('%s is refused with a mend', async (_name, files, status, detail) => {
    const problem = await api.problem('POST', '/inventory/read', { files });
    expect([problem.status, problem.detail]).toEqual([status, expect.stringMatching(detail)]);
  });

  test.each([
    ['10 MB of noise', Buffer.alloc(10_000_000, 'noise '), 'Too large for an inventory'],
    ['a flipped bit', image.map((byte, at) => (at === 9 ? byte ^ 1 : byte)), /Checksum of block/],
    ['FF', new Uint8Array(512).fill(255), /Blank/],
    ['JSON of another shape', '{"disks": []}', /Not a list of memory/],
  ])('%s is a finding, not a failure', async (_name, content, title) => {
    const { files, picture } = await read([{ name: 'x', base64: base64(content) }]);
    expect(files[0]?.findings[0]?.title).toMatch(title);
    expect(picture).toBeUndefined();
  });
});

describe('evidence of a job', () => {
  const path = async () => {
    const job = await api.jobWithFound();
    return [`/jobs/${job.id}`, job] as const;
  };

  test('is kept as it came, is one when it comes twice, and the history says who', async () => {
    const [own] = await path();
    const documents = [file('A1.bin', image), file('b.bin', image), file('A1.bin', image)];
    const { documents: kept } = await api.ok<JobEvidence>('POST', `${own}/evidence`, { documents });
    expect(kept.map(({ name }) => name)).toEqual(['A1.bin', 'b.bin']);
    expect(kept[0]).toEqual(expect.objectContaining({ size: image.length }));
    expect(kept[0]).not.toHaveProperty('base64');
    const one = await api.fetch(`${own}/evidence/${kept[0]?.id}`);
    expect(await one.json()).toEqual({ base64: base64(image) });
    expect(one.headers.get('cache-control')).toMatch(/immutable/);
    // Another job’s files are not to be had by their number alone.
    const [other] = await path();
    const problem = await api.problem('GET', `${other}/evidence/${kept[0]?.id}`);
    expect(problem).toMatchObject({ status: 404 });
    await api.ok('POST', `${own}/evidence`, { documents });
    const again = await api.ok<JobEvidence>('GET', `${own}/evidence`);
    expect(again.documents).toEqual(kept);
    const { events } = await api.ok<Job>('GET', own);
    expect(events.at(-1)?.text).toBe('Ottoline V. added 2 files');
    for (const change of [
      sql`update evidence set content = 'x'`,
      sql`delete from evidence`,
      sql`delete from decisions`,
    ])
      await expect(
        api.server.db.execute(change).then(
          () => 'went through',
          (error: unknown) => String((error as { cause?: unknown }).cause ?? error),
        ),
      ).resolves.toMatch(/kept as it came|append-only/);
  });

  const JPEG = Buffer.from('ffd8ffe000104a46494600010100', 'hex');
  const label = (more: object = {}) => ({
    ...{ kind: 'photo', name: 'sticker', base64: base64('8GB 1Rx8 PC4-2400T-UA1-11') },
    ...{ slotIds: ['a1'], photo: base64(JPEG), ...more },
  });

  test('a label keeps the photo it was read off; both are kept as they came, once', async () => {
    const [own] = await path();
    const documents = [label(), label(), label({ kind: 'sticker', photo: undefined })];
    const { documents: kept } = await api.ok<JobEvidence>('POST', `${own}/evidence`, { documents });
    expect(kept.map(({ kind, hasPhoto }) => [kind, hasPhoto])).toEqual([
      ['photo', true],
      ['sticker', false],
    ]);
    expect((kept[0]?.size ?? 0) - (kept[1]?.size ?? 0)).toBe(JPEG.length);
    const photoOf = (job: string, id: string | undefined) =>
      api.fetch(`${job}/evidence/${id}/photo`);
    const shown = await photoOf(own, kept[0]?.id);
    expect(shown.headers.get('content-type')).toBe('image/jpeg');
    expect(Buffer.from(await shown.arrayBuffer())).toEqual(JPEG);
    const [other] = await path();
    expect((await photoOf(own, kept[1]?.id)).status).toBe(404);
    expect((await photoOf(other, kept[0]?.id)).status).toBe(404);
    await expect(
      api.server.db.execute(sql`update evidence set photo = null where id = ${kept[0]?.id}`),
    ).rejects.toMatchObject({ cause: { message: 'evidence is kept as it came' } });
  });

  test.each([
    ['without its photo', { photo: undefined }, 422, /comes with the photo/],
    ['with a photo that is a letter', { photo: base64('Dear sirs') }, 409, /not a picture/],
    ['with a photo too large', { photo: 'A'.repeat(940_000) }, 422, /700 kB/],
    ['with a photo that is no base64', { photo: '%%' }, 422, /not base64/],
  ])(
    'a label off a photo %s is refused, and nothing is kept',
    async (_name, more, status, detail) => {
      const [own] = await path();
      const problem = await api.problem('POST', `${own}/evidence`, { documents: [label(more)] });
      expect([problem.status, problem.detail]).toEqual([status, expect.stringMatching(detail)]);
      expect((await api.ok<JobEvidence>('GET', `${own}/evidence`)).documents).toEqual([]);
    },
  );

  test('can be put to a slot and believed, with who and when; a slot that is not there is refused', async () => {
    const [own] = await path();
    const { documents } = await api.ok<JobEvidence>('POST', `${own}/evidence`, {
      documents: [file('dump.bin', image)],
    });
    const id = documents[0]?.id ?? '';
    const slots = `${own}/evidence/${id}/slots`;
    const placed = await api.ok<JobEvidence>('PUT', slots, { slotIds: ['b2'] });
    expect(placed.documents[0]?.slotIds).toEqual(['b2']);
    expect((await api.problem('PUT', slots, { slotIds: ['zz'] })).mend).toBe(
      'Choose one of its slots.',
    );
    const decision = { slotId: 'b2', field: 'capacity', evidenceId: id };
    const { decisions } = await api.ok<JobEvidence>('POST', `${own}/decisions`, {
      decisions: [decision],
    });
    expect(decisions).toMatchObject([decision]);
    expect(Date.parse(decisions[0]?.at ?? '')).toBeGreaterThan(Date.now() - 60_000);
    const stray = { ...decision, evidenceId: 'nope' };
    expect((await api.problem('POST', `${own}/decisions`, { decisions: [stray] })).status).toBe(
      404,
    );
  });

  test('where a firmware’s name belongs is remembered for the machine', async () => {
    const [, job] = await path();
    const locators = `/machines/${job.machine.id}/locators`;
    await api.ok('PUT', locators, { key: 'BANK3', slotId: 'b2' });
    const both = await api.ok<{ locators: object }>('PUT', locators, {
      key: 'BANK9',
      slotId: 'none',
    });
    expect(both.locators).toEqual({ BANK3: 'b2', BANK9: 'none' });
    const less = await api.ok<{ locators: object }>('PUT', locators, {
      key: 'BANK3',
      slotId: null,
    });
    expect(less.locators).toEqual({ BANK9: 'none' });
    expect((await api.problem('PUT', locators, { key: 'x', slotId: 'zz' })).status).toBe(409);
  });
});

describe('intake', () => {
  test('one intake for five like machines makes five jobs of one batch', async () => {
    const one = await api.jobWithFound();
    const first = await api.ok<Job>('POST', '/jobs', {
      ...{ customer: { id: one.customer.id }, machineId: one.machine.id, complaint: 'All slow' },
      ...{ count: 5, budget: 25_000, deadline: '2026-12-24', swollenBattery: true },
    });
    expect(first).toMatchObject({ batch: { position: 1, size: 5 }, budget: 25_000 });
    const { jobs } = await api.ok<{ jobs: Job[] }>('GET', '/jobs?search=All%20slow');
    expect(jobs.map(({ batch }) => batch?.position)).toEqual([1, 2, 3, 4, 5]);
    expect(new Set(jobs.map(({ batch }) => batch?.id)).size).toBe(1);
    expect(jobs[0]).toMatchObject({ isStopped: true, deadline: '2026-12-24' });
    const many = await api.problem('POST', '/jobs', {
      ...{
        customer: { id: one.customer.id },
        machineId: one.machine.id,
        complaint: 'x',
        count: 51,
      },
    });
    expect(many.detail).toContain('50 machines at most');
  });

  test('the bench tag names no one: number, initials, and a code that opens the job', async () => {
    const job = await api.jobWithFound();
    const svg = await (await api.fetch(`/jobs/${job.id}/tag.svg`)).text();
    expect(svg).toContain(`>${String(job.number).padStart(4, '0')}<`);
    expect(svg).toContain('>TM<');
    expect(svg).not.toContain('student');
    const pdf = await api.fetch(`/jobs/${job.id}/tag.pdf`);
    expect(pdf.headers.get('content-type')).toContain('application/pdf');
    expect((await pdf.text()).slice(0, 5)).toBe('%PDF-');
    expect((await api.fetch(`/jobs/nope/tag.pdf`)).status).toBe(404);
  });

  test('the tag of a drawer module says what it is, and leads to it', async () => {
    const label = '16GB 2Rx8 PC4-2666V-UB1-11 a part number far longer than any tag is wide';
    const module = labelled('16GB 2Rx8 PC4-2666V-UB1-11');
    const piece = await api.ok<{ id: string }>('POST', '/drawer', {
      ...{ label, module, state: 'tested', price: 900, origin: 'pulled from the tide office’s' },
    });
    const svg = await (await api.fetch(`/drawer/${piece.id}/tag.svg`)).text();
    for (const words of ['>Drawer<', '>16 GB<', 'DDR4-2666', 'pulled from the'])
      expect(svg).toContain(words);
    const pdf = await api.fetch(`/drawer/${piece.id}/tag.pdf`);
    expect((await pdf.text()).slice(0, 5)).toBe('%PDF-');
    expect((await api.fetch(`/drawer/nope/tag.pdf`)).status).toBe(404);
  });

  test('the need is summed by the server, whatever a client claims', async () => {
    const job = await api.jobWithFound();
    const needInput = {
      ...{ idle: { low: 2, high: 4 }, drive: 'unknown', graphicsShort: false, peak: null },
      activities: [{ name: 'Mail', low: 1, high: 2 }],
    };
    const change = { version: job.version, need: 1, needInput };
    expect((await api.ok<Job>('PATCH', `/jobs/${job.id}`, change)).need).toBe(6);
    const reversed = { ...needInput, activities: [{ name: 'Mail', low: 9, high: 2 }] };
    const problem = await api.problem('PATCH', `/jobs/${job.id}`, {
      ...{ version: job.version + 1, needInput: reversed },
    });
    expect(problem.fields?.[0]).toMatchObject({ path: 'needInput.activities.0' });
  });
});

test('makers are named by code, renamed, and given back', async () => {
  await api.ok('PUT', '/makers/3-4F', { name: 'Orlvane' });
  expect(await api.ok('PUT', '/makers/3-4F', { name: 'Orlvane Ltd' })).toContainEqual({
    ...{ key: '3-4F', name: 'Orlvane Ltd' },
  });
  expect((await api.problem('PUT', '/makers/banana', { name: 'x' })).detail).toContain(
    'such as 3-4F',
  );
  expect(await api.ok('DELETE', '/makers/3-4F')).toEqual([]);
});
