import { useMemo, useState } from 'react';
import type { FormEvent } from 'react';
import { snapshotOf } from '#contract/jobProof';
import type { Quote } from '#contract/quotes';
import type { Job } from '#contract/records';
import { explainObjection, money, planText, promiseText, shortDay } from '#core/explaining';
import { assess, isImpossible, recogniseUnits } from '#core/planning';
import type { Objection } from '#core/planning';
import { QUOTE_ANSWERS, quoteState, taxWithin } from '#core/quoting';
import type { QuoteAnswer } from '#core/quoting';
import { api } from '../app/api.ts';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { Mark } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';
import { Next } from './InspectStep.tsx';
import { AsideSheet, Part, StepLayout } from './StepLayout.tsx';
import { usePromises } from './promise/usePromises.ts';
import type { SimulationState } from './promise/useSimulation.ts';
import { offerName } from './plan/planContext.ts';
import { useJobQuery } from './plan/usePlanSearch.ts';

/** What the customer is offered: the plan in plain words, frozen prices, versions and their answers. */
export function QuoteStep({ job }: { readonly job: Job }) {
  const { query, terms, modules, drawer, error } = useJobQuery(job);
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
  const isClosed = job.result !== null;
  // The server simulates what it promises: a second press meanwhile is no second quote.
  const isIssuing = issuing.state.type === 'saving';
  if (!query || !quotes.data)
    return (
      <div className="sheet">
        {error ? (
          <Failed failure={error} what="the prices" onRetry={() => window.location.reload()} />
        ) : (
          <Loading what="the prices" />
        )}
      </div>
    );
  const list = quotes.data;
  const { machine } = query;
  const assessed =
    planned &&
    assess({ ...query, machine }, recogniseUnits(query, planned.placement), planned.setting);
  const nameOffer = (id: string) => offerName([...modules, ...drawer].find((one) => one.id === id));
  const explained = (list: readonly Objection[]) =>
    list.flatMap((one) => explainObjection(one, query, terms.currency, nameOffer));
  const all = assessed?.objections ?? [];
  const stops = explained(all.filter(isImpossible));
  // Opinions and money: said before the quote is issued, and left to the bench.
  const cautions = explained(all.filter((one) => !isImpossible(one)));
  const amount = (value: number) => money(value, terms.currency);
  const send = () => {
    if (!assessed) return;
    const { units, setting, cost } = assessed.plan;
    const body = { units, setting, note, expected: cost.net, withLimits };
    void issuing.save({ id: job.id, body });
  };
  const accepted = list.find(({ answer }) => answer?.what === 'accepted');
  return (
    <StepLayout
      aside={
        assessed?.point.type === 'runs' && (
          <AsideSheet title="What the customer is told">
            <PromiseText
              promise={promiseText(query, assessed.plan, planned && promises.of(planned))}
              simulation={promises.simulation}
            />
          </AsideSheet>
        )
      }
      bar={
        <AnswerBar
          label="The quote"
          actions={
            accepted || isClosed ? (
              <Next to={`/jobs/${job.id}/fit`}>Next: fit</Next>
            ) : (
              <Button
                look="main"
                disabled={!assessed || stops.length > 0 || isIssuing}
                onClick={send}
              >
                {isIssuing
                  ? 'Simulating and issuing …'
                  : list.length === 0
                    ? 'Issue the quote'
                    : `Issue version ${list.length + 1}`}
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
      }
    >
      <Part title="The plan" hint="prices are frozen when the quote is issued">
        {!assessed && (
          <Empty title="No plan has been taken yet.">
            <Next to={`/jobs/${job.id}/plan`}>Choose a plan</Next>
          </Empty>
        )}
        {assessed && (
          <>
            <p className="font-bold">{planText(assessed.plan, machine)}</p>
            <dl className="mt-2 max-w-xl">
              {[
                ...assessed.plan.purchases.map(
                  ({ offerId, packs }) => [`${packs} × ${nameOffer(offerId)}`, ''] as const,
                ),
                ...assessed.plan.drawer.map(
                  (id) => [`From the drawer: ${nameOffer(id)}`, ''] as const,
                ),
                ['Parts', amount(assessed.plan.cost.parts)] as const,
                ['Labour', amount(assessed.plan.cost.labour)] as const,
                ...(assessed.plan.cost.credit > 0
                  ? [['Credit', amount(-assessed.plan.cost.credit)] as const]
                  : []),
              ].map(([label, value]) => (
                <div key={label} className="flex justify-between gap-4 border-b border-line py-1">
                  <dt className="min-w-0 break-words">{label}</dt>
                  <dd className="tabular-nums">{value}</dd>
                </div>
              ))}
            </dl>
            <div className="mt-3 grid gap-3">
              {stops.map(({ title, why, mend }) => (
                <Notice key={title} kind="stop" title={title} why={why} mend={mend} />
              ))}
              {cautions.map(({ title, why, mend }) => (
                <Notice key={title} kind="caution" title={title} why={why} mend={mend} />
              ))}
              {!isClosed && (
                <TextField
                  label="A word to the customer"
                  value={note}
                  maxLength={500}
                  onChange={({ target }) => setNote(target.value)}
                />
              )}
              {!isClosed && (
                <label className="flex min-h-10 items-center gap-3">
                  <input
                    type="checkbox"
                    className="size-5"
                    checked={withLimits}
                    onChange={({ target }) => setWithLimits(target.checked)}
                  />
                  Print what limits this machine, and what each change alone would cost
                </label>
              )}
              <SaveNotice state={issuing.state} />
            </div>
          </>
        )}
      </Part>
      {list.length > 0 && (
        <Part title="Issued" hint="the latest counts">
          <ul className="grid gap-3">
            {list.map((quote, at) => (
              <li key={quote.id}>
                <IssuedQuote job={job} quote={quote} isLatest={at === 0} />
              </li>
            ))}
          </ul>
        </Part>
      )}
    </StepLayout>
  );
}

interface PromiseTextProps {
  readonly promise: Quote['promise'];
  readonly simulation: SimulationState;
}

function PromiseText({ promise, simulation }: PromiseTextProps) {
  return (
    <div className="grid gap-2 text-aside">
      <p>
        <b>Now:</b> {promise.now}
      </p>
      <p>
        <b>Then:</b> {promise.then}
      </p>
      {promise.room && <p>{promise.room}</p>}
      {promise.basis && (
        <p className="text-muted">
          {simulation.type === 'running'
            ? `Being simulated, ${Math.round(100 * simulation.share)}\u00a0%; until then reckoned.`
            : promise.basis}
        </p>
      )}
      <ul className="list-disc pl-4">
        {promise.gains.map((gain) => (
          <li key={gain}>{gain}</li>
        ))}
      </ul>
      <p className="font-bold">Not promised</p>
      <ul className="list-disc pl-4">
        {promise.not.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </div>
  );
}

const STATE_MARKS = {
  accepted: 'ok',
  declined: 'stop',
  'change asked': 'caution',
  open: 'note',
  expired: 'caution',
  replaced: 'same',
} as const;

interface IssuedQuoteProps {
  readonly job: Job;
  readonly quote: Quote;
  readonly isLatest: boolean;
}

function IssuedQuote({ job, quote, isLatest }: IssuedQuoteProps) {
  const today = new Date().toISOString().slice(0, 10);
  const { answer, validUntil } = quote;
  const state = quoteState({ validUntil, isLatest, answer: answer?.what }, today);
  const name = `Quote ${String(job.number).padStart(4, '0')}-${quote.number}`;
  return (
    <div className="rounded-md border border-line px-3 py-2">
      <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <b>{name}</b>
        <span className="tabular-nums">{money(quote.total, quote.currency)}</span>
        <span className="flex items-center gap-1.5 font-bold">
          <Mark kind={STATE_MARKS[state]} />
          {state}
          {answer && ` by ${answer.by}, ${shortDay(answer.at)}`}
        </span>
        <span className="text-aside text-muted">
          issued {shortDay(quote.issuedAt)}, valid until {shortDay(validUntil)}
        </span>
        <a
          className="link flex min-h-10 items-center font-bold"
          href={`/api/jobs/${job.id}/quotes/${quote.number}.pdf`}
          target="_blank"
          rel="noreferrer"
        >
          {name} as PDF
        </a>
      </p>
      {answer?.note && <p className="text-aside">“{answer.note}”</p>}
      {state === 'open' && job.result === null && <AnswerForm job={job} quote={quote} />}
    </div>
  );
}

function AnswerForm({ job, quote }: { readonly job: Job; readonly quote: Quote }) {
  const [answer] = api.useAnswerQuoteMutation();
  const saving = useSave(answer);
  const [what, setWhat] = useState<QuoteAnswer>('accepted');
  const [by, setBy] = useState(job.customer.name);
  const [note, setNote] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void saving.save({ id: job.id, quoteId: quote.id, body: { what, by, note } });
  };
  return (
    <form
      noValidate
      onSubmit={submit}
      className="mt-2 grid gap-3 sm:grid-cols-[11rem_1fr_1fr_auto]"
    >
      <SelectField
        label="The answer"
        value={what}
        options={QUOTE_ANSWERS.map((one) => [one, one])}
        onChange={({ target }) => setWhat(target.value as QuoteAnswer)}
      />
      <TextField
        label="Who said so"
        value={by}
        maxLength={80}
        onChange={({ target }) => setBy(target.value)}
      />
      <TextField
        label="In their words"
        value={note}
        maxLength={500}
        onChange={({ target }) => setNote(target.value)}
      />
      <div className="self-end">
        <Button type="submit">Record the answer</Button>
      </div>
      <div className="col-span-full">
        <SaveNotice state={saving.state} />
      </div>
    </form>
  );
}
