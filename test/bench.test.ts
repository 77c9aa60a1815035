import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { BenchInput, BenchLog } from '#contract/bench';
import { jobBench } from '#contract/jobBench';
import { queryForJob } from '#contract/jobPlan';
import type { DrawerRecord } from '#contract/drawer';
import type { Quote, Shop } from '#contract/quotes';
import type { Job, MachineRecord, ModuleRecord } from '#contract/records';
import { modulesGone } from '#core/fitting';
import { runToEnd } from '#core/planning';
import { Api, module } from './support/api.ts';
import { labelled } from './support/builders.ts';
import { often } from './support/draws.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

const sixteen = labelled('16GB 2Rx8 PC4-3200AA-UB1-11');
let count = 0;
const note = (more: BenchInput['note']): BenchInput => ({ id: `note-${count++}`, note: more });

/** A job with a plan: the 8 GB out of A1, 16 GB into A1 and B1. */
async function planned(): Promise<Job> {
  const job = await api.jobWithFound();
  return api.ok('PUT', `/jobs/${job.id}/snapshots/planned`, {
    ...{ placement: { a1: sixteen, b1: sixteen }, setting: 'standard', version: 0 },
  });
}
const add = (job: Job, input: BenchInput, who = api) =>
  who.ok<BenchLog>('POST', `/jobs/${job.id}/bench`, input);

/** Ticks the next step until none is left, or until a step of that name. */
async function work(job: Job, until = ''): Promise<string[]> {
  const done: string[] = [];
  let log = await api.ok<BenchLog>('GET', `/jobs/${job.id}/bench`);
  for (;;) {
    const { next } = jobBench(job, log).sheet;
    if (!next || next.id === until) return done;
    log = await add(job, note({ type: 'tick', stepId: next.id }));
    done.push(next.id);
  }
}

