import loadHighs from 'highs';
import highsWasm from 'highs/runtime?url';
import {
  PlanSearch,
  explainEmpty,
  findTippingPoints,
  judgeSource,
  planBatch,
} from '#core/planning';
import type {
  BatchQuery,
  BatchResult,
  EmptyReason,
  Plan,
  PlanQuery,
  SearchResult,
  Solver,
  SourceVerdict,
  Tipping,
} from '#core/planning';

/** What the planner can be asked; a later question of a ticket's kind replaces an earlier one. */
export type PlannerRequest = { readonly ticket: number } & (
  | { readonly type: 'search'; readonly query: PlanQuery; readonly deadlineMs: number }
  | { readonly type: 'empty'; readonly query: PlanQuery }
  | {
      readonly type: 'source';
      readonly query: PlanQuery;
      readonly front: readonly Plan[];
      readonly id: string;
    }
  | { readonly type: 'tipping'; readonly query: PlanQuery; readonly plan: Plan }
  | { readonly type: 'batch'; readonly query: BatchQuery }
  | { readonly type: 'cancel' }
);

/** What it answers, possibly several times for one ticket. */
export type PlannerAnswer = { readonly ticket: number } & (
  | {
      readonly type: 'search';
      readonly result: SearchResult;
      readonly done: number;
      readonly isFinal: boolean;
      readonly elapsedMs: number;
    }
  | { readonly type: 'empty'; readonly reason: EmptyReason }
  | { readonly type: 'source'; readonly verdict: SourceVerdict }
  | { readonly type: 'tipping'; readonly points: readonly Tipping[]; readonly isFinal: boolean }
  | { readonly type: 'batch'; readonly result: BatchResult }
  | { readonly type: 'failed'; readonly message: string }
);

/** Long enough to get work done, short enough to hear a cancel at once. */
const TURN_MS = 40;
/** First plans are shown at once, then the picture is refreshed now and then. */
const SHOW_EVERY_MS = 400;

let latest = 0;

const say = (answer: PlannerAnswer) => self.postMessage(answer);
const breathe = () => new Promise((resume) => setTimeout(resume));

self.addEventListener('message', ({ data }: MessageEvent<PlannerRequest>) => {
  latest = data.ticket;
  answer(data).catch((error: unknown) =>
    say({ type: 'failed', ticket: data.ticket, message: String(error) }),
  );
});

async function answer(request: PlannerRequest): Promise<void> {
  const { ticket } = request;
  switch (request.type) {
    case 'cancel':
      return;
    case 'search':
      return search(ticket, request.query, request.deadlineMs);
    case 'empty':
      return say({ type: 'empty', ticket, reason: explainEmpty(request.query) });
    case 'source': {
      const verdict = judgeSource(request.query, request.front, request.id);
      return say({ type: 'source', ticket, verdict });
    }
    case 'tipping': {
      const points: Tipping[] = [];
      for (const point of findTippingPoints(request.query, request.plan)) {
        if (latest !== ticket) return;
        points.push(point);
        say({ type: 'tipping', ticket, points: [...points], isFinal: false });
        await breathe();
      }
      return say({ type: 'tipping', ticket, points, isFinal: true });
    }
    case 'batch': {
      const solve = await solver();
      return say({ type: 'batch', ticket, result: planBatch(request.query, solve) });
    }
  }
}

async function search(ticket: number, query: PlanQuery, deadlineMs: number): Promise<void> {
  const start = performance.now();
  const planSearch = new PlanSearch(query);
  const run = planSearch.run(() => performance.now() - start > deadlineMs);
  let turn = start + TURN_MS;
  let shown = 0;
  for (let step = run.next(); ; step = run.next()) {
    const now = performance.now();
    const elapsedMs = Math.round(now - start);
    if (step.done)
      return say({ type: 'search', ticket, result: step.value, done: 1, isFinal: true, elapsedMs });
    if (now < turn) continue;
    if (now - shown > SHOW_EVERY_MS && step.value.found > 0) {
      const result = planSearch.result();
      say({ type: 'search', ticket, result, done: step.value.done, isFinal: false, elapsedMs });
      shown = performance.now();
    }
    await breathe();
    // Somebody asked something newer, or nothing at all.
    if (latest !== ticket) return;
    turn = performance.now() + TURN_MS;
  }
}

let loaded: Promise<Solver> | undefined;

function solver(): Promise<Solver> {
  loaded ??= loadHighs({ locateFile: () => highsWasm }).then((highs) => (lp, timeLimitS) => {
    const solved = highs.solve(lp, { time_limit: timeLimitS });
    const columns = Object.entries(solved.Columns as Record<string, { Primal?: number }>);
    return {
      status:
        solved.Status === 'Optimal'
          ? 'optimal'
          : solved.Status === 'Infeasible'
            ? 'infeasible'
            : 'stopped',
      objective: solved.ObjectiveValue,
      values: Object.fromEntries(columns.map(([name, { Primal = 0 }]) => [name, Primal])),
    };
  });
  return loaded;
}
