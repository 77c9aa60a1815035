import { randomBytes } from 'node:crypto';
import type { ErrorRequestHandler, RequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import type { z } from 'zod';
import type { Problem } from '#contract/problem';
import { AccessError } from '../access/errors.ts';
import { EngineStopped } from '../store/engine.ts';
import { loggable } from './loggable.ts';
import {
  ConflictError,
  NotFoundError,
  StateError,
  TokenError,
} from '../store/operations/errors.ts';

type Issues = z.core.$ZodIssue[];

/** A request the contract refuses, with every field at fault. */
export class InputError extends Error {
  constructor(readonly issues: Issues) {
    super('input refused');
  }
}

/** A union's issue hides those of its branches; the branch that got furthest tells the most. */
function flatten(issues: Issues, prefix: PropertyKey[] = []): { path: string; message: string }[] {
  return issues.flatMap((issue) => {
    const path = [...prefix, ...issue.path];
    if (issue.code === 'invalid_union' && issue.errors.length > 0) {
      const deepest = [...issue.errors].sort((a, b) => depth(b) - depth(a))[0];
      if (deepest && depth(deepest) > 0) return flatten(deepest, path);
    }
    return [{ path: path.map(String).join('.'), message: issue.message.slice(0, MOST_SIGNS) }];
  });
}

const depth = (issues: Issues): number => Math.max(0, ...issues.map(({ path }) => path.length));

/** Faults told of one request: who mends these sends again and hears of the rest. */
const MOST_ISSUES = 50;
/** Longest message of one fault; a list of unknown keys has no end of its own. */
const MOST_SIGNS = 300;

function problemOf(error: unknown, body: unknown): Problem | undefined {
  if (error instanceof InputError) {
    const fields = flatten(error.issues.slice(0, MOST_ISSUES));
    return {
      type: 'about:blank#input',
      title: 'Something entered cannot be used',
      status: 422,
      detail: fields.map(({ path, message }) => (path ? `${path}: ${message}` : message)).join(' '),
      mend: 'Correct the fields named and send again. Nothing was changed.',
      fields,
    };
  }
  if (error instanceof NotFoundError)
    return {
      type: 'about:blank#not-found',
      title: 'Not found',
      status: 404,
      detail: `${error.what} is not there.`,
      mend: 'Go back to the list and choose another.',
    };
  if (error instanceof AccessError) return error.problem;
  if (error instanceof ConflictError)
    return {
      type: 'about:blank#stale',
      title: 'Changed meanwhile',
      status: 409,
      detail: `${error.what} was changed elsewhere since you opened it.`,
      mend: 'Compare both and save again. Nothing was overwritten.',
      yours: body,
      theirs: error.theirs,
    };
  if (error instanceof StateError)
    return {
      type: 'about:blank#state',
      title: 'Cannot be done yet',
      status: 409,
      detail: error.message,
      mend: error.mend,
      ...(error.path ? { fields: [{ path: error.path, message: error.message }] } : {}),
    };
  if (error instanceof TokenError)
    return {
      type: 'about:blank#token',
      title: 'This link cannot be used',
      status: error.status,
      detail: error.message,
      mend: error.mend,
    };
  return storeProblem(error) ?? bodyProblem(error);
}

/** Whether it is one, or one of its causes is. */
const isStopped = (error: unknown): boolean =>
  error instanceof Error && (error instanceof EngineStopped || isStopped(error.cause));

/** SQLSTATE classes and system codes that the person asking, or the owner, can mend. */
function storeProblem(error: unknown): Problem | undefined {
  if (isStopped(error))
    return {
      type: 'about:blank#stopped',
      title: 'The database stopped',
      status: 503,
      detail: 'Most often the disk is full or failing. This was not saved.',
      mend: 'Look at the disk, then have Tembrix started again. What was answered as saved is kept.',
    };
  const code = codeOf(error);
  // Data exceptions: a number or a date no column holds. The contract is to say so first.
  if (code?.startsWith('22'))
    return {
      type: 'about:blank#input',
      title: 'Something entered cannot be used',
      status: 422,
      detail: 'A number, a date or a text is beyond what can be kept.',
      mend: 'Correct it and send again. Nothing was changed.',
    };
  if (code === 'ENOSPC' || code === '53100' || code === 'EDQUOT')
    return {
      type: 'about:blank#full',
      title: 'The disk is full',
      status: 507,
      detail: 'There was no room left to store this. Nothing of it was kept.',
      mend: 'Make room on the disk the data lies on, then save again.',
    };
  if (code !== undefined && UNREACHABLE.test(code))
    return {
      type: 'about:blank#away',
      title: 'The database is away',
      status: 503,
      detail: 'The database server does not answer.',
      mend: 'Wait a moment and try again; if it stays away, have it started.',
    };
  return undefined;
}

/** Connections refused or lost, a server that is starting or stopping (SQLSTATE 08, 57P). */
const UNREACHABLE =
  /^(?:ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|ENOTFOUND|EAI_AGAIN|08|57P0|53300)/;

function codeOf(error: unknown, depth = 0): string | undefined {
  const { code, cause } = (error ?? {}) as { code?: unknown; cause?: unknown };
  if (typeof code === 'string') return code;
  return cause === undefined || depth > 4 ? undefined : codeOf(cause, depth + 1);
}

/** Problems Express's own middleware finds: the body parser, and the file server. */
function bodyProblem(error: unknown): Problem | undefined {
  const { type, status, limit } = (error ?? {}) as Record<'type' | 'status' | 'limit', unknown>;
  if (status === 404) return problemOf(new NotFoundError('This file'), undefined);
  if (type === 'entity.too.large')
    return {
      type: 'about:blank#too-large',
      title: 'Too large',
      status: 413,
      detail: `The request is larger than ${Math.round(Number(limit) / 1024)} kB, the most taken here.`,
      mend: 'Send less at once; inventory files have a few kB each, a measuring result less than 4.',
    };
  if (type === 'tembrix.tangled')
    return {
      type: 'about:blank#too-large',
      title: 'Too large',
      status: 413,
      detail: 'The request has more parts, or parts within parts, than anything taken here.',
      mend: 'Send less at once. Nothing was changed.',
    };
  if (type === 'entity.parse.failed')
    return {
      type: 'about:blank#not-json',
      title: 'Not JSON',
      status: 400,
      detail: 'The body could not be read as JSON.',
      mend: 'Send valid JSON with content type application/json.',
    };
  if (typeof status === 'number' && status >= 400 && status < 500)
    return {
      type: 'about:blank#unreadable',
      title: 'The request cannot be read',
      status,
      detail: String((error as Partial<Error>).message ?? 'Its address or its coding is broken.'),
      mend: 'Send UTF-8 JSON to an address of /api/openapi.json.',
    };
  return undefined;
}

/** Writes a problem as RFC 9457 asks. */
export function sendProblem(response: Response, problem: Problem): void {
  response.status(problem.status).type('application/problem+json').json(problem);
}

/** The one place errors become responses. Unexpected ones are logged, and shown without detail. */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const problem = problemOf(error, request.body);
    if (problem) {
      sendProblem(response, problem);
      return;
    }
    // One id joins what the person sees and what the log says.
    const id = randomBytes(4).toString('hex');
    log.error({ id, error: loggable(error), method: request.method }, 'unexpected');
    sendProblem(response, {
      type: 'about:blank#bug',
      title: 'Tembrix made a mistake',
      status: 500,
      detail: `Something unexpected happened on the server. Its log has it under ${id}.`,
      mend: 'Try again. If it happens again, keep the log.',
    });
  };
}

/** A zero character is part of no id and no word to search for, and no database looks one up. */
export const refuseStrangeAddress: RequestHandler = (request, response, next) => {
  if (!/%00/.test(request.url)) return next();
  sendProblem(response, {
    type: 'about:blank#unreadable',
    title: 'The request cannot be read',
    status: 400,
    detail: 'Its address holds a character that is part of no text.',
    mend: 'Type the address or the search again.',
  });
};

/** Unknown addresses under /api. */
export const noSuchRoute: RequestHandler = (request, response) => {
  sendProblem(response, {
    type: 'about:blank#no-such-address',
    title: 'No such address',
    status: 404,
    detail: `${request.method} ${request.originalUrl.slice(0, 200)} is not part of the API.`,
    mend: 'See /api/openapi.json for all of it.',
  });
};
