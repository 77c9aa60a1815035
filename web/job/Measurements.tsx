import { useState } from 'react';
import { Link } from 'react-router';
import type { Job, MeasurementRecord } from '#contract/records';
import { METRIC_TRAITS, conditionsText, mean } from '#core/proving';
import { figure } from '#core/explaining';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { Empty } from '../ui/States.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';
import { MeasureForm } from './MeasureForm.tsx';
import { MeasuringPage } from './measuring/MeasuringPage.tsx';
import { RunsCsv } from './RunsCsv.tsx';

interface MeasurementsProps {
  readonly job: Job;
  readonly kind: 'as-found' | 'as-fitted';
  /** The configuration is saved as it stands, so runs can belong to it. */
  readonly isReady: boolean;
  /** The step that records the configuration, where that is another one than this. */
  readonly recordedAt?: 'inspect' | 'fit';
}

/** Runs of one side of a job, and the form to add some. */
export function Measurements({ job, kind, isReady, recordedAt }: MeasurementsProps) {
  const own = job.measurements.filter((one) => one.kind === kind);
  const [edited, setEdited] = useState<string>();
  const [remove] = api.useRemoveMeasurementMutation();
  const removing = useSave(remove);
  const isClosed = job.result !== null;
  // With runs on record the form waits folded; whoever opens it keeps it open.
  const [isTyping, setTyping] = useState(own.length === 0);
  return (
    <>
      {own.length > 0 && (
        <ul className="mb-3 grid gap-1">
          {own.map((one) => (
            <Line key={one.id} measurement={one}>
              {!isClosed && (
                <>
                  <Button
                    look="quiet"
                    aria-label={`Correct ${one.test}`}
                    onClick={() => setEdited(one.id)}
                  >
                    correct
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Remove ${one.test}`}
                    onClick={() => void removing.save({ id: job.id, measurementId: one.id })}
                  >
                    remove
                  </Button>
                </>
              )}
            </Line>
          ))}
        </ul>
      )}
      <SaveNotice state={removing.state} />
      <MeasuringPage job={job} kind={kind} isReady={isReady && !isClosed} />
      <RunsCsv job={job} kind={kind} isReady={isReady && !isClosed} />
      {isClosed ? (
        own.length === 0 && <Empty title="Nothing was measured." />
      ) : isReady ? (
        <details
          open={isTyping || edited !== undefined || own.length === 0}
          onToggle={({ currentTarget }) => setTyping(currentTarget.open)}
        >
          <summary className="link mb-2 flex min-h-10 w-fit cursor-pointer items-center">
            Type runs of a test
          </summary>
          <MeasureForm
            key={edited ?? 'new'}
            job={job}
            kind={kind}
            edited={own.find(({ id }) => id === edited)}
            onDone={() => setEdited(undefined)}
          />
        </details>
      ) : (
        <Empty title={`Save what ${kind === 'as-found' ? 'was found' : 'was fitted'} first.`}>
          Runs belong to a set of modules; a baseline on others proves nothing.
          {recordedAt && (
            <Link
              className="link flex min-h-10 w-fit items-center font-bold"
              to={`/jobs/${job.id}/${recordedAt}`}
            >
              {recordedAt === 'fit' ? 'To Fit' : 'To Inspect'}
            </Link>
          )}
        </Empty>
      )}
    </>
  );
}

function Line({
  measurement,
  children,
}: {
  readonly measurement: MeasurementRecord;
  readonly children: React.ReactNode;
}) {
  const { metric, test, runs, warmUp } = measurement;
  const conditions = conditionsText(measurement);
  const { unit } = METRIC_TRAITS[metric];
  return (
    <li className="flex flex-wrap items-baseline gap-x-3">
      <b className="break-words">{test}</b>
      <span className="figure min-w-0 break-words">
        {warmUp > 0 && <s className="text-muted">{runs.slice(0, warmUp).join('  ')}</s>}{' '}
        {runs.slice(warmUp).join('  ')} <span className="text-muted">{unit}</span>
      </span>
      <span className="text-aside text-muted">
        mean {figure(mean(runs.slice(warmUp)))} {unit}
        {conditions && ` · ${conditions}`}
      </span>
      <span className="ml-auto flex gap-2">{children}</span>
    </li>
  );
}
