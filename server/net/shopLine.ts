import { createServer } from 'node:https';
import type { Server } from 'node:https';
import { eq } from 'drizzle-orm';
import type { Express } from 'express';
import type { Logger } from 'pino';
import type { DoorTerms } from '#contract/measuring';
import type { Network } from '#contract/network';
import { hasOwner } from '../access/accounts.ts';
import { BENCH_BOUNDS, bound, shut } from '../http/boundedServer.ts';
import type { Database } from '../store/openStore.ts';
import { ConflictError, StateError } from '../store/operations/errors.ts';
import { certificates } from '../store/schema/index.ts';
import { ownAddresses, urlOf } from './addresses.ts';
import { readTerms, saveTerms } from './lineTerms.ts';
import type { LineTerms } from './lineTerms.ts';
import { certificateFacts, isGoodFor, makeCertificate } from './certificate.ts';
import type { ShopCertificate } from './certificate.ts';

/** Row of the bench's own line beside that of the measuring door. */
const ROW = 'bench';
const UNTOUCHED: DoorTerms = { isOpen: false, address: '', port: 4871 };

/**
 * The bench itself on an address of this computer, for tablets and other computers of the shop: always
 * by TLS, with a certificate of the shop's own making, and only once it has an owner.
 */
export class ShopLine {
  #server: Server | undefined;
  #url: URL | null = null;
  #fault: string | null = null;
  #app: Express | undefined;
  /** Of the line shut last: its answers under way are through. */
  #closing = Promise.resolve();

  constructor(
    private readonly db: Database,
    private readonly log: Logger,
    /** Addresses the bench answers to; this one is put before the others while the line is open. */
    private readonly addresses: URL[],
    /** As set at the start, in place of what the owner chose. */
    private readonly fixed: DoorTerms | undefined,
  ) {}

  /** Opens if it is to be open. A fault is kept to be shown; it stops nothing else. */
  async start(app: Express): Promise<void> {
    this.#app = app;
    const { terms } = await this.#stored();
    if (terms.isOpen) await this.#open(terms);
  }

  async read(): Promise<Network> {
    const { terms, version } = await this.#stored();
    const certificate = await this.#certificate();
    return {
      ...{ terms, version, addresses: ownAddresses(), url: this.#url?.origin ?? null },
      ...{ fault: this.#fault, isFixed: this.fixed !== undefined },
      certificate: certificate ? certificateFacts(certificate) : null,
    };
  }

  /** Opens, moves or shuts the line, if it is still at the version the change started from. */
  async change(terms: DoorTerms, version: number): Promise<Network> {
    if (this.fixed)
      throw new StateError(
        'TEMBRIX_LISTEN says where this bench listens.',
        'Change it there, or start without it.',
      );
    if (!(await saveTerms(this.db, ROW, terms, version)))
      throw new ConflictError('The line', await this.read());
    this.#shut();
    if (terms.isOpen) await this.#open(terms);
    return this.read();
  }

  /** What a tablet is told to trust, as PEM; `undefined` before the first line was opened. */
  async authority(): Promise<string | undefined> {
    return (await this.#certificate())?.authority;
  }

  async stop(): Promise<void> {
    this.#shut();
    await this.#closing;
  }

  #stored(): Promise<LineTerms> {
    if (this.fixed) return Promise.resolve({ terms: this.fixed, version: 0 });
    return readTerms(this.db, ROW, UNTOUCHED);
  }

  async #certificate(): Promise<ShopCertificate | undefined> {
    const [row] = await this.db.select().from(certificates).where(eq(certificates.id, ROW));
    return row;
  }

  /** The certificate there is, or a new one by the same authority where it does not serve. */
  async #certificateFor(address: string): Promise<ShopCertificate> {
    const known = await this.#certificate();
    if (known && isGoodFor(known, address)) return known;
    const made = await makeCertificate(address, known);
    await this.db
      .insert(certificates)
      .values({ id: ROW, ...made })
      .onConflictDoUpdate({ target: certificates.id, set: { ...made } });
    return made;
  }

  async #open({ address, port }: DoorTerms): Promise<void> {
    if (!(await hasOwner(this.db))) {
      this.#fault = 'Nobody owns this bench yet: it stays on this computer until somebody does.';
      return;
    }
    const { certificate, authority, key } = await this.#certificateFor(address);
    const server = bound(
      createServer({ cert: `${certificate}\n${authority}`, key, minVersion: 'TLSv1.2' }, this.#app),
      BENCH_BOUNDS,
    );
    await new Promise<void>((done) => {
      const ready = (error?: NodeJS.ErrnoException) => {
        server.removeAllListeners('error');
        if (error) {
          this.#fault =
            error.code === 'EADDRINUSE'
              ? `Port ${port} is taken. Choose another.`
              : `It cannot listen at ${address}, port ${port} (${error.code ?? error.message}). Choose another address or port.`;
          this.log.warn({ err: error }, 'the bench stays on this computer');
        } else {
          const { port: actual } = server.address() as { port: number };
          this.#server = server;
          this.#url = new URL(urlOf('https', { address, port: actual }));
          this.addresses.unshift(this.#url);
        }
        done();
      };
      server.once('error', ready).listen(port, address, () => ready());
    });
  }

  /** Whoever asked for it may be on this very line: it is not waited for. */
  #shut(): void {
    const server = this.#server;
    if (this.#url) this.addresses.splice(this.addresses.indexOf(this.#url), 1);
    this.#server = undefined;
    this.#url = null;
    this.#fault = null;
    if (!server) return;
    this.#closing = shut(server);
  }
}
