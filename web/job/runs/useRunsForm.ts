import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { measurementInput } from '#contract/records';
import type { Job, MeasurementInput, MeasurementRecord } from '#contract/records';
import { readRuns } from '#core/proving';
import { api } from '../../app/api.ts';
import { storedDraft, useKeptDraft } from '../../ui/useDraft.ts';
import { useSave } from '../../ui/useSave.ts';
import { faultText, readTyped, runsDraft, runsInput, sameTest, startingRuns } from './runsForm.ts';
import type { Side, TypedRuns } from './runsForm.ts';

export interface RunsFormProps {
  readonly job: Job;
  readonly kind: Side;
  /** Runs being corrected; absent for new ones. */
  readonly edited?: MeasurementRecord | undefined;
  readonly onDone: () => void;
}

/** Runs of one test being typed: kept as a draft, added to a test that is there, or correcting it. */
export function useRunsForm({ job, kind, edited, onDone }: RunsFormProps) {
  const draft = runsDraft(job.id, kind, edited?.id);
  const [initial] = useState(
    () => storedDraft<TypedRuns>(draft) ?? startingRuns(job, kind, edited),
  );
  const form = useForm<TypedRuns>({ defaultValues: initial });
  const settle = useKeptDraft(draft, form);
  const typed = useWatch({ control: form.control });
  const finish = () => {
    settle({ ...startingRuns(job, kind, edited), runs: '' });
    onDone();
  };
  const [add] = api.useAddMeasurementMutation();
  const [change] = api.useChangeMeasurementMutation();
  const adding = useSave(add, finish);
  const changing = useSave(change, finish);
  const changeTo = (body: MeasurementInput, { id, version }: MeasurementRecord) =>
    void changing.save({ id: job.id, measurementId: id, body: { ...body, version } });

  const submit = form.handleSubmit((values) => {
    const [fault] = readRuns(values.runs).faults;
    const same = edited ?? sameTest(job, kind, values.metric, values.test);
    const checked = measurementInput.safeParse(runsInput(values, kind, same, edited !== undefined));
    if (fault) form.setError('runs', { message: faultText(fault) });
    else if (!checked.success)
      for (const { path, message } of checked.error.issues)
        form.setError(path[0] as keyof TypedRuns, { message });
    else if (same) changeTo(checked.data, same);
    else void adding.save({ id: job.id, body: checked.data });
  });
  /** The runs in question as somebody else left them meanwhile; `undefined` once removed. */
  const standing = (theirs: Job) => {
    const { metric, test } = form.getValues();
    return edited
      ? theirs.measurements.find(({ id }) => id === edited.id)
      : sameTest(theirs, kind, metric, test);
  };
  const keepMine = (theirs: Job) => {
    const now = standing(theirs);
    const body = runsInput(form.getValues(), kind, now, edited !== undefined);
    if (now) changeTo(body, now);
    // Removed meanwhile: typed runs are kept all the same, as new ones.
    else void adding.save({ id: job.id, body });
  };
  const read = readTyped(typed);
  return { form, typed, read, adding, changing, submit, finish, standing, keepMine };
}
