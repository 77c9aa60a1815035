import { jobMachine } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { PHASE_WORDS, slotNames, taskWords } from '#core/explaining';
import { PHASES } from '#core/fitting';
import type { SheetStep } from '#core/fitting';
import { Mark } from '../../ui/Mark.tsx';
import { clock } from './ReadingPage.tsx';
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
    <div className="grid gap-x-6 gap-y-3 md:grid-cols-2">
      {PHASES.filter((phase) => steps.some((step) => step.phase === phase)).map((phase) => {
        const own = steps.filter((step) => step.phase === phase);
        const left = own.filter(({ tick }) => !tick).length;
        return (
          <section key={phase} aria-label={PHASE_WORDS[phase]}>
            <h3 className="flex items-baseline gap-2 border-b border-line pb-1 font-bold">
              {PHASE_WORDS[phase]}
              <span className="text-aside font-normal text-muted">
                {left === 0 ? 'done' : `${left} to do`}
              </span>
            </h3>
            <ul>
              {own.map((step) => (
                <Line key={step.id} {...{ job, bench, step, isClosed }} isNext={step === next} />
              ))}
            </ul>
          </section>
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
  const number =
    step.task.type === 'cover'
      ? `${(job.machine.coverMap?.parts.findIndex(({ id }) => step.task.type === 'cover' && id === step.task.act.part.id) ?? -1) + 1}: `
      : '';
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
        <span className={`min-w-0 grow break-words ${isNext ? 'font-bold' : ''}`}>
          {number}
          {title}
        </span>
        {tick && (
          <span className="shrink-0 text-right text-aside text-muted">
            {tick.by}, {clock(tick.at)}
          </span>
        )}
        {isNext && <Mark kind="note" />}
      </label>
    </li>
  );
}
