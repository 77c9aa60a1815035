import { PGlite, types } from '@electric-sql/pglite';
import type { Transaction } from '@electric-sql/pglite';
import fc from 'fast-check';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest';
import { emptyDatabase } from '../server/store/emptyDatabase.ts';
import { Engine, MOST_STATEMENTS } from '../server/store/engine.ts';
import { engineOptions } from '../server/store/options.ts';
import { walking } from './support/draws.ts';

type Asked = Pick<Transaction, 'query' | 'exec'>;

let engine: Engine;
/** The same engine, as its makers ask it. */
let plain: PGlite;
beforeAll(async () => {
  // To make a database anew takes ten times what it takes to open one.
  const loadDataDir = await emptyDatabase();
  [engine, plain] = await Promise.all([
    Engine.open({ ...engineOptions, loadDataDir }),
    PGlite.create({ ...engineOptions, loadDataDir }),
  ]);
});
afterAll(() => Promise.all([engine.close(), plain.close()]));
beforeEach(async () => {
  for (const one of [engine, plain])
    await one.exec(`drop table if exists parts; create table parts (
      id int primary key, name text, sizes int[], facts jsonb, is_in boolean, at timestamptz, raw bytea)`);
});

const statements = async (): Promise<number> =>
  (await engine.query<{ n: number }>('select count(*)::int as n from pg_prepared_statements'))
    .rows[0]?.n ?? 0;

const PART = fc.record({
  id: fc.integer({ min: 0, max: 5 }),
  name: fc.option(fc.string({ unit: 'binary', maxLength: 8 }).filter((text) => !/\0/.test(text))),
  sizes: fc.option(fc.array(fc.option(fc.integer({ min: -9, max: 9 })), { maxLength: 3 })),
  facts: fc.option(fc.oneof(fc.constant('null'), fc.constant({ a: [1, null, '"'] }), fc.boolean())),
  isIn: fc.option(fc.boolean()),
  at: fc.option(fc.date({ min: new Date(0), max: new Date(4e12), noInvalidDate: true })),
  raw: fc.option(fc.uint8Array({ maxLength: 4 })),
});

type Deed = (over: Asked) => Promise<unknown>;

const deed: fc.Arbitrary<Deed> = fc.oneof(
  PART.map(
    ({ id, name, sizes, facts, isIn, at, raw }): Deed =>
      (over) =>
        over.query(
          'insert into parts values ($1, $2, $3, $4, $5, $6, $7) returning id, name, facts',
          [id, name, sizes, facts, isIn, at, raw],
        ),
  ),
  fc.integer({ min: 0, max: 5 }).map(
    (id): Deed =>
      (over) =>
        over.query('delete from parts where id = $1', [id]),
  ),
  fc.constant<Deed>((over) => over.query('select * from parts order by id')),
  fc.constant<Deed>((over) => over.query("update parts set name = 'same' where id > 2")),
  fc.constantFrom<unknown>('2', 'x', 3, null, undefined, 2 ** 40).map(
    (id): Deed =>
      (over) =>
        over.query('select id, sizes, at, raw from parts where id = $1', [id], {
          rowMode: 'array',
          parsers: { [types.TIMESTAMPTZ]: (text) => `as written: ${text}` },
        }),
  ),
  fc.constantFrom('select 1/0', 'select $1::int', 'selec 1', 'select from nowhere').map(
    (text): Deed =>
      (over) =>
        over.query(text, []),
  ),
  fc.constantFrom('text', 'int', 'varchar(9)').map((type): Deed => async (over) => {
    await over.query('alter table parts drop column if exists more');
    await over.query(`alter table parts add column more ${type}`);
  }),
  fc.constant<Deed>((over) =>
    over.exec('alter table parts drop column if exists less; select 1 as one; select 2 as two'),
  ),
);

/** What came of it: an answer, or the code of what went wrong. */
const outcome = (answer: Promise<unknown>): Promise<unknown> =>
  answer.catch((error: unknown) => {
    const { code = '' } = error as { code?: string };
    // In a transaction that has failed, a kept question without its values is refused for those first.
    if (/^(?:08P01|25P02)$/.test(code)) return ['refused'];
    // A kept question has a name, which an error may tell.
    return [code, String(error).replace(/"q\d+"/, '""')];
  });

const session = fc.array(
  fc.record({
    deeds: fc.array(deed, { minLength: 1, maxLength: 4 }),
    kind: fc.constantFrom('alone', 'committed', 'taken back'),
  }),
  { minLength: 1, maxLength: 12 },
);

