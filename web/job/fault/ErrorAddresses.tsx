import { useId, useState } from 'react';
import { jobMachine } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { errorsFromRows, narrowErrors } from '#core/diagnosing';
import type { ErrorTableFault, MemoryError, Model } from '#core/diagnosing';
import { count, explainErrorTableFault, explainNarrowing, slotNames } from '#core/explaining';
import { api } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { FilePick, TABLES } from '../../ui/FilePick.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { readTable } from '../../ui/table.ts';
import { useSave } from '../../ui/useSave.ts';
import type { Bench } from '../fit/useBench.ts';

interface ErrorAddressesProps {
  readonly job: Job;
  readonly bench: Bench;
  readonly model: Model;
}

/** More rows than this tell nothing more. */
const ROWS = 20_000;
const TURNS = [64, 128, 256, 512, 1024, 4096, 8192] as const;

/** Failing addresses of a memory test, and which module they point at. */
export function ErrorAddresses({ job, bench, model }: ErrorAddressesProps) {
  const turnId = useId();
  const machine = jobMachine(job);
  const nameOf = slotNames(machine);
  const [table, setTable] = useState<{
    name: string;
    errors: readonly MemoryError[];
    faults: readonly ErrorTableFault[];
  }>();
  const [saveCover] = api.useSaveCoverMutation();
  const saving = useSave(saveCover);
  const { interleave } = job.machine;
  const read = async (file: File) => {
    const data = await readTable(await file.arrayBuffer());
    setTable({ name: file.name, ...errorsFromRows(data.slice(0, ROWS)) });
  };
  const narrowing =
    table && narrowErrors(machine, bench.state.placement, table.errors, interleave ?? undefined);
  const check = model.checks.find(({ kind }) => kind === 'test with addresses');
  const { verdict } = narrowing ?? {};
  const outcome =
    verdict?.type === 'one module'
      ? verdict.slotId
      : verdict?.type === 'all over'
        ? 'all over'
        : verdict?.type === 'no errors' && table?.faults.length === 0
          ? 'passes'
          : undefined;
  return (
    <div className="mt-4 grid gap-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 text-aside">
        <FilePick
          label="Import failing addresses (CSV)"
          accept={TABLES}
          onFile={(file) => void read(file)}
        />
        <label htmlFor={turnId}>Interleave of {machine.channels.length} channels</label>
        <select
          id={turnId}
          className="input w-auto!"
          value={interleave?.granule ?? ''}
          onChange={({ target }) =>
            void saving.save({
              id: job.machine.id,
              body: {
                interleave:
                  target.value === ''
                    ? null
                    : { granule: Number(target.value), order: [...machine.channels] },
                version: job.machine.version,
              },
            })
          }
        >
          <option value="">not known</option>
          {TURNS.map((turn) => (
            <option key={turn} value={turn}>
              {turn} bytes each
            </option>
          ))}
        </select>
        <span className="text-muted">kept with the machine</span>
      </div>
      <SaveNotice state={saving.state} />
      {table && narrowing && (
        <>
          <Notice
            kind={outcome === undefined ? 'caution' : 'note'}
            {...explainNarrowing(narrowing, nameOf)}
          >
            <p className="text-aside">
              {count(table.errors.length, 'error')} in {table.name}
              {narrowing.slots.length > 0 &&
                `: ${narrowing.slots.map(({ slotId, errors }) => `${nameOf(slotId)} ${errors}`).join(', ')}`}
            </p>
            {check && outcome !== undefined && (
              <Button
                className="mt-2"
                onClick={() => {
                  bench.add({ type: 'seen', checkId: check.id, outcome });
                  setTable(undefined);
                }}
              >
                Count it as a check made
              </Button>
            )}
          </Notice>
          {table.faults.slice(0, 5).map((fault) => (
            <Notice key={fault.row} kind="stop" {...explainErrorTableFault(fault)} />
          ))}
          {table.faults.length > 5 && <p>and {table.faults.length - 5} rows more.</p>}
        </>
      )}
    </div>
  );
}
