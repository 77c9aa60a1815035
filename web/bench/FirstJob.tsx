import { Link } from 'react-router';
import type { JobSummary } from '#contract/records';
import { Marks, Route, Twins, linkTo, numberText, unbroken, waiting } from './jobParts.tsx';

/** The job that has waited longest, as a tag one cannot miss. */
export function FirstJob({
  job,
  twins,
}: {
  readonly job: JobSummary;
  readonly twins: readonly JobSummary[] | undefined;
}) {
  return (
    <section
      aria-label="First job"
      className="sheet mb-4 flex flex-wrap items-center gap-x-6 gap-y-2 border-l-6 border-l-copper"
    >
      <p>
        <span className="block text-aside text-muted">Job</span>
        <span className="figure text-lg font-bold">{numberText(job.number)}</span>
      </p>
      <div className="min-w-0 grow basis-80">
        <p className="line-clamp-2 font-bold break-words">{job.customerName}</p>
        <p className="line-clamp-2 text-aside break-words text-muted">
          {job.machineName} · {job.complaint}
        </p>
        <Marks job={job} />
        <Twins jobs={twins} />
        {job.headline && (
          <p className="figure mt-1 text-aside break-words">{unbroken(job.headline)}</p>
        )}
      </div>
      <Route job={job} />
      <p>
        <span className="block text-aside text-muted">waiting {waiting(job.openedAt)}</span>
        <Link
          to={linkTo(job)}
          className="mt-1 flex min-h-11 items-center rounded-md bg-teal px-5 text-lg font-bold text-on-teal"
        >
          {job.next?.action ?? 'Open'}
        </Link>
      </p>
    </section>
  );
}
