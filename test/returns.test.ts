import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { ReturnRecord } from '#contract/bench';
import { queryForJob } from '#contract/jobPlan';
import { DEFAULT_TERMS } from '#core/quoting';
import { Api, module } from './support/api.ts';
import { labelled } from './support/builders.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

describe('memory tests and returns', () => {
  const testOf = (more: object = {}) => ({
    ...{ kind: 'before the system starts', minutes: 120, passes: 2, errors: 0 },
    ...{ tool: '', conditions: '', ...more },
  });

  test('a pass counts for the modules it ran on, and one error outweighs it', async () => {
    const job = await api.jobWithFound();
    const passed = await api.ok('POST', `/jobs/${job.id}/memory-tests`, testOf());
    expect(passed.memoryTestPassed).toBe(true);
    const failed = await api.ok('POST', `/jobs/${job.id}/memory-tests`, testOf({ errors: 3 }));
    expect(failed.memoryTestPassed).toBe(false);
    await api.ok('DELETE', `/jobs/${job.id}/memory-tests/${failed.memoryTests[1]?.id ?? ''}`);
    const other = await api.ok('PUT', `/jobs/${job.id}/snapshots/as-fitted`, {
      ...{
        placement: { a1: labelled('16GB 2Rx8 PC4-3200AA-UB1-11') },
        setting: 'standard',
        version: 0,
      },
    });
    expect(other.memoryTestPassed).toBe(false);
    const short = await api.ok(
      'POST',
      `/jobs/${job.id}/memory-tests`,
      testOf({ kind: 'in the running system', minutes: 20 }),
    );
    expect(short.memoryTestPassed).toBe(false);
    expect(
      (await api.problem('POST', `/jobs/${job.id}/memory-tests`, testOf({ passes: 0.5 }))).status,
    ).toBe(422);
  });

  test('a bad module goes on the list of returns, and plans no longer count on it', async () => {
    const job = await api.jobWithFound();
    const back = {
      slotId: 'a1',
      module,
      supplier: 'Quay',
      reason: 'errors follow it',
    };
    const after = await api.ok('POST', `/jobs/${job.id}/returns`, back);
    expect(queryForJob(after, [], [], DEFAULT_TERMS).fitted).toEqual({});
    const [one] = await api.ok<ReturnRecord[]>('GET', '/returns');
    expect(one).toMatchObject({
      state: 'to send',
      jobNumber: job.number,
      reason: 'errors follow it',
    });
    const moved = await api.ok<ReturnRecord[]>('PUT', `/returns/${one?.id ?? ''}`, {
      state: 'sent',
      version: 1,
    });
    expect(moved[0]).toMatchObject({ state: 'sent', serial: '' });
    const path = `/returns/${one?.id ?? ''}`;
    const noted = { state: 'sent', serial: '0921AB77F300' };
    await api.ok('PUT', path, { ...noted, version: 2 });
    const [later] = await api.ok<ReturnRecord[]>('PUT', path, { state: 'replaced', version: 3 });
    expect(later).toMatchObject({ state: 'replaced', serial: '0921AB77F300' });
    expect(
      (await api.problem('PUT', `/returns/${one?.id ?? ''}`, { state: 'refused', version: 1 }))
        .status,
    ).toBe(409);
  });

  test('a dead slot is left out of plans, with what sat in it', async () => {
    const job = await api.jobWithFound();
    const dead = await api.ok('PATCH', `/jobs/${job.id}`, {
      version: job.version,
      deadSlots: ['a1'],
    });
    const query = queryForJob(dead, [], [], DEFAULT_TERMS);
    expect(query.machine.slots.map(({ id }) => id)).toEqual(['a2', 'b1', 'b2']);
    expect(query.fitted).toEqual({});
  });
});
