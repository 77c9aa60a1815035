// Several benches in one process, for journeys that do not end theirs: what starts costs is paid once,
// and what has run often runs fast. Told over its own line what to open and what to close.
import { join } from 'node:path';
import { pino } from 'pino';
import { packageRoot } from '../../server/packageRoot.ts';
import { startServer } from '../../server/startServer.ts';
import type { RunningServer } from '../../server/startServer.ts';

/** Opens the bench on a directory, or closes it. */
export interface Asked {
  readonly data: string;
  readonly isOpen: boolean;
}
/** It is open there, or closed; or why neither came about. */
export interface Told {
  readonly data: string;
  readonly url?: string;
  readonly fault?: string;
}

const running = new Map<string, RunningServer>();
const log = pino({ level: 'warn' });

async function obey({ data, isOpen }: Asked): Promise<Told> {
  const open = running.get(data);
  if (!isOpen) {
    running.delete(data);
    await open?.stop();
    return { data };
  }
  const server = await startServer({
    ...{ place: { type: 'directory', path: data }, port: 0, log, backups: `${data}-backups` },
    webDirectory: join(packageRoot(), 'dist/web'),
  });
  running.set(data, server);
  return { data, url: server.url };
}

process.on('message', (asked: Asked) => {
  void obey(asked)
    .catch((error: unknown): Told => ({ data: asked.data, fault: String(error) }))
    .then((told) => process.send?.(told));
});
