import { useMemo, useState } from 'react';
import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { explainObjection, money } from '#core/explaining';
import { assess, isImpossible, recogniseUnits } from '#core/planning';
import type { Objection } from '#core/planning';
import { api } from '../../app/api.ts';
import { askAgain } from '../../ui/askAgain.ts';
import { useSave } from '../../ui/useSave.ts';
import { offerName } from '../plan/planContext.ts';
import { useJobQuery } from '../plan/usePlanSearch.ts';
import { usePromises } from '../promise/usePromises.ts';

/** The plan as it would be quoted, the versions issued, and issuing the next. */
export function useQuoteStep(job: Job) {
  const { query, terms, modules, drawer, ...asked } = useJobQuery(job);
  const quotes = api.useQuotesQuery(job.id, { refetchOnMountOrArgChange: true });
  const [issue] = api.useIssueQuoteMutation();
  const [note, setNote] = useState('');
  const [withLimits, setWithLimits] = useState(false);
  const issuing = useSave(issue, () => setNote(''));
  const planned = snapshotOf(job, 'planned');
  const promises = usePromises(
    job,
    useMemo(() => (planned ? [planned] : []), [planned]),
  );
  if (!query || !quotes.data) {
    const error = asked.error ?? quotes.error;
    const retry = () => {
      asked.retry();
      askAgain(quotes);
    };
    return error ? ({ type: 'failed', error, retry } as const) : ({ type: 'loading' } as const);
  }
  const list = quotes.data;
  const nameOffer = (id: string) => offerName([...modules, ...drawer].find((one) => one.id === id));
  const assessed =
    planned && assess(query, recogniseUnits(query, planned.placement), planned.setting);
  const explained = (objections: readonly Objection[]) =>
    objections.flatMap((one) => explainObjection(one, query, terms.currency, nameOffer));
  const all = assessed?.objections ?? [];
  return {
    type: 'ready',
    ...{ query, terms, list, nameOffer, assessed, note, setNote, withLimits, setWithLimits },
    stops: explained(all.filter(isImpossible)),
    /** Opinions and money: said before the quote is issued, and left to the bench. */
    cautions: explained(all.filter((one) => !isImpossible(one))),
    accepted: list.find(({ answer }) => answer?.what === 'accepted'),
    promise: planned && promises.of(planned),
    simulation: promises.simulation,
    issuing: issuing.state,
    // The server simulates what it promises: a second press meanwhile is no second quote.
    isIssuing: issuing.state.type === 'saving',
    amount: (value: number) => money(value, terms.currency),
    send: () => {
      if (!assessed) return;
      const { units, setting, cost } = assessed.plan;
      const body = { units, setting, note, expected: cost.net, withLimits };
      void issuing.save({ id: job.id, body });
    },
  } as const;
}

export type ReadyQuote = Extract<ReturnType<typeof useQuoteStep>, { type: 'ready' }>;
