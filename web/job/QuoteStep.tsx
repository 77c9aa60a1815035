import type { Job } from '#contract/records';
import { money, promiseText } from '#core/explaining';
import { taxWithin } from '#core/quoting';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { Next } from '../ui/Next.tsx';
import { IssuedQuote } from './quote/IssuedQuote.tsx';
import { PromiseText } from './quote/PromiseText.tsx';
import { QuotedPlan } from './quote/QuotedPlan.tsx';
import { useQuoteStep } from './quote/useQuoteStep.ts';
import type { ReadyQuote } from './quote/useQuoteStep.ts';
import { AsideSheet, Part, StepLayout } from './StepLayout.tsx';

/** What the customer is offered: the plan in plain words, frozen prices, versions and their answers. */
export function QuoteStep({ job }: { readonly job: Job }) {
  const quote = useQuoteStep(job);
  if (quote.type !== 'ready')
    return (
      <div className="sheet">
        {quote.type === 'failed' ? (
          <Failed failure={quote.error} what="prices and quotes" onRetry={quote.retry} />
        ) : (
          <Loading what="prices and quotes" />
        )}
      </div>
    );
  const { assessed, list, query, promise, simulation } = quote;
  return (
    <StepLayout
      aside={
        assessed?.point.type === 'runs' && (
          <AsideSheet title="What the customer is told">
            <PromiseText
              promise={promiseText(query, assessed.plan, promise)}
              simulation={simulation}
            />
          </AsideSheet>
        )
      }
      bar={<QuoteBar job={job} quote={quote} />}
    >
      <Part title="The plan" hint="prices are frozen when the quote is issued">
        <QuotedPlan job={job} quote={quote} />
      </Part>
      {list.length > 0 && (
        <Part title="Issued" hint="the latest counts">
          <ul className="grid gap-3">
            {list.map((one, at) => (
              <li key={one.id}>
                <IssuedQuote job={job} quote={one} isLatest={at === 0} />
              </li>
            ))}
          </ul>
        </Part>
      )}
    </StepLayout>
  );
}

interface QuoteBarProps {
  readonly job: Job;
  readonly quote: ReadyQuote;
}

function QuoteBar({ job, quote }: QuoteBarProps) {
  const { accepted, assessed, amount, isIssuing, list, stops, terms } = quote;
  const version = list.length === 0 ? 'Issue the quote' : `Issue version ${list.length + 1}`;
  return (
    <AnswerBar
      label="The quote"
      actions={
        accepted || job.result !== null ? (
          <Next to={`/jobs/${job.id}/fit`}>Next: fit</Next>
        ) : (
          <Button
            look="main"
            disabled={!assessed || stops.length > 0 || isIssuing}
            onClick={quote.send}
          >
            {isIssuing ? 'Simulating and issuing …' : version}
          </Button>
        )
      }
    >
      <Answer label={accepted ? 'Accepted' : 'The plan costs'}>
        {accepted
          ? money(accepted.total, accepted.currency)
          : assessed
            ? amount(assessed.plan.cost.net)
            : 'no plan yet'}
      </Answer>
      {assessed && (
        <Answer label="Tax included">
          {amount(taxWithin(assessed.plan.cost.net, terms.taxPercent))}
        </Answer>
      )}
    </AnswerBar>
  );
}
