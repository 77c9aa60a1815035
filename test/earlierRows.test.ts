import { readFileSync, readdirSync } from 'node:fs';
import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import { emptyDatabase } from '#server/store/emptyDatabase';
import { Engine } from '#server/store/engine';
import { engineOptions } from '#server/store/options';

// What rows of an earlier schema become: the changes of schema are applied around them.

const FOLDER = 'server/store/migrations';
const names = readdirSync(FOLDER)
  .filter((name) => name.endsWith('.sql'))
  .sort();

let db: Engine;
beforeAll(async () => {
  db = await Engine.open({ ...engineOptions, loadDataDir: await emptyDatabase() });
});
afterAll(() => db.close());
/** Without any schema: what there is of it is made by the changes. */
beforeEach(() => db.exec('drop schema if exists public, drizzle cascade; create schema public'));

/** Applies the changes of schema from one number up to another, that one left out. */
async function change(from: string, to: string): Promise<void> {
  for (const name of names.filter((one) => one >= from && one < to))
    await db.exec(
      readFileSync(`${FOLDER}/${name}`, 'utf8').replaceAll('--> statement-breakpoint', ''),
    );
}

test('a database of the version before keeps its rows through the migrations', async () => {
  await change('0000', '0002');
  await db.exec(`insert into customers (id, name) values ('c', 'Old'); insert into machines (id, name, machine) values ('m', 'Box', '{}');
    insert into jobs (id, customer_id, machine_id, complaint, need) values ('j', 'c', 'm', 'Slow', 12);
    insert into measurements (id, job_id, kind, metric, test, runs, fingerprint) values ('r', 'j', 'as-found', 'bandwidth', 'copy', '{14,15}', 'x');`);
  await change('0002', '0004');
  const { rows } = await db.query(
    'select need, need_input, swollen_battery, consents, power, locators from jobs, measurements, machines',
  );
  expect(rows).toEqual([
    {
      ...{ need: 12, need_input: null, swollen_battery: false, power: 'unknown', locators: {} },
      consents: { dataBackedUp: 'not asked', openCase: 'not asked', warrantySeal: 'not asked' },
    },
  ]);
});

test('the log cannot be changed behind the house’s back, and old ticks become test records', async () => {
  await change('0000', '0006');
  await db.exec(`insert into customers (id, name) values ('c', 'Old'); insert into machines (id, name, machine) values ('m', 'Box', '{}');
    insert into jobs (id, customer_id, machine_id, complaint, memory_test_passed) values ('j', 'c', 'm', 'Slow', true), ('k', 'c', 'm', 'Slow', false);`);
  await change('0006', 'no more');
  const { rows } = await db.query('select job_id, passes, errors, fingerprint from memory_tests');
  expect(rows).toEqual([{ job_id: 'j', passes: 1, errors: 0, fingerprint: '*' }]);
  await db.exec(`insert into bench_log (id, job_id, by, note) values ('n', 'j', 'x', '{}')`);
  for (const act of [
    'delete from bench_log',
    `update bench_log set by = 'y'`,
    'truncate bench_log',
  ])
    await expect(db.exec(act)).rejects.toThrow('append-only');
});
