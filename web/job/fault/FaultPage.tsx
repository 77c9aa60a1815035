import { useMemo, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { jobSituation } from '#contract/jobBench';
import type { Job } from '#contract/records';
import { SYMPTOMS, diagnose, modelOf } from '#core/diagnosing';
import type { Diagnosis, Suggestion, Symptom } from '#core/diagnosing';
import {
  SAFETY_FIRST,
  SYMPTOM_WORDS,
  causeText,
  checkText,
  explainCause,
  explainContradictoryChecks,
  percent,
  rulesOutText,
  slotNames,
} from '#core/explaining';
import type { NameOf } from '#core/explaining';
import { api } from '../../app/api.ts';
import { Answer, AnswerBar } from '../../ui/AnswerBar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { ProblemNotice } from '../../ui/ProblemNotice.tsx';
import { Failed, Loading } from '../../ui/States.tsx';
import { WhyProvider } from '../../ui/Why.tsx';
import { JobTag } from '../JobTag.tsx';
import { AsideSheet, Part, StepLayout } from '../StepLayout.tsx';
import { Signed } from '../fit/Signed.tsx';
import { WithBench } from '../fit/WithBench.tsx';
import type { Bench } from '../fit/useBench.ts';
import { CheckCard } from './CheckCard.tsx';
import { ErrorAddresses } from './ErrorAddresses.tsx';
import { FaultActions } from './FaultActions.tsx';
import { Made, Suspects } from './FaultLists.tsx';
import { MemoryTests } from './MemoryTests.tsx';

/** Fault-finding on a job: the likeliest causes, and the check that tells most per minute. */
export function FaultPage() {
  const { id = '' } = useParams();
  const { data: job, error, refetch } = api.useJobQuery(id, { refetchOnMountOrArgChange: true });
  return (
    <main className="mx-auto flex w-full max-w-[1400px] grow flex-col px-5 pt-3.5 max-sm:px-2">
      {job ? (
        <>
          <JobTag job={job} step="fit" />
          <WhyProvider>
            <WithBench job={job}>{(bench) => <FaultFinding job={job} bench={bench} />}</WithBench>
          </WhyProvider>
        </>
      ) : error ? (
        <Failed failure={error} what="the job" onRetry={() => void refetch()} />
      ) : (
        <Loading what="the job" />
      )}
    </main>
  );
}

interface FaultFindingProps {
  readonly job: Job;
  readonly bench: Bench;
}

function FaultFinding({ job, bench }: FaultFindingProps) {
  const { fault } = bench.state;
  return fault ? (
    <Finding job={job} bench={bench} symptom={fault.symptom} />
  ) : (
    <FirstQuestion job={job} bench={bench} />
  );
}

/** How the fault shows, after the one question that comes before all others. */
function FirstQuestion({ job, bench }: FaultFindingProps) {
  const [search] = useSearchParams();
  const asked = SYMPTOMS.find((one) => one === search.get('symptom'));
  const [handsIn, setHandsIn] = useState(bench.state.isTouched);
  const begin = (symptom: Symptom) => bench.add({ type: 'symptom', symptom, handsIn });
  return (
    <div className="sheet">
      <Part title="First of all">
        <Notice kind="stop" title={SAFETY_FIRST} />
      </Part>
      <Part title="What is the symptom?" action={<Signed />}>
        {bench.failure && <ProblemNotice failure={bench.failure} />}
        <label className="mb-2 flex min-h-10 items-center gap-3">
          <input
            type="checkbox"
            className="size-5"
            checked={handsIn}
            onChange={({ target }) => setHandsIn(target.checked)}
          />
          It was opened since it last worked
        </label>
        <div className="grid gap-2 sm:grid-cols-2">
          {SYMPTOMS.map((symptom) => (
            <Button
              key={symptom}
              look={symptom === asked ? 'main' : 'plain'}
              className="min-h-12 text-left"
              disabled={job.result !== null}
              onClick={() => begin(symptom)}
            >
              {SYMPTOM_WORDS[symptom]}
            </Button>
          ))}
        </div>
        {Object.keys(bench.state.placement).length === 0 && (
          <div className="mt-3">
            <Notice
              kind="caution"
              title="It is not on record what sits in the machine"
              why="Without it, checks cannot name slots."
              mend="Enter at Inspect what should be in it, as the labels say."
            />
          </div>
        )}
      </Part>
    </div>
  );
}

function Finding({ job, bench, symptom }: FaultFindingProps & { readonly symptom: Symptom }) {
  const nameOf = slotNames(job.machine.machine);
  const observations = useMemo(() => bench.state.fault?.observations ?? [], [bench.state.fault]);
  const model = useMemo(() => modelOf(jobSituation(job, bench, symptom)), [job, bench, symptom]);
  const diagnosis = useMemo(() => diagnose(model, observations), [model, observations]);
  const [chosen, setChosen] = useState<string>();
  const { next, others, suspects, state, contradiction } = diagnosis;
  const shown = others.find(({ check }) => check.id === chosen) ?? next;
  const [top] = suspects;
  const isClosed = job.result !== null;
  return (
    <StepLayout
      aside={
        <>
          <AsideSheet title="Causes" hint="most likely first">
            <Suspects diagnosis={diagnosis} model={model} nameOf={nameOf} />
          </AsideSheet>
          <AsideSheet title="Made so far">
            <Made job={job} bench={bench} model={model} nameOf={nameOf} />
          </AsideSheet>
        </>
      }
      bar={
        <AnswerBar
          label="Fault-finding"
          actions={
            <Link className="link flex min-h-10 items-center font-bold" to={`/jobs/${job.id}/fit`}>
              Back to the sheet
            </Link>
          }
        >
          <Answer
            label={state === 'found' ? 'Found' : state === 'mended' ? 'Mended' : 'Most likely'}
            why={top && [explainCause(top.cause, model.traits, nameOf)]}
          >
            {top ? `${causeText(top.cause, nameOf)} · ${percent(top.chance)}` : 'Nothing fits'}
          </Answer>
          {state === 'open' && next && (
            <div className="max-sm:hidden">
              <Answer label="Next check">
                {checkText(next.check, nameOf)} · {Math.round(next.minutes)} min
              </Answer>
            </div>
          )}
        </AnswerBar>
      }
    >
      {bench.failure && <ProblemNotice failure={bench.failure} />}
      <Part
        title={SYMPTOM_WORDS[symptom]}
        hint="one fault at a time is assumed"
        action={<Signed />}
      >
        {contradiction && (
          <Notice alert kind="stop" {...explainContradictoryChecks(contradiction, model, nameOf)} />
        )}
        <StateNotice state={state} />
        {(state === 'found' || state === 'mended' || state === 'stuck') && top && !isClosed && (
          <FaultActions job={job} bench={bench} suspects={suspects} nameOf={nameOf} />
        )}
        {state === 'open' && shown && (
          <CheckCard
            key={shown.check.id}
            {...{ suggestion: shown, nameOf, isClosed }}
            onSeen={(outcome) => {
              bench.add({ type: 'seen', checkId: shown.check.id, outcome });
              setChosen(undefined);
            }}
          />
        )}
      </Part>
      {state === 'open' && <OtherChecks others={others} nameOf={nameOf} onChoose={setChosen} />}
      <Part title="Memory tests">
        <MemoryTests job={job} isClosed={isClosed} />
        <ErrorAddresses job={job} bench={bench} model={model} />
      </Part>
      {!isClosed && (
        <Part title="Another fault?">
          <Button
            look="quiet"
            onClick={() => bench.add({ type: 'undo', of: bench.state.fault?.entryId ?? '' })}
          >
            start over with another symptom
          </Button>
        </Part>
      )}
    </StepLayout>
  );
}

function StateNotice({ state }: { readonly state: Diagnosis['state'] }) {
  if (state === 'mended')
    return (
      <Notice
        kind="ok"
        title="The fault is gone"
        why="Take the readings again, and run a memory test before it goes out."
      />
    );
  if (state === 'stuck')
    return (
      <Notice
        kind="caution"
        title="No check left tells the causes apart"
        why="What is left are the causes beside, in this order of likelihood."
        mend="Go back to the last state that worked, step by step: the sheet for it is under Fit, “Restore what was found”. Then change one thing at a time, or ask whoever makes the board."
      />
    );
  return null;
}

interface OtherChecksProps {
  readonly others: readonly Suggestion[];
  readonly nameOf: NameOf;
  readonly onChoose: (checkId: string) => void;
}

/** Checks that tell less per minute than the one proposed; pressing one shows it instead. */
function OtherChecks({ others, nameOf, onChoose }: OtherChecksProps) {
  if (others.length === 0) return null;
  return (
    <Part
      title="Other checks worth it"
      hint="best first, with how much of the doubt each should end"
    >
      <ul className="grid gap-1 sm:grid-cols-2">
        {others.slice(0, 6).map(({ check, bits, minutes }) => (
          <li key={check.id}>
            <Button
              look="quiet"
              className="text-left text-aside"
              onClick={() => onChoose(check.id)}
            >
              {checkText(check, nameOf)}
            </Button>
            <span className="text-aside text-muted">
              {' '}
              {Math.round(minutes)} min, {rulesOutText(bits)}
            </span>
          </li>
        ))}
      </ul>
    </Part>
  );
}
