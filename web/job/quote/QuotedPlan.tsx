import type { Job } from '#contract/records';
import { planText } from '#core/explaining';
import { figuresTogether } from '#core/units';
import { TextField } from '../../ui/Field.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { Empty } from '../../ui/States.tsx';
import { Next } from '../../ui/Next.tsx';
import type { ReadyQuote } from './useQuoteStep.ts';

interface QuotedPlanProps {
  readonly job: Job;
  readonly quote: ReadyQuote;
}

/** The plan in plain words, what it costs, what speaks against it, and what goes with it. */
export function QuotedPlan({ job, quote }: QuotedPlanProps) {
  const { assessed, query, stops, cautions, withLimits } = quote;
  if (!assessed)
    return (
      <Empty title="No plan has been taken yet.">
        <Next to={`/jobs/${job.id}/plan`}>Choose a plan</Next>
      </Empty>
    );
  return (
    <>
      <p className="font-bold">{figuresTogether(planText(assessed.plan, query.machine))}</p>
      <CostLines quote={quote} plan={assessed.plan} />
      <div className="mt-3 grid gap-3">
        {stops.map(({ title, why, mend }) => (
          <Notice key={title} kind="stop" title={title} why={why} mend={mend} />
        ))}
        {cautions.map(({ title, why, mend }) => (
          <Notice key={title} kind="caution" title={title} why={why} mend={mend} />
        ))}
        {job.result === null && (
          <>
            <TextField
              label="A word to the customer"
              value={quote.note}
              maxLength={500}
              onChange={({ target }) => quote.setNote(target.value)}
            />
            <label className="flex min-h-10 items-center gap-3">
              <input
                type="checkbox"
                className="size-5"
                checked={withLimits}
                onChange={({ target }) => quote.setWithLimits(target.checked)}
              />
              Print what limits this machine, and what each change alone would cost
            </label>
          </>
        )}
        <SaveNotice state={quote.issuing} />
      </div>
    </>
  );
}

interface CostLinesProps {
  readonly quote: ReadyQuote;
  readonly plan: NonNullable<ReadyQuote['assessed']>['plan'];
}

function CostLines({ quote: { nameOffer, amount }, plan }: CostLinesProps) {
  const { purchases, drawer, cost } = plan;
  const lines: (readonly [string, string])[] = [
    ...purchases.map(({ offerId, packs }) => [`${packs} × ${nameOffer(offerId)}`, ''] as const),
    ...drawer.map((id) => [`From the drawer: ${nameOffer(id)}`, ''] as const),
    ['Parts', amount(cost.parts)],
    ['Labour', amount(cost.labour)],
  ];
  if (cost.credit > 0) lines.push(['Credit', amount(-cost.credit)]);
  return (
    <dl className="mt-2 max-w-xl">
      {lines.map(([label, value]) => (
        <div key={label} className="flex justify-between gap-4 border-b border-line py-1">
          <dt className="min-w-0 break-words">{label}</dt>
          <dd className="tabular-nums">{value}</dd>
        </div>
      ))}
    </dl>
  );
}
