import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { decodeText, readInventory, readScreen } from '#core/inventory';
import { readFrames } from '#core/proving';
import { Api } from './support/api.ts';
import { AWKWARD, awkward } from './support/awkwardBytes.ts';

// One file, or one body, must not stop the bench. A reader whose time grows with the square of the size
// needs hours for these; nothing is timed, it has to come to an end at all.

describe('a megabyte of one thing are read, or refused, while somebody waits', () => {
  test.each(Object.keys(AWKWARD))('%s', (name) => {
    const bytes = awkward(name, 2 ** 20);
    const text = decodeText(bytes);
    expect(readInventory(bytes).devices.length).toBeLessThan(1000);
    expect(readScreen(text).devices.length).toBeLessThan(100);
    expect(readFrames(text)).toBeDefined();
  });

  test('a line of a screen far longer than any screen', () => {
    const text = `A1${':'.repeat(2 ** 21)}x 8 GB`;
    expect(readScreen(text).devices).toEqual([]);
    expect(readScreen(`A1${' '.repeat(50)}8 GB @ 2400`).devices).toHaveLength(1);
  });
});

describe('a body that is large in a way no body is', () => {
  let api: Api;
  beforeAll(async () => {
    api = await Api.start();
  });
  afterAll(() => api.server.stop());

  test.each([
    ['brackets', '['.repeat(8e6)],
    ['brackets that close', '['.repeat(4e6) + ']'.repeat(4e6)],
    ['keys nobody knows', `{${Array.from({ length: 600_000 }, (_, at) => `"k${at}":1`).join()}}`],
    ['values nobody asked for', `[${'1,'.repeat(1e6)}1]`],
  ])('is refused before it is built: %s', async (_what, body) => {
    for (const path of ['/inventory/read', '/modules/import', '/plans/search']) {
      const { status, body: problem } = await api.send<{ mend: string }>('POST', path, body);
      expect(status).toBe(413);
      expect(problem.mend).toContain('Send less');
    }
  });

  test('brackets inside a text are text', async () => {
    const files = [{ name: '[[[,,,"\\"'.repeat(12), base64: 'QQ==' }];
    expect((await api.send('POST', '/inventory/read', { files })).status).toBe(200);
  });

  test('a request wrong in thousands of ways hears of some, not of megabytes', async () => {
    const unknown = Object.fromEntries(Array.from({ length: 20_000 }, (_, at) => [`key ${at}`, 1]));
    const wrong = await api.problem('POST', '/modules/import', { modules: Array(5000).fill(7) });
    expect(wrong.fields?.length).toBeLessThanOrEqual(50);
    const strange = await api.problem('POST', '/inventory/read', { files: [], ...unknown });
    expect(JSON.stringify(strange).length).toBeLessThan(20_000);
    expect(strange.mend).toContain('Nothing was changed');
  });
});
