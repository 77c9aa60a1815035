import type { IncomingMessage } from 'node:http';
import { sql } from 'drizzle-orm';
import express from 'express';
import type { Express } from 'express';
import type { Logger } from 'pino';
import { z } from 'zod';
import { openApi } from '#contract/openApi';
import { PRINTS, routerPath } from '#contract/prints';
import type { BackupKeeper } from '../backup/keeper.ts';
import type { LanDoor } from '../door/lanDoor.ts';
import { measuringRouter } from '../door/doorApp.ts';
import { VISIT, onlyAllowed } from '../access/allowed.ts';
import { actorOf, isStillIn } from '../access/visit.ts';
import type { Visit } from '../access/visit.ts';
import type { ShopLine } from '../net/shopLine.ts';
import { NotFoundError } from '../store/operations/errors.ts';
import type { LiveHub } from '../live/hub.ts';
import type { Store } from '../store/openStore.ts';
import { knownHosts, ownPagesOnly } from './guard.ts';
import { createHandlers } from './handlers.ts';
import { healthRouter } from './health.ts';
import { mountRoutes } from './mount.ts';
import { mountPrints } from './mountPrints.ts';
import { securityHeaders, servePage } from './page.ts';
import { perMinute } from './perMinute.ts';
import { noSuchRoute, problemHandler, refuseStrangeAddress } from './problems.ts';
import { readJson } from './readJson.ts';

/** What the server is made of. */
export interface AppParts {
  readonly store: Pick<Store, 'db' | 'write'>;
  readonly log: Logger;
  /** The built interface; absent where another server delivers it. */
  readonly webDirectory?: string | undefined;
  /** Lets programs of this machine in; see {@link makeLocalKey}. */
  readonly localKey: string;
  readonly line: ShopLine;
  readonly live: LiveHub;
  readonly door: LanDoor;
  readonly backups: BackupKeeper;
  /** The measuring page as one file; absent where it is not built. */
  readonly measuringPage?: string | undefined;
  /** Where else than on loopback the bench is reached; the first stands on what is printed. */
  readonly addresses?: readonly URL[] | undefined;
  /** A made-up world: machines can be simulated. */
  readonly isDemo?: boolean | undefined;
}

/** A bench of fifteen people cannot click this fast; a runaway script can. */
const REQUESTS_PER_MINUTE = 6000;

/** What a page that listens says of itself: which it is, and for how long it has been there, ms. */
const LISTENING = z.object({
  tab: z.string().max(40).catch(''),
  shown: z.coerce.number().min(0).optional().catch(undefined),
});

const isJson = ({ headers }: IncomingMessage) =>
  (headers['content-type'] ?? '').startsWith('application/json');
const carriesFiles = ({ url = '' }: IncomingMessage) =>
  /^\/(?:inventory\/read|modules\/import|suppliers\/[^/]+\/prices|stock\/counts?|shop\/logo|plans\/search|jobs|jobs\/import|jobs\/[^/]+\/evidence|machines\/[^/]+\/photo)(?:\?|$)/.test(
    url,
  );

/** The whole HTTP side over a database. */
export function createApp(parts: AppParts): Express {
  const {
    store,
    log,
    webDirectory,
    door,
    backups,
    measuringPage,
    isDemo = false,
    addresses = [],
    localKey,
    live,
    line,
  } = parts;
  const { db } = store;
  const app = express();
  app.disable('x-powered-by');
  app.disable('etag'); // nothing the bench answers with is kept by a browser
  app.use(securityHeaders(), knownHosts(addresses), ownPagesOnly(addresses));
  app.use(healthRouter(() => db.execute(sql`select 1`)));
  app.use(
    '/api',
    perMinute(REQUESTS_PER_MINUTE),
    refuseStrangeAddress,
    onlyAllowed(db, { isDemo, localKey }),
    // Files travel as base64; elsewhere a megabyte is far beyond anything typed.
    readJson({ limit: '1mb', type: (request) => isJson(request) && !carriesFiles(request) }),
    readJson({ limit: '36mb', type: (request) => isJson(request) && carriesFiles(request) }),
    // Answers change with every save; a cached one would look like lost work.
    (_request, response, next) => {
      response.set('Cache-Control', 'no-store');
      next();
    },
  );
  app.get(routerPath(PRINTS.live.path), (request, response) => {
    const visit = response.locals[VISIT] as Visit;
    const { tablet } = actorOf(visit);
    const { tab, shown } = LISTENING.parse(request.query);
    const mayHear = () => isStillIn(db, visit);
    live.add({ tab, jobId: tablet?.jobId, shownForMs: shown, mayHear, response });
  });
  app.get(routerPath(PRINTS.authority.path), async (_request, response) => {
    const authority = await line.authority();
    if (authority === undefined) throw new NotFoundError('A certificate');
    response
      .attachment('tembrix-of-this-shop.crt')
      .type('application/x-x509-ca-cert')
      .send(authority);
  });
  // Few ask for it, and putting it together takes as long as the rest of a start.
  let description: object | undefined;
  app.get(routerPath(PRINTS.openApi.path), (_request, response) => {
    description ??= openApi();
    response.json(description);
  });
  mountPrints(app, db, addresses, backups);
  mountRoutes(app, store, (over, visit) =>
    createHandlers(
      over,
      { write: store.write, door, backups, line, live, isDemo, addresses },
      visit,
    ),
  );
  if (measuringPage !== undefined) {
    app.get(routerPath(PRINTS.measuringPage.path), (_request, response) => {
      response.attachment('memory-measuring-page.html').type('html').send(measuringPage);
    });
    app.use('/measure', measuringRouter(db, measuringPage));
  }
  app.use('/api', noSuchRoute);
  if (webDirectory !== undefined) servePage(app, webDirectory);
  app.use(noSuchRoute);
  app.use(problemHandler(log));
  return app;
}
