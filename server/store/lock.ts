import { createHash, randomBytes } from 'node:crypto';
import { closeSync, linkSync, openSync, renameSync, rmSync, statSync, unlinkSync } from 'node:fs';
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
 * directory are one lock. A second one inside the directory holds against processes that cannot
 * see the first: in another network namespace or container.
 *
 * @throws StartError when another process holds the directory
 */
export async function lockDirectory(directory: string): Promise<DirectoryLock> {
  const { dev, ino } = statSync(directory);
  const name = `tembrix-${createHash('sha256').update(`${dev}:${ino}`).digest('hex').slice(0, 24)}`;
  const server = await listen(socketPath(name));
  if (!server) throw taken(directory);
  server.unref();
  const close = () => new Promise<void>((done) => server.close(() => done()));
  try {
    const inside = process.platform === 'linux' ? await lockInside(directory) : undefined;
    return { release: () => Promise.all([inside?.release(), close()]).then(() => undefined) };
  } catch (error) {
    await close();
    throw error;
  }
}

const taken = (directory: string) =>
  new StartError(
    `Another Tembrix is using the data in ${directory}.`,
    'Stop it first, or start this one on another directory with TEMBRIX_DATA=<directory>.',
  );

const INSIDE = 'in-use';
/** What a file system says that holds no sockets; there the first lock has to do. */
const NO_SOCKETS = new Set(['EOPNOTSUPP', 'ENOTSUP', 'EPERM', 'ENOSYS', 'EINVAL']);

/**
 * A socket file in the directory answers for as long as its process lives, to whoever sees the
 * directory. It is made under a name of its own and then linked, which fails where there is one.
 */
async function lockInside(directory: string): Promise<DirectoryLock | undefined> {
  // By way of the open directory: a socket's path is short, a data directory's need not be.
  const handle = openSync(directory, 'r');
  const at = (name: string) => `/proc/self/fd/${handle}/${name}`;
  const draft = `${INSIDE}.${randomBytes(6).toString('hex')}`;
  let server: Server | undefined;
  try {
    server = await listen(at(draft));
    if (!server) throw new Error(`expected ${draft} to be new`);
    server.unref();
    for (let tries = 0; !linked(at(draft), at(INSIDE)); tries++) {
      if (tries === 3 || (await answers(at(INSIDE)))) throw taken(directory);
      await removeDead(at(INSIDE), at(`${draft}.dead`), directory);
    }
    unlinkSync(at(draft));
  } catch (error) {
    server?.close();
    rmSync(at(draft), { force: true });
    closeSync(handle);
    if (NO_SOCKETS.has((error as NodeJS.ErrnoException).code ?? '')) return undefined;
    throw error;
  }
  const held = server;
  return {
    release: () =>
      new Promise((done) => {
        rmSync(at(INSIDE), { force: true });
        held.close(() => {
          closeSync(handle);
          done();
        });
      }),
  };
}

function linked(from: string, to: string): boolean {
  try {
    linkSync(from, to);
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST') return false;
    throw error;
  }
}

/** Takes away a socket whose process is gone; one that came to life meanwhile is put back. */
async function removeDead(path: string, aside: string, directory: string): Promise<void> {
  try {
    renameSync(path, aside);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return; // another was quicker
    throw error;
  }
  if (await answers(aside)) {
    linked(aside, path);
    rmSync(aside);
    throw taken(directory);
  }
  rmSync(aside);
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
