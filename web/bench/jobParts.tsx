import { Fragment } from 'react';
import { Link } from 'react-router';
import type { JobSummary } from '#contract/records';
import { count, nearDay } from '#core/explaining';
import { dayOf, daysFrom } from '#core/units';
import { STEPS } from '#core/walk';
import { benchNow } from '../app/benchClock.ts';

/** A line that breaks between its parts, not within one. */
export const unbroken = (line: string) =>
  line.split(' · ').map((part, at) => (
    <Fragment key={part}>
      {at > 0 && ' · '}
      <span className={part.length < 25 ? 'whitespace-nowrap' : ''}>{part}</span>
    </Fragment>
  ));

export const waiting = (openedAt: string): string => {
  const days = daysFrom(dayOf(Date.parse(openedAt)), dayOf(benchNow()));
  return days < 1 ? 'today' : count(days, 'day');
};

export const numberText = (number: number) => String(number).padStart(4, '0');
export const linkTo = ({ id, next }: JobSummary) => `/jobs/${id}/${next?.step ?? 'hand-over'}`;

/** What must not be overlooked: work stopped, a day promised, a machine of several. */
export function Marks({ job: { isStopped, deadline, batch } }: { readonly job: JobSummary }) {
  if (!isStopped && !deadline && !batch) return null;
  const isLate = deadline !== null && deadline < dayOf(benchNow());
  return (
    <span className="flex flex-wrap items-center gap-x-3 text-aside">
      {isStopped && <b className="text-stop">✕ stopped: swollen battery</b>}
      {deadline && (
        <span className={isLate ? 'font-bold text-stop' : 'text-muted'}>
          {isLate && '✕ late: '}ready by {nearDay(deadline)}
        </span>
      )}
      {batch && (
        <span className="text-muted">
          {batch.position} of {batch.size}
        </span>
      )}
    </span>
  );
}

/** Where a job stands on its route, small. */
export function Route({ job }: { readonly job: JobSummary }) {
  const at = job.next ? STEPS.indexOf(job.next.step) : STEPS.length;
  return (
    <span aria-hidden className="flex items-center gap-1">
      {STEPS.map((step, index) => (
        <span
          key={step}
          className={`size-2.5 border-2 ${index < at ? 'border-teal bg-teal' : index === at ? 'rotate-45 border-copper bg-copper' : 'border-edge'}`}
        />
      ))}
    </span>
  );
}

/** The other machines of a batch, each a link to its own next step. */
export function Twins({ jobs = [] }: { readonly jobs?: readonly JobSummary[] | undefined }) {
  if (jobs.length === 0) return null;
  return (
    <p className="flex flex-wrap items-center gap-x-3 text-aside">
      <span className="text-muted">also</span>
      {jobs.map((job) => (
        <Link
          key={job.id}
          to={linkTo(job)}
          className="link figure flex min-h-6 items-center"
          aria-label={`Job ${numberText(job.number)}, ${job.batch?.position ?? ''} of ${job.batch?.size ?? ''}: ${job.next?.action ?? 'Open'}`}
        >
          {numberText(job.number)}
        </Link>
      ))}
      <Link
        to={`/batches/${jobs[0]?.batch?.id ?? ''}`}
        className="link flex min-h-6 items-center font-bold"
      >
        plan them together
      </Link>
    </p>
  );
}
