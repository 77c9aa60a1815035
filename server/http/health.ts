import { Router } from 'express';

/** Longer than this a store that works does not take to say so. */
const PATIENCE_MS = 3000;

/**
 * What a supervisor asks: `/healthz`, whether the process answers at all, and `/readyz`, whether it can
 * serve – 503 with the reason where the store does not answer. Neither says anything of what is stored.
 *
 * @param ask - settles when the store answers
 */
export function healthRouter(ask: () => Promise<unknown>, patienceMs = PATIENCE_MS): Router {
  const router = Router();
  router.get('/healthz', (_request, response) => {
    response.set('Cache-Control', 'no-store').json({ ok: true });
  });
  router.get('/readyz', async (_request, response) => {
    response.set('Cache-Control', 'no-store');
    const problem = await withinTime(ask, patienceMs);
    if (problem === undefined) response.json({ ready: true });
    else response.status(503).json({ ready: false, why: problem });
  });
  return router;
}

async function withinTime(ask: () => Promise<unknown>, ms: number): Promise<string | undefined> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<string>((settle) => {
    timer = setTimeout(() => settle('The store does not answer in time.'), ms);
  });
  const asked = ask().then(
    () => undefined,
    () => 'The store does not answer.',
  );
  const problem = await Promise.race([asked, late]);
  clearTimeout(timer);
  return problem;
}
