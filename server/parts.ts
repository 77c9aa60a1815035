import { join } from 'node:path';
import { packageRoot } from './packageRoot.ts';

/** Parts of the server that run in a process or on a thread of their own; each is a file of the build. */
export const PARTS = {
  main: 'server/main.ts',
  backup: 'server/backup/main.ts',
  owner: 'server/access/main.ts',
  readWorker: 'server/reading/readWorker.ts',
  simulateWorker: 'server/simulating/simulateWorker.ts',
} as const;
export type Part = keyof typeof PARTS;

/** Built parts start in a third of the time: who has just built, as the tests do, says so and has those. */
const isSource = import.meta.url.endsWith('.ts') && process.env['TEMBRIX_BUILT'] !== 'yes';

/** The whole path of a part, in the source or as it was built. */
export const partFile = (part: Part): string =>
  join(packageRoot(), isSource ? PARTS[part] : `dist/server/${part}.js`);

/** What Node has to be told to run source. */
export const FROM_SOURCE = ['--import', 'tsx'];

/** What Node is started with to run a part. */
export const nodeArguments = (part: Part): string[] => [
  ...(isSource ? FROM_SOURCE : []),
  partFile(part),
];
