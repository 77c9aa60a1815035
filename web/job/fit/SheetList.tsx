import { jobMachine } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { clockText, PHASE_WORDS, slotNames, taskWords } from '#core/explaining';
import { PHASES } from '#core/fitting';
import type { SheetStep } from '#core/fitting';
import { Mark } from '../../ui/Mark.tsx';
import type { Bench } from './useBench.ts';

interface SheetListProps {
  readonly job: Job;
  readonly bench: Bench;
  readonly isClosed: boolean;
}

/** Every step of the sheet by phase, each with who ticked it and when. */
export function SheetList({ job, bench, isClosed }: SheetListProps) {
  const { steps, next } = bench.sheet;
  return (
    <div className="grid items-start gap-x-6 gap-y-3 md:grid-cols-2">
      {PHASES.filter((phase) => steps.some((step) => step.phase === phase)).map((phase) => {
        const own = steps.filter((step) => step.phase === phase);
        const left = own.filter(({ tick }) => !tick).length;
        // What is done folds away: the next thing to do is never far down.
        return (
          <details key={phase} open={left > 0} aria-label={PHASE_WORDS[phase]} className="group">
            <summary className="flex min-h-10 cursor-pointer items-center gap-2 border-b border-line">
              <h3 className="font-bold">{PHASE_WORDS[phase]}</h3>
              <span className="text-aside text-muted">
                {left === 0 ? `✓ all ${own.length} done` : `${left} to do`}
              </span>
              <span aria-hidden className="ml-auto text-muted group-open:rotate-90">
                ›
              </span>
            </summary>
            <ul>
              {own.map((step) => (
                <Line key={step.id} {...{ job, bench, step, isClosed }} isNext={step === next} />
              ))}
            </ul>
          </details>
        );
      })}
    </div>
  );
}

interface LineProps extends SheetListProps {
  readonly step: SheetStep;
  readonly isNext: boolean;
}

function Line({ job, bench, step, isNext, isClosed }: LineProps) {
  const machine = jobMachine(job);
  const { title } = taskWords(step.task, machine, slotNames(machine));
  const { tick } = step;
  return (
    <li className={isNext ? 'rounded bg-copper-wash' : ''}>
      <label className="flex min-h-10 items-center gap-3 px-1">
        <input
          type="checkbox"
          className="size-5 shrink-0"
          checked={tick !== undefined}
          disabled={isClosed || job.swollenBattery}
          onChange={() =>
            bench.add(tick ? { type: 'undo', of: tick.entryId } : { type: 'tick', stepId: step.id })
          }
        />
        <span className={`min-w-0 grow break-words ${isNext ? 'font-bold' : ''}`}>{title}</span>
        {tick && (
          <span className="shrink-0 text-right text-aside text-muted">
            {tick.by}, {clockText(tick.at)}
          </span>
        )}
        {isNext && <Mark kind="note" />}
      </label>
    </li>
  );
}
