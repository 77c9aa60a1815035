import type { ProbeResult } from '../core/proving/probe.ts';

/** How far a result has come on its way to the bench. */
export type Delivery =
  | { readonly type: 'no bench' }
  | { readonly type: 'sending' }
  | { readonly type: 'sent' }
  | { readonly type: 'waiting'; readonly seconds: number }
  | { readonly type: 'refused'; readonly reason: string; readonly mend: string };

const KEY = 'tembrix.unsent';
const LONGEST_WAIT = 60;

interface Unsent {
  readonly token: string;
  readonly result: ProbeResult;
}

/** The token of the link this page was opened with; it stays out of addresses that are sent. */
export function tokenOfLink(): string | undefined {
  const token = location.hash.slice(1);
  return location.protocol.startsWith('http') && token !== '' ? token : undefined;
}

/**
 * Sends a result and tells how it goes. While the bench cannot be reached the result is kept in
 * this browser and tried again, longer and longer apart; what the bench refuses is final.
 */
export async function deliver(unsent: Unsent, tell: (now: Delivery) => void): Promise<void> {
  keep(unsent);
  for (let wait = 2; ; wait = Math.min(LONGEST_WAIT, wait * 2)) {
    tell({ type: 'sending' });
    const answer = await send(unsent);
    if (answer) {
      keep(undefined);
      return tell(answer);
    }
    for (let seconds = wait; seconds > 0; seconds--) {
      tell({ type: 'waiting', seconds });
      await new Promise((done) => setTimeout(done, 1000));
    }
  }
}

/** A result an earlier visit with this link could not send. */
export function unsentOf(token: string): ProbeResult | undefined {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Unsent | null;
    return kept?.token === token ? kept.result : undefined;
  } catch {
    return undefined;
  }
}

function keep(unsent: Unsent | undefined): void {
  try {
    if (unsent) localStorage.setItem(KEY, JSON.stringify(unsent));
    else localStorage.removeItem(KEY);
  } catch {
    // A browser that keeps nothing still sends.
  }
}

/** The bench's word, or nothing when it could not be reached or was too busy. */
async function send(body: Unsent): Promise<Delivery | undefined> {
  try {
    const response = await fetch(new URL('results', location.href), {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (response.ok) return { type: 'sent' };
    if (response.status === 429 || response.status >= 500) return undefined;
    const { detail, title, mend } = (await response.json()) as Record<string, string | undefined>;
    return {
      type: 'refused',
      reason: detail ?? title ?? `The bench answered ${response.status}.`,
      mend: mend ?? 'Ask at the bench for a new link, or carry the code.',
    };
  } catch {
    return undefined;
  }
}
