import { deflateSync } from 'node:zlib';
import { crc32 } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Session } from '#contract/access';
import type { Quote, Shop } from '#contract/quotes';
import { Api } from './support/api.ts';
import { acceptedJob, offer } from './support/ordered.ts';
import { pdfText } from './support/pdfText.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

/** A picture of one colour, as any program writes it. */
function png(width = 12, height = 8): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const [size, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    size.writeUInt32BE(data.length);
    sum.writeUInt32BE(crc32(body));
    return Buffer.concat([size, body, sum]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 2], 8);
  const rows = Buffer.alloc(height * (1 + 3 * width), 0x66);
  for (let row = 0; row < height; row++) rows[row * (1 + 3 * width)] = 0;
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    ...[chunk('IHDR', head), chunk('IDAT', deflateSync(rows)), chunk('IEND', Buffer.alloc(0))],
  ]);
}

const change = async (more: object) => {
  const { terms, version } = await api.ok<Shop>('GET', '/shop');
  return api.ok<Shop>('PUT', '/shop', { terms: { ...terms, ...more }, version });
};

describe('the sign of the shop', () => {
  test('stands on quotes once it is saved, and is gone when it is taken away', async () => {
    const single = await offer(api, { supplier: 'Quay', article: 'Q' });
    const { job } = await acceptedJob(api, single.id);
    const [quote] = await api.ok<Quote[]>('GET', `/jobs/${job.id}/quotes`);
    const printed = async () => {
      const response = await api.fetch(`/jobs/${job.id}/quotes/${String(quote?.number)}.pdf`);
      return Buffer.from(await response.arrayBuffer()).toString('latin1');
    };
    expect(await printed()).not.toContain('/Subtype /Image');
    const saved = await api.ok<Shop>('PUT', '/shop/logo', { base64: png().toString('base64') });
    expect(saved.hasLogo).toBe(true);
    expect(await printed()).toContain('/Subtype /Image');
    const shown = await api.fetch('/shop/logo');
    expect(shown.headers.get('content-type')).toBe('image/png');
    expect(Buffer.from(await shown.arrayBuffer()).equals(png())).toBe(true);
    expect((await api.ok<Shop>('DELETE', '/shop/logo')).hasLogo).toBe(false);
    expect(await printed()).not.toContain('/Subtype /Image');
    expect((await api.fetch('/shop/logo')).status).toBe(404);
  });

  test.each([
    ['no picture', Buffer.from('<svg onload="x"/>')],
    [
      'a drawing with a picture’s beginning',
      Buffer.concat([png().subarray(0, 20), Buffer.alloc(40)]),
    ],
    ['a kind that is not printed', Buffer.from('RIFF\0\0\0\0WEBPVP8 ')],
  ])('%s is refused in words, and the one before stays', async (_what, bytes) => {
    await api.ok('PUT', '/shop/logo', { base64: png().toString('base64') });
    const problem = await api.problem('PUT', '/shop/logo', { base64: bytes.toString('base64') });
    expect([problem.status, problem.mend?.includes('JPEG')]).toEqual([409, true]);
    expect((await api.ok<Shop>('GET', '/shop')).hasLogo).toBe(true);
  });
});

test('new jobs start with the shop’s school and margin; jobs there are keep theirs', async () => {
  const before = await api.jobWithFound();
  await change({ school: 'strict', needMargin: 0.5 });
  const after = await api.jobWithFound();
  expect([after.school, after.margin]).toEqual(['strict', 0.5]);
  const kept = await api.ok('GET', `/jobs/${before.id}`);
  expect([kept.school, kept.margin]).toEqual([before.school, before.margin]);
});

test('quotes and pages are written as the shop writes; what a wrong figure is, is said at it', async () => {
  await change({ school: 'balanced', needMargin: 0.25 });
  const single = await offer(api, { supplier: 'Wharf', article: 'W' });
  const { job, quote } = await acceptedJob(api, single.id);
  const printed = async () => {
    const response = await api.fetch(`/jobs/${job.id}/quotes/${String(quote.number)}.pdf`);
    return (await pdfText(new Uint8Array(await response.arrayBuffer()))).join(' ');
  };
  const amounts = /€\d+([.,])\d\d/g;
  const signs = (text: string) => new Set([...text.matchAll(amounts)].map(([, sign]) => sign));
  expect(signs(await printed())).toEqual(new Set(['.']));
  await change({ numbers: 'comma', dates: 'year first' });
  expect(signs(await printed())).toEqual(new Set([',']));
  expect(await printed()).toContain(quote.validUntil);
  expect((await api.ok<Session>('GET', '/session')).writing).toEqual({
    ...{ dates: 'year first', numbers: 'comma' },
  });
  await change({ numbers: 'point', dates: 'day first' });
  expect(await printed()).not.toContain(quote.validUntil);

  const { terms, version } = await api.ok<Shop>('GET', '/shop');
  const wrong = [{ name: 'Tide tables', low: 6, high: 2 }];
  const problem = await api.problem('PUT', '/shop', {
    ...{ terms: { ...terms, activities: wrong }, version },
  });
  expect(JSON.stringify(problem)).toContain('The range runs backwards');
});

test.each([
  [{ marginPercent: -1 }],
  [{ marginPercent: 401 }],
  [{ roundPricesTo: 0 }],
  [{ labelSheet: 'none such' }],
  [{ school: 'guess' }],
  [{ needMargin: 9 }],
  [{ dates: 'month last' }],
  [{ numbers: 'roman' }],
  [{ activities: [{ name: 'Tide tables', low: 6, high: 2 }] }],
  [{ activities: [{ name: '', low: 1, high: 2 }] }],
  [{ activities: ['one', 'two', 'one'].map((name) => ({ name, low: 1, high: 2 })) }],
])('%o is refused, and nothing is changed', async (more) => {
  const { terms, version } = await api.ok<Shop>('GET', '/shop');
  const problem = await api.problem('PUT', '/shop', { terms: { ...terms, ...more }, version });
  expect(problem.status).toBe(422);
  expect((await api.ok<Shop>('GET', '/shop')).terms).toEqual(terms);
});
