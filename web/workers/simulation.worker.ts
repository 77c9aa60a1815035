import { Comparison } from '#core/timing-simulation';
import type { MemorySystem, Ratios } from '#core/timing-simulation';

/** Two memory systems to compare; a later request replaces an earlier one, `cancel` all. */
export type SimulationRequest = { readonly ticket: number } & (
  | {
      readonly type: 'compare';
      readonly before: MemorySystem;
      readonly after: MemorySystem;
      /** Lines of 64 bytes the work keeps in use. */
      readonly needed?: number | undefined;
    }
  | { readonly type: 'cancel' }
);

/** How far it is, and what came of it. */
export type SimulationAnswer = { readonly ticket: number } & (
  | { readonly type: 'progress'; readonly share: number }
  | { readonly type: 'done'; readonly ratios: Ratios }
);

/** Long enough to get work done, short enough to hear a cancel at once. */
const TURN_MS = 40;
const PIECE = 500;

let latest = 0;

async function compare(ticket: number, comparison: Comparison): Promise<void> {
  const say = (answer: SimulationAnswer) => self.postMessage(answer);
  let turn = performance.now() + TURN_MS;
  while (!comparison.advance(PIECE)) {
    if (performance.now() < turn) continue;
    say({ type: 'progress', ticket, share: comparison.share });
    await new Promise((resume) => setTimeout(resume));
    if (ticket !== latest) return;
    turn = performance.now() + TURN_MS;
  }
  say({ type: 'done', ticket, ratios: comparison.ratios() });
}

self.addEventListener('message', ({ data }: MessageEvent<SimulationRequest>) => {
  latest = data.ticket;
  if (data.type === 'compare')
    compare(data.ticket, new Comparison(data.before, data.after, 1, data.needed)).catch(
      console.error,
    );
});
