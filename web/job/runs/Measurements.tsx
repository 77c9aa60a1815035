import { useId, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { Link } from 'react-router';
import type { Job, MeasurementRecord } from '#contract/records';
import { METRIC_TRAITS, conditionsText, mean, runsToRows } from '#core/proving';
import { figure } from '#core/explaining';
import { api } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { Empty } from '../../ui/States.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { saveTable } from '../../ui/table.ts';
import { storedDraft } from '../../ui/useDraft.ts';
import { useSave } from '../../ui/useSave.ts';
import { PageResults } from '../measuring/PageResults.tsx';
import { Part } from '../StepLayout.tsx';
import { AddRuns } from './AddRuns.tsx';
import type { Way } from './AddRuns.tsx';
import { RunsForm } from './RunsForm.tsx';
import { runsDraft } from './runsForm.ts';
import type { Side } from './runsForm.ts';

interface MeasurementsProps {
  readonly job: Job;
  readonly kind: Side;
  readonly title: string;
  readonly hint?: string;
  /** The configuration is saved as it stands, so runs can belong to it. */
  readonly isReady: boolean;
  /** The step that records the configuration, where that is another one than this. */
  readonly recordedAt?: 'inspect' | 'fit';
}

/** Runs of one side of a job, with the ways to add some behind one button. */
export function Measurements({ job, kind, title, hint, isReady, recordedAt }: MeasurementsProps) {
  const own = job.measurements.filter((one) => one.kind === kind);
  const isClosed = job.result !== null;
  const canAdd = isReady && !isClosed;
  const addId = useId();
  const panel = useRef<HTMLDivElement>(null);
  const [edited, setEdited] = useState<string>();
  // Runs that were being typed when the page was left are shown again.
  const [isOpen, setOpen] = useState(() => storedDraft(runsDraft(job.id, kind)) !== undefined);
  const [way, setWay] = useState<Way>(isOpen ? 'type' : 'page');
  const toggle = () => {
    flushSync(() => setOpen(!isOpen));
    // At the foot of the page it would open behind the answer bar.
    panel.current?.scrollIntoView({ block: 'nearest' });
  };
  return (
    <Part
      title={title}
      {...(hint && { hint })}
      action={
        <span className="flex flex-wrap items-center gap-x-3">
          {own.length > 0 && <ExportRuns job={job} kind={kind} />}
          {canAdd && (
            <Button aria-expanded={isOpen} aria-controls={addId} onClick={toggle}>
              Add runs <span aria-hidden>{isOpen ? '▴' : '▾'}</span>
            </Button>
          )}
        </span>
      }
    >
      <RunLines job={job} own={own} edited={edited} onEdit={setEdited} isClosed={isClosed} />
      <PageResults jobId={job.id} kind={kind} />
      {own.length === 0 && !isOpen && (
        <NothingMeasured {...{ job, kind, isClosed, isReady, recordedAt }} />
      )}
      <div id={addId} ref={panel} className="scroll-mb-32">
        {canAdd && isOpen && <AddRuns job={job} kind={kind} way={way} onWay={setWay} />}
      </div>
    </Part>
  );
}

function ExportRuns({ job, kind }: Pick<MeasurementsProps, 'job' | 'kind'>) {
  const own = job.measurements.filter((one) => one.kind === kind);
  const name = `runs-${String(job.number).padStart(4, '0')}-${kind}.csv`;
  return (
    <Button look="quiet" onClick={() => void saveTable(name, runsToRows(own))}>
      Runs as CSV
    </Button>
  );
}

interface RunLinesProps {
  readonly job: Job;
  readonly own: readonly MeasurementRecord[];
  readonly edited: string | undefined;
  readonly onEdit: (id: string | undefined) => void;
  readonly isClosed: boolean;
}

/** What is on record, a line a test; the one being corrected opens its form in its place. */
function RunLines({ job, own, edited, onEdit, isClosed }: RunLinesProps) {
  const [remove] = api.useRemoveMeasurementMutation();
  const removing = useSave(remove);
  return (
    <>
      {own.length > 0 && (
        <ul className="grid gap-1">
          {own.map((one) => (
            <li key={one.id}>
              <Line measurement={one}>
                {!isClosed && (
                  <>
                    <Button
                      look="quiet"
                      aria-label={`Correct ${one.test}`}
                      onClick={() => onEdit(one.id)}
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
              {edited === one.id && !isClosed && (
                <div className="my-2 rounded-md border border-line p-3">
                  <RunsForm
                    job={job}
                    kind={one.kind}
                    edited={one}
                    onDone={() => onEdit(undefined)}
                  />
                </div>
              )}
            </li>
          ))}
        </ul>
      )}
      <SaveNotice state={removing.state} />
    </>
  );
}

type NothingMeasuredProps = Pick<MeasurementsProps, 'job' | 'kind' | 'isReady'> & {
  readonly recordedAt: MeasurementsProps['recordedAt'] | undefined;
  readonly isClosed: boolean;
};

function NothingMeasured({ job, kind, isClosed, isReady, recordedAt }: NothingMeasuredProps) {
  if (isClosed) return <Empty title="Nothing was measured." />;
  if (isReady) return <p className="text-muted">Nothing measured yet.</p>;
  return (
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
    <div className="flex flex-wrap items-baseline gap-x-3">
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
    </div>
  );
}
