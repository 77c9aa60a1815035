import { useId, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { measurementInput } from '#contract/records';
import type { Job, MeasurementInput, MeasurementRecord } from '#contract/records';
import { explainRunFault } from '#core/explaining';
import { ACTIVITY_CLASSES } from '#core/planning';
import {
  METRICS,
  METRIC_TRAITS,
  POWER_MODES,
  RUNS,
  findRunFaults,
  readRuns,
  runsText,
} from '#core/proving';
import type { Metric, PowerMode } from '#core/proving';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { dropDraft, storedDraft, useKeptDraft } from '../ui/useDraft.ts';
import { useSave } from '../ui/useSave.ts';

interface MeasureFormProps {
  readonly job: Job;
  readonly kind: 'as-found' | 'as-fitted';
  /** Runs being corrected; absent for new ones. */
  readonly edited?: MeasurementRecord | undefined;
  readonly onDone: () => void;
}

interface Typed {
  metric: Metric;
  activity: string;
  sense: 'higher' | 'lower';
  test: string;
  runs: string;
  warmUp: string;
  power: PowerMode;
  resolution: string;
  tool: string;
  conditions: string;
}

/** A new measurement takes test and conditions over from the other side, so both are comparable. */
function startingValues({ job, kind, edited }: MeasureFormProps): Typed {
  const other = job.measurements.find(
    (one) =>
      one.kind !== kind &&
      !job.measurements.some(
        (own) => own.kind === kind && own.metric === one.metric && own.test === one.test,
      ),
  );
  const like = edited ?? other;
  return {
    metric: like?.metric ?? 'bandwidth',
    sense: like?.sense ?? 'higher',
    activity: like?.activity ?? '',
    test: like?.test ?? 'memory copy',
    runs: edited ? runsText(edited.runs, edited.sittings) : '',
    warmUp: String(like?.warmUp ?? 0),
    power: like?.power ?? 'unknown',
    resolution: like?.resolution ?? '',
    tool: like?.tool ?? '',
    conditions: like?.conditions ?? '',
  };
}

/** Runs of one test, typed in a row. Slips are named while typing; nothing typed is lost. */
export function MeasureForm(props: MeasureFormProps) {
  const { job, kind, edited, onDone } = props;
  const draftName = `runs.${job.id}.${kind}.${edited?.id ?? 'new'}`;
  const [initial] = useState(() => storedDraft<Typed>(draftName) ?? startingValues(props));
  const form = useForm<Typed>({ defaultValues: initial });
  useKeptDraft(draftName, form);
  const { register, handleSubmit, control, reset, setError, formState } = form;
  const { metric, runs: text, warmUp } = useWatch({ control }) as Typed;
  const parsed = readRuns(text ?? '');
  const faults =
    (text ?? '').trim() === ''
      ? []
      : [...parsed.faults, ...findRunFaults(metric, parsed.runs, Number(warmUp) || 0)];
  const counted = parsed.runs.length - (Number(warmUp) || 0);

  const finish = () => {
    dropDraft(draftName);
    reset({ ...startingValues(props), runs: '' });
    onDone();
  };
  const [add] = api.useAddMeasurementMutation();
  const [change] = api.useChangeMeasurementMutation();
  const adding = useSave(add, finish);
  const changing = useSave(change, finish);
  const tests = useId();

  const submit = (typed: Typed) => {
    const typedOnly = readRuns(typed.runs);
    // More runs of a test that is there are added to it.
    const same =
      edited ??
      job.measurements.find(
        (one) => one.kind === kind && one.metric === typed.metric && one.test === typed.test.trim(),
      );
    // Typed behind what is there, so that `//` in front starts another sitting.
    const read =
      edited || !same ? typedOnly : readRuns(`${runsText(same.runs, same.sittings)} ${typed.runs}`);
    const input = inputOf(typed, kind, read, same);
    const checked = measurementInput.safeParse(input);
    const fault = typedOnly.faults[0];
    if (fault) setError('runs', { message: says(fault) });
    else if (!checked.success)
      for (const { path, message } of checked.error.issues)
        setError(path[0] as keyof Typed, { message });
    else if (same)
      void changing.save({
        id: job.id,
        measurementId: same.id,
        body: { ...checked.data, version: same.version },
      });
    else void adding.save({ id: job.id, body: checked.data });
  };
  const { errors } = formState;
  const runsError = faults[0] ? says(faults[0]) : errors.runs?.message;
  return (
    <form noValidate onSubmit={(event) => void handleSubmit(submit)(event)} className="grid gap-3">
      <div className="grid gap-3 sm:grid-cols-[15rem_1fr_7rem]">
        <SelectField
          label="Measured"
          options={METRICS.map((one) => [
            one,
            `${METRIC_TRAITS[one].name}, ${METRIC_TRAITS[one].unit}`,
          ])}
          {...register('metric')}
        />
        <TextField label="Test" list={tests} error={errors.test?.message} {...register('test')} />
        <TextField
          label="Warm-up runs"
          inputMode="numeric"
          error={errors.warmUp?.message}
          {...register('warmUp')}
        />
      </div>
      {metric === 'score' && (
        <SelectField
          label="Which way it counts"
          options={[
            ['higher', 'a higher score is better'],
            ['lower', 'a lower score is better'],
          ]}
          {...register('sense')}
        />
      )}
      {WORK_METRICS.includes(metric) && (
        <SelectField
          label="Stands for"
          hint="With a kind of work named, the result sharpens what later plans promise."
          options={[
            ['', 'no kind of work in particular'],
            ...ACTIVITY_CLASSES.map(({ id, name }) => [id, name] as const),
          ]}
          {...register('activity')}
        />
      )}
      <datalist id={tests}>
        {[...new Set(job.measurements.map(({ test }) => test))].map((test) => (
          <option key={test} value={test} />
        ))}
      </datalist>
      <TextField
        label={`Runs, ${METRIC_TRAITS[metric].unit}`}
        className="figure"
        error={runsError}
        hint={
          counted === 1 && metric !== 'peak' && !runsError
            ? `One run says nothing about noise: ${RUNS.least} are the least, ${RUNS.advised} on each side are sound.`
            : metric === 'duration'
              ? 'One time a run, separated by spaces: seconds, 12.5min or 12:30.'
              : metric === 'peak'
                ? 'The most in use at once, as the system shows it; one figure is enough.'
                : 'One figure a run, separated by spaces; // starts another sitting.'
        }
        {...register('runs')}
      />
      <div className="grid gap-3 sm:grid-cols-3">
        <SelectField
          label="Power"
          options={POWER_MODES.map((one) => [one, one === 'unknown' ? 'not noted' : one])}
          {...register('power')}
        />
        <TextField
          label="Resolution or size"
          error={errors.resolution?.message}
          {...register('resolution')}
        />
        <TextField label="Browser or program" error={errors.tool?.message} {...register('tool')} />
      </div>
      <TextField
        label="Conditions"
        hint="What else was the same: file, other programs closed. After the change it is compared with all of this."
        error={errors.conditions?.message}
        {...register('conditions')}
      />
      <SaveNotice state={adding.state} />
      <SaveNotice
        state={changing.state}
        sides={(yours, theirs) => {
          const now = (theirs as Job).measurements.find(({ id }) => id === edited?.id);
          return [
            ['Runs', (yours as MeasurementInput).runs.join(' '), now?.runs.join(' ') ?? 'removed'],
          ];
        }}
        onKeepMine={(theirs) => {
          const now = (theirs as Job).measurements.find(
            ({ test }) => test === form.getValues('test').trim(),
          );
          const body = inputOf(form.getValues(), kind, parsed, now);
          if (now)
            void changing.save({
              id: job.id,
              measurementId: now.id,
              body: { ...body, version: now.version },
            });
        }}
        onTakeTheirs={finish}
      />
      <div className="flex gap-3">
        <Button type="submit">{edited ? 'Save the correction' : 'Add runs'}</Button>
        {edited && <Button onClick={finish}>Leave as it was</Button>}
      </div>
    </form>
  );
}

/** Metrics that measure someone's work rather than the memory itself. */
const WORK_METRICS: readonly Metric[] = ['duration', 'frames', 'lows', 'transfer', 'score'];

/** What is sent: only a score's sense is declared. */
function inputOf(
  typed: Typed,
  kind: MeasureFormProps['kind'],
  { runs, sittings }: Pick<ReturnType<typeof readRuns>, 'runs' | 'sittings'>,
  known: MeasurementRecord | undefined,
): MeasurementInput {
  const { metric, sense, warmUp } = typed;
  const activity = WORK_METRICS.includes(metric)
    ? ACTIVITY_CLASSES.find(({ id }) => id === typed.activity)
    : undefined;
  return {
    ...{ ...typed, kind, runs, sittings, warmUp: Number(warmUp) },
    ...{ step: known?.step ?? null, doubts: known?.doubts ?? [] },
    ...{ sense: metric === 'score' ? sense : null, isLowerBound: known?.isLowerBound ?? false },
    activity: activity?.id ?? null,
  };
}

function says(fault: Parameters<typeof explainRunFault>[0]): string {
  const { title, mend = '' } = explainRunFault(fault);
  return `${title}. ${mend}`;
}
