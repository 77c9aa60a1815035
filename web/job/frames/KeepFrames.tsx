import { useState } from 'react';
import { snapshotOf } from '#contract/jobProof';
import type { Job, MeasurementInput } from '#contract/records';
import type { Metric } from '#core/proving';
import { api } from '../../app/api.ts';
import type { ApiFailure } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/Field.tsx';
import { ProblemNotice } from '../../ui/ProblemNotice.tsx';
import type { FrameSide, FramesAnswer } from '../../workers/frames.ts';

interface KeepFramesProps {
  readonly job: Job;
  readonly side: FrameSide;
  readonly view: NonNullable<FramesAnswer['view']>;
}

type Kept = 'idle' | 'saving' | 'kept' | Extract<ApiFailure, { type: 'problem' }> | 'offline';

/** Keeps a log as one run: its mean and its 1 % low, each as a test of that name. */
export function KeepFrames({ job, side, view }: KeepFramesProps) {
  const kind = side === 'before' ? 'as-found' : 'as-fitted';
  const known = job.measurements.find(({ metric }) => metric === 'frames');
  const [name, setName] = useState(known?.test.replace(/: mean$/, '') ?? 'frames');
  const [state, setState] = useState<Kept>('idle');
  const [add] = api.useAddMeasurementMutation();
  const [change] = api.useChangeMeasurementMutation();
  if (job.result) return null;
  if (!snapshotOf(job, kind))
    return (
      <p className="text-aside text-muted">
        To keep it as a run, save {kind === 'as-found' ? 'what was found' : 'what was fitted'}{' '}
        first.
      </p>
    );
  const keepOne = (metric: Metric, test: string, run: number) => {
    const like = job.measurements.find((one) => one.metric === metric && one.test === test);
    const own = job.measurements.find(
      (one) => one.kind === kind && one.metric === metric && one.test === test,
    );
    const input: MeasurementInput = {
      ...{ kind, metric, test, sense: null, isLowerBound: false, warmUp: 0 },
      ...{ sittings: [], step: null, doubts: [] },
      activity: like?.activity ?? null,
      ...{ power: like?.power ?? 'unknown', resolution: like?.resolution ?? '' },
      ...{ tool: like?.tool ?? 'frame log', conditions: like?.conditions ?? '' },
      runs: [...(own?.runs ?? []), Number(run.toPrecision(5))],
    };
    return own
      ? change({ id: job.id, measurementId: own.id, body: { ...input, version: own.version } })
      : add({ id: job.id, body: input });
  };
  const keep = async () => {
    setState('saving');
    const { fps, lowAverage } = view.summary;
    try {
      await keepOne('frames', `${name.trim()}: mean`, fps).unwrap();
      await keepOne('lows', `${name.trim()}: mean of the slowest`, lowAverage.percent1).unwrap();
      setState('kept');
    } catch (error) {
      const failure = error as ApiFailure;
      setState(failure.type === 'problem' ? failure : 'offline');
    }
  };
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-end gap-3">
        <div className="grow basis-40">
          <TextField
            label={`Test, ${side}`}
            value={name}
            onChange={({ target }) => {
              setName(target.value);
              setState('idle');
            }}
          />
        </div>
        <Button
          disabled={name.trim() === '' || state === 'saving' || state === 'kept'}
          onClick={() => void keep()}
        >
          {state === 'kept' ? 'Kept as a run' : 'Keep as a run'}
        </Button>
      </div>
      {typeof state === 'object' && <ProblemNotice failure={state} />}
      {state === 'offline' && (
        <p role="alert" className="font-bold text-stop">
          The server did not answer; nothing was kept. Try again.
        </p>
      )}
    </div>
  );
}
