import { useState } from 'react';
import { measurementInput } from '#contract/records';
import type { Job } from '#contract/records';
import { count, explainRunsTableFault } from '#core/explaining';
import { KINDS_OF_WORK } from '#core/promising';
import { runsFromRows } from '#core/proving';
import type { RunsTableFault, TabledRuns } from '#core/proving';
import { api } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { FilePick, TABLES } from '../../ui/FilePick.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { readTable } from '../../ui/table.ts';
import { useSave } from '../../ui/useSave.ts';
import { sameTest } from './runsForm.ts';
import type { Side } from './runsForm.ts';

interface ReadRunsProps {
  readonly job: Job;
  readonly kind: Side;
}

interface Preview {
  readonly name: string;
  readonly runs: readonly TabledRuns[];
  readonly faults: readonly RunsTableFault[];
}

/** Runs from a table another program wrote. What comes in is shown before it is added. */
export function ReadRuns({ job, kind }: ReadRunsProps) {
  const [preview, setPreview] = useState<Preview>();
  const [add] = api.useAddMeasurementMutation();
  const adding = useSave(add);
  const isKnown = ({ metric, test }: TabledRuns) => sameTest(job, kind, metric, test) !== undefined;
  const read = async (file: File) => {
    const data = await readTable(await file.arrayBuffer());
    setPreview({ name: file.name, ...runsFromRows(data.slice(0, 1000)) });
  };
  const addAll = async () => {
    const fresh = preview?.runs.filter((one) => !isKnown(one)) ?? [];
    setPreview(undefined);
    for (const one of fresh) {
      // A kind of work nobody knows is left out: the runs are still runs.
      const work = KINDS_OF_WORK.find(({ id, name }) => [id, name].includes(one.activity ?? ''));
      const fields = { ...one, kind, activity: work?.id ?? null };
      const body = measurementInput.parse(fields);
      await adding.save({ id: job.id, body });
    }
  };
  return (
    <div className="grid gap-2">
      <p className="flex flex-wrap items-center gap-x-4 text-muted">
        <FilePick label="Choose a table (CSV)" accept={TABLES} onFile={(file) => void read(file)} />
        <span className="text-aside">
          A row a test, with the columns of “Runs as CSV”; test and runs are enough.
        </span>
      </p>
      {preview && (
        <PreviewNotice
          preview={preview}
          isKnown={isKnown}
          onAdd={() => void addAll()}
          onLeave={() => setPreview(undefined)}
        />
      )}
      <SaveNotice state={adding.state} />
    </div>
  );
}

interface PreviewNoticeProps {
  readonly preview: Preview;
  readonly isKnown: (one: TabledRuns) => boolean;
  readonly onAdd: () => void;
  readonly onLeave: () => void;
}

/** What a table would add, what is there already, and what could not be read. */
function PreviewNotice({
  preview: { name, runs, faults },
  isKnown,
  onAdd,
  onLeave,
}: PreviewNoticeProps) {
  const fresh = runs.filter((one) => !isKnown(one));
  return (
    <Notice
      kind={faults.length > 0 ? 'caution' : 'note'}
      title={`${name}: ${count(runs.length, 'test')} read${faults.length > 0 ? `, ${count(faults.length, 'row')} not` : ''}`}
    >
      <ul className="mb-2 grid gap-1 text-aside">
        {runs.map((one) => (
          <li key={one.metric + one.test} className="break-words">
            <b>{one.test}</b> <span className="figure">{one.runs.join('  ')}</span>
            {isKnown(one) && ' (there already: left as it is)'}
          </li>
        ))}
        {faults.map((fault, at) => {
          const { title, mend = '' } = explainRunsTableFault(fault);
          return (
            <li key={at} className="break-words">
              <span className="font-bold text-stop">✕ {title}.</span> {mend}
            </li>
          );
        })}
      </ul>
      <div className="flex gap-3">
        <Button disabled={fresh.length === 0} onClick={onAdd}>
          Add {count(fresh.length, 'test')}
        </Button>
        <Button look="quiet" onClick={onLeave}>
          Leave it
        </Button>
      </div>
    </Notice>
  );
}
