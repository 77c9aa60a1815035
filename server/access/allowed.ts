import type { RequestHandler } from 'express';
import { MAY_CALL, mayCall } from '#contract/access';
import type { Access, Caller } from '#contract/access';
import { PRINTS } from '#contract/prints';
import { routes } from '#contract/routes';
import type { Route } from '#contract/routes';
import { noSuchRoute } from '../http/problems.ts';
import type { Database } from '../store/openStore.ts';
import { hasOwner } from './accounts.ts';
import { benchHeld, noOwnerYet, notAllowed, notOnTablet, signedOut } from './errors.ts';
import { visitOf } from './visit.ts';
import type { Actor, DoorTerms, Visit } from './visit.ts';

/** An entry of a table, as it is recognised and judged. */
interface Rule {
  readonly method: string;
  readonly pattern: RegExp;
  readonly access: Access;
  readonly general: boolean;
  readonly path: string;
}

const ruleOf = ({ method, path, access, general }: Omit<Rule, 'pattern'>): Rule => ({
  ...{ method: method.toUpperCase(), path, access, general },
  pattern: new RegExp(`^${path.replaceAll('.', '\\.').replaceAll(/\{\w+\}/g, '([^/]+)')}/?$`, 'i'),
});

const RULES: readonly Rule[] = [
  ...Object.values<Route>(routes).map(ruleOf),
  ...Object.values(PRINTS).map(ruleOf),
];

/** By method and first part of the address: a request is not held against every rule there is. */
const startOf = (method: string, path: string) =>
  `${method} ${path.split('/')[1]?.toLowerCase() ?? ''}`;
const RULES_BY_START = new Map<string, Rule[]>();
for (const rule of RULES) {
  const start = startOf(rule.method, rule.path);
  RULES_BY_START.set(start, [...(RULES_BY_START.get(start) ?? []), rule]);
}

/** Words for who may do what a technician may not. */
const NEEDED: Readonly<Record<Access, string>> = {
  anyone: 'anybody',
  staff: 'somebody of the shop',
  bench: 'a technician',
  prices: 'the counter or the owner',
  owner: 'the owner',
};

/** Where a visit is kept while its request is answered. */
export const VISIT = 'visit';

/**
 * Lets through what the route table says: default no. Judged before a body is read, so that nobody
 * unknown makes the server read megabytes.
 */
export function onlyAllowed(db: Database, terms: DoorTerms): RequestHandler {
  return async (request, response, next) => {
    const visit = await visitOf(db, request, response, terms);
    response.locals[VISIT] = visit;
    const method = request.method === 'HEAD' ? 'GET' : request.method;
    const fitting = (RULES_BY_START.get(startOf(method, request.path)) ?? []).filter(
      ({ pattern }) => pattern.test(request.path),
    );
    const open = fitting.find(({ access }) => mayCall(callerOf(visit), access));
    if (open) {
      if (visit.actor?.tablet && !isOnTablet(open, request.path, visit.actor.tablet))
        throw notOnTablet();
      return next();
    }
    const { actor, held } = visit;
    if (held) throw benchHeld(held.name);
    if (!actor) throw (await hasOwner(db)) ? signedOut() : noOwnerYet();
    const [rule] = fitting;
    // What is in no table is nobody's, even if a router had it.
    if (!rule) return void noSuchRoute(request, response, next);
    throw notAllowed(`${actor.name}, ${wordOf(actor)},`, NEEDED[rule.access]);
  };
}

const callerOf = ({ actor }: Visit): Caller => actor?.role ?? 'signed out';
const wordOf = ({ role }: Actor): string => (role === 'counter' ? 'at the counter' : role);

/**
 * What a tablet let in for one job reaches: the job, its machine, what holds nothing of any customer,
 * and its own session.
 */
function isOnTablet(
  { path, general, access }: Rule,
  asked: string,
  { jobId, machineId }: NonNullable<Actor['tablet']>,
): boolean {
  if (general || access === 'anyone') return true;
  const id = asked.split('/')[2];
  if (path === '/jobs/{id}/tablet') return false;
  if (path.startsWith('/jobs/{id}')) return id === jobId;
  if (path.startsWith('/machines/{id}')) return id === machineId;
  return false;
}

/** Every rule there is, for whoever writes or checks the matrix. */
export const allRules = (): readonly (Pick<Rule, 'method' | 'path' | 'access'> & {
  readonly callers: readonly Caller[];
})[] =>
  RULES.map(({ method, path, access }) => ({ method, path, access, callers: MAY_CALL[access] }));
