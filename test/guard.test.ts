import type { OutgoingHttpHeaders } from 'node:http';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { initialsOf, tagSvg } from '../server/reports/tag.ts';
import { Api } from './support/api.ts';
import { askRaw } from './support/askRaw.ts';

let api: Api;
let port = 0;
beforeAll(async () => {
  api = await Api.start(undefined, { addresses: [new URL('https://bench.example')] });
  port = Number(new URL(api.server.url).port);
});
afterAll(() => api.server.stop());

const ask = (path: string, headers: OutgoingHttpHeaders, method = 'GET', body = '') =>
  askRaw(port, path, { headers, method, body });

describe('names the bench answers to', () => {
  test.each(['127.0.0.1:PORT', 'localhost:PORT', '[::1]:PORT', 'LocalHost:PORT', 'bench.example'])(
    '%s',
    async (host) => {
      const { status } = await ask('/api/health', { host: host.replace('PORT', String(port)) });
      expect(status).toBe(200);
    },
  );

  test.each([
    'stranger.example',
    'stranger.example:PORT',
    '127.0.0.1',
    '127.0.0.1:1',
    'localhost.',
  ])('not “%s”, neither for data nor for the page', async (host) => {
    for (const path of ['/api/health', '/api/jobs', '/', '/measure', '/api/openapi.json']) {
      const { status, type, body } = await ask(path, {
        host: host.replace('PORT', String(port)),
      });
      expect(status).toBe(421);
      expect(type).toContain('application/problem+json');
      expect(body.mend).toContain(`http://127.0.0.1:${port}`);
    }
  });
});

describe('pages of other sites', () => {
  const json = { 'content-type': 'application/json' };
  const name = (headers: OutgoingHttpHeaders) =>
    ask(
      '/api/makers/7-01',
      { ...json, cookie: api.cookie, ...headers },
      'PUT',
      JSON.stringify({ name: 'Nobody' }),
    );

  test.each([
    ['another site', { origin: 'https://stranger.example' }],
    ['no origin it would name', { origin: 'null' }],
    ['another port of this machine', { origin: 'http://127.0.0.1:1' }],
    ['what the browser calls another site', { 'sec-fetch-site': 'cross-site' }],
    ['what the browser calls the same site', { 'sec-fetch-site': 'same-site' }],
  ])('write nothing: %s', async (_what, headers) => {
    expect((await name(headers)).status).toBe(403);
    // A form can post without asking first.
    const form = { ...headers, 'content-type': 'text/plain' };
    expect((await ask('/api/jobs', form, 'POST', '{}')).status).toBe(403);
    expect((await ask('/measure/results', form, 'POST', '{}')).status).toBe(403);
  });

  test('read nothing, but a link to the bench may be followed', async () => {
    const foreign = { 'sec-fetch-site': 'cross-site' };
    expect((await ask('/api/health', { ...foreign, 'sec-fetch-mode': 'no-cors' })).status).toBe(
      403,
    );
    const link = await ask('/api/health', { ...foreign, 'sec-fetch-mode': 'navigate' });
    expect(link.status).toBe(200);
  });

  test.each([
    ['the bench’s own page', { 'sec-fetch-site': 'same-origin' }],
    ['the bench under the owner’s name', { origin: 'https://bench.example' }],
    ['a program that is no browser', {}],
    ['an address typed by hand', { 'sec-fetch-site': 'none' }],
  ])('%s writes', async (_what, headers) => {
    expect((await name(headers)).status).toBe(200);
  });

  test('refused requests do not use up the bench’s allowance', async () => {
    const left = async () => {
      const answer = await api.fetch(`/health`);
      return /r=(\d+)/.exec(answer.headers.get('ratelimit') ?? '')?.[1];
    };
    const before = Number(await left());
    for (let turn = 0; turn < 5; turn++) await name({ origin: 'https://stranger.example' });
    for (let turn = 0; turn < 5; turn++) await ask('/api/health', { host: 'stranger.example' });
    expect(Number(await left())).toBe(before - 1);
  });
});

test('a tag leads to where the owner says the bench is, whatever a request calls it', async () => {
  const { id, number, customer } = await api.jobWithFound();
  const answer = await api.fetch(`/jobs/${id}/tag.svg`);
  const tag = {
    ...{ heading: 'Job', main: String(number).padStart(4, '0') },
    second: initialsOf(customer.name),
  };
  expect(await answer.text()).toBe(tagSvg({ ...tag, address: `https://bench.example/jobs/${id}` }));
});