describe('the bench log', () => {
  test('a sheet worked off records what was fitted, with who, and the drawer gets nothing that is not the shop’s', async () => {
    const job = await planned();
    const done = await work(job);
    expect(done).toContain('pull a1 1');
    const after = await api.ok('GET', `/jobs/${job.id}`);
    const fitted = after.snapshots.find(({ kind }) => kind === 'as-fitted');
    expect(Object.keys(fitted?.placement ?? {}).sort()).toEqual(['a1', 'b1']);
    expect(after.events.map(({ text }) => text).join('\n')).toContain('Seated 16 GB');
    expect(after.events.map(({ text }) => text).join('\n')).toContain('(Ottoline V.)');
    // No credit was given, so the pulled module is the customer's.
    expect(await api.ok<DrawerRecord[]>('GET', '/drawer')).toEqual([]);
  });

  test('the same note sent twice stands once; of two who tick a step the first one’s name stays', async () => {
    const job = await planned();
    const [anwen, bram] = [
      await api.person('technician', 'Anwen'),
      await api.person('technician', 'Bram'),
    ];
    const one = note({ type: 'tick', stepId: 'unplug' });
    await add(job, one, anwen);
    await add(job, one, anwen);
    const log = await add(job, note({ type: 'tick', stepId: 'unplug' }), bram);
    expect(log.entries.map(({ by }) => by)).toEqual(['Anwen']);
    const [first] = log.entries;
    await add(job, note({ type: 'undo', of: first?.id ?? '' }));
    const again = await add(job, note({ type: 'tick', stepId: 'unplug' }), bram);
    expect(jobBench(job, again).state.round.ticks.get('unplug')?.by).toBe('Bram');
    // Both at the same moment: one of them, never both, never an error.
    const [left, right] = await Promise.all(
      [anwen, bram].map((who) => add(job, note({ type: 'tick', stepId: 'drain' }), who)),
    );
    const names = jobBench(
      job,
      (left?.entries.length ?? 0) > (right?.entries.length ?? 0)
        ? (left as BenchLog)
        : (right as BenchLog),
    );
    expect(['Anwen', 'Bram']).toContain(names.state.round.ticks.get('drain')?.by);
  });

  test('a reading after the start is no further fitting, whatever order the slots were filled in', async () => {
    const job = await planned();
    // The manual fills B1 first, so the log names it first and the record sorts it last.
    const { machine, version } = await api.ok<MachineRecord>('GET', `/machines/${job.machine.id}`);
    const fillOrder = [['b1'], ['b1', 'a1'], ['b1', 'a1', 'b2'], ['b1', 'a1', 'b2', 'a2']];
    await api.ok('PUT', `/machines/${job.machine.id}`, {
      ...{ machine: { ...machine, fillOrder }, version },
    });
    await work(job);
    const fittings = async () =>
      (await api.ok('GET', `/jobs/${job.id}`)).events.filter(({ type }) => type === 'as-fitted');
    const before = await fittings();
    expect(before).toHaveLength(1);
    for (const [kind, value] of [
      ['picture', true],
      ['firmware total', 32],
      ['rate', 2933],
    ] as const)
      await add(job, note({ type: 'reading', kind, value }));
    expect(await fittings()).toEqual(before);
  });

  test('a plan changed half-way: what is done stays, a step no longer asked for is refused with its mend', async () => {
    const job = await planned();
    await work(job, 'seat b1 1');
    const changed = await api.ok('PUT', `/jobs/${job.id}/snapshots/planned`, {
      ...{ placement: { a1: sixteen, b2: sixteen }, setting: 'standard', version: 1 },
    });
    const refused = await api.problem(
      'POST',
      `/jobs/${job.id}/bench`,
      note({ type: 'tick', stepId: 'seat b1 1' }),
    );
    expect(refused.detail).toContain('sheet has changed');
    expect(refused.mend).toContain('Look at the sheet again');
    const bench = jobBench(changed, await api.ok<BenchLog>('GET', `/jobs/${job.id}/bench`));
    expect(bench.isPlanNewer).toBe(true);
    expect(bench.sheet.next?.id).toBe('seat b2 1');
    await work(changed);
    const after = await api.ok('GET', `/jobs/${job.id}`);
    const fitted = after.snapshots.find(({ kind }) => kind === 'as-fitted');
    expect(Object.keys(fitted?.placement ?? {}).sort()).toEqual(['a1', 'b2']);
  });

  test('rolled back step by step, the machine is as it was found', async () => {
    const job = await planned();
    await work(job);
    await add(job, note({ type: 'begin', purpose: 'roll back', slotIds: [] }));
    const now = await api.ok('GET', `/jobs/${job.id}`);
    expect(await work(now)).toContain('seat a1 2');
    const after = await api.ok('GET', `/jobs/${job.id}`);
    expect(after.snapshots.find(({ kind }) => kind === 'as-fitted')?.placement).toEqual(
      after.snapshots.find(({ kind }) => kind === 'as-found')?.placement,
    );
  });

  test('a swollen battery stops the work; a closed job keeps its log', async () => {
    const job = await planned();
    const stopped = await api.ok('PATCH', `/jobs/${job.id}`, {
      version: job.version,
      swollenBattery: true,
    });
    const refused = await api.problem(
      'POST',
      `/jobs/${job.id}/bench`,
      note({ type: 'tick', stepId: 'unplug' }),
    );
    expect(refused.detail).toContain('swollen');
    expect(refused.mend).toContain('Isolate');
    const on = await api.ok('PATCH', `/jobs/${job.id}`, {
      version: stopped.version,
      swollenBattery: false,
    });
    await work(on);
    const fitted = await api.ok('GET', `/jobs/${job.id}`);
    await api.ok('POST', `/jobs/${job.id}/close`, { version: fitted.version });
    expect(
      (await api.problem('POST', `/jobs/${job.id}/bench`, note({ type: 'tick', stepId: 'unplug' })))
        .detail,
    ).toContain('closed');
  });

  test('modules given credit for go into the drawer, and out of it again when that is taken back', async () => {
    const { terms, version } = await api.ok<Shop>('GET', '/shop');
    await api.ok('PUT', '/shop', { terms: { ...terms, creditPerGb: 100 }, version });
    const label = '16GB 2Rx8 PC4-3200AA-UB1-11 KL-16U32';
    const entry = { label, module: labelled(label), price: 3000 };
    await api.ok('POST', '/modules', entry);
    const bare = await api.jobWithFound();
    const job = await api.ok('PATCH', `/jobs/${bare.id}`, { version: bare.version, need: 12 });
    const shop = await api.ok<Shop>('GET', '/shop');
    const modules = await api.ok<ModuleRecord[]>('GET', '/modules');
    const { plans } = runToEnd(queryForJob(job, modules, [], shop.terms));
    const plan = plans.find(({ placement }) => modulesGone({ a1: module }, placement).length === 1);
    if (!plan) throw new Error('expected a plan that pulls the old module');
    const [quote] = await api.ok<Quote[]>('POST', `/jobs/${job.id}/quotes`, {
      ...{ units: plan.units, setting: plan.setting, expected: plan.cost.net },
    });
    const answer = { what: 'accepted', by: 'Harbour master' };
    await api.ok('POST', `/jobs/${job.id}/quotes/${quote?.id ?? ''}/answer`, answer);
    const accepted = await api.ok('GET', `/jobs/${job.id}`);
    await work(accepted);
    const drawer = await api.ok<DrawerRecord[]>('GET', '/drawer');
    const number = String(job.number).padStart(4, '0');
    // It cost what the customer was given for it: 8 GB at 1.00.
    expect(drawer).toMatchObject([
      {
        ...{ state: 'untested', origin: `pulled in job ${number}`, cost: 800 },
        pulledIn: { jobId: job.id, number: job.number },
      },
    ]);
    const log = await api.ok<BenchLog>('GET', `/jobs/${job.id}/bench`);
    const put = log.entries.find(
      (one) => one.note.type === 'tick' && one.note.stepId === 'put away',
    );
    await add(accepted, note({ type: 'undo', of: put?.id ?? '' }));
    expect(await api.ok<DrawerRecord[]>('GET', '/drawer')).toEqual([]);
  });

  test('checks and answers that are none of the fault’s are refused by name', async () => {
    const job = await planned();
    const seen = { type: 'seen', checkId: 'firmware’s page', outcome: 'a1' } as const;
    expect((await api.problem('POST', `/jobs/${job.id}/bench`, note(seen))).mend).toContain(
      'how it shows',
    );
    await add(job, note({ type: 'symptom', symptom: 'less memory than fitted', handsIn: true }));
    const log = await add(job, note(seen));
    expect(jobBench(job, log).state.fault?.observations).toHaveLength(1);
    const odd = await api.problem(
      'POST',
      `/jobs/${job.id}/bench`,
      note({ ...seen, outcome: 'the moon' }),
    );
    expect(odd.mend).toContain('all show');
    const stray = { type: 'sits', placement: { z9: module }, setting: 'standard' } as const;
    expect(
      (await api.problem('POST', `/jobs/${job.id}/bench`, note(stray as never))).detail,
    ).toContain('z9');
  });
});

