import { useState } from 'react';
import { jobTerms } from '#contract/records';
import type { Job } from '#contract/records';
import { figure } from '#core/explaining';
import { runSetOf, figuresOf } from '#core/proving';
import { api } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { TextField } from '../../ui/Field.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { useSave } from '../../ui/useSave.ts';

const messageOf = ({
  issues: [issue],
}: {
  readonly issues: readonly { readonly code: string; readonly message: string }[];
}) => (issue && issue.code !== 'invalid_type' ? issue.message : 'Enter a figure such as 18.5.');

/** The most this machine was seen to draw, GB/s; a bound only from below has no say. */
export function measuredDraw({ measurements }: Pick<Job, 'measurements'>): number | undefined {
  const means = measurements
    .filter(
      ({ metric, isLowerBound, runs }) =>
        metric === 'bandwidth' && !isLowerBound && runs.length > 0,
    )
    .map((one) => figuresOf(runSetOf(one)).mean);
  return means.length > 0 ? Math.max(...means) : undefined;
}

/**
 * A processor or its fabric may take less than memory gives: said here, what is beyond promises nothing.
 */
export function DrawCap({ job }: { readonly job: Job }) {
  const measured = measuredDraw(job);
  const [typed, setTyped] = useState<string>();
  const [error, setError] = useState<string>();
  const [change] = api.useChangeJobMutation();
  const saving = useSave(change, () => setTyped(undefined));
  const store = (drawCap: number | null) =>
    void saving.save({ id: job.id, body: { version: job.version, drawCap } });
  if (job.result !== null && job.drawCap === null) return null;
  if (job.drawCap !== null)
    return (
      <p className="mt-2 flex flex-wrap items-center gap-x-2 text-aside">
        <span>
          This processor draws at most <b>{figure(job.drawCap, 3)} GB/s</b>: counted in.
        </span>
        {job.result === null && (
          <Button look="quiet" onClick={() => store(null)}>
            leave it out
          </Button>
        )}
        <SaveNotice state={saving.state} />
      </p>
    );
  const value = typed ?? (measured === undefined ? '' : figure(measured, 3));
  return (
    <details className="mt-1.5 text-aside">
      <summary className="flex min-h-8 cursor-pointer items-center text-muted">
        Does the processor draw less than memory gives?
      </summary>
      <form
        noValidate
        className="mt-1 grid gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const read = jobTerms.shape.drawCap.safeParse(Number(value.replace(',', '.')));
          if (!read.success) setError(messageOf(read.error));
          else store(read.data);
        }}
      >
        <TextField
          label="This processor draws at most, GB/s"
          inputMode="decimal"
          value={value}
          hint={
            measured === undefined
              ? 'What a test with all cores levels off at, however fast the memory.'
              : `Measured on this machine: ${figure(measured, 3)} GB/s. Take it only where faster memory did not raise it.`
          }
          error={error}
          onChange={({ target }) => {
            setTyped(target.value);
            setError(undefined);
          }}
        />
        <span>
          <Button type="submit">Count it in</Button>
        </span>
        <SaveNotice state={saving.state} />
      </form>
    </details>
  );
}
