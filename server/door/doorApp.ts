import { createHash } from 'node:crypto';
import { join } from 'node:path';
import express, { Router } from 'express';
import type { Express } from 'express';
import type { Logger } from 'pino';
import { probePost } from '#contract/measuring';
import { COLLECTED_LIMIT } from '#core/inventory';
import { perMinute } from '../http/perMinute.ts';
import { InputError, problemHandler, sendProblem } from '../http/problems.ts';
import { readJson } from '../http/readJson.ts';
import type { Database } from '../store/openStore.ts';
import { packageRoot } from '../packageRoot.ts';
import { readAside } from '../reading/readAside.ts';
import { acceptCollected, acceptPost } from '../store/operations/measuring.ts';

/** What a result may weigh; the fullest one the page makes has under 3 kB. */
const POST_LIMIT = '4kb';
/** From one address in a minute: a page retries every few seconds at most. */
const PER_MINUTE = { pages: 120, posts: 30 } as const;

/** What a machine collects with, by the system it runs. */
const COLLECTING_SCRIPTS = ['collect.sh', 'collect.ps1'] as const;

/**
 * The measuring page and the one address it posts to. Nothing is read from the store here, and
 * only a token can write to it.
 *
 * @param page - the single-file page
 */
export function measuringRouter(db: Database, page: string): Router {
  const router = Router();
  const policy = contentPolicy(page);
  router.get('/', perMinute(PER_MINUTE.pages), (_request, response) => {
    response
      .set({
        'Content-Security-Policy': policy,
        'Cache-Control': 'no-store',
        'Referrer-Policy': 'no-referrer',
        'X-Content-Type-Options': 'nosniff',
        // Fine clocks, where the browser trusts the address enough to grant them.
        'Cross-Origin-Opener-Policy': 'same-origin',
        'Cross-Origin-Embedder-Policy': 'require-corp',
      })
      .type('html')
      .send(page);
  });
  router.post(
    '/results',
    perMinute(PER_MINUTE.posts),
    readJson({ limit: POST_LIMIT }),
    async (request, response) => {
      const post = probePost.safeParse(request.body);
      if (!post.success) throw new InputError(post.error.issues);
      await acceptPost(db, post.data);
      // The page learns that it arrived, and nothing of where.
      response.status(201).json({ ok: true });
    },
  );
  router.use(collectingRouter(db));
  return router;
}

/** The collecting scripts, and the address they send to with a ticket of their own. */
function collectingRouter(db: Database): Router {
  const router = Router();
  for (const name of COLLECTING_SCRIPTS)
    router.get(`/${name}`, perMinute(PER_MINUTE.pages), (_request, response) => {
      response
        .attachment(name)
        .type('text/plain')
        .sendFile(join(packageRoot(), 'collect', name));
    });
  router.post(
    '/collected',
    perMinute(PER_MINUTE.posts),
    express.raw({ limit: COLLECTED_LIMIT, type: () => true }),
    async (request, response) => {
      const [, token] = /^Bearer (\S{8,64})$/.exec(request.headers.authorization ?? '') ?? [];
      if (token === undefined) throw refusal('authorization', 'Send the code of the link along.');
      const content = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
      // On the readers' own thread: it comes from a machine nobody knows.
      const { files } = await readAside([
        { name: 'collected.json', base64: content.toString('base64') },
      ]);
      const [file] = files;
      const fault = file?.findings.find(({ severity }) => severity === 'error');
      if (file?.kind !== 'collected') throw refusal('file', 'This is no collected file.');
      if (fault) throw refusal('file', `${fault.title}. ${fault.mend ?? ''}`.trim());
      await acceptCollected(db, token, content);
      response.status(201).json({ ok: true });
    },
  );
  return router;
}

const refusal = (field: string, message: string) =>
  new InputError([{ code: 'custom', path: [field], message, input: undefined }]);

/** Only the page's own script runs, in workers of its own making; it may talk to its own address. */
export function contentPolicy(page: string): string {
  const scripts = [...page.matchAll(/<script[^>]*>([\s\S]*?)<\/script>/g)].map(
    ([, script = '']) => `'sha256-${createHash('sha256').update(script).digest('base64')}'`,
  );
  return [
    "default-src 'none'",
    `script-src ${scripts.join(' ')} 'wasm-unsafe-eval'`,
    "style-src 'unsafe-inline'",
    'worker-src blob:',
    'font-src data:',
    'img-src data:',
    "connect-src 'self'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
  ].join('; ');
}

/** The measuring door: an application with the page and its post, and nothing else of Tembrix. */
export function createDoorApp(db: Database, log: Logger, page: string): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(measuringRouter(db, page));
  app.use((_request, response) => {
    sendProblem(response, {
      type: 'about:blank#no-such-address',
      title: 'Nothing here',
      status: 404,
      detail: 'Only the measuring page is served at this door.',
      mend: 'Open the link the bench shows, or scan it.',
    });
  });
  app.use(problemHandler(log));
  return app;
}
