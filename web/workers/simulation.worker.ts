import type { Compared } from '#core/promising';
import { Comparison } from '#core/timing-simulation';
import type { Memo, Profiles } from '#core/timing-simulation';

/** Changes to simulate, in order; a later request replaces an earlier one, `cancel` all. */
export type SimulationRequest = { readonly ticket: number } & (
  | { readonly type: 'compare'; readonly changes: readonly Compared[] }
  | { readonly type: 'cancel' }
);

/** How far it is, and what came of each change; `over` after the last. */
export type SimulationAnswer = { readonly ticket: number } & (
  | { readonly type: 'progress'; readonly share: number }
  | { readonly type: 'done'; readonly at: number; readonly profiles: Profiles }
  | { readonly type: 'over' }
);

/** Long enough to get work done, short enough to hear a cancel at once. */
const TURN_MS = 40;
const PIECE = 500;
const SEED = 1;

/** Sides that several plans share are simulated once. */
const memo: Memo = new Map();
let latest = 0;

async function compare(ticket: number, changes: readonly Compared[]): Promise<void> {
  const say = (answer: SimulationAnswer) => self.postMessage(answer);
  let turn = performance.now() + TURN_MS;
  for (const [at, { before, after, needed }] of changes.entries()) {
    const comparison = new Comparison(before, after, SEED, needed, memo);
    while (!comparison.advance(PIECE)) {
      if (performance.now() < turn) continue;
      say({ type: 'progress', ticket, share: (at + comparison.share) / changes.length });
      await new Promise((resume) => setTimeout(resume));
      if (ticket !== latest) return;
      turn = performance.now() + TURN_MS;
    }
    say({ type: 'done', ticket, at, profiles: comparison.profiles() });
  }
  say({ type: 'over', ticket });
}

self.addEventListener('message', ({ data }: MessageEvent<SimulationRequest>) => {
  latest = data.ticket;
  if (data.type === 'compare') compare(data.ticket, data.changes).catch(console.error);
});
