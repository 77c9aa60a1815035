import { execFileSync } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';
import { freePort } from './freePort.ts';

const HOME = '/usr/lib/postgresql';

/** Where Debian keeps the server's programs; `undefined` where none is installed. */
const programs = (): string | undefined =>
  (existsSync(HOME) ? readdirSync(HOME) : [])
    .sort((a, b) => Number(b) - Number(a))
    .map((version) => join(HOME, version, 'bin'))
    .find((bin) => existsSync(join(bin, 'initdb')));

/** The server does not run as root; Debian's package makes an account for it. */
const isRoot = () => userInfo().uid === 0;
const canRun = (): boolean => {
  if (!isRoot()) return true;
  try {
    execFileSync('id', ['postgres'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
};

/** Whether a PostgreSQL server can be had on this computer. */
export const hasPostgres = (): boolean => programs() !== undefined && canRun();

/** A PostgreSQL server of its own in a temporary directory. */
export class Postgres {
  private constructor(
    private readonly bin: string,
    private readonly home: string,
    private readonly port: number,
  ) {}

  static async start(): Promise<Postgres> {
    const bin = programs();
    if (bin === undefined) throw new Error('expected a PostgreSQL server to be installed');
    const home = mkdtempSync(join(tmpdir(), 'tembrix-pg-'));
    const server = new Postgres(bin, home, await freePort());
    if (isRoot()) execFileSync('chown', ['postgres', home]);
    else chmodSync(home, 0o700);
    server.#run('initdb', '-D', server.#data, '-U', 'tembrix', '-A', 'trust', '-N', '-E', 'UTF8');
    server.up();
    return server;
  }

  get #data(): string {
    return join(this.home, 'data');
  }

  #run(program: string, ...args: string[]): void {
    const command = [join(this.bin, program), ...args];
    const [file = '', ...rest] = isRoot()
      ? ['runuser', '-u', 'postgres', '--', ...command]
      : command;
    execFileSync(file, rest, { stdio: 'ignore', cwd: this.home });
  }

  /** Starts it; its commits are not waited for, since nobody cuts the power of a test. */
  up(): void {
    const options = `-p ${this.port} -k ${this.home} -c listen_addresses=127.0.0.1 -c fsync=off`;
    this.#run(
      'pg_ctl',
      '-D',
      this.#data,
      '-w',
      '-l',
      join(this.home, 'log'),
      '-o',
      options,
      'start',
    );
  }

  down(): void {
    this.#run('pg_ctl', '-D', this.#data, '-m', 'fast', '-w', 'stop');
  }

  /** A new, empty database. */
  database(name: string): string {
    this.#run('createdb', '-h', this.home, '-p', String(this.port), '-U', 'tembrix', name);
    return `postgres://tembrix@127.0.0.1:${this.port}/${name}`;
  }

  dispose(): void {
    this.down();
    rmSync(this.home, { recursive: true, force: true });
  }
}
