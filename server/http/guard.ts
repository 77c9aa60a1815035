import type { Request, RequestHandler } from 'express';
import { sendProblem } from './problems.ts';

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];

/** What the server is called: its loopback names with the port asked, and addresses the owner set. */
function namesOf({ socket: { localPort } }: Request, addresses: readonly URL[]): string[] {
  const loopback = LOOPBACK.flatMap((name) =>
    localPort === 80 ? [name, `${name}:80`] : [`${name}:${localPort}`],
  );
  return [...loopback, ...addresses.map(({ host }) => host)];
}

/**
 * Answers only to names that are known. A page elsewhere can make its own name point at this machine
 * (DNS rebinding); its requests then look like the bench's own in all but the name they ask for.
 *
 * @param addresses - where else the bench is reached, as the owner set it
 */
export function knownHosts(addresses: readonly URL[]): RequestHandler {
  return (request, response, next) => {
    const host = (request.headers.host ?? '').toLowerCase();
    if (namesOf(request, addresses).includes(host)) return next();
    sendProblem(response, {
      type: 'about:blank#unknown-host',
      title: 'Not this address',
      status: 421,
      detail: `This bench does not answer to the name ${host.slice(0, 100) || '(none)'}.`,
      mend: `Open http://127.0.0.1:${request.socket.localPort}, or have the owner add this address to TEMBRIX_ADDRESSES.`,
    });
  };
}

const READS = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Lets no other site's page use the bench through the browser it is open in: nothing is written for
 * one, and nothing read except where a link is followed (Fetch Metadata, Origin). Programs that are no
 * browser send neither header and are let through.
 */
export function ownPagesOnly(addresses: readonly URL[]): RequestHandler {
  return (request, response, next) => {
    const { origin, 'sec-fetch-site': site, 'sec-fetch-mode': mode } = request.headers;
    const isRead = READS.has(request.method);
    const own = namesOf(request, addresses).flatMap((name) => [
      `http://${name}`,
      `https://${name}`,
    ]);
    const isForeign =
      (origin !== undefined && !own.includes(origin.toLowerCase())) ||
      (site !== undefined && site !== 'same-origin' && site !== 'none');
    if (!isForeign || (isRead && mode === 'navigate')) return next();
    sendProblem(response, {
      type: 'about:blank#foreign-page',
      title: 'Not from this page',
      status: 403,
      detail: 'The request came from a page of another site.',
      mend: 'Open the bench itself and do it there. Nothing was changed.',
    });
  };
}
