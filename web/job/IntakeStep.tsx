import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { jobTerms } from '#contract/records';
import type { Job } from '#contract/records';
import { api } from '../app/api.ts';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { dropDraft, storedDraft, useKeptDraft } from '../ui/useDraft.ts';
import { Next } from './InspectStep.tsx';
import { AsideSheet, Part, StepLayout } from './StepLayout.tsx';
import { useTerms } from './useTerms.ts';

interface Typed {
  complaint: string;
  machineId: string;
}

const typedFrom = ({ complaint, machine }: Job): Typed => ({ complaint, machineId: machine.id });

/** Who, which machine, what is wrong, and what has happened so far. */
export function IntakeStep({ job }: { readonly job: Job }) {
  const draftName = `intake.${job.id}`;
  const [initial] = useState(() => storedDraft<Typed>(draftName) ?? typedFrom(job));
  const form = useForm<Typed>({ defaultValues: initial });
  useKeptDraft(draftName, form);
  const machines = api.useMachinesQuery('');
  const terms = useTerms(
    job,
    () => dropDraft(draftName),
    (theirs) => form.reset(typedFrom(theirs)),
  );
  const isClosed = job.result !== null;
  const { errors } = form.formState;
  const submit = (typed: Typed) => {
    const complaint = jobTerms.shape.complaint.safeParse(typed.complaint);
    if (complaint.success) terms.save({ complaint: complaint.data, machineId: typed.machineId });
    else form.setError('complaint', { message: complaint.error.issues[0]?.message ?? '' });
  };
  const listed = machines.data ?? [job.machine];
  return (
    <StepLayout
      aside={
        <AsideSheet title="History">
          <ol className="grid gap-1.5 text-aside">
            {job.events.map(({ id, at, text }) => (
              <li key={id} className="break-words">
                <time className="text-muted" dateTime={at}>
                  {new Date(at).toLocaleString(undefined, {
                    dateStyle: 'medium',
                    timeStyle: 'short',
                  })}
                </time>
                <br />
                {text}
              </li>
            ))}
          </ol>
        </AsideSheet>
      }
      bar={
        <AnswerBar
          label="This job"
          actions={<Next to={`/jobs/${job.id}/inspect`}>Next: inspect</Next>}
        >
          <Answer label="On the bench since">
            {new Date(job.openedAt).toLocaleDateString(undefined, { dateStyle: 'medium' })}
          </Answer>
        </AnswerBar>
      }
    >
      <Part title="Customer">
        <p className="break-words">{job.customer.name}</p>
        {job.customer.contact && <p className="break-words text-muted">{job.customer.contact}</p>}
      </Part>
      <Part title="Machine and complaint">
        <form
          noValidate
          className="grid gap-3"
          onSubmit={(event) => void form.handleSubmit(submit)(event)}
        >
          <SelectField
            label="Machine"
            disabled={isClosed}
            options={listed.map(({ id, machine }) => [id, machine.name])}
            {...form.register('machineId')}
          />
          <TextField
            label="Complaint"
            disabled={isClosed}
            error={errors.complaint?.message}
            {...form.register('complaint')}
          />
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
