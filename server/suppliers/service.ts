import pRetry, { AbortError } from 'p-retry';
import type { z } from 'zod';
import { ARTICLES_AT_ONCE, articlesAnswer, orderAnswer } from '#contract/supplierService';
import type { ArticlesAnswer, OrderAnswer, OrderRequest } from '#contract/supplierService';
import { StateError } from '../store/operations/errors.ts';

/** Where a supplier's service answers, and with what key. */
export interface ServicePlace {
  readonly name: string;
  readonly serviceUrl: string;
  readonly serviceKey: string;
}

/** How long an answer is waited for, and how often it is asked for. */
export interface Patience {
  readonly timeoutMs: number;
  /** After the first try. */
  readonly retries: number;
  /** Before the first retry; doubled before each further one. */
  readonly pauseMs: number;
}
const PATIENCE: Patience = { timeoutMs: 4000, retries: 2, pauseMs: 500 };

/** More than any answer of a supplier needs. */
const MOST_BYTES = 2 ** 20;

/** A service that cannot be used, with what would mend it. Nothing was lost. */
const noService = (name: string, why: string, mend: string) =>
  new StateError(`${name}’s service ${why}`, mend, undefined);

async function limitedText(response: Response): Promise<string> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of response.body ?? []) {
    size += chunk.length;
    if (size > MOST_BYTES) throw new AbortError('answers with more than a megabyte.');
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString('utf8');
}

/** Why a try came to nothing that another one may mend. */
const isPassing = (status: number) => status >= 500 || status === 429 || status === 408;

async function ask<T>(
  place: ServicePlace,
  path: string,
  schema: z.ZodType<T>,
  patience: Patience,
  init: RequestInit = {},
): Promise<{ answer: T; tries: number }> {
  const { name, serviceUrl, serviceKey } = place;
  let tries = 0;
  const once = async (): Promise<T> => {
    tries++;
    const response = await fetch(`${serviceUrl.replace(/\/+$/, '')}${path}`, {
      ...init,
      // A service that moved says so to whoever keeps its address, and gets no key elsewhere.
      redirect: 'error',
      signal: AbortSignal.timeout(patience.timeoutMs),
      headers: {
        accept: 'application/json',
        ...(serviceKey === '' ? {} : { authorization: `Bearer ${serviceKey}` }),
        ...(init.body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(init.headers as Record<string, string> | undefined),
      },
    });
    if (isPassing(response.status)) {
      await response.body?.cancel();
      throw new Error(`answers ${response.status}.`);
    }
    if (response.status === 401 || response.status === 403)
      throw new AbortError('does not take the key.');
    const text = await limitedText(response);
    if (!response.ok) throw new AbortError(`refuses: ${response.status}.`);
    let json: unknown;
    try {
      json = JSON.parse(text);
    } catch {
      throw new AbortError('answers with something that is no JSON.');
    }
    const checked = schema.safeParse(json);
    if (!checked.success) throw new AbortError('answers in another form than the bench knows.');
    return checked.data;
  };
  try {
    const answer = await pRetry(once, {
      ...{ retries: patience.retries, minTimeout: patience.pauseMs, factor: 2 },
      // Any failure of the network is worth another try, not the library's own choice of them.
      shouldRetry: () => true,
    });
    return { answer, tries };
  } catch (error) {
    throw serviceError(name, error, tries, patience);
  }
}

function serviceError(name: string, error: unknown, tries: number, patience: Patience): StateError {
  const { message = '', name: kind = '', cause } = error as Error;
  const asked = `It was asked ${tries === 1 ? 'once' : `${tries} times`}.`;
  const later = `${asked} Nothing was changed; try again later, or go by what the catalogue has.`;
  if (kind === 'TimeoutError')
    return noService(name, `did not answer within ${patience.timeoutMs / 1000} s.`, later);
  if (/^(?:answers|does not|refuses)/.test(message))
    return noService(
      name,
      message,
      message.startsWith('does not take')
        ? 'Ask the supplier for a key, and enter it under Suppliers.'
        : message.includes('another form') || message.includes('JSON')
          ? 'Compare its address with what the supplier says; docs/suppliers.md has the form.'
          : later,
    );
  const code = (cause as { code?: string } | undefined)?.code;
  return noService(name, `cannot be reached${code === undefined ? '' : ` (${code})`}.`, later);
}

/**
 * Asks a supplier's service what articles cost and whether they can be had.
 *
 * @throws StateError where it is down, too slow, or does not answer as it should
 */
export async function askArticles(
  place: ServicePlace,
  articles: readonly string[],
  patience: Patience = PATIENCE,
): Promise<{ articles: ArticlesAnswer['articles']; currency: string; tries: number }> {
  const found: ArticlesAnswer['articles'] = [];
  let currency = '';
  let most = 0;
  for (let at = 0; at < articles.length; at += ARTICLES_AT_ONCE) {
    const query = new URLSearchParams(
      articles.slice(at, at + ARTICLES_AT_ONCE).map((article) => ['article', article]),
    );
    const { answer, tries } = await ask(
      place,
      `/articles?${query.toString()}`,
      articlesAnswer,
      patience,
    );
    found.push(...answer.articles);
    currency = answer.currency;
    most = Math.max(most, tries);
  }
  return { articles: found, currency, tries: most };
}

/**
 * Orders of a supplier's service. The key makes the same order sent again the same order.
 *
 * @throws StateError as {@link askArticles}
 */
export async function sendOrder(
  place: ServicePlace,
  key: string,
  request: OrderRequest,
  patience: Patience = PATIENCE,
): Promise<OrderAnswer> {
  const { answer } = await ask(place, '/orders', orderAnswer, patience, {
    ...{ method: 'POST', body: JSON.stringify(request) },
    headers: { 'idempotency-key': key },
  });
  return answer;
}
