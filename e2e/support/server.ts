import { fork, spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { ownerOf } from '../../test/support/owner.ts';
import type { Asked, Told } from './host.ts';

/** Cookies of a request, as a browser’s context takes them. */
export const browserCookies = (url: string, cookie: string) =>
  cookie.split('; ').map((one) => {
    const [name = '', value = ''] = one.split('=');
    return { name, value, url, httpOnly: true, sameSite: 'Strict' as const };
  });

const BUILT = ['dist/server/main.js'];

/** A bench that has been stopped, for others to be started like it. */
export interface StoppedBench {
  readonly data: string;
  readonly port: number;
  /** Of its owner, as {@link BenchServer.cookie}. */
  readonly cookie: string;
}

/** A bench as journeys ask it; as it is here, one that another process started and will end. */
export class BenchServer {
  /** Of its owner, once somebody is; sent with what sets a scene, and given to journeys’ browsers. */
  cookie = '';
  /** 0 until the first start, which takes any free port; later starts keep it. */
  protected port = 0;

  constructor(url?: string) {
    if (url !== undefined) this.port = Number(new URL(url).port);
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  /** A request to its API as its owner; in the demo world it lets everybody on this machine in. */
  fetch(path: string, { headers, ...init }: RequestInit = {}): Promise<Response> {
    return fetch(`${this.url}/api${path}`, {
      ...init,
      headers: {
        ...(init.body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(this.cookie === '' ? {} : { cookie: this.cookie }),
        ...(headers as Record<string, string> | undefined),
      },
    });
  }

  /** Its owner’s cookies, as a browser’s context takes them. */
  get browserCookies() {
    return browserCookies(this.url, this.cookie);
  }
}

/** A server process of its own on a data directory of its own, which can be killed and started. */
export class ServerProcess extends BenchServer {
  private child: ChildProcess | undefined;

  private constructor(
    readonly data: string,
    private readonly command: readonly string[],
  ) {
    super();
  }

  /** Of the running process. */
  get pid(): number {
    if (this.child?.pid === undefined) throw new Error('expected the server to run');
    return this.child.pid;
  }

  /**
   * The built server, empty.
   *
   * @param data - where its data lies; a directory of its own on the disk where none is given
   */
  static async start(data?: string): Promise<ServerProcess> {
    const server = await ServerProcess.startUnowned(data);
    server.cookie = await ownerOf(server.url);
    return server;
  }

  /** A copy of a stopped one, whoever is signed in there included: making a database takes far longer. */
  static async startLike(stopped: StoppedBench, data?: string): Promise<ServerProcess> {
    const server = await ServerProcess.spawn(BUILT, stopped.data, data);
    // Cookies are named after the port.
    server.cookie = stopped.cookie.replaceAll(`-${stopped.port}=`, `-${server.port}=`);
    return server;
  }

  /** The same at its first start: nobody owns it yet. */
  static async startUnowned(data?: string): Promise<ServerProcess> {
    return ServerProcess.spawn(BUILT, undefined, data);
  }

  /** The demo world. */
  static async startDemo(data?: string): Promise<ServerProcess> {
    return ServerProcess.spawn(['--import', 'tsx', 'demo/main.ts'], undefined, data);
  }

  private static async spawn(
    command: readonly string[],
    like?: string,
    data = mkdtempSync(join(tmpdir(), 'tembrix-e2e-')),
  ): Promise<ServerProcess> {
    if (like !== undefined) cpSync(like, data, { recursive: true });
    const server = new ServerProcess(data, command);
    await server.up();
    return server;
  }

  /** Starts the process and waits until it answers. */
  async up(): Promise<void> {
    const env = {
      ...{ ...process.env, TEMBRIX_DATA: this.data, TEMBRIX_PORT: String(this.port) },
      // Its own: backups of another test's bench are not this one's.
      TEMBRIX_BACKUPS: `${this.data}-backups`,
    };
    const child = spawn(process.execPath, this.command, {
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.child = child;
    // Listened to for as long as it runs: a full or closed pipe would stall it.
    const said = await new Promise<string>((settle) => {
      let text = '';
      child.stdout.on('data', (chunk: Buffer) => {
        text += chunk.toString();
        if (/http:\/\/\S+:\d+\s/.test(text)) settle(text);
      });
      child.once('exit', () => settle(text));
    });
    // Its own word for where it listens: a port that merely answers may be another test's server.
    const port = /http:\/\/\S+?:(\d+)/.exec(said)?.[1];
    if (port === undefined) throw new Error(`the server did not come up: ${said}`);
    this.port = Number(port);
    for (let tries = 0; tries < 100; tries++) {
      const answer = await fetch(`${this.url}/api/health`).catch(() => undefined);
      if (answer?.ok) return;
      await wait(50);
    }
    throw new Error('the server did not come up');
  }

  /** Ends the process the hard way, or as whoever stops it at the keyboard does. */
  async kill(signal: 'SIGKILL' | 'SIGINT' = 'SIGKILL'): Promise<void> {
    if (!this.child || this.child.exitCode !== null || this.child.signalCode !== null) return;
    this.child.kill(signal);
    await once(this.child, 'exit');
  }

  /** Stops it as whoever stops it at the keyboard does; its data stay. */
  async stopped(): Promise<StoppedBench> {
    await this.kill('SIGINT');
    const { data, port, cookie } = this;
    return { data, port, cookie };
  }

  /** Ends it and removes its data. */
  async dispose(): Promise<void> {
    await this.kill();
    rmSync(`${this.data}-backups`, { recursive: true, force: true });
    rmSync(this.data, { recursive: true, force: true });
  }
}

const HOST = fileURLToPath(new URL('host.ts', import.meta.url));

/** A process with several benches; see host.ts. */
export class Host {
  private readonly child = fork(HOST, { execArgv: ['--import', 'tsx'], stdio: 'inherit' });
  /** Who waits for which bench, by its backups. */
  private readonly waiting = new Map<string, (told: Told) => void>();

  constructor() {
    this.child.on('message', (told: Told) => this.waiting.get(told.backups)?.(told));
    this.child.once('exit', () => {
      for (const [backups, tell] of this.waiting)
        tell({ backups, fault: 'the host of benches ended' });
    });
  }

  /** Asks for a bench to be opened or closed; its address, where it is open. */
  ask(asked: Asked): Promise<string> {
    return new Promise((settle, fail) => {
      this.waiting.set(asked.backups, ({ url = '', fault }) => {
        this.waiting.delete(asked.backups);
        if (fault === undefined) settle(url);
        else fail(new Error(fault));
      });
      this.child.send(asked);
    });
  }

  async dispose(): Promise<void> {
    if (this.child.exitCode !== null) return;
    this.child.kill('SIGKILL');
    await once(this.child, 'exit');
  }
}

/** A bench beside others in one process, in memory. */
export class HostedServer extends BenchServer {
  private constructor(
    url: string,
    private readonly host: Host,
    private readonly backups: string,
  ) {
    super(url);
  }

  /** An empty one, with its owner signed in. */
  static async start(host: Host): Promise<HostedServer> {
    const backups = mkdtempSync(join(tmpdir(), 'tembrix-e2e-'));
    const server = new HostedServer(await host.ask({ backups, isOpen: true }), host, backups);
    server.cookie = await ownerOf(server.url);
    return server;
  }

  /** Its engine is kept for the next one. */
  async dispose(): Promise<void> {
    await this.host.ask({ backups: this.backups, isOpen: false });
    rmSync(this.backups, { recursive: true, force: true });
  }
}
