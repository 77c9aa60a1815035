import { useState } from 'react';
import type { FormEvent } from 'react';
import type { Quote } from '#contract/quotes';
import type { Job } from '#contract/records';
import { money, shortDay } from '#core/explaining';
import { QUOTE_ANSWERS, quoteState } from '#core/quoting';
import type { QuoteAnswer } from '#core/quoting';
import { dayOf } from '#core/units';
import { api } from '../../app/api.ts';
import { benchNow } from '../../app/benchClock.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { useSave } from '../../ui/useSave.ts';

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

/** A version as it was issued: its state, its PDF, and the customer's answer while it is open. */
export function IssuedQuote({ job, quote, isLatest }: IssuedQuoteProps) {
  const today = dayOf(benchNow());
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
