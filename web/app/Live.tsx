import { useEffect } from 'react';
import { useLocation } from 'react-router';
import type { Session } from '#contract/access';
import { accessRoutes } from '#contract/accessRoutes';
import { LIVE_EVENTS, here, liveRoutes, toldChange } from '#contract/live';
import { gb, list } from '#core/explaining';
import { TAGS, api } from './api.ts';
import { TAB, addRoutes } from './baseQuery.ts';
import type { Body } from './baseQuery.ts';
import { LineToBench } from './lineToBench.ts';
import type { Board } from './boardsSlice.ts';
import { forgetHere, noteHere } from './presence.ts';
import { useAppDispatch, useAppSelector } from './store.ts';
import type { RootState } from './store.ts';

addRoutes({ ...liveRoutes, holdBench: accessRoutes.holdBench });

const liveApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** The stream of what other screens did; one a tab, as long as somebody looks at it. */
    live: build.query<null, void>({
      queryFn: () => ({ data: null }),
      onCacheEntryAdded: async (_arg, { cacheEntryRemoved, dispatch }) => {
        const line = new LineToBench(address, LIVE_EVENTS, {
          onEvent: (event, data) => {
            if (event === 'missed') dispatch(api.util.invalidateTags(ALL));
            const change = event === 'change' ? toldChange.safeParse(data).data : undefined;
            if (change && change.tab !== TAB)
              dispatch(api.util.invalidateTags([...tagsOf(change)]));
            const one = event === 'here' ? here.safeParse(data).data : undefined;
            if (one && one.tab !== TAB) noteHere(one);
          },
          // Whatever was said meanwhile was not heard.
          onOpen: (isAgain) => {
            forgetHere();
            if (isAgain) dispatch(api.util.invalidateTags(ALL));
          },
        });
        await cacheEntryRemoved;
        line.close();
      },
    }),
    holdBench: build.mutation<Session, void>({
      query: () => ({ route: 'holdBench', body: {} }),
      invalidatesTags: ['session'],
    }),
    sayHere: build.mutation<{ ok: true }, Body<'sayHere'>>({
      query: (body) => ({ route: 'sayHere', body }),
    }),
  }),
});

/** Since this page was opened it may have read what is no longer so; after that it looks again by itself. */
const address = (isAgain: boolean): string =>
  `/api/live?tab=${TAB}${isAgain ? '' : `&shown=${Math.ceil(performance.now())}`}`;

type Tag = (typeof TAGS)[number];
const ALL = TAGS.filter((tag) => tag !== 'session');
/** Of one job; lists of jobs show some of it too. */
const OF_JOB: readonly Tag[] = [
  ...(['job', 'jobs', 'bench', 'evidence', 'quotes', 'tickets', 'results'] as const),
  ...(['returns', 'drawer', 'ledger', 'orders'] as const),
];
const OF_TABLE: Readonly<Record<string, readonly Tag[]>> = {
  machines: ['machines', 'job', 'jobs'],
  modules: ['modules', 'suppliers'],
  drawer: ['drawer'],
  order_lines: ['orders'],
  suppliers: ['suppliers'],
  shop_terms: ['shop', 'session'],
  makers: ['makers'],
  accounts: ['session'],
};

/** Answers a change elsewhere made old. */
export const tagsOf = ({ job, table }: { job: string | null; table: string }): readonly Tag[] =>
  job !== null ? OF_JOB : (OF_TABLE[table] ?? ALL);

const SAY_AGAIN_MS = 30_000;

/** Hears what other screens do, and tells them where this one is. Shows nothing. */
export default function Live() {
  liveApi.useLiveQuery();
  const { pathname } = useLocation();
  const dispatch = useAppDispatch();
  const [, jobId = null, step = ''] = /^\/jobs\/([^/]+)(?:\/([^/]+))?/.exec(pathname) ?? [];
  const isAtJob = jobId !== null && jobId !== 'new';
  const draft = useAppSelector(({ boards }) => (isAtJob ? draftText(boards, jobId) : null));
  useHold();
  useEffect(() => {
    const say = () =>
      void dispatch(
        liveApi.endpoints.sayHere.initiate(
          { tab: TAB, jobId: isAtJob ? jobId : null, step, draft },
          { track: false },
        ),
      );
    const first = setTimeout(say, 300); // who only passes through is not announced
    const again = isAtJob ? setInterval(say, SAY_AGAIN_MS) : undefined;
    return () => {
      clearTimeout(first);
      clearInterval(again);
    };
  }, [dispatch, isAtJob, jobId, step, draft]);
  return null;
}

/** Holds a bench with a PIN when nobody touched it for a while, whatever it fetches by itself. */
function useHold() {
  const { data } = api.useSessionQuery();
  const [hold] = liveApi.useHoldBenchMutation();
  const minutes = data?.holdAfter ?? null;
  useEffect(() => {
    if (minutes === null) return;
    let timer: ReturnType<typeof setTimeout>;
    const touched = () => {
      clearTimeout(timer);
      timer = setTimeout(() => void hold(), minutes * 60_000);
    };
    touched();
    const events = ['pointerdown', 'keydown', 'wheel'] as const;
    for (const event of events) addEventListener(event, touched, { passive: true });
    return () => {
      clearTimeout(timer);
      for (const event of events) removeEventListener(event, touched);
    };
  }, [minutes, hold]);
}

type Boards = RootState['boards'];

/** What lies on a job’s board and is not saved, in words. */
function draftText(boards: Boards, jobId: string): string | null {
  const words = (['as-found', 'planned', 'as-fitted'] as const).flatMap((kind) => {
    const draft = (boards as Record<string, { present: Board; past: readonly unknown[] }>)[
      `${jobId}:${kind}`
    ];
    if (!draft || draft.past.length === 0) return [];
    const modules = Object.entries(draft.present.placement).map(
      ([slotId, module]) => `${module ? gb(module.capacity) : ''} in ${slotId}`,
    );
    const what = {
      'as-found': 'what was found',
      planned: 'the plan',
      'as-fitted': 'what is fitted',
    };
    return `${what[kind]}: ${modules.length === 0 ? 'nothing seated' : list(modules)}`;
  });
  return words.length === 0 ? null : words.join('; ').slice(0, 300);
}
