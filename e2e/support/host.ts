// Several benches in one process, for journeys that do not end theirs: what starts costs is paid once,
// what has run often runs fast, and an engine is emptied and used again. Told over its own line what to
// open and what to close.
import { join } from 'node:path';
import { pino } from 'pino';
import { emptyEngine } from '../../test/support/oneEngine.ts';
import { packageRoot } from '../../server/packageRoot.ts';
import { startServer } from '../../server/startServer.ts';
import type { RunningServer } from '../../server/startServer.ts';

/** Opens an empty bench that nobody owns yet, or closes it. */
export interface Asked {
  /** What it is called here: the directory of its backups. */
  readonly backups: string;
  readonly isOpen: boolean;
}
/** It is open there, or closed; or why neither came about. */
export interface Told {
  readonly backups: string;
  readonly url?: string;
  readonly fault?: string;
}

const running = new Map<string, RunningServer>();
const log = pino({ level: 'warn' });

async function obey({ backups, isOpen }: Asked): Promise<Told> {
  const open = running.get(backups);
  if (!isOpen) {
    running.delete(backups);
    await open?.stop();
    return { backups };
  }
  const server = await startServer({
    ...{ place: await emptyEngine(), port: 0, log, backups },
    webDirectory: join(packageRoot(), 'dist/web'),
  });
  running.set(backups, server);
  return { backups, url: server.url };
}

process.on('message', (asked: Asked) => {
  void obey(asked)
    .catch((error: unknown): Told => ({ backups: asked.backups, fault: String(error) }))
    .then((told) => process.send?.(told));
});
