import {
  explainGainRange,
  explainRatios,
  figure,
  gainRangeText,
  gb,
  promiseHeadline,
  roomText,
} from '#core/explaining';
import type { Job } from '#contract/records';
import type { Gain, PlanPromise, Side } from '#core/promising';
import { needWithMargin } from '#core/need';
import { Button } from '../../ui/Button.tsx';
import { WhyLink } from '../../ui/Why.tsx';
import { DrawCap } from './DrawCap.tsx';
import type { Promises } from './usePromises.ts';

/** What one plan promises: room first, then this customer’s kinds of work, the rest one press away. */
export function PromiseSheet({
  plan,
  job,
  promises,
}: {
  readonly plan: Side;
  readonly job: Job;
  readonly promises: Promises;
}) {
  const promise = promises.of(plan);
  if (!promise)
    return (
      <p className="text-aside text-muted">Nothing ran before, so there is nothing to compare.</p>
    );
  const { room, own, others, before, after } = promise;
  const isShort = room?.type === 'fits now' || room?.type === 'still short';
  const more = after.usable.low - before.usable.low;
  return (
    <>
      {isShort && (
        <p className="mb-2 border-l-3 border-copper pl-2 text-aside">
          <b className="block">{capital(promiseHeadline(promise))}</b>
          {roomText(room, needWithMargin(job) ?? 0)}
        </p>
      )}
      <p className="text-aside text-muted">
        {isShort && 'For work that fitted before: '}
        bandwidth × {figure(promise.bandwidthRatio, 3)}, reply × {figure(promise.latencyRatio, 3)}
        {more > 0 && `, ${gb(more)} more usable`}
      </p>
      <BasisLine promise={promise} promises={promises} canSimulate={promises.canSimulate(plan)} />
      <Gains gains={own} />
      {others.length > 0 && (
        <details className="mt-1.5 text-aside">
          <summary className="flex min-h-8 cursor-pointer items-center text-muted">
            Work this customer did not name
          </summary>
          <Gains gains={others} />
        </details>
      )}
      <DrawCap job={job} />
    </>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

function Gains({ gains }: { readonly gains: readonly Gain[] }) {
  return (
    <ul className="grid gap-1 text-aside">
      {gains.map((gain) => (
        <li key={gain.kind.id} className="flex items-baseline justify-between gap-2">
          <span className="min-w-0 grow">{gain.kind.name}</span>
          <b className="shrink-0 tabular-nums">{gainRangeText(gain)}</b>
          <WhyLink title={gain.kind.name} reasons={[explainGainRange(gain)]} />
        </li>
      ))}
    </ul>
  );
}

interface BasisProps {
  readonly promise: PlanPromise;
  readonly promises: Promises;
  readonly canSimulate: boolean;
}

/** Which of the two models the figures come from, and how far the better one is. */
function BasisLine({ promise: { simulated }, promises, canSimulate }: BasisProps) {
  const { simulation } = promises;
  return (
    <p className="mb-1.5 flex min-h-8 flex-wrap items-center gap-x-2 text-aside text-muted">
      {simulated ? (
        <>
          Simulated, both sides.{' '}
          <WhyLink title="Simulated" reasons={[explainRatios(simulated.ratios)]} />
        </>
      ) : (
        <>
          Reckoned from rate, channels and times
          {!canSimulate && '; this kind is not simulated'}
          {canSimulate && simulation.type === 'running'
            ? `; simulating, ${Math.round(simulation.share * 100)}\u00a0%`
            : '.'}
          {canSimulate && simulation.type === 'running' && (
            <Button look="quiet" onClick={simulation.stop}>
              stop
            </Button>
          )}
          {canSimulate && simulation.type === 'stopped' && (
            <>
              {simulation.isFailed && 'The simulation broke off. '}
              <Button look="quiet" onClick={simulation.again}>
                Simulate it
              </Button>
            </>
          )}
        </>
      )}
    </p>
  );
}
