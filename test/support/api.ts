import { pino } from 'pino';
import type { Job } from '#contract/records';
import type { Problem } from '#contract/problem';
import { startServer } from '../../server/startServer.ts';
import type { RunningServer, StartOptions } from '../../server/startServer.ts';
import { desktop, labelled } from './builders.ts';
import type { StorePlace } from '../../server/store/openStore.ts';

function testPlace(): StorePlace {
  const url = process.env.TEMBRIX_TEST_DATABASE_URL;
  return url ? { type: 'server', url } : { type: 'memory' };
}

/** A real server on a real database, and the few moves every test makes. */
export class Api {
  private constructor(readonly server: RunningServer) {}

  /** On PGlite in memory, or on the PostgreSQL server TEMBRIX_TEST_DATABASE_URL names. */
  static async start(
    place: StorePlace = testPlace(),
    more: Partial<StartOptions> = {},
  ): Promise<Api> {
    const log = pino({ level: 'silent' });
    return new Api(await startServer({ place, port: 0, log, ...more }));
  }

  async send<T = unknown>(
    method: string,
    path: string,
    body?: unknown,
  ): Promise<{ status: number; body: T }> {
    const response = await fetch(`${this.server.url}/api${path}`, {
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
