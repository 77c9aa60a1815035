import { Readable } from 'node:stream';
import type { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import { extract, pack } from 'tar-stream';
import { digestOf } from '../digest.ts';
import { ArchiveError, FORMAT_VERSION, manifestOf, manifestSchema } from './format.ts';
import type { ArchiveFormat, BenchContent, Manifest, TableText } from './format.ts';

/** Largest archive read, unpacked; ten times what ten thousand jobs with photos come to. */
const MOST_BYTES = 4e9;
const MOST_ENTRIES = 1_000_000;

interface WriteOptions {
  readonly now?: Date;
  readonly format?: ArchiveFormat;
}

/** Writes an archive: tables, files, and last what all of it has to add up to. */
export async function writeArchive(
  content: BenchContent,
  out: Writable,
  { now = new Date(), format = 'tembrix-backup' }: WriteOptions = {},
): Promise<Manifest> {
  const manifest = manifestOf(content, now, format);
  const tar = pack();
  const done = pipeline(tar, createGzip(), out);
  // Whoever takes the archive may go away at any moment; that ends the writing, and nothing else.
  done.catch(() => undefined);
  const add = (name: string, bytes: string | Uint8Array) => {
    const added = new Promise<void>((then, failed) => {
      const entry = tar.entry({ name, mtime: now, mode: 0o600 }, Buffer.from(bytes), (error) => {
        if (error) failed(error);
        else then();
      });
      entry.on('error', failed);
    });
    added.catch(() => undefined);
    return Promise.race([done, added]);
  };
  for (const { name, text } of content.tables) await add(`tables/${name}.jsonl`, text);
  for (const [sha256, bytes] of content.files) await add(`files/${sha256}`, bytes);
  await add('manifest.json', JSON.stringify(manifest, undefined, 1));
  tar.finalize();
  await done;
  return manifest;
}

interface ReadOptions {
  readonly format?: ArchiveFormat;
  /** Largest it may unpack to. */
  readonly mostBytes?: number;
}

const WRONG_KIND: Readonly<Record<ArchiveFormat, ArchiveError>> = {
  'tembrix-backup': new ArchiveError(
    'The archive holds one job, not a whole bench.',
    'Take it in on the Shop page of a bench.',
  ),
  'tembrix-job': new ArchiveError(
    'The archive holds a whole bench, not one job.',
    'Restore it into an empty place: npm run restore -- FILE.',
  ),
};

const DAMAGED = 'Use another backup, or copy this one anew from where it was kept.';

/**
 * Reads an archive and checks all of it before anything is done with it.
 *
 * @param newest - the newest change of schema this program knows
 * @throws ArchiveError where it is damaged, cut off, foreign, newer, or made to do harm
 */
export async function readArchive(
  source: Readable | Uint8Array,
  newest: number,
  { format = 'tembrix-backup', mostBytes = MOST_BYTES }: ReadOptions = {},
): Promise<{ manifest: Manifest; content: BenchContent }> {
  const stream = source instanceof Readable ? source : Readable.from([source]);
  const entries = await unpack(stream, mostBytes);
  const text = entries.get('manifest.json');
  if (!text)
    throw new ArchiveError(
      'The archive has no manifest: it is cut off, or no backup of Tembrix.',
      DAMAGED,
    );
  const manifest = readManifest(text, newest);
  if (manifest.format !== format) throw WRONG_KIND[format];
  const take = (name: string, sha256: string) => {
    const bytes = entries.get(name);
    entries.delete(name);
    if (!bytes) throw new ArchiveError(`${name} is missing from the archive.`, DAMAGED);
    if (digestOf(bytes) !== sha256)
      throw new ArchiveError(`${name} is not what was written into the archive.`, DAMAGED);
    return bytes;
  };
  entries.delete('manifest.json');
  const tables = manifest.tables.map(({ name, rows, sha256 }): TableText => {
    const table = take(`tables/${name}.jsonl`, sha256).toString('utf8');
    const lines = table === '' ? 0 : table.split('\n').length;
    if (lines !== rows) throw new ArchiveError(`${name} has ${lines} rows, not ${rows}.`, DAMAGED);
    return { name, rows, text: table };
  });
  const files = new Map(
    manifest.files.map(({ sha256 }) => [sha256, take(`files/${sha256}`, sha256)]),
  );
  const [stray] = entries.keys();
  if (stray !== undefined)
    throw new ArchiveError(
      `The archive holds ${stray.slice(0, 80)}, which its manifest does not name.`,
      'It was changed after it was written. Use another backup.',
    );
  return { manifest, content: { schema: manifest.schema, tables, files } };
}

function readManifest(bytes: Buffer, newest: number): Manifest {
  let json: unknown;
  try {
    json = JSON.parse(bytes.toString('utf8'));
  } catch {
    throw new ArchiveError('The manifest of the archive cannot be read.', DAMAGED);
  }
  const { version, schema } = (json ?? {}) as { version?: unknown; schema?: unknown };
  if (Number(version) > FORMAT_VERSION || Number(schema) > newest)
    throw new ArchiveError(
      'The archive was written by a newer Tembrix.',
      'Restore it with that one.',
    );
  const read = manifestSchema.safeParse(json);
  if (!read.success) throw new ArchiveError('The archive is no backup of Tembrix.', DAMAGED);
  return read.data;
}

/** Names an archive may hold; anything else – a path, a link – is refused. */
const NAME = /^(?:manifest\.json|tables\/[a-z][a-z0-9_]{0,62}\.jsonl|files\/[0-9a-f]{64})$/;

async function unpack(source: Readable, mostBytes: number): Promise<Map<string, Buffer>> {
  const entries = new Map<string, Buffer>();
  let size = 0;
  const tar = extract();
  const read = (async () => {
    for await (const entry of tar) {
      const { name, type } = entry.header;
      if (type !== 'file' || !NAME.test(name) || entries.has(name))
        throw new ArchiveError(
          `The archive holds ${name.slice(0, 80)}, which no backup does.`,
          'It is foreign, or was changed. Use another backup.',
        );
      const parts: Buffer[] = [];
      for await (const part of entry as AsyncIterable<Buffer>) {
        size += part.length;
        if (size > mostBytes || entries.size > MOST_ENTRIES)
          throw new ArchiveError(
            'The archive unpacks to more than a backup can hold.',
            'It is foreign, or was changed. Use another backup.',
          );
        parts.push(part);
      }
      entries.set(name, Buffer.concat(parts));
    }
  })();
  try {
    await Promise.all([pipeline(source, createGunzip(), tar), read]);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (error instanceof ArchiveError || code === 'ENOENT' || code === 'EACCES') throw error;
    throw new ArchiveError('The archive is damaged or cut off, or no archive at all.', DAMAGED);
  }
  return entries;
}
