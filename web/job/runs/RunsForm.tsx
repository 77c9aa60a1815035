import { useId } from 'react';
import type { Job, MeasurementInput } from '#contract/records';
import { KINDS_OF_WORK } from '#core/promising';
import { METRICS, METRIC_TRAITS, POWER_MODES, RUNS } from '#core/proving';
import type { Metric } from '#core/proving';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { SeenPower } from './SeenPower.tsx';
import { WORK_METRICS } from './runsForm.ts';
import { useRunsForm } from './useRunsForm.ts';
import type { RunsFormProps } from './useRunsForm.ts';

type State = ReturnType<typeof useRunsForm>;

/** Runs of one test, typed in a row. Slips are named while typing; nothing typed is lost. */
export function RunsForm(props: RunsFormProps) {
  const { job, kind, edited } = props;
  const state = useRunsForm(props);
  const { form, typed, read, adding, changing, submit, finish, standing, keepMine } = state;
  const metric = typed.metric ?? 'bandwidth';
  const { errors } = form.formState;
  return (
    <form noValidate onSubmit={(event) => void submit(event)} className="grid gap-3">
      <TestFields job={job} state={state} />
      <WorkFields metric={metric} state={state} />
      <TextField
        label={`Runs, ${METRIC_TRAITS[metric].unit}`}
        className="figure"
        error={read.slip ?? errors.runs?.message}
        hint={runsHint(metric, read.counted)}
        {...form.register('runs')}
      />
      <ConditionFields state={state} />
      <SeenPower jobId={job.id} kind={kind} form={form} />
      <SaveNotice state={adding.state} />
      <SaveNotice
        state={changing.state}
        sides={(yours, theirs) => [
          [
            'Runs',
            (yours as MeasurementInput).runs.join(' '),
            standing(theirs as Job)?.runs.join(' ') ?? 'removed',
          ],
        ]}
        onKeepMine={(theirs) => keepMine(theirs as Job)}
        onTakeTheirs={finish}
      />
      <div className="flex gap-3">
        <Button type="submit">{edited ? 'Save the correction' : 'Save runs'}</Button>
        {edited && <Button onClick={finish}>Leave as it was</Button>}
      </div>
    </form>
  );
}

function runsHint(metric: Metric, counted: number): string {
  if (metric === 'peak')
    return 'The most in use at once, as the system shows it; one figure is enough.';
  if (counted === 1)
    return `One run says nothing about noise: ${RUNS.least} are the least, ${RUNS.advised} on each side are sound.`;
  return metric === 'duration'
    ? 'One time a run, separated by spaces: seconds, 12.5min or 12:30.'
    : 'One figure a run, separated by spaces; // starts another sitting.';
}

/** What was measured, with which test. */
function TestFields({ job, state: { form } }: { readonly job: Job; readonly state: State }) {
  const tests = useId();
  const { errors } = form.formState;
  return (
    <div className="grid gap-3 sm:grid-cols-[15rem_1fr_7rem]">
      <SelectField
        label="Measured"
        options={METRICS.map((one) => [
          one,
          `${METRIC_TRAITS[one].name}, ${METRIC_TRAITS[one].unit}`,
        ])}
        {...form.register('metric')}
      />
      <TextField
        label="Test"
        list={tests}
        error={errors.test?.message}
        {...form.register('test')}
      />
      <TextField
        label="Warm-up runs"
        inputMode="numeric"
        error={errors.warmUp?.message}
        {...form.register('warmUp')}
      />
      <datalist id={tests}>
        {[...new Set(job.measurements.map(({ test }) => test))].map((test) => (
          <option key={test} value={test} />
        ))}
      </datalist>
    </div>
  );
}

/** Which way a score counts, and the kind of work a test stands for. */
function WorkFields({ metric, state: { form } }: { metric: Metric; state: State }) {
  return (
    <>
      {metric === 'score' && (
        <SelectField
          label="Which way it counts"
          options={[
            ['higher', 'a higher score is better'],
            ['lower', 'a lower score is better'],
          ]}
          {...form.register('sense')}
        />
      )}
      {WORK_METRICS.includes(metric) && (
        <SelectField
          label="Stands for"
          hint="With a kind of work named, the result sharpens what later plans promise."
          options={[
            ['', 'no kind of work in particular'],
            ...KINDS_OF_WORK.map(({ id, name }) => [id, name] as const),
          ]}
          {...form.register('activity')}
        />
      )}
    </>
  );
}

/** What must be the same on both sides. */
function ConditionFields({ state: { form } }: { readonly state: State }) {
  const { errors } = form.formState;
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-3">
        <SelectField
          label="Power source"
          options={POWER_MODES.map((one) => [one, one === 'unknown' ? 'not noted' : one])}
          {...form.register('power')}
        />
        <TextField
          label="Resolution or size"
          error={errors.resolution?.message}
          {...form.register('resolution')}
        />
        <TextField
          label="Browser or program"
          error={errors.tool?.message}
          {...form.register('tool')}
        />
      </div>
      <TextField
        label="Conditions"
        hint="What else was the same: file, other programs closed. After the change it is compared with all of this."
        error={errors.conditions?.message}
        {...form.register('conditions')}
      />
    </>
  );
}
