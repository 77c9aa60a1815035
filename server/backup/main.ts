// `npm run backup`, `npm run restore -- FILE` and `npm run move -- FROM TO`: see docs/operating.md.
import {
  createReadStream,
  createWriteStream,
  fsyncSync,
  mkdirSync,
  openSync,
  renameSync,
} from 'node:fs';
import { closeSync, readdirSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { LOCAL_KEY_HEADER, readLocalKey } from '../access/localKey.ts';
import { StartError } from '../startError.ts';
import { backupsDirectory, placeFromEnvironment, portIn } from '../settings.ts';
import { syncDirectory } from '../store/durableFiles.ts';
import { newestChange } from '../store/migrate.ts';
import { openStore } from '../store/openStore.ts';
import type { StorePlace } from '../store/openStore.ts';
import { readArchive } from './archive.ts';
import { backUp, prove, requireSame } from './backup.ts';
import { putContent, readContent } from './content.ts';
import { ArchiveError, manifestOf } from './format.ts';
import { backupName, backupTime } from './names.ts';

const { TEMBRIX_PORT = '4870' } = process.env;
/** Backups kept; older ones are removed once a new one stands. */
const KEPT = 30;

/** Asks the bench that is running; nobody else may open its data. */
async function fromRunning(file: string): Promise<void> {
  const place = placeFromEnvironment();
  const key = readLocalKey(place.type === 'directory' ? place.path : undefined);
  const answer = await fetch(`http://127.0.0.1:${portIn(TEMBRIX_PORT)}/api/backup`, {
    headers: { [LOCAL_KEY_HEADER]: key },
  }).catch(() => undefined);
  if (!answer?.ok || !answer.body)
    throw new StartError(
      'The data are in use, and the bench that uses them does not answer.',
      `Set TEMBRIX_PORT to the port it listens on${answer ? '; its log says more' : ''}.`,
    );
  await pipeline(Readable.fromWeb(answer.body as never), createWriteStream(file));
}

const openUnlessRunning = () =>
  openStore(placeFromEnvironment()).catch((error: unknown) => {
    if (error instanceof StartError && error.message.startsWith('Another Tembrix'))
      return undefined;
    throw error;
  });

/** @param isRunning - a bench is, and nobody but it opens its data */
async function backup(isRunning: boolean): Promise<void> {
  const directory = backupsDirectory();
  try {
    mkdirSync(directory, { recursive: true, mode: 0o700 });
  } catch {
    throw new StartError(
      `No backup can be kept in ${directory}.`,
      'Name a directory that can be written, with TEMBRIX_BACKUPS.',
    );
  }
  const name = backupName(new Date());
  const partial = join(directory, `${name}.partial`);
  try {
    const store = isRunning ? undefined : await openUnlessRunning();
    if (store) await backUp(store.db, () => createWriteStream(partial)).finally(store.close);
    else await fromRunning(partial);
    const { manifest, content } = await readArchive(createReadStream(partial), newestChange());
    await prove(content);
    // On the disk before it has its name: what is called a backup is whole.
    const file = openSync(partial, 'r+');
    fsyncSync(file);
    closeSync(file);
    renameSync(partial, join(directory, name));
    syncDirectory(directory);
    console.log(
      `${join(directory, name)}, proven: ${told(manifest.tables, manifest.files.length)}`,
    );
  } finally {
    rmSync(partial, { force: true });
  }
  const all = readdirSync(directory).filter((one) => backupTime(one) !== '');
  for (const old of all.sort().slice(0, -KEPT)) rmSync(join(directory, old));
}

const told = (tables: readonly { name: string; rows: number }[], files: number) =>
  [
    ...tables.filter(({ rows }) => rows > 0).map(({ name, rows }) => `${name} ${rows}`),
    `files ${files}`,
  ].join(', ');

async function restore([file, sure]: readonly string[]): Promise<void> {
  if (file === undefined)
    throw new StartError('Which backup?', 'Name it: npm run restore -- FILE [--yes]');
  const { manifest, content } = await readArchive(createReadStream(file), newestChange());
  console.log(`Written ${manifest.writtenAt}: ${told(manifest.tables, manifest.files.length)}`);
  if (sure !== '--yes') {
    console.log('Nothing was changed. Say the same with --yes behind it to restore.');
    return;
  }
  const store = await openStore(placeFromEnvironment());
  await putContent(store.db, content).finally(store.close);
  console.log('Restored.');
}

/** A directory, or a PostgreSQL server by its address. */
const placeNamed = (text: string): StorePlace =>
  /^postgres(?:ql)?:/.test(text)
    ? { type: 'server', url: text }
    : { type: 'directory', path: resolve(text) };

/** From one engine to the other: everything, or nothing. */
async function move([from, to]: readonly string[]): Promise<void> {
  if (from === undefined || to === undefined)
    throw new StartError(
      'From where to where?',
      'Name both, each a directory or a server’s address: npm run move -- FROM TO',
    );
  const source = await openStore(placeNamed(from));
  const content = await readContent(source.db).finally(source.close);
  const target = await openStore(placeNamed(to));
  try {
    await putContent(target.db, content);
    requireSame(content, await readContent(target.db));
  } finally {
    await target.close();
  }
  const { tables, files } = manifestOf(content, new Date());
  console.log(`Moved, and read back the same: ${told(tables, files.length)}`);
  console.log('Nothing was removed where it came from.');
}

const [what = 'backup', ...rest] = process.argv.slice(2);
process.umask(0o077);
try {
  if (what === 'restore') await restore(rest);
  else if (what === 'move') await move(rest);
  else if (what === 'backup' || what === 'running') await backup(what === 'running');
  else throw new StartError(`Nothing is called ${what}.`, 'It can be backup, restore or move.');
} catch (error) {
  const isKnown = error instanceof StartError || error instanceof ArchiveError;
  const { code } = (error ?? {}) as NodeJS.ErrnoException;
  if (!isKnown && code !== 'ENOENT' && code !== 'EACCES') throw error;
  console.error(
    isKnown
      ? `${error.message} ${error.mend}`
      : 'The file is not there, or not yours to read. Look at its name again.',
  );
  process.exitCode = 1;
}
