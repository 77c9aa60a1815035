import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import express from 'express';
import type { Express, RequestHandler } from 'express';
import helmet from 'helmet';

/** Stands in the built page wherever a nonce belongs. */
const NONCE_MARK = /TEMBRIX_CSP_NONCE/g;

/** Headers for every answer. Nothing is loaded from anywhere else, and nothing may frame us. */
export function securityHeaders(): RequestHandler[] {
  const withNonce: RequestHandler = (_request, response, next) => {
    response.locals.nonce = randomBytes(16).toString('base64');
    next();
  };
  const nonce = (_request: unknown, response: unknown) =>
    `'nonce-${(response as { locals: { nonce: string } }).locals.nonce}'`;
  return [
    withNonce,
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          // WebAssembly is for the solver that shares out a batch; it allows no other code.
          scriptSrc: ["'self'", nonce, "'wasm-unsafe-eval'"],
          // Components place themselves by style attributes; sheets come from us or carry the nonce.
          styleSrcElem: ["'self'", nonce],
          styleSrcAttr: ["'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'"],
          manifestSrc: ["'self'"],
          formAction: ["'self'"],
          baseUri: ["'none'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false, // plain HTTP on loopback
    }),
  ];
}

/** Serves the built interface; any address that is no file is the interface's to route. */
export function servePage(app: Express, directory: string): void {
  const page = readFileSync(join(directory, 'index.html'), 'utf8');
  app.use(
    '/assets',
    express.static(join(directory, 'assets'), {
      immutable: true,
      maxAge: '1y',
      fallthrough: false,
    }),
  );
  app.get(/^\/(?!api\/|assets\/).*$/, (_request, response) => {
    const { nonce } = response.locals as { nonce: string };
    response.set('Cache-Control', 'no-store').type('html').send(page.replaceAll(NONCE_MARK, nonce));
  });
}
