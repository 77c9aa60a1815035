import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { readdirSync, statSync } from 'node:fs';
import { setPriority } from 'node:os';
import { join } from 'node:path';
import type { Logger } from 'pino';
import type { Backup, BackupState } from '#contract/backups';
import { nodeArguments } from '../parts.ts';
import { StateError } from '../store/operations/errors.ts';
import { backupTime } from './names.ts';

const DAY_MS = 86_400_000;
/** How often it is looked whether a backup is due. */
const LOOK_MS = 15 * 60_000;
/** Lowest of the system's own steps that still gets along. */
const LOW_PRIORITY = 10;

/** Directory of those given in, beside the bench's own. */
const GIVEN = 'given';

/**
 * Makes a backup a day while the bench runs, in a process of its own: it takes the content as any
 * browser would, restores it for a trial, and keeps it only then.
 */
export class BackupKeeper {
  #child: ChildProcess | undefined;
  #problem: string | null = null;
  #timer: NodeJS.Timeout | undefined;

  /** @param directory - where backups lie; none in a made-up world, which keeps none */
  constructor(
    private readonly directory: string | undefined,
    private readonly log: Logger,
    private readonly everyMs = DAY_MS,
  ) {}

  /** Begins to look; the bench is asked at its port, by the key it lets its own programs in with. */
  start(port: number, localKey: string): void {
    this.#localKey = localKey;
    if (this.directory === undefined) return;
    const look = () => {
      const { newest } = this.read();
      if (!newest || Date.now() - Date.parse(newest.at) >= this.everyMs) this.#make(port);
    };
    this.#timer = setInterval(look, Math.min(LOOK_MS, this.everyMs));
    this.#timer.unref();
    this.#port = port;
  }
  #port = 0;
  #localKey = '';

  /** Where backups lie; none where none are kept. */
  get place(): string | undefined {
    return this.directory;
  }

  /** Where backups lie that were given in as files: apart, so that they never count as the bench's own. */
  get givenPlace(): string | undefined {
    return this.directory && join(this.directory, GIVEN);
  }

  /** Every backup that can be gone back to, the latest first. */
  list(): Backup[] {
    return [...this.#own(), ...listIn(this.givenPlace, `${GIVEN}/`)].sort((a, b) =>
      b.at.localeCompare(a.at),
    );
  }

  #own(): Backup[] {
    return listIn(this.directory, '');
  }

  read(): BackupState {
    const [newest] = this.#own();
    return {
      isKept: this.directory !== undefined,
      isRunning: this.#child !== undefined,
      problem: this.#problem,
      newest: newest ?? null,
    };
  }

  /** @throws StateError where none are kept */
  makeNow(): BackupState {
    if (this.directory === undefined)
      throw new StateError(
        'A made-up world keeps no backups.',
        'Download one, or start the real bench.',
      );
    this.#make(this.#port);
    return this.read();
  }

  #make(port: number): void {
    if (this.#child || this.directory === undefined) return;
    const child = spawn(process.execPath, [...nodeArguments('backup'), 'running'], {
      env: {
        ...process.env,
        TEMBRIX_BACKUPS: this.directory,
        TEMBRIX_PORT: String(port),
        TEMBRIX_LOCAL_KEY: this.#localKey,
      },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    this.#child = child;
    let said = '';
    child.stderr.on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(-2000)));
    if (child.pid !== undefined) setPriority(child.pid, LOW_PRIORITY);
    const ended = (code: number | null, why: string) => {
      this.#child = undefined;
      this.#problem = code === 0 ? null : why || 'The backup was cut off.';
      if (code !== 0) this.log.warn({ code }, 'no backup was made');
    };
    child.once('error', ({ message }) => ended(1, message));
    child.once('exit', (code) => ended(code, said.trim().split('\n').at(-1) ?? ''));
  }

  stop(): void {
    clearInterval(this.#timer);
    this.#child?.kill();
  }
}

/** The backups of a directory, the latest first. */
function listIn(directory: string | undefined, prefix: string): Backup[] {
  if (directory === undefined) return [];
  return kept(directory)
    .sort()
    .reverse()
    .map((name) => ({
      ...{ name: `${prefix}${name}`, at: backupTime(name), isGiven: prefix !== '' },
      size: statSync(join(directory, name)).size,
    }));
}

function kept(directory: string): string[] {
  try {
    return readdirSync(directory).filter((name) => backupTime(name) !== '');
  } catch (error) {
    // Where none can be read there is none; making one says why.
    if ('code' in (error as NodeJS.ErrnoException)) return [];
    throw error;
  }
}
