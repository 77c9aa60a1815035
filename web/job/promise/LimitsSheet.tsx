import { lazy, Suspense, useMemo, useState } from 'react';
import { jobKinds } from '#contract/jobPromise';
import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import {
  explainLimit,
  gainRangeText,
  limitName,
  limitText,
  money,
  profileAloneText,
} from '#core/explaining';
import { gainOfLimit, limitsOf } from '#core/promising';
import type { Gain, KindOfWork, Limit, Limits } from '#core/promising';
import type { Plan } from '#core/planning';
import { measuringApi } from '../../app/measuringApi.ts';
import { fetched } from '../../app/fetched.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField } from '../../ui/Field.tsx';
import { Failed, Loading } from '../../ui/States.tsx';
import { WhyLink } from '../../ui/Why.tsx';
import { simulatedBefore } from '../../workers/simulation.ts';
import { useJobQuery } from '../plan/usePlanSearch.ts';
import { useSimulation } from './useSimulation.ts';
import type { SimulationState } from './useSimulation.ts';

// The chart is heavy, and most who look at a job never open this.
const LimitsPicture = lazy(() => fetched(() => import('./LimitsPicture.tsx')));

/** One limit with what it would give, as soon as that is simulated. */
export interface GainingLimit {
  readonly limit: Limit;
  readonly gain: Gain | undefined;
}

interface LimitsSheetProps {
  readonly job: Job;
  /** Takes what brings a change as the plan; absent where no plan can be taken. */
  readonly onTake?: (plan: Plan) => void;
}

/** What holds a machine's memory back: each thing changed alone, what it gives and what it costs. */
export function LimitsSheet({ job, onTake }: LimitsSheetProps) {
  const { query, terms, error, retry } = useJobQuery(job);
  const found = snapshotOf(job, 'as-found');
  const limits = useMemo(() => query && found && limitsOf(query, found), [query, found]);
  const { data } = measuringApi.useSharesQuery();
  const kinds = useMemo(
    () =>
      jobKinds(
        job,
        data?.shares.map(({ refitted }) => refitted),
      ),
    [job, data],
  );
  const [chosen, setChosen] = useState<string>();
  const changes = useMemo(
    () => limits?.limits.flatMap(({ compared }) => compared ?? []) ?? [],
    [limits],
  );
  const { state } = useSimulation(changes);
  const kind = kinds.all.find(({ id }) => id === chosen) ?? kinds.leading;
  if (!query)
    return error ? (
      <Failed failure={error} what="the catalogue" onRetry={retry} />
    ) : (
      <Loading what="the catalogue" />
    );
  if (!limits || !kind)
    return (
      <p className="text-aside text-muted">
        {found
          ? 'This kind of memory is not simulated; the limits ladder says what sets its rate.'
          : 'Save what was found, and it is worked out.'}
      </p>
    );
  const rows = limits.limits.map((limit) => ({
    limit,
    gain: gainNow(limit, limits, kind, job.drawCap ?? undefined),
  }));
  return (
    <div className="grid gap-2 text-aside">
      <SelectField
        label="For which work"
        value={kind.id}
        options={kinds.all.map(({ id, name }) => [id, name] as const)}
        onChange={({ target }) => setChosen(target.value)}
      />
      <Progress state={state} />
      {rows.some(({ gain }) => gain) && (
        <Suspense fallback={<Loading what="the picture" />}>
          <LimitsPicture rows={rows} kind={kind} currency={terms.currency} />
        </Suspense>
      )}
      <ul className="grid gap-2">
        {rows.map((row) => (
          <LimitRow key={row.limit.lever} row={row} currency={terms.currency} onTake={onTake} />
        ))}
      </ul>
    </div>
  );
}

function gainNow(limit: Limit, { point }: Limits, kind: KindOfWork, drawCap: number | undefined) {
  const profiles = limit.compared && simulatedBefore(limit.compared);
  return profiles && gainOfLimit(point, kind, profiles, drawCap);
}

function Progress({ state }: { readonly state: SimulationState }) {
  if (state.type === 'over') return null;
  return (
    <p className="flex min-h-8 items-center gap-2 text-muted">
      {state.type === 'running' ? (
        <>
          Simulating, {`${Math.round(100 * state.share)}\u00a0%`}
          <Button look="quiet" onClick={state.stop}>
            stop
          </Button>
        </>
      ) : (
        <>
          {state.isFailed ? 'The simulation broke off.' : 'Stopped.'}
          <Button look="quiet" onClick={state.again}>
            Simulate it
          </Button>
        </>
      )}
    </p>
  );
}

interface LimitRowProps {
  readonly row: GainingLimit;
  readonly currency: string;
  readonly onTake: ((plan: Plan) => void) | undefined;
}

function LimitRow({ row: { limit, gain }, currency, onTake }: LimitRowProps) {
  const { state, means, byProfile } = limit;
  const name = limitName(limit);
  return (
    <li className={`border-t border-line pt-1 ${state === 'to gain' ? '' : 'text-muted'}`}>
      <p className="flex flex-wrap items-baseline justify-between gap-x-2">
        <span className={state === 'to gain' ? 'font-bold' : ''}>{name}</span>
        {gain && <b className="tabular-nums">{gainRangeText(gain)}</b>}
        {limit.lever === 'room' && state === 'to gain' && <b>comes first</b>}
      </p>
      <p className="flex flex-wrap items-baseline justify-between gap-x-2">
        <span className="min-w-0 text-muted">{limitText(limit)}</span>
        {state === 'to gain' && (
          <span className="ml-auto flex items-baseline gap-2 tabular-nums">
            {means && onTake && (
              <Button
                look="quiet"
                aria-label={`Take as plan: ${name}`}
                onClick={() => onTake(means)}
              >
                take as plan
              </Button>
            )}
            {means ? money(means.cost.net, currency) : 'nothing on offer'}
            <WhyLink title={name} reasons={[explainLimit(limit, gain)]} />
          </span>
        )}
      </p>
      {byProfile && (
        <p className="flex flex-wrap items-baseline justify-between gap-x-2">
          {profileAloneText(limit)}
          {onTake && (
            <Button look="quiet" onClick={() => onTake(byProfile.plan)}>
              take the profile as plan
            </Button>
          )}
        </p>
      )}
    </li>
  );
}
