import { useDeferredValue, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { JOBS_COUNTED } from '#contract/jobRoutes';
import type { JobSummary } from '#contract/records';
import { api } from '../app/api.ts';
import { useShortcuts } from '../app/keys.ts';
import { BackupLine } from '../ui/BackupLine.tsx';
import { Button } from '../ui/Button.tsx';
import { carryFiles } from '../ui/carriedFiles.ts';
import { useFileDrop } from '../ui/FileDrop.tsx';
import { MoreLines, SHOWN_MOST } from '../ui/MoreLines.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { Page } from '../ui/Page.tsx';
import { FirstJob } from './FirstJob.tsx';
import { JobTable } from './JobTable.tsx';

const PAGE = 50;

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
    <Page
      title={state === 'open' ? 'Next on the bench' : 'Closed jobs'}
      {...handlers}
      actions={
        <div className="ml-auto flex flex-wrap items-center gap-3 max-sm:ml-0 max-sm:w-full">
          <label className="flex items-center gap-2 max-sm:w-full">
            <span className="sr-only">Search the jobs</span>
            <input
              id="job-search"
              type="search"
              className="input w-64 max-sm:w-full"
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
      }
    >
      {isOver && (
        <p className="absolute inset-2 z-20 grid place-items-center rounded-lg border-2 border-dashed border-copper bg-copper-wash text-answer font-bold">
          Let go to open a job for this machine
        </p>
      )}
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
          counted={JOBS_COUNTED}
          onMore={() => setShown(Math.min(SHOWN_MOST, shown + PAGE))}
        />
      )}
      {isBench && data && data.total > 0 && <BackupLine />}
    </Page>
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
