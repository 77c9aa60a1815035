import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import { queryForJob, offersFor } from '#contract/jobPlan';
import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { count, figure, gb, money, planText } from '#core/explaining';
import type { BatchResult } from '#core/planning';
import { figuresTogether } from '#core/units';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { Mark } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { useSaveSnapshot } from '../ui/useSaveSnapshot.ts';
import { Planner } from '../workers/planner.ts';

/** Several machines, one drawer and one order: shared out at least cost. */
export function BatchPage() {
  const { id = '' } = useParams();
  const batch = api.useBatchQuery(id, { refetchOnMountOrArgChange: true });
  const modules = api.useModulesQuery('', { refetchOnMountOrArgChange: true });
  const taken = new Set(batch.data?.flatMap(({ machine }) => machine.machine.generations));
  const drawer = api.useDrawerQuery([...taken].sort().join(), {
    skip: !batch.data,
    refetchOnMountOrArgChange: true,
  });
  const shop = api.useShopQuery();
  const error = batch.error ?? modules.error ?? drawer.error ?? shop.error;
  const ready = batch.data && modules.data && drawer.data && shop.data;
  return (
    <main className="mx-auto w-full max-w-[1400px] px-5 py-4 max-sm:px-2">
      {ready ? (
        <BatchPlan
          jobs={batch.data ?? []}
          modules={modules.data ?? []}
          drawer={drawer.data ?? []}
          terms={ready.terms}
        />
      ) : error ? (
        <Failed failure={error} what="the batch" onRetry={() => void batch.refetch()} />
      ) : (
        <Loading what="the batch" />
      )}
    </main>
  );
}

interface BatchPlanProps {
  readonly jobs: readonly Job[];
  readonly modules: Parameters<typeof queryForJob>[1];
  readonly drawer: Parameters<typeof queryForJob>[2];
  readonly terms: Parameters<typeof queryForJob>[3];
}

/** Shares drawer and order out in a worker, anew whenever what it depends on changes. */
function useBatchPlan(
  { jobs, modules, drawer, terms }: BatchPlanProps,
  known: readonly Job[],
  paired: boolean,
) {
  const planner = useRef<Planner>(undefined);
  const [result, setResult] = useState<BatchResult>();
  const [failure, setFailure] = useState<string>();
  const [first] = jobs;
  const query = useMemo(() => {
    const machines = known.map((job) => {
      const {
        offers: _offers,
        drawer: _drawer,
        ...rest
      } = queryForJob(job, modules, drawer, terms);
      // The budget is for all of them; a plan for one is not held to it.
      return { id: job.id, query: { ...rest, budget: undefined } };
    });
    const free = drawer.filter(
      ({ reservedFor }) => reservedFor === null || jobs.some(({ id }) => id === reservedFor.jobId),
    );
    const shared = free.map(({ id, module, state, price }) => ({ id, module, state, price }));
    return {
      machines,
      offers: offersFor(modules, first?.machine.id ?? ''),
      drawer: shared,
      rules: { paired },
    };
  }, [known, jobs, first, modules, drawer, terms, paired]);
  useEffect(() => {
    planner.current ??= new Planner();
    setResult(undefined);
    setFailure(undefined);
    planner.current.ask({ type: 'batch', query }, (answer) => {
      if (answer.type === 'batch') setResult(answer.result);
      if (answer.type === 'failed') setFailure(answer.message);
    });
  }, [query]);
  useEffect(
    () => () => {
      planner.current?.close();
      planner.current = undefined;
    },
    [],
  );
  return { result, failure };
}

function BatchPlan(props: BatchPlanProps) {
  const { jobs, modules, drawer, terms } = props;
  const [paired, setPaired] = useState(true);
  const [first] = jobs;
  // Machines nobody has looked into yet have nothing to plan from.
  const known = useMemo(() => jobs.filter((job) => snapshotOf(job, 'as-found')), [jobs]);
  const { result, failure } = useBatchPlan(props, known, paired);
  const amount = (value: number) => money(value, terms.currency);
  const nameOf = (id: string) =>
    [...modules, ...drawer].find((one) => one.id === id)?.label ?? 'a module';
  return (
    <>
      <h1 className="text-answer font-bold">
        {first?.customer.name}: {count(jobs.length, 'machine')}
      </h1>
      <p className="mb-3 text-muted">
        {first?.machine.machine.name} · one drawer, one order, shared out at least cost
      </p>
      <div className="mb-4 flex flex-wrap items-center gap-x-6 gap-y-2">
        <label className="flex min-h-10 items-center gap-2">
          <input
            type="checkbox"
            checked={paired}
            className="size-5 accent-teal"
            onChange={({ target }) => setPaired(target.checked)}
          />
          Two channels side by side in every machine
        </label>
        <TakeAll jobs={known} result={result} />
      </div>
      {known.length < jobs.length && (
        <div className="mb-4">
          <Notice
            kind="caution"
            title={`${count(jobs.length - known.length, 'machine')} left out: nobody has looked into ${jobs.length - known.length === 1 ? 'it' : 'them'} yet`}
            why="What is fitted decides what is missing."
            mend="Enter what is fitted under Inspect of those jobs."
          />
        </div>
      )}
      {failure && (
        <Notice
          alert
          kind="stop"
          title="The batch could not be worked out"
          why={failure}
          mend="Plan the machines one by one."
        />
      )}
      {!result && !failure && (
        <p role="status" className="sheet text-muted">
          Sharing out … A large batch takes some seconds.
        </p>
      )}
      {result && (
        <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
          <MachineByMachine jobs={known} result={result} amount={amount} />
          <Together jobs={jobs} result={result} amount={amount} nameOf={nameOf} />
        </div>
      )}
    </>
  );
}

