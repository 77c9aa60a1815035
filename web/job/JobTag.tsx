import { useEffect, useRef } from 'react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { jobFacts, jobMachine } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { STEPS, doneSteps } from '#core/walk';
import type { Step } from '#core/walk';

/** Step names as technicians say them. */
export const STEP_NAMES: Readonly<Record<Step, string>> = {
  intake: 'Intake',
  inspect: 'Inspect',
  need: 'Need',
  plan: 'Plan',
  quote: 'Quote',
  fit: 'Fit',
  prove: 'Prove',
  'hand-over': 'Hand over',
};

interface JobTagProps {
  readonly job: Job;
  readonly step: Step;
  /** What can be done with the job as a whole. */
  readonly action?: ReactNode;
  /** Who else is at it. */
  readonly others?: ReactNode;
}

/** The job as a tag, with its steps as a route: done, here, open. Every stop is a link. */
export function JobTag({ job, step, action, others }: JobTagProps) {
  const done = new Set(doneSteps(jobFacts(job)));
  // On a phone the route is wider than the screen: the stop one is at comes into view.
  const route = useRef<HTMLElement>(null);
  useEffect(() => {
    const nav = route.current;
    const here = nav?.querySelector<HTMLElement>('[aria-current]')?.parentElement;
    if (nav && here) nav.scrollLeft = here.offsetLeft - nav.clientWidth / 2;
  }, [step]);
  return (
    <header className="mb-3.5 flex flex-wrap items-stretch rounded-lg border border-line bg-sheet">
      <div className="flex items-center gap-4 border-r border-dashed border-edge px-4 py-2">
        <span aria-hidden className="size-3.5 rounded-full border border-edge bg-paper" />
        <p>
          <span className="block text-aside text-muted">Job</span>
          <span className="figure text-lg font-bold">{String(job.number).padStart(4, '0')}</span>
          {job.batch && (
            <span className="block text-aside text-muted">
              {job.batch.position} of {job.batch.size}
            </span>
          )}
        </p>
      </div>
      <div className="min-w-0 grow basis-72 px-4 py-2 max-sm:basis-40">
        <h1 className="line-clamp-2 font-bold break-words" title={job.customer.name}>
          {job.customer.name}
        </h1>
        <p className="line-clamp-2 text-aside break-words text-muted">
          {jobMachine(job).name} · {job.complaint}
        </p>
        {(action || others) && (
          <div className="-mb-2 -ml-1 flex min-h-8 items-center gap-x-4">
            {action}
            {others}
          </div>
        )}
      </div>
      <nav
        ref={route}
        aria-label="Steps of this job"
        className="relative max-w-full self-center overflow-x-auto px-3 py-1.5"
      >
        <ol className="flex">
          {STEPS.map((one) => {
            const isHere = one === step;
            const state = isHere ? 'here' : done.has(one) ? 'done' : 'open';
            return (
              <li
                key={one}
                className="relative not-first:before:absolute not-first:before:top-3 not-first:before:right-1/2 not-first:before:-z-0 not-first:before:h-0.5 not-first:before:w-full not-first:before:bg-line"
              >
                <Link
                  to={`/jobs/${job.id}/${one}`}
                  aria-current={isHere ? 'step' : undefined}
                  className="relative z-1 flex min-h-10 min-w-17 flex-col items-center gap-1 px-1 text-aside"
                >
                  <span
                    aria-hidden
                    className={`mt-1 size-3 border-2 ${
                      {
                        here: 'rotate-45 border-copper bg-copper',
                        done: 'border-teal bg-teal',
                        open: 'border-edge bg-sheet',
                      }[state]
                    }`}
                  />
                  <span className={isHere ? 'font-bold' : ''}>{STEP_NAMES[one]}</span>
                  <span className="sr-only">
                    {state === 'done' ? 'done' : state === 'open' ? 'open' : ''}
                  </span>
                </Link>
              </li>
            );
          })}
        </ol>
      </nav>
    </header>
  );
}
