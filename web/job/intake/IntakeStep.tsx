import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import type { FieldPath } from 'react-hook-form';
import { Link } from 'react-router';
import { jobTerms } from '#contract/records';
import type { Job } from '#contract/records';
import { momentText, shortDay } from '#core/explaining';
import { api } from '../../app/api.ts';
import { Answer, AnswerBar } from '../../ui/AnswerBar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Combobox } from '../../ui/Combobox.tsx';
import { TextField } from '../../ui/Field.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { Failed, Loading } from '../../ui/States.tsx';
import { storedDraft, useKeptDraft } from '../../ui/useDraft.ts';
import { Next } from '../../ui/Next.tsx';
import { IntakeFields } from './IntakeFields.tsx';
import { machineChoices } from '../../ui/machineChoices.ts';
import { CONSENTS, intakeFromForm, intakeToForm } from './intakeForm.ts';
import type { IntakeForm } from './intakeForm.ts';
import { AsideSheet, Part, StepLayout } from '../StepLayout.tsx';
import { useBase } from '../../ui/useSteady.ts';
import { useTerms } from '../useTerms.ts';

interface Typed extends IntakeForm {
  complaint: string;
  machineId: string;
}

const DIRTY = { shouldDirty: true } as const;

const typedFrom = (job: Job, currency: string): Typed => ({
  ...{ complaint: job.complaint, machineId: job.machine.id },
  ...intakeToForm(currency, job),
});

/** Who, which machine, what is wrong, what is agreed, and what has happened so far. */
export function IntakeStep({ job }: { readonly job: Job }) {
  const { data: shop, error, refetch } = api.useShopQuery();
  // A budget is shown in the shop's currency: before that is known there is nothing to show.
  if (shop) return <Intake job={job} currency={shop.terms.currency} />;
  return error ? (
    <Failed failure={error} what="the shop’s terms" onRetry={() => void refetch()} />
  ) : (
    <Loading what="the intake" />
  );
}

function Intake({ job, currency }: { readonly job: Job; readonly currency: string }) {
  const draftName = `intake.${job.id}`;
  const [initial] = useState(() => ({
    ...typedFrom(job, currency),
    ...storedDraft<Partial<Typed>>(draftName),
  }));
  const form = useForm<Typed>({ defaultValues: initial });
  const settle = useKeptDraft(draftName, form);
  const machines = api.useMachinesQuery('');
  const isTouched = form.formState.isDirty || storedDraft(draftName) !== undefined;
  const base = useBase(job, isTouched, () => settle(typedFrom(job, currency)));
  const terms = useTerms(
    job,
    () => settle(form.getValues()),
    (theirs) => settle(typedFrom(theirs, currency)),
    base,
  );
  const isClosed = job.result !== null;
  const { errors } = form.formState;
  const submit = ({ complaint: words, machineId, ...rest }: Typed) => {
    const complaint = jobTerms.shape.complaint.safeParse(words);
    const intake = intakeFromForm(rest, currency);
    for (const [field, message] of Object.entries(intake.errors))
      form.setError(field as FieldPath<Typed>, { message }, { shouldFocus: true });
    if (!complaint.success)
      form.setError('complaint', { message: complaint.error.issues[0]?.message ?? '' });
    else if (intake.terms) terms.save({ ...intake.terms, complaint: complaint.data, machineId });
  };
  const listed = machines.data ?? [{ ...job.machine, jobs: 0 }];
  const chosenId = useWatch({ control: form.control, name: 'machineId' });
  const asked = CONSENTS.filter((one) => job.consents[one] === 'yes').length;
  return (
    <StepLayout
      aside={
        <>
          <BenchTag job={job} />
          <AsideSheet title="History">
            <ol className="grid gap-1.5 text-aside">
              {job.events.map(({ id, at, text, who }) => (
                <li key={id} className="break-words">
                  <time className="text-muted" dateTime={at}>
                    {momentText(at)}
                  </time>
                  {who !== null && !text.includes(who) && <> · {who}</>}
                  <br />
                  {text}
                </li>
              ))}
            </ol>
            <a className="link mt-3 inline-block" href={`/api/jobs/${job.id}/bundle`} download>
              Save this job in a file
            </a>
          </AsideSheet>
        </>
      }
      bar={
        <AnswerBar
          label="This job"
          actions={<Next to={`/jobs/${job.id}/inspect`}>Next: inspect</Next>}
        >
          <Answer label="On the bench since">{shortDay(job.openedAt)}</Answer>
          <Answer label="Ready by">{job.deadline ? shortDay(job.deadline) : 'not said'}</Answer>
          <Answer label="Consents">
            {asked} of {CONSENTS.length}
          </Answer>
        </AnswerBar>
      }
    >
      <Part title="Customer">
        <p className="break-words">
          {job.customer.name}
          {job.customer.contact && <span className="text-muted"> · {job.customer.contact}</span>}
        </p>
        {job.batch && (
          <p className="mt-1 text-aside">
            Machine {job.batch.position} of {job.batch.size} taken in together.{' '}
            <Link className="link" to={`/?search=${encodeURIComponent(job.customer.name)}`}>
              Show all of them
            </Link>
          </p>
        )}
      </Part>
      <Part title="Machine and complaint">
        <form
          noValidate
          className="grid gap-3"
          onSubmit={(event) => void form.handleSubmit(submit)(event)}
        >
          <div className="grid gap-3 sm:grid-cols-2">
            <Combobox
              label="Machine"
              disabled={isClosed}
              choices={machineChoices(listed)}
              value={chosenId}
              onChange={(id) => form.setValue('machineId', id || job.machine.id, DIRTY)}
            />
            <TextField
              label="Complaint"
              disabled={isClosed}
              error={errors.complaint?.message}
              {...form.register('complaint')}
            />
          </div>
          <IntakeFields form={form} isClosed={isClosed} />
          <SaveNotice {...terms.notice} />
          {!isClosed && (
            <div>
              <Button type="submit">Save</Button>
            </div>
          )}
        </form>
      </Part>
    </StepLayout>
  );
}

/** What to print and hang on the machine: number and initials, nothing that names its owner. */
function BenchTag({ job }: { readonly job: Job }) {
  const base = `/api/jobs/${job.id}/tag`;
  return (
    <AsideSheet title="Bench tag" hint="90 × 50 mm">
      <img
        src={`${base}.svg`}
        alt={`Tag of job ${job.number} with a code that opens it`}
        className="w-full max-w-72 rounded bg-white"
      />
      <p className="mt-2 flex gap-4">
        <a className="link" href={`${base}.pdf`} target="_blank" rel="noreferrer">
          Print as PDF
        </a>
        <a className="link" href={`${base}.svg`} download={`tag-${job.number}.svg`}>
          Save as SVG
        </a>
      </p>
    </AsideSheet>
  );
}