async function live(db: PGlite, lines: typeof session extends fc.Arbitrary<infer T> ? T : never) {
  const told: unknown[] = [];
  await db.exec('truncate parts');
  for (const { deeds, kind } of lines)
    if (kind === 'alone') for (const one of deeds) told.push(await outcome(one(db)));
    else
      told.push(
        await outcome(
          db.transaction(async (tx) => {
            for (const one of deeds) told.push(await outcome(one(tx)));
            if (kind === 'taken back') await tx.rollback();
          }),
        ),
      );
  return told;
}

describe('an engine that keeps what it was asked', () => {
  test('answers whatever comes as the one that reads every question anew', async () => {
    await fc.assert(
      fc.asyncProperty(session, async (lines) => {
        const told = await live(engine, lines);
        expect(told).toEqual(await live(plain, lines));
      }),
      walking(50, 4711, 600),
    );
  });

  test.each(['taken back', 'failed', 'committed'] as const)(
    'what a transaction that was %s changed of the tables is asked anew after it',
    async (end) => {
      const all = (over: Asked) => over.query<{ id: number }>('select * from parts');
      const ends = engine.transaction(async (tx) => {
        await tx.exec('alter table parts add column more int');
        for (let n = 0; n < 3; n++) await all(tx);
        if (end === 'taken back') await tx.rollback();
        if (end === 'failed') throw new Error('on purpose');
      });
      await ends.catch(() => undefined);
      const { fields } = await all(engine);
      expect(fields.some(({ name }) => name === 'more')).toBe(end === 'committed');
    },
  );

  test('a question kept before a change within a transaction is read anew in it', async () => {
    const all = (over: Asked) => over.query('select * from parts');
    for (let n = 0; n < 3; n++) await all(engine);
    await engine.transaction(async (tx) => {
      await tx.exec('alter table parts drop column name');
      expect((await all(tx)).fields.map(({ name }) => name)).not.toContain('name');
    });
  });

  test('reads a question once, from the second time it is asked', async () => {
    // What the tables' change of shape made stale is let go of with the next question kept.
    for (let n = 0; n < 3; n++) await engine.query('select 40 as asked');
    await statements();
    const before = await statements();
    await engine.query('select 41 as asked where $1', [true]);
    expect(await statements()).toBe(before);
    for (let n = 0; n < 3; n++) await engine.query('select 41 as asked where $1', [true]);
    await engine.transaction((tx) => tx.query('select 41 as asked where $1', [false]));
    expect(await statements()).toBe(before + 1);
  });

  test('a hundred who ask at once, some in transactions, get their own answers', async () => {
    const answers = await Promise.all(
      Array.from({ length: 100 }, async (_, n) => {
        const ask = (over: Asked) => over.query<{ n: number }>('select $1::int as n', [n]);
        const { rows } = await (n % 3 === 0 ? engine.transaction(ask) : ask(engine));
        return rows;
      }),
    );
    expect(answers).toEqual(Array.from({ length: 100 }, (_, n) => [{ n }]));
  });

  test('keeps no more than it may, and lets go of the rest', async () => {
    for (let n = 0; n < MOST_STATEMENTS + 50; n++)
      for (const _time of [1, 2, 3]) await engine.query(`select ${n} as n`);
    expect(await statements()).toBeLessThanOrEqual(MOST_STATEMENTS);
    expect((await engine.query('select 0 as n')).rows).toEqual([{ n: 0 }]);
  });

  test('what is told while a question is answered is heard', async () => {
    const heard: string[] = [];
    const stop = await engine.listen('here', (payload) => heard.push(payload));
    for (const n of [1, 2, 3]) await engine.query("select pg_notify('here', $1)", [String(n)]);
    await engine.query('select 1');
    await stop();
    expect(heard).toEqual(['1', '2', '3']);
  });

  test('what is asked in turn follows whatever was begun before, and says so before it is asked', async () => {
    const order: string[] = [];
    const before = engine.transaction(async (tx) => {
      await tx.query('select 6 as six');
      order.push('stored');
    });
    // Its turn is told while it can still be joined: not once it has its answer.
    const asked = engine
      .ask('select 7 as seven', () => order.push('turn'))
      .then(() => order.push('answered'));
    await Promise.all([before, asked]);
    expect(order).toEqual(['stored', 'turn', 'answered']);
    await expect(engine.ask('select nothing from nowhere', () => undefined)).rejects.toThrow(
      'nowhere',
    );
  });

  test('a transaction that is over answers nothing more', async () => {
    let kept: Transaction | undefined;
    const ask = (tx: Transaction) => tx.query('select 5 as five');
    await engine.query('select 5 as five');
    await engine.transaction(async (tx) => {
      kept = tx;
      await ask(tx);
    });
    await expect(kept && ask(kept)).rejects.toThrow('closed');
  });
});
