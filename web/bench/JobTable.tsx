import { Link } from 'react-router';
import type { JobSummary } from '#contract/records';
import { useNarrow } from '../ui/useNarrow.ts';
import { Marks, Route, Twins, linkTo, numberText, unbroken, waiting } from './jobParts.tsx';

interface JobTableProps {
  readonly jobs: readonly JobSummary[];
  readonly twins: ReadonlyMap<string, readonly JobSummary[]>;
  readonly state: 'open' | 'closed';
}

/** Jobs as a table; on a phone as cards, each as wide as the screen. */
export function JobTable(props: JobTableProps) {
  const isNarrow = useNarrow();
  if (props.jobs.length === 0) return null;
  return isNarrow ? <Cards {...props} /> : <Table {...props} />;
}

const captionOf = (state: JobTableProps['state']) =>
  state === 'open' ? 'Jobs that wait, the longest first' : 'Closed jobs, the latest first';

function Cards({ jobs, twins, state }: JobTableProps) {
  return (
    <ul aria-label={captionOf(state)} className="grid gap-2">
      {jobs.map((job) => (
        <li key={job.id} className="sheet grid gap-1">
          <p className="flex items-baseline gap-3">
            <b className="figure">{numberText(job.number)}</b>
            <span className="line-clamp-2 min-w-0 grow font-bold break-words">
              {job.customerName}
            </span>
            <span className="text-aside whitespace-nowrap text-muted">{waiting(job.openedAt)}</span>
          </p>
          <p className="line-clamp-2 text-aside break-words text-muted">
            {job.machineName} · {job.complaint}
          </p>
          <Marks job={job} />
          <Twins jobs={twins.get(job.id)} />
          <p className="figure text-aside break-words">
            {unbroken(job.headline ?? 'not inspected')}
          </p>
          <p className="flex items-center gap-3">
            <span className="min-w-0 grow">
              <Route job={job} />
            </span>
            <NextLink job={job} />
          </p>
        </li>
      ))}
    </ul>
  );
}

function NextLink({ job }: { readonly job: JobSummary }) {
  return (
    <Link
      to={linkTo(job)}
      className="link flex min-h-11 items-center font-bold"
      aria-label={`${job.next?.action ?? 'Open'}: job ${numberText(job.number)}, ${job.customerName}`}
    >
      {job.next?.action ?? 'Open'}
    </Link>
  );
}

function Table({ jobs, twins, state }: JobTableProps) {
  return (
    <div className="sheet overflow-x-auto p-0!">
      <table className="w-full text-left">
        <caption className="sr-only">{captionOf(state)}</caption>
        <thead>
          <tr className="border-b border-edge text-aside text-muted">
            {[
              'Job',
              'Customer and machine',
              state === 'open' ? 'Runs' : 'Result',
              'Stands at',
              state === 'open' ? 'Waiting' : 'Opened',
              'Next',
            ].map((head) => (
              <th key={head} scope="col" className="px-3 py-2 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {jobs.map((job) => (
            <tr key={job.id} className="border-b border-line last:border-0">
              <td className="figure px-3 py-2 font-bold">{numberText(job.number)}</td>
              <td className="max-w-md px-3 py-2">
                <span className="line-clamp-2 font-bold break-words">{job.customerName}</span>
                <span className="line-clamp-2 text-aside break-words text-muted">
                  {job.machineName} · {job.complaint}
                </span>
                <Marks job={job} />
                <Twins jobs={twins.get(job.id)} />
              </td>
              <td className="figure max-w-60 px-3 py-2 text-aside break-words">
                {unbroken(job.headline ?? 'not inspected')}
              </td>
              <td className="px-3 py-2">
                <Route job={job} />
              </td>
              <td className="px-3 py-2 text-aside whitespace-nowrap">{waiting(job.openedAt)}</td>
              <td className="px-3 py-1">
                <NextLink job={job} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
