import { useState } from 'react';
import { measurementInput } from '#contract/records';
import type { Job } from '#contract/records';
import { count, explainRunsTableFault } from '#core/explaining';
import { ACTIVITY_CLASSES } from '#core/planning';
import { runsFromRows, runsToRows } from '#core/proving';
import type { RunsTableFault, TabledRuns } from '#core/proving';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { FilePick, TABLES } from '../ui/FilePick.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { readTable, saveTable } from '../ui/table.ts';
import { useSave } from '../ui/useSave.ts';

interface RunsCsvProps {
  readonly job: Job;
  readonly kind: 'as-found' | 'as-fitted';
  /** Runs can be added. */
  readonly isReady: boolean;
}

interface Preview {
  readonly name: string;
  readonly runs: readonly TabledRuns[];
  readonly faults: readonly RunsTableFault[];
}

/** Runs as a table, out to and in from other programs. What comes in is shown before it is added. */
export function RunsCsv({ job, kind, isReady }: RunsCsvProps) {
  const [preview, setPreview] = useState<Preview>();
  const [add] = api.useAddMeasurementMutation();
  const adding = useSave(add);
  const own = job.measurements.filter((one) => one.kind === kind);
  const known = (one: TabledRuns) =>
    own.some(({ metric, test }) => metric === one.metric && test === one.test);

  const exportRuns = async () => {
    const number = String(job.number).padStart(4, '0');
    await saveTable(`runs-${number}-${kind}.csv`, runsToRows(own));
  };
  const read = async (file: File) => {
    const data = await readTable(await file.arrayBuffer());
    setPreview({ name: file.name, ...runsFromRows(data.slice(0, 1000)) });
  };
  const addAll = async () => {
    const fresh = preview?.runs.filter((one) => !known(one)) ?? [];
    setPreview(undefined);
    for (const one of fresh) {
      // A kind of work nobody knows is left out: the runs are still runs.
      const work = ACTIVITY_CLASSES.find(({ id, name }) => [id, name].includes(one.activity ?? ''));
      const fields = { ...one, kind, activity: work?.id ?? null };
      const body = measurementInput.parse(fields);
      await adding.save({ id: job.id, body });
    }
  };
  if (!isReady && own.length === 0) return null;
  return (
    <div className="mb-3 grid gap-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-aside">
        {own.length > 0 && (
          <Button look="quiet" onClick={() => void exportRuns()}>
            Runs as CSV
          </Button>
        )}
        {isReady && (
          <FilePick label="Runs from CSV" accept={TABLES} onFile={(file) => void read(file)} />
        )}
      </div>
      {preview && (
        <Notice
          kind={preview.faults.length > 0 ? 'caution' : 'note'}
          title={`${preview.name}: ${count(preview.runs.length, 'test')} read${preview.faults.length > 0 ? `, ${count(preview.faults.length, 'row')} not` : ''}`}
        >
          <ul className="mb-2 grid gap-1 text-aside">
            {preview.runs.map((one) => (
              <li key={one.metric + one.test} className="break-words">
                <b>{one.test}</b> <span className="figure">{one.runs.join('  ')}</span>
                {known(one) && ' (there already: left as it is)'}
              </li>
            ))}
            {preview.faults.map((fault, at) => {
              const { title, mend = '' } = explainRunsTableFault(fault);
              return (
                <li key={at} className="break-words">
                  <span className="font-bold text-stop">✕ {title}.</span> {mend}
                </li>
              );
            })}
          </ul>
          <div className="flex gap-3">
            <Button disabled={preview.runs.every(known)} onClick={() => void addAll()}>
              Add {count(preview.runs.filter((one) => !known(one)).length, 'test')}
            </Button>
            <Button look="quiet" onClick={() => setPreview(undefined)}>
              Leave it
            </Button>
          </div>
        </Notice>
      )}
      <SaveNotice state={adding.state} />
    </div>
  );
}
