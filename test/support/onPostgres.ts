import type { TestProject } from 'vitest/node';
import { Postgres } from './postgres.ts';
import { openStore } from '../../server/store/openStore.ts';

declare module 'vitest' {
  interface ProvidedContext {
    /** Where databases are made for tests on a PostgreSQL server; unset on the embedded engine. */
    postgres: string | undefined;
  }
}

/** A database with its schema up to date, which every test's own is a copy of. */
export const READY = 'ready';

/** One PostgreSQL server for all test files of a project, gone at the end. */
export default async function setup(project: TestProject): Promise<() => void> {
  const server = await Postgres.start();
  const store = await openStore({ type: 'server', url: server.database(READY) });
  await store.close();
  project.provide('postgres', server.database('making'));
  return () => server.dispose();
}
