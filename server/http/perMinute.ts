import type { RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { sendProblem } from './problems.ts';

/** Lets one address ask so often in a minute; beyond that it is told to wait. */
export function perMinute(limit: number): RequestHandler {
  return rateLimit({
    windowMs: 60_000,
    limit,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    handler: (_request, response) =>
      sendProblem(response, {
        type: 'about:blank#too-many',
        title: 'Too many requests',
        status: 429,
        detail: `More than ${limit} requests in a minute from one machine.`,
        mend: 'Wait a minute, then try again.',
      }),
  });
}
