import { Fragment, useDeferredValue, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import type { JobSummary } from '#contract/records';
import { STEPS } from '#core/walk';
import { api } from '../app/api.ts';
import { useShortcuts } from '../app/keys.ts';
import { BackupLine } from '../ui/BackupLine.tsx';
import { Button } from '../ui/Button.tsx';
import { carryFiles } from '../ui/carriedFiles.ts';
import { useFileDrop } from '../ui/FileDrop.tsx';
import { MoreLines, SHOWN_MOST } from '../ui/MoreLines.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';

const PAGE = 50;
const DAY_MS = 86_400_000;

/** A line that breaks between its parts, not within one. */
const unbroken = (line: string) =>
  line.split(' · ').map((part, at) => (
    <Fragment key={part}>
      {at > 0 && ' · '}
      <span className={part.length < 25 ? 'whitespace-nowrap' : ''}>{part}</span>
    </Fragment>
  ));

const waiting = (openedAt: string): string => {
  const days = Math.floor((Date.now() - Date.parse(openedAt)) / DAY_MS);
  return days < 1 ? 'today' : days === 1 ? '1 day' : `${days} days`;
};

/** What next on my bench: open jobs with the one thing to do on each, the longest waiting first. */
export function BenchPage() {
  const navigate = useNavigate();
  const [state, setState] = useState<'open' | 'closed'>('open');
  const [query] = useSearchParams();
  const [search, setSearch] = useState(query.get('search') ?? '');
  const [shown, setShown] = useState(PAGE);
  const deferred = useDeferredValue(search.slice(0, 200));
  const { data, error, refetch } = api.useJobsQuery(
    { state, search: deferred, limit: shown },
    { refetchOnMountOrArgChange: true },
  );
  useShortcuts([
    { keys: 'N', does: 'New job', run: () => void navigate('/jobs/new') },
    {
      keys: '/',
      does: 'Search the jobs',
      run: () => document.getElementById('job-search')?.focus(),
    },
  ]);
  const isBench = state === 'open' && search === '';
  const { shown: listed, twins } = isBench
    ? groupBatches(data?.jobs ?? [])
    : { shown: data?.jobs ?? [], twins: new Map<string, readonly JobSummary[]>() };
  const [first, ...rest] = listed;
  const { isOver, handlers } = useFileDrop((files) => {
    carryFiles(files);
    void navigate('/jobs/new');
  });
  return (
    <main
      className="relative mx-auto w-full max-w-[1400px] grow px-5 py-4 max-sm:px-2"
      {...handlers}
    >
      {isOver && (
        <p className="absolute inset-2 z-20 grid place-items-center rounded-lg border-2 border-dashed border-copper bg-copper-wash text-answer font-bold">
          Let go to open a job for this machine
        </p>
      )}
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-answer font-bold">
          {state === 'open' ? 'Next on the bench' : 'Closed jobs'}
        </h1>
        <label className="flex items-center gap-2">
          <span className="sr-only">Search the jobs</span>
          <input
            id="job-search"
            type="search"
            className="input w-64"
            placeholder="Number, customer, machine"
            value={search}
            onChange={({ target }) => setSearch(target.value)}
          />
        </label>
        <Button
          aria-pressed={state === 'closed'}
          onClick={() => setState(state === 'open' ? 'closed' : 'open')}
        >
          {state === 'open' ? 'Closed jobs' : 'Open jobs'}
        </Button>
        <Link
          to="/jobs/new"
          className="flex min-h-10 items-center rounded-md bg-teal px-4 font-bold text-on-teal"
        >
          New job
        </Link>
      </div>
      {!data &&
        (error ? (
          <Failed failure={error} what="the jobs" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the jobs" />
        ))}
      {data && data.total === 0 && (
        <Empty
          title={
            search
              ? 'No job has these words.'
              : state === 'open'
                ? 'The bench is clear.'
                : 'No job is closed yet.'
          }
        >
          {search
            ? 'Search for a number, a customer or a machine.'
            : 'Open a job when a machine comes in, or drop its files here.'}
        </Empty>
      )}
      {first && isBench && <FirstJob job={first} twins={twins.get(first.id)} />}
      {data && data.total > 0 && (
        <JobTable jobs={isBench ? rest : listed} twins={twins} state={state} />
      )}
      {data && (
        <MoreLines
          shown={data.jobs.length}
          total={data.total}
          onMore={() => setShown(Math.min(SHOWN_MOST, shown + PAGE))}
        />
      )}
      {isBench && data && data.total > 0 && <BackupLine />}
    </main>
  );
}

/** Like machines taken in together stand as one line: the first, with the others behind it. */
function groupBatches(jobs: readonly JobSummary[]) {
  const twins = new Map<string, readonly JobSummary[]>();
  const shown = jobs.filter((job) => {
    if (!job.batch) return true;
    const lead = jobs.find(({ batch }) => batch?.id === job.batch?.id) ?? job;
    if (lead === job) return true;
    twins.set(lead.id, [...(twins.get(lead.id) ?? []), job]);
    return false;
  });
  return { shown, twins };
}

/** The other machines of a batch, each a link to its own next step. */
function Twins({ jobs = [] }: { readonly jobs?: readonly JobSummary[] | undefined }) {
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

const numberText = (number: number) => String(number).padStart(4, '0');
const linkTo = ({ id, next }: JobSummary) => `/jobs/${id}/${next?.step ?? 'hand-over'}`;

/** What must not be overlooked: work stopped, a day promised, a machine of several. */
function Marks({ job: { isStopped, deadline, batch } }: { readonly job: JobSummary }) {
  if (!isStopped && !deadline && !batch) return null;
  const isLate = deadline !== null && Date.parse(deadline) + DAY_MS < Date.now();
  return (
    <span className="flex flex-wrap items-center gap-x-3 text-aside">
      {isStopped && <b className="text-stop">✕ stopped: swollen battery</b>}
      {deadline && (
        <span className={isLate ? 'font-bold text-stop' : 'text-muted'}>
          {isLate && '✕ late: '}ready by{' '}
          {new Date(deadline).toLocaleDateString(undefined, { day: 'numeric', month: 'short' })}
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

/** The job that has waited longest, as a tag one cannot miss. */
function FirstJob({
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

/** Where a job stands on its route, small. */
function Route({ job }: { readonly job: JobSummary }) {
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

function JobTable({
  jobs,
  twins,
  state,
}: {
  readonly jobs: readonly JobSummary[];
  readonly twins: ReadonlyMap<string, readonly JobSummary[]>;
  readonly state: 'open' | 'closed';
}) {
  if (jobs.length === 0) return null;
  return (
    <div className="sheet overflow-x-auto p-0!">
      <table className="w-full text-left">
        <caption className="sr-only">
          {state === 'open' ? 'Jobs that wait, the longest first' : 'Closed jobs, the latest first'}
        </caption>
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
                <Link
                  to={linkTo(job)}
                  className="link flex min-h-10 items-center font-bold"
                  aria-label={`${job.next?.action ?? 'Open'}: job ${numberText(job.number)}, ${job.customerName}`}
                >
                  {job.next?.action ?? 'Open'}
                </Link>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
