import { Writable } from 'node:stream';
import express from 'express';
import { pino } from 'pino';
import { expect, test } from 'vitest';
import { z } from 'zod';
import { loggable } from './loggable.ts';
import { problemHandler } from './problems.ts';

const SECRET = 'Ottoline Amberwick';

class FakeQueryError extends Error {
  constructor() {
    super(`Failed query: insert into "customers" values ($1)\nparams: ${SECRET},12`);
    this.name = 'DrizzleQueryError';
    this.cause = Object.assign(new Error(`duplicate key: (${SECRET})`), {
      ...{ code: '23505', table: 'customers', constraint: 'customers_name_key' },
      detail: `Key (name)=(${SECRET}) already exists.`,
    });
  }
}

test('a failed query is logged by its statement and code, without a value', () => {
  const logged = loggable(new FakeQueryError());
  expect(logged.message).toBe('Failed query: insert into "customers" values ($1)');
  expect(logged.cause).toMatchObject({ code: '23505', table: 'customers' });
  expect(logged.stack).toContain('loggable.test.ts');
});

test('an answer off the contract is logged without what it held', () => {
  const { error } = z.object({ name: z.literal('x') }).safeParse({ name: SECRET });
  expect(JSON.stringify(loggable(error))).not.toContain(SECRET);
  const quoted = new TypeError(`Cannot read “${SECRET}” of undefined`);
  expect(JSON.stringify(loggable(quoted))).not.toContain(SECRET);
});

test('one id joins what is shown and what is logged, and neither holds a customer’s word', async () => {
  const lines: string[] = [];
  const sink = new Writable({
    write: (chunk: Buffer, _encoding, done) => {
      lines.push(chunk.toString());
      done();
    },
  });
  const app = express();
  app.get('/customers/:name', () => {
    throw new FakeQueryError();
  });
  app.use(problemHandler(pino({ level: 'warn' }, sink)));
  const server = app.listen(0, '127.0.0.1');
  await new Promise((listening) => server.once('listening', listening));
  const { port } = server.address() as { port: number };
  const answer = await fetch(
    `http://127.0.0.1:${port}/customers/${encodeURIComponent(SECRET)}?q=${encodeURIComponent(SECRET)}`,
  );
  server.close();
  const text = await answer.text();
  expect(answer.status).toBe(500);
  const logged = JSON.parse(lines[0] ?? '{}') as { id: string };
  expect(logged.id).toMatch(/^[0-9a-f]{8}$/);
  expect(text).toContain(logged.id);
  for (const said of [text, lines.join('')]) {
    expect(said).not.toContain(SECRET.split(' ')[0]);
    expect(said).not.toContain('Ottoline%20');
  }
});

test.each([
  ['ENOSPC', 507],
  ['53100', 507],
  ['ECONNREFUSED', 503],
  ['57P01', 503],
  ['22003', 422],
  ['22008', 422],
  ['XX000', 500],
])('the code %s is answered with %d', async (code, status) => {
  const app = express();
  app.get('/', () => {
    throw Object.assign(new Error('Failed query'), { cause: Object.assign(new Error(), { code }) });
  });
  app.use(problemHandler(pino({ level: 'silent' })));
  const server = app.listen(0, '127.0.0.1');
  await new Promise((listening) => server.once('listening', listening));
  const { port } = server.address() as { port: number };
  const answer = await fetch(`http://127.0.0.1:${port}/`);
  server.close();
  expect(answer.status).toBe(status);
  expect(await answer.json()).toMatchObject({ status, mend: expect.any(String) as string });
});
