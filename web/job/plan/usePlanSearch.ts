import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { queryForJob } from '#contract/jobPlan';
import type { Job } from '#contract/records';
import type { EmptyReason, PlanQuery, SearchResult } from '#core/planning';
import { DEFAULT_TERMS } from '#core/quoting';
import type { ShopTerms } from '#core/quoting';
import { api } from '../../app/api.ts';
import { askAgain } from '../../ui/askAgain.ts';
import { Planner } from '../../workers/planner.ts';

/** Where a search stands. */
export interface SearchState {
  readonly result: SearchResult | undefined;
  /** 0 to 1. */
  readonly done: number;
  readonly isRunning: boolean;
  readonly elapsedMs: number;
  readonly empty: EmptyReason | undefined;
  readonly failure: string | undefined;
}

const IDLE: SearchState = {
  ...{ result: undefined, done: 0, isRunning: true, elapsedMs: 0 },
  ...{ empty: undefined, failure: undefined },
};

/** After which the best found so far is shown, marked as such. */
export const DEADLINE_MS = 10_000;

/** The query of a job, once the catalogue, the drawer and the shop's terms are here. */
export function useJobQuery(job: Job) {
  const modules = api.useModulesQuery('', { refetchOnMountOrArgChange: true });
  const drawer = api.useDrawerQuery(job.machine.machine.generations.join(), {
    refetchOnMountOrArgChange: true,
  });
  const shop = api.useShopQuery();
  const terms: ShopTerms = shop.data?.terms ?? DEFAULT_TERMS;
  const query = useMemo(
    () =>
      modules.data && drawer.data && shop.data
        ? queryForJob(job, modules.data, drawer.data, shop.data.terms)
        : undefined,
    [job, modules.data, drawer.data, shop.data],
  );
  const asked = [modules, drawer, shop];
  return {
    ...{ query, terms, modules: modules.data ?? [], drawer: drawer.data ?? [] },
    error: asked.find(({ error }) => error !== undefined)?.error,
    retry: () => askAgain(...asked),
  };
}

/** Keeps the front of a query up to date off the page's thread: the latest query wins. */
export function usePlanSearch(query: PlanQuery | undefined) {
  const planner = useRef<Planner>(undefined);
  const [state, setState] = useState<SearchState>(IDLE);
  // A query that says the same is the same: saving a note must not start the search anew.
  const key = query && JSON.stringify(query);
  const start = useCallback(() => {
    if (key === undefined) return;
    planner.current ??= new Planner();
    const asked = JSON.parse(key) as PlanQuery;
    setState((now) => ({ ...now, isRunning: true, done: 0, empty: undefined, failure: undefined }));
    planner.current.ask({ type: 'search', query: asked, deadlineMs: DEADLINE_MS }, (answer) => {
      if (answer.type === 'failed')
        setState((now) => ({ ...now, isRunning: false, failure: answer.message }));
      if (answer.type !== 'search') return;
      const { result, done, isFinal, elapsedMs } = answer;
      setState((now) => ({ ...now, result, done, isRunning: !isFinal, elapsedMs }));
      if (isFinal && result.plans.length === 0)
        planner.current?.ask({ type: 'empty', query: asked }, (reason) => {
          if (reason.type === 'empty') setState((now) => ({ ...now, empty: reason.reason }));
          if (reason.type === 'failed') setState((now) => ({ ...now, failure: reason.message }));
        });
    });
  }, [key]);
  useEffect(start, [start]);
  useEffect(
    () => () => {
      planner.current?.close();
      planner.current = undefined;
    },
    [],
  );
  const stop = useCallback(() => {
    planner.current?.cancel();
    setState((now) => ({ ...now, isRunning: false }));
  }, []);
  return { ...state, stop, again: start };
}
