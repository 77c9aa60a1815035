import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import type { ListedMachine } from '#contract/records';
import { Api } from './support/api.ts';
import { desktop } from './support/builders.ts';

test('a bench that is ended answers whoever it is answering, and what it answered is kept', async () => {
  const path = mkdtempSync(join(tmpdir(), 'tembrix-stopping-'));
  try {
    const api = await Api.start({ type: 'directory', path });
    const { cookie } = api;
    let [told, toldLate] = [[] as string[], 0];
    let isEnded = false;
    const saves = Array.from({ length: 30 }, async (_, at) => {
      const machine = desktop({ name: `Bench ${at}` });
      const { status } = await api.send('POST', '/machines', { machine });
      expect(status).toBe(201);
      told = [...told, machine.name];
      if (isEnded) toldLate++;
    });
    await Promise.race(saves);
    const stopping = api.server.stop();
    isEnded = true;
    const ends = await Promise.allSettled(saves);
    await stopping;
    // Whoever had not been let in hears nothing at all; nobody hears of a mistake.
    for (const end of ends)
      if (end.status === 'rejected') expect(String(end.reason)).toContain('fetch failed');
    expect(toldLate).toBeGreaterThan(0);

    const again = await Api.start({ type: 'directory', path }, {}, false);
    again.cookie = cookie.replaceAll(
      `-${new URL(api.server.url).port}=`,
      `-${new URL(again.server.url).port}=`,
    );
    const kept = await again.ok<ListedMachine[]>('GET', '/machines');
    expect(kept.map(({ machine }) => machine.name)).toEqual(expect.arrayContaining(told));
    await again.server.stop();
  } finally {
    rmSync(path, { recursive: true, force: true });
  }
});
