import { randomBytes } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { pino } from 'pino';
import { inject } from 'vitest';
import type { Job } from '#contract/records';
import type { Problem } from '#contract/problem';
import { startServer } from '../../server/startServer.ts';
import type { RunningServer, StartOptions } from '../../server/startServer.ts';
import { desktop, labelled } from './builders.ts';
import { emptyEngine } from './oneEngine.ts';
import { cookiesFor, ownerOf } from './owner.ts';
import { READY } from './onPostgres.ts';
import type { StorePlace } from '../../server/store/openStore.ts';

async function testPlace(): Promise<StorePlace> {
  const making = inject('postgres');
  if (making === undefined) return emptyEngine();
  const name = `test_${randomBytes(6).toString('hex')}`;
  const client = new pg.Client({ connectionString: making });
  await client.connect();
  await client.query(`create database ${name} template ${READY}`);
  await client.end();
  const url = new URL(making);
  url.pathname = name;
  return { type: 'server', url: url.href };
}

/** A real server on a real database, and the few moves every test makes. */
export class Api {
  /** What came back from signing in; sent with every request. */
  cookie = '';
  /** Waits where it asked more often than one machine may, and asks again. */
  isPatient = false;

  private constructor(readonly server: RunningServer) {}

  /** On a database of its own: embedded in memory, or on the PostgreSQL server of the project. */
  static async start(
    place?: StorePlace,
    more: Partial<StartOptions> = {},
    asOwner = true,
  ): Promise<Api> {
    const log = pino({ level: 'silent' });
    const api = new Api(
      await startServer({ place: place ?? (await testPlace()), port: 0, log, ...more }),
    );
    if (asOwner) api.cookie = await ownerOf(api.server.url);
    return api;
  }

  /** Signs in, and stays so; `false` where one is not let in. */
  async signIn(who: { readonly name: string; readonly password: string }): Promise<boolean> {
    const cookies = await cookiesFor(this.server.url, who);
    if (cookies !== undefined) this.cookie = cookies;
    return cookies !== undefined;
  }

  /** A second visitor of the same server, not signed in. */
  stranger(): Api {
    return new Api(this.server);
  }

  /** A tablet that was shown a code; let in only if it still serves. */
  async tablet(token: string): Promise<{ tablet: Api; status: number }> {
    const tablet = this.stranger();
    const body = JSON.stringify({ token });
    const answer = await tablet.fetch('/session/join', { method: 'POST', body });
    const cookies = answer.headers.getSetCookie().map((one) => one.split(';')[0]);
    tablet.cookie = cookies.join('; ');
    return { tablet, status: answer.status };
  }

  /** Somebody added to the shop, signed in. */
  async person(role: 'owner' | 'technician' | 'counter', name: string): Promise<Api> {
    const known = { name, password: `rope ladder ${name.length} kelp` };
    await this.ok('POST', '/accounts', { ...known, role });
    const them = this.stranger();
    if (!(await them.signIn(known))) throw new Error(`${name} was not let in`);
    return them;
  }

  /** A request with the cookies of whoever is signed in. */
  async fetch(path: string, { headers, ...init }: RequestInit = {}): Promise<Response> {
    const answer = await fetch(`${this.server.url}/api${path}`, {
      ...init,
      headers: {
        ...(init.body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(this.cookie === '' ? {} : { cookie: this.cookie }),
        ...(headers as Record<string, string> | undefined),
      },
    });
    if (answer.status !== 429 || !this.isPatient) return answer;
    await wait(1000 * Number(answer.headers.get('retry-after') ?? 1));
    return this.fetch(path, { ...init, ...(headers ? { headers } : {}) });
  }

  async send<T = unknown>(
    method: string,
    path: string,
    body?: unknown,
  ): Promise<{ status: number; body: T }> {
    const response = await this.fetch(path, {
      method,
      headers: { 'content-type': 'application/json' },
      body: body === undefined ? null : typeof body === 'string' ? body : JSON.stringify(body),
    });
    return { status: response.status, body: (await response.json()) as T };
  }

  /** The answer to a request that must succeed. */
  async ok<T = Job>(method: string, path: string, body?: unknown): Promise<T> {
    const answer = await this.send<T>(method, path, body);
    if (answer.status >= 300) throw new Error(`${method} ${path}: ${JSON.stringify(answer.body)}`);
    return answer.body;
  }

  /** The problem of a request that must fail. */
  async problem(method: string, path: string, body?: unknown): Promise<Problem> {
    const answer = await this.send<Problem>(method, path, body);
    if (answer.status < 400) throw new Error(`${method} ${path} went through`);
    return answer.body;
  }

  /** A job on a two-channel desktop with one 8 GB module found in A1. */
  async jobWithFound(): Promise<Job> {
    const { id: machineId } = await this.ok<{ id: string }>('POST', '/machines', {
      machine: desktop(),
    });
    const customer = { name: 'Tide model student', contact: '' };
    const job = await this.ok('POST', '/jobs', { customer, machineId, complaint: 'Slow' });
    return this.ok('PUT', `/jobs/${job.id}/snapshots/as-found`, {
      ...{ placement: { a1: module }, setting: 'standard', version: 0 },
    });
  }
}

/** An 8 GB module as most tests use it. */
export const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