test('no jumble of notes brings the bench down: each is taken or refused in words', async () => {
  const job = await planned();
  const steps = jobBench(job, { entries: [], pulledTo: 'customer' }).sheet.steps.map(
    ({ id }) => id,
  );
  const anyNote: fc.Arbitrary<BenchInput['note']> = fc.oneof(
    fc.record({ type: fc.constant('tick' as const), stepId: fc.constantFrom(...steps, 'fly') }),
    fc.record({ type: fc.constant('undo' as const), of: fc.constantFrom('note-0', 'jumble-3') }),
    fc.record({
      ...{ type: fc.constant('begin' as const), slotIds: fc.constant<string[]>(['a1']) },
      purpose: fc.constantFrom('fit' as const, 'reseat' as const, 'roll back' as const),
    }),
    fc.record({
      type: fc.constant('reading' as const),
      kind: fc.constant('rate' as const),
      value: fc.nat(9000),
    }),
  );
  let at = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(anyNote, { maxLength: 8 }), async (notes) => {
      for (const one of notes) {
        const answer = await api.send<{ mend?: string }>('POST', `/jobs/${job.id}/bench`, {
          ...{ id: `jumble-${at++}`, note: one },
        });
        expect([201, 404, 409, 422]).toContain(answer.status);
        if (answer.status > 300) expect(answer.body.mend).toBeTruthy();
      }
    }),
    { numRuns: often(6) },
  );
  // Whatever was noted, the sheet still stands: each step once, and the next is one of them. It may
  // be empty: a way back with nothing to take back has no steps.
  const log = await api.ok<BenchLog>('GET', `/jobs/${job.id}/bench`);
  const { sheet } = jobBench(job, log);
  expect(new Set(sheet.steps.map(({ id }) => id)).size).toBe(sheet.steps.length);
  if (sheet.next) expect(sheet.steps).toContainEqual(sheet.next);
});
