import type { Job } from '#contract/records';
import type { Diagnosis, Model } from '#core/diagnosing';
import {
  causeText,
  checkText,
  explainCause,
  outcomeText,
  percent,
  ruledOutText,
} from '#core/explaining';
import type { NameOf } from '#core/explaining';
import { Button } from '../../ui/Button.tsx';
import { WhyLink } from '../../ui/Why.tsx';
import type { Bench } from '../fit/useBench.ts';

interface ListProps {
  readonly model: Model;
  readonly nameOf: NameOf;
}

/** The causes still possible, the likeliest first, and those ruled out. */
export function Suspects({
  diagnosis,
  model,
  nameOf,
}: ListProps & { readonly diagnosis: Diagnosis }) {
  const out = ruledOutText(model);
  return (
    <>
      <ol className="grid gap-1.5">
        {diagnosis.suspects.slice(0, 6).map(({ cause, chance }) => (
          <li key={cause.id}>
            <p className="flex items-baseline gap-2 text-aside">
              <span className="min-w-0 grow break-words">{causeText(cause, nameOf)}</span>
              <WhyLink
                title={causeText(cause, nameOf)}
                reasons={[explainCause(cause, model.traits, nameOf)]}
              />
              <b className="figure">{percent(chance)}</b>
            </p>
            <div aria-hidden className="h-2">
              <div
                className="h-full min-w-0.5 rounded-sm bg-teal"
                style={{ width: `${chance * 100}%` }}
              />
            </div>
          </li>
        ))}
      </ol>
      {out.length > 0 && (
        <details className="mt-3 text-aside">
          <summary className="min-h-8 cursor-pointer">Ruled out: {out.length}</summary>
          <ul className="mt-1 grid gap-1 text-muted">
            {out.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

interface MadeProps extends ListProps {
  readonly job: Job;
  readonly bench: Bench;
}

/** The checks made so far, each with the way back. */
export function Made({ job, bench, model, nameOf }: MadeProps) {
  const observations = bench.state.fault?.observations ?? [];
  if (observations.length === 0) return <p className="text-aside text-muted">No check yet.</p>;
  return (
    <ol className="grid gap-2 text-aside">
      {observations.map(({ checkId, outcome, entryId }) => {
        const check = model.checks.find(({ id }) => id === checkId);
        return (
          <li key={entryId}>
            {check ? checkText(check, nameOf) : checkId}:{' '}
            <b>{check ? outcomeText(check, outcome, nameOf) : outcome}</b>
            {job.result === null && (
              <Button
                look="quiet"
                className="ml-1 pointer-fine:min-h-8!"
                onClick={() => bench.add({ type: 'undo', of: entryId })}
              >
                take back
              </Button>
            )}
          </li>
        );
      })}
    </ol>
  );
}
