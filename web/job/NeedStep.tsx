import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { snapshotOf, jobMachine, jobProof } from '#contract/jobProof';
import { jobTerms } from '#contract/records';
import type { Job } from '#contract/records';
import { SCHOOLS } from '#core/matching';
import type { School } from '#core/matching';
import { operatingPoint } from '#core/operating-point';
import { figure, gb, usableText } from '#core/explaining';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { dropDraft, storedDraft, useKeptDraft } from '../ui/useDraft.ts';
import { LaneStrip } from '../visuals/LaneStrip.tsx';
import { Next } from './InspectStep.tsx';
import { AsideSheet, Part, StepLayout } from './StepLayout.tsx';
import { useTerms } from './useTerms.ts';

interface Typed {
  need: string;
  margin: string;
  school: School;
  capacityFirst: boolean;
}

const number = (text: string): number => Number(text.trim().replace(',', '.'));

const typedFrom = ({ need, margin, school, capacityFirst }: Job): Typed => ({
  need: need === null ? '' : String(need),
  margin: String(margin * 100),
  school,
  capacityFirst,
});

/** What the work needs, with a margin, and the school this job follows. */
export function NeedStep({ job }: { readonly job: Job }) {
  const draftName = `need.${job.id}`;
  const isClosed = job.result !== null;
  const [initial] = useState(() => storedDraft<Typed>(draftName) ?? typedFrom(job));
  const form = useForm<Typed>({ defaultValues: initial });
  useKeptDraft(draftName, form);
  const terms = useTerms(
    job,
    () => dropDraft(draftName),
    (theirs) => form.reset(typedFrom(theirs)),
  );
  const typed = useWatch({ control: form.control }) as Typed;
  const machine = jobMachine(job);
  const current = snapshotOf(job, 'as-fitted') ?? snapshotOf(job, 'as-found');
  const point = current && operatingPoint(machine, current.placement, current.setting);
  const need =
    typed.need.trim() === '' ? undefined : number(typed.need) * (1 + number(typed.margin) / 100);
  const known = need !== undefined && need >= 0 ? need : undefined;
  const isShort = known !== undefined && point?.type === 'runs' && point.usable.low < known;
  const { errors } = form.formState;

  const submit = (values: Typed) => {
    const checked = jobTerms
      .pick({ need: true, margin: true, school: true, capacityFirst: true })
      .safeParse({
        ...values,
        need: values.need.trim() === '' ? null : number(values.need),
        margin: number(values.margin) / 100,
      });
    if (checked.success) terms.save(checked.data);
    else
      for (const { path, message } of checked.error.issues)
        form.setError(path[0] as keyof Typed, {
          message: message.startsWith('Invalid input')
            ? 'Type a figure in GB, such as 12.5.'
            : message,
        });
  };
  return (
    <StepLayout
      aside={
        <AsideSheet title="What memory can and cannot do">
          <ul className="grid gap-2 text-aside">
            <li>Too little is a cliff: the machine pages to its drive and crawls.</li>
            <li>More than the work uses becomes file cache: smoother, not faster.</li>
            <li>Some work wants graphics memory, which no module here adds.</li>
            <li>
              A peak measured on the machine outranks any estimate; with paging seen it is only a
              lower bound.
            </li>
          </ul>
        </AsideSheet>
      }
      bar={
        <AnswerBar label="The need" actions={<Next to={`/jobs/${job.id}/plan`}>Next: plan</Next>}>
          <Answer label="Need with margin">
            {known === undefined ? 'not stated' : gb(Number(figure(known)))}
          </Answer>
          {point?.type === 'runs' && (
            <Answer label={current?.kind === 'as-fitted' ? 'Usable now' : 'Usable as found'}>
              {usableText(point)}
            </Answer>
          )}
        </AnswerBar>
      }
    >
      <Part title="Need" hint="everything in use at the same time, the idle system included">
        <form
          noValidate
          className="grid gap-3"
          onSubmit={(event) => void form.handleSubmit(submit)(event)}
        >
          <div className="grid gap-3 sm:grid-cols-2">
            <TextField
              label="Working set, GB"
              inputMode="decimal"
              disabled={isClosed}
              hint="Read the peak off the machine at work; leave empty if not known."
              error={errors.need?.message}
              {...form.register('need')}
            />
            <TextField
              label="Margin, %"
              inputMode="decimal"
              disabled={isClosed}
              hint="25 is usual."
              error={errors.margin?.message}
              {...form.register('margin')}
            />
          </div>
          <SelectField
            label="School"
            hint="How strictly modules must match. Every plan shows what each school would say."
            disabled={isClosed}
            options={SCHOOLS.map((school) => [school, school])}
            {...form.register('school')}
          />
          <label className="flex min-h-10 items-center gap-3">
            <input
              type="checkbox"
              className="size-5"
              disabled={isClosed}
              {...form.register('capacityFirst')}
            />
            Capacity first: uneven channels are fine for this job
          </label>
          <SaveNotice {...terms.notice} />
          {!isClosed && (
            <div>
              <Button type="submit">Save the need</Button>
            </div>
          )}
        </form>
      </Part>
      {point?.type === 'runs' && (
        <Part
          title="Lane strip"
          hint={`the need against what is ${jobProof(job) ? 'fitted' : 'found'}`}
        >
          <LaneStrip
            machine={machine}
            point={point}
            need={known === undefined ? undefined : known + machine.graphicsCarveOut.high}
          />
          {isShort && (
            <div className="mt-2">
              <Notice
                kind="caution"
                title="The need does not fit"
                why={`${usableText(point)} is usable and ${gb(Number(figure(known)))} is wanted.`}
                mend="Plan more capacity, or free some."
              />
            </div>
          )}
        </Part>
      )}
    </StepLayout>
  );
}