interface ResultProps {
  readonly jobs: readonly Job[];
  readonly result: BatchResult;
  readonly amount: (minor: number) => string;
}

function MachineByMachine({ jobs, result, amount }: ResultProps) {
  return (
    <section className="sheet overflow-x-auto">
      <h2 className="mb-2 font-bold">Machine by machine</h2>
      <table className="w-full text-left tabular-nums">
        <caption className="sr-only">Plans of the batch</caption>
        <TableHead heads={['Job', 'Plan', 'Usable', 'GB/s', 'Match', 'Cost alone']} />
        <tbody>
          {jobs.map((job) => {
            const plan = result.plans.find(({ machineId }) => machineId === job.id)?.plan;
            return (
              <tr key={job.id} className="border-b border-line last:border-0">
                <td className="px-3 py-2">
                  <Link className="link font-bold" to={`/jobs/${job.id}/plan`}>
                    {String(job.number).padStart(4, '0')}
                  </Link>
                </td>
                {plan ? (
                  <>
                    <td className="px-3 py-2">
                      {figuresTogether(planText(plan, job.machine.machine))}
                    </td>
                    <td className="px-3 py-2 whitespace-nowrap">{gb(plan.worth.usable)}</td>
                    <td className="px-3 py-2">{figure(plan.worth.bandwidth)}</td>
                    <td className="px-3 py-2">{plan.worth.grade}</td>
                    <td className="px-3 py-2 whitespace-nowrap">{amount(plan.cost.net)}</td>
                  </>
                ) : (
                  <td colSpan={5} className="px-3 py-2">
                    <span className="flex gap-2 font-bold">
                      <Mark kind="stop" /> Nothing on offer meets its need and the {job.school}{' '}
                      school
                    </span>
                  </td>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

/** What all machines cost together, and what is to be bought for them. */
function Together({
  jobs,
  result,
  amount,
  nameOf,
}: ResultProps & { readonly nameOf: (id: string) => string }) {
  const budget = jobs.reduce<number | undefined>(
    (most, job) => (job.budget === null ? most : Math.max(most ?? 0, job.budget)),
    undefined,
  );
  return (
    <section className="sheet">
      <h2 className="font-bold">Together</h2>
      <p className="text-answer font-bold">{amount(result.total)}</p>
      <p className="mb-3 flex items-start gap-2 text-aside">
        <Mark kind={result.isOptimal ? 'ok' : 'caution'} />
        {result.isOptimal
          ? 'Nothing cheaper meets every need with what is on offer.'
          : `Stopped early: at most ${amount(result.total - result.bound)} could still be saved.`}
      </p>
      {budget !== undefined && result.total > budget && (
        <div className="mb-3 text-aside">
          <Notice
            kind="caution"
            title={`${amount(result.total - budget)} above the ${amount(budget)} they named`}
          />
        </div>
      )}
      {isShared(result) && (
        <p className="mb-3 text-aside text-muted">
          A pack is shared between machines. Its price stands in the sum here; a quote for one
          machine alone would charge the whole pack.
        </p>
      )}
      <ul className="grid gap-1 text-aside">
        {result.purchases.map(({ offerId, packs }) => (
          <li key={offerId} className="break-words">
            <b>{packs} ×</b> {nameOf(offerId)}
          </li>
        ))}
        {result.drawer.map((id) => (
          <li key={id} className="break-words">
            <b>from the drawer</b> {nameOf(id)}
          </li>
        ))}
        {result.left.map(({ offerId, count: spare }) => (
          <li key={offerId} className="break-words text-muted">
            {count(spare, 'module')} of {nameOf(offerId)} left over, for the drawer
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Makes every plan of the batch its job's plan. */
function TakeAll({
  jobs,
  result,
}: {
  readonly jobs: readonly Job[];
  readonly result: BatchResult | undefined;
}) {
  const saving = useSaveSnapshot();
  const [taken, setTaken] = useState<BatchResult>();
  if (!result || result.plans.length === 0) return null;
  const takeAll = async () => {
    const through = await Promise.all(
      result.plans.map(({ machineId, plan }) => {
        const job = jobs.find(({ id }) => id === machineId);
        const version = (job && snapshotOf(job, 'planned')?.version) ?? 0;
        const body = { placement: plan.placement, setting: plan.setting, version };
        return saving.save({
          id: machineId,
          kind: 'planned',
          body,
        });
      }),
    );
    if (through.every(Boolean)) setTaken(result);
  };
  return (
    <>
      {taken === result ? (
        <span role="status" className="flex items-center gap-2 font-bold">
          <Mark kind="ok" /> Each machine has its plan; quote them one by one.
        </span>
      ) : (
        <Button
          look="main"
          disabled={saving.state.type === 'saving' || saving.state.type === 'waiting'}
          onClick={() => void takeAll()}
        >
          Take as plans of {count(result.plans.length, 'machine')}
        </Button>
      )}
      <SaveNotice state={saving.state} />
    </>
  );
}

/** Whether modules of one pack go into several machines. */
function isShared({ plans }: BatchResult): boolean {
  const users = new Map<string, Set<string>>();
  for (const { machineId, plan } of plans)
    for (const { module } of plan.units)
      if (module.kitId !== undefined)
        users.set(module.kitId, (users.get(module.kitId) ?? new Set()).add(machineId));
  return [...users.values()].some(({ size }) => size > 1);
}
