import { useId, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import type { FieldPath } from 'react-hook-form';
import { snapshotOf, jobMachine } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { explainAdvice, gb, needSentence, usableText, workingSetText } from '#core/explaining';
import { adviseNeed, needWithMargin, workingSet } from '#core/need';
import type { Advice } from '#core/need';
import { operatingPoint } from '#core/operating-point';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import type { MarkKind } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { storedDraft, useKeptDraft } from '../ui/useDraft.ts';
import { LaneStrip } from '../visuals/LaneStrip.tsx';
import { Next } from '../ui/Next.tsx';
import { ActivityFields, PeakFields, TermsFields } from './NeedFields.tsx';
import { formFromJob, needFromForm } from './needForm.ts';
import type { NeedForm } from './needForm.ts';
import { SeenPeak } from './SeenPeak.tsx';
import { AsideSheet, Part, StepLayout } from './StepLayout.tsx';
import { useBase } from '../ui/useSteady.ts';
import { useTerms } from './useTerms.ts';

const KINDS: Readonly<Record<Advice['type'], MarkKind>> = {
  short: 'stop',
  'beyond-machine': 'stop',
  tight: 'caution',
  'system-first': 'caution',
  'drive-first': 'caution',
  'drive-hurts': 'caution',
  'graphics-memory': 'caution',
  enough: 'ok',
  'measure-peak': 'note',
};

/** What the work keeps in use, as a band on what is there, and every honest answer to it. */
export function NeedStep({ job }: { readonly job: Job }) {
  const draftName = `need.${job.id}`;
  const formId = useId();
  const isClosed = job.result !== null;
  const [draft, setDraft] = useState(() => storedDraft<NeedForm>(draftName));
  const [initial] = useState(() => draft ?? formFromJob(job));
  const form = useForm<NeedForm>({ defaultValues: initial });
  const settle = useKeptDraft(draftName, form);
  const isTouched = form.formState.isDirty || draft !== undefined;
  const base = useBase(job, isTouched, () => settle(formFromJob(job)));
  const terms = useTerms(
    job,
    () => {
      settle(form.getValues());
      setDraft(undefined);
    },
    (theirs) => settle(formFromJob(theirs)),
    base,
  );
  const typed = useWatch({ control: form.control }) as NeedForm;
  const machine = jobMachine(job);
  const current = snapshotOf(job, 'as-fitted') ?? snapshotOf(job, 'as-found');
  const found = current && operatingPoint(machine, current.placement, current.setting);
  const point = found?.type === 'runs' ? found : undefined;
  const { terms: stated } = needFromForm(typed);
  const input = stated?.needInput ?? undefined;
  const work = input && workingSet(input);
  const margin = stated?.margin ?? job.margin;
  const advice = input && work ? adviseNeed(machine, input, work, margin, point) : [];
  const wanted = work && needWithMargin({ need: work.need, margin });
  const graphics = machine.graphicsCarveOut.high;

  const canSave = !isClosed && isTouched;

  const submit = (values: NeedForm) => {
    const result = needFromForm(values);
    for (const [field, message] of Object.entries(result.errors))
      form.setError(field as FieldPath<NeedForm>, { message });
    if (result.terms) terms.save(result.terms);
  };
  return (
    <StepLayout
      aside={<Follows advice={advice} />}
      bar={
        <AnswerBar
          label="The need"
          actions={
            canSave ? (
              <Button type="submit" form={formId} look="main">
                Save the need
              </Button>
            ) : (
              <Next to={`/jobs/${job.id}/plan`}>Next: plan</Next>
            )
          }
        >
          <Answer label="Working set">{work ? workingSetText(work) : 'not stated'}</Answer>
          {wanted !== undefined && (
            <Answer label="Need with margin">{gb(Number(wanted.toFixed(1)))}</Answer>
          )}
          {point && (
            <Answer label={current?.kind === 'as-fitted' ? 'Usable now' : 'Usable as found'}>
              {usableText(point)}
            </Answer>
          )}
        </AnswerBar>
      }
    >
      <form id={formId} noValidate onSubmit={(event) => void form.handleSubmit(submit)(event)}>
        <Part
          title="What is open at the same time"
          hint="GB kept in use, as a range; edit any figure"
        >
          <ActivityFields form={form} isClosed={isClosed} work={job.work} />
        </Part>
        {work && (
          <Part title="In the customer’s words">
            <blockquote className="text-lg break-words">
              {needSentence(work, point?.usable.low)}
            </blockquote>
          </Part>
        )}
        {point && (
          <Part title="Lane strip" hint="the need against what is there">
            <LaneStrip
              machine={machine}
              point={point}
              need={wanted && wanted + graphics}
              band={work && { low: work.low + graphics, high: work.high + graphics }}
            />
          </Part>
        )}
        <Part title="Measured, drive and graphics">
          <SeenPeak jobId={job.id} form={form} isClosed={isClosed} />
          <PeakFields form={form} isClosed={isClosed} />
        </Part>
        <Part title="Margin and school">
          <TermsFields form={form} isClosed={isClosed} />
          <SaveNotice {...terms.notice} />
        </Part>
      </form>
    </StepLayout>
  );
}

/** What follows from the need, and what memory can do about it at all. */
function Follows({ advice }: { readonly advice: readonly Advice[] }) {
  return (
    <>
      {advice.length > 0 && (
        <AsideSheet title="What follows" hint="memory is only one answer">
          <div className="grid gap-3">
            {advice.map((one) => (
              <Notice key={one.type} kind={KINDS[one.type]} {...explainAdvice(one)} />
            ))}
          </div>
        </AsideSheet>
      )}
      <AsideSheet title="What memory can and cannot do">
        <ul className="grid gap-2 text-aside">
          <li>Too little is a cliff: the machine pages to its drive and crawls.</li>
          <li>More than the work uses becomes file cache: smoother, not faster.</li>
          <li>A measured peak outranks any estimate; with paging it is a lower bound.</li>
        </ul>
      </AsideSheet>
    </>
  );
}
