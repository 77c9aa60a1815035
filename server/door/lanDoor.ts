import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import type { Door, DoorTerms } from '#contract/measuring';
import { ownAddresses, urlOf } from '../net/addresses.ts';
import { readTerms, saveTerms } from '../net/lineTerms.ts';
import type { LineTerms } from '../net/lineTerms.ts';
import { DOOR_BOUNDS, boundedServer, shut } from '../http/boundedServer.ts';
import type { Database } from '../store/openStore.ts';
import { ConflictError } from '../store/operations/errors.ts';
import { contentPolicy, createDoorApp } from './doorApp.ts';

/** Shut, and on a port next to the bench's own, until the owner says otherwise. */
const UNTOUCHED: DoorTerms = { isOpen: false, address: '', port: 4880 };
const ROW = 'door';

/** How often a process looks whether another one of the same database has changed the terms. */
const LOOK_MS = 5000;
/** Longest a door elsewhere may take to answer. */
const ANSWER_MS = 2000;

/**
 * Listens for customers' machines on one address of this computer, on a port of its own, while the
 * owner has it open. Everything else of Tembrix stays on loopback.
 *
 * Its terms are stored, and one for all processes of a database: one of them listens, the others know
 * where, and take over when it is gone.
 */
export class LanDoor {
  #server: Server | undefined;
  #url: string | null = null;
  #fault: string | null = null;
  /** The terms this process went by last. */
  #applied: number | undefined;
  #turn: Promise<unknown> = Promise.resolve();
  #timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly db: Database,
    private readonly log: Logger,
    /** The measuring page; absent where it is not built, and then the door stays shut. */
    private readonly page: string | undefined,
  ) {}

  /** Where it listens, as last looked; null while shut. For whoever is inside a transaction. */
  get url(): string | null {
    return this.#url;
  }

  /**
   * Opens if the owner left it open. A fault is kept to be shown; it stops nothing else.
   *
   * @param isShared - other processes may run on the same database
   */
  async start(isShared = false): Promise<void> {
    await this.#follow();
    if (!isShared) return;
    const look = () => {
      this.#follow().catch((error: unknown) => {
        this.log.warn({ err: error }, 'the terms of the measuring door could not be read');
      });
    };
    this.#timer = setInterval(look, LOOK_MS);
    this.#timer.unref();
  }

  async read(): Promise<Door> {
    const { terms, version } = await this.#follow();
    return { terms, version, addresses: ownAddresses(), url: this.#url, fault: this.#fault };
  }

  /** Goes by the terms as they stand now, one look at a time. */
  #follow(): Promise<LineTerms> {
    const next = this.#turn.then(async () => {
      const stored = await this.#stored();
      const { terms, version } = stored;
      if (version === this.#applied && (this.#server !== undefined || !terms.isOpen)) return stored;
      await this.#shut();
      this.#applied = version;
      if (terms.isOpen) await this.#open(terms);
      return stored;
    });
    this.#turn = next.catch(() => undefined);
    return next;
  }

  /** Opens, moves or shuts the door, if it is still at the version the change started from. */
  async change(terms: DoorTerms, version: number): Promise<Door> {
    if (!(await saveTerms(this.db, ROW, terms, version)))
      throw new ConflictError('The measuring door', await this.read());
    return this.read();
  }

  async stop(): Promise<void> {
    clearInterval(this.#timer);
    await this.#turn;
    await this.#shut();
  }

  async #shut(): Promise<void> {
    const server = this.#server;
    this.#server = undefined;
    this.#url = null;
    this.#fault = null;
    if (!server) return;
    await shut(server);
  }

  #stored(): Promise<LineTerms> {
    return readTerms(this.db, ROW, UNTOUCHED);
  }

  async #open(terms: DoorTerms): Promise<void> {
    if (this.page === undefined) {
      this.#fault = 'The measuring page is not built. Run “npm run build”, then start again.';
      return;
    }
    await this.#listen(terms, this.page);
    if (this.#fault === null || !(await isDoorAt(urlOf('http', terms), this.page))) return;
    this.#fault = null;
    this.#url = urlOf('http', terms);
  }

  async #listen({ address, port }: DoorTerms, page: string): Promise<void> {
    const app = createDoorApp(this.db, this.log, page);
    await new Promise<void>((done) => {
      const server = boundedServer(app, DOOR_BOUNDS);
      const ready = (error?: NodeJS.ErrnoException) => {
        server.removeAllListeners('error');
        if (error) {
          this.#fault =
            error.code === 'EADDRINUSE'
              ? `Port ${port} is taken. Choose another.`
              : `It cannot listen at ${address}, port ${port} (${error.code ?? error.message}). Choose another address or port.`;
          this.log.warn({ err: error }, 'the measuring door stays shut');
        } else {
          this.#server = server;
          this.#url = urlOf('http', { address, port: (server.address() as AddressInfo).port });
        }
        done();
      };
      server.once('error', ready).listen(port, address, () => ready());
    });
  }
}

/** Whether another process has this very page open there, told by its policy without fetching it. */
async function isDoorAt(url: string, page: string): Promise<boolean> {
  const answer = await fetch(url, {
    method: 'HEAD',
    signal: AbortSignal.timeout(ANSWER_MS),
  }).catch(() => undefined);
  return answer?.headers.get('content-security-policy') === contentPolicy(page);
}
