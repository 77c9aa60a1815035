import { closeSync, fsyncSync, openSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';
import { NodeFS } from '@electric-sql/pglite/nodefs';

type Engine = Parameters<NodeFS['init']>[1];

/** What of an open file the engine hands over; its file system has no types of its own. */
interface OpenFile {
  /** The system's descriptor; directories have none. */
  readonly nfd?: number;
  readonly node: unknown;
}

interface NodeFiles {
  readonly stream_ops: { fsync?: (file: OpenFile) => number };
  readonly realPath: (node: unknown) => string;
  /** Runs a call of the system; an error of it becomes one the engine can read. */
  readonly tryFSOperation: (call: () => void) => void;
}

/**
 * Settings the embedded engine starts with. It would leave out every wait for the disk (`-F`), and
 * with it every promise that what was answered survives a power cut. It runs alone, without the
 * helpers a server has, so how far its log may grow is said here too.
 */
export const DURABLE_SETTINGS: readonly string[] = [
  ...PGlite.defaultStartParams.filter((one) => one !== '-F'),
  ...['-c', 'wal_sync_method=fsync'],
  ...['-c', 'min_wal_size=32MB', '-c', 'max_wal_size=64MB'],
];

/**
 * The engine's files in a directory, with the one call its own file system leaves out: a sync waits
 * until the disk has what was written (fsync(2)).
 */
export class DurableFiles extends NodeFS {
  readonly #onSync: () => void;

  /** @param onSync - told of every wait for the disk, so that tests can count them, or have one fail */
  constructor(directory: string, onSync: () => void = () => undefined) {
    super(directory);
    this.#onSync = onSync;
  }

  override async init(...[pg, options]: Parameters<NodeFS['init']>) {
    const made = await super.init(pg, options);
    const addSync = (engine: Engine) => {
      const files = (engine as { NODEFS: NodeFiles }).NODEFS;
      files.stream_ops.fsync = ({ nfd, node }) => {
        files.tryFSOperation(() => {
          this.#onSync();
          if (nfd === undefined) syncDirectory(files.realPath(node));
          else fsyncSync(nfd);
        });
        return 0;
      };
    };
    const preRun = [...toList(made.emscriptenOpts.preRun), addSync];
    return { emscriptenOpts: { ...made.emscriptenOpts, preRun } as typeof made.emscriptenOpts };
  }
}

const toList = <T>(value: T | readonly T[] | undefined): readonly T[] =>
  value === undefined ? [] : Array.isArray(value) ? (value as readonly T[]) : [value as T];

/** A new or renamed file is only safe once its directory is. Some systems cannot; they need not. */
export function syncDirectory(path: string): void {
  if (process.platform === 'win32') return;
  const directory = openSync(path, 'r');
  try {
    fsyncSync(directory);
  } finally {
    closeSync(directory);
  }
}
