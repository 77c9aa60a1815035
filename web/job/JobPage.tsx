import { useEffect } from 'react';
import { Navigate, useParams } from 'react-router';
import { jobFacts } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { STEPS, nextStep } from '#core/walk';
import type { Step } from '#core/walk';
import { api } from '../app/api.ts';
import { Failed, Loading } from '../ui/States.tsx';
import { Others } from '../ui/Others.tsx';
import { useMay } from '../ui/useMay.ts';
import { WhyProvider } from '../ui/Why.tsx';
import { FitStep } from './FitStep.tsx';
import { HandOverStep } from './HandOverStep.tsx';
import { SwollenNotice } from './intake/IntakeFields.tsx';
import { InspectStep } from './InspectStep.tsx';
import { IntakeStep } from './intake/IntakeStep.tsx';
import { JobTag, STEP_NAMES } from './JobTag.tsx';
import { NeedStep } from './NeedStep.tsx';
import { PlanStep } from './plan/PlanStep.tsx';
import { ProveStep } from './ProveStep.tsx';
import { QuoteStep } from './QuoteStep.tsx';
import { useTabletCode } from './TabletCode.tsx';

const STEP_PAGES: Readonly<Record<Step, (props: { job: Job }) => React.ReactNode>> = {
  intake: IntakeStep,
  inspect: InspectStep,
  need: NeedStep,
  plan: PlanStep,
  quote: QuoteStep,
  fit: FitStep,
  prove: ProveStep,
  'hand-over': HandOverStep,
};

/** Steps that are a technician’s to record. */
const AT_THE_MACHINE: ReadonlySet<Step> = new Set(['inspect', 'plan', 'fit', 'prove']);

const isStep = (text: string | undefined): text is Step => STEPS.some((step) => step === text);

/** A job: its tag with the route of steps, and the step that is open. */
export function JobPage() {
  const { id = '', step } = useParams();
  const mayBench = useMay('bench');
  const { data: session } = api.useSessionQuery();
  const tablet = useTabletCode(id);
  const { data: job, error, refetch } = api.useJobQuery(id, { refetchOnMountOrArgChange: true });
  useEffect(() => {
    if (job)
      document.title = `${String(job.number).padStart(4, '0')} ${job.customer.name} · Tembrix`;
    return () => {
      document.title = 'Tembrix';
    };
  }, [job]);
  if (!job)
    return (
      <main className="p-5">
        {error ? (
          <Failed failure={error} what="the job" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the job" />
        )}
      </main>
    );
  if (!isStep(step))
    return <Navigate replace to={`/jobs/${id}/${nextStep(jobFacts(job))?.step ?? 'hand-over'}`} />;
  // A tablet that was lent the job does not lend it on.
  const canLend = job.result === null && session?.jobId === null;
  const StepPage = STEP_PAGES[step];
  return (
    <main className="mx-auto flex w-full max-w-[1400px] grow flex-col px-5 pt-3.5 max-sm:px-2">
      <JobTag
        job={job}
        step={step}
        action={canLend && tablet.button}
        others={
          <Others jobId={job.id} stepName={(one) => (isStep(one) ? STEP_NAMES[one] : 'this job')} />
        }
      />
      {canLend && tablet.panel}
      {job.swollenBattery && job.result === null && step !== 'intake' && (
        <div className="sheet mb-3.5">
          <SwollenNotice />
        </div>
      )}
      {!mayBench && AT_THE_MACHINE.has(step) && (
        <p className="mb-3 text-muted">
          Looked at from the counter: what is done here is recorded by a technician.
        </p>
      )}
      <WhyProvider key={step}>
        <StepPage job={job} />
      </WhyProvider>
    </main>
  );
}
