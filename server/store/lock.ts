import { createHash } from 'node:crypto';
import { statSync, unlinkSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import type { Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { StartError } from '../startError.ts';

/** Held while a data directory is open; the system releases it when the process dies. */
export interface DirectoryLock {
  readonly release: () => Promise<void>;
}

/**
 * Takes a data directory for this process alone. PGlite itself lets two processes open one
 * directory, and they destroy each other's data.
 *
 * The lock is a listening socket named after the directory's device and inode, so that it ends
 * with the process whatever ends it (a lock file would outlive SIGKILL), and two paths to one
 * directory are one lock.
 *
 * @throws StartError when another process holds the directory
 */
export async function lockDirectory(directory: string): Promise<DirectoryLock> {
  const { dev, ino } = statSync(directory);
  const name = `tembrix-${createHash('sha256').update(`${dev}:${ino}`).digest('hex').slice(0, 24)}`;
  const server = await listen(socketPath(name));
  if (!server)
    throw new StartError(
      `Another Tembrix is using the data in ${directory}.`,
      'Stop it first, or start this one on another directory with TEMBRIX_DATA=<directory>.',
    );
  server.unref();
  return { release: () => new Promise((done) => server.close(() => done())) };
}

/** Kernel-held names where the system has them, a socket file in the temporary folder elsewhere. */
function socketPath(name: string): string {
  if (process.platform === 'linux') return `\0${name}`;
  return process.platform === 'win32' ? `\\\\.\\pipe\\${name}` : join(tmpdir(), `${name}.sock`);
}

async function listen(path: string): Promise<Server | undefined> {
  const server = createServer((socket) => socket.destroy());
  const failure = await new Promise<NodeJS.ErrnoException | undefined>((settle) => {
    server.once('error', settle);
    server.listen(path, () => settle(undefined));
  });
  if (!failure) return server;
  if (failure.code !== 'EADDRINUSE') throw failure;
  const isFile = path.startsWith('/');
  if (!isFile || (await answers(path))) return undefined;
  unlinkSync(path); // left by a process that was killed
  return listen(path);
}

function answers(path: string): Promise<boolean> {
  return new Promise((settle) => {
    const socket = connect(path);
    socket.once('connect', () => {
      socket.destroy();
      settle(true);
    });
    socket.once('error', () => settle(false));
  });
}
