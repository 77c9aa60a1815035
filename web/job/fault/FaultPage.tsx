import { useMemo, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { jobSituation } from '#contract/jobBench';
import type { Job } from '#contract/records';
import { SYMPTOMS, diagnose, modelOf } from '#core/diagnosing';
import type { Diagnosis, Model, Suggestion, Symptom } from '#core/diagnosing';
import {
  RISK_WORDS,
  SAFETY_FIRST,
  SYMPTOM_WORDS,
  causeText,
  checkHow,
  checkText,
  explainCause,
  explainContradictoryChecks,
  outcomeText,
  percent,
  ruledOutText,
  slotNames,
} from '#core/explaining';
import type { NameOf } from '#core/explaining';
import { api } from '../../app/api.ts';
import { Answer, AnswerBar } from '../../ui/AnswerBar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { ProblemNotice } from '../../ui/ProblemNotice.tsx';
import { Failed, Loading } from '../../ui/States.tsx';
import { WhyLink, WhyProvider } from '../../ui/Why.tsx';
import { JobTag } from '../JobTag.tsx';
import { AsideSheet, Part, StepLayout } from '../StepLayout.tsx';
import { Signed } from '../fit/Signed.tsx';
import { useBench } from '../fit/useBench.ts';
import type { Bench } from '../fit/useBench.ts';
import { ErrorAddresses } from './ErrorAddresses.tsx';
import { FaultActions } from './FaultActions.tsx';
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
            <FaultFinding job={job} />
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

function FaultFinding({ job }: { readonly job: Job }) {
  const bench = useBench(job);
  const { fault } = bench.state;
  return fault ? (
    <Finding job={job} bench={bench} symptom={fault.symptom} />
  ) : (
    <FirstQuestion job={job} bench={bench} />
  );
}

interface QuestionProps {
  readonly job: Job;
  readonly bench: Bench;
}

/** How the fault shows, after the one question that comes before all others. */
function FirstQuestion({ job, bench }: QuestionProps) {
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

function Finding({ job, bench, symptom }: QuestionProps & { readonly symptom: Symptom }) {
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
        {state === 'mended' && (
          <Notice
            kind="ok"
            title="The fault is gone"
            why="Take the readings again, and run a memory test before it goes out."
          />
        )}
        {state === 'stuck' && (
          <Notice
            kind="caution"
            title="No check left tells the causes apart"
            why="What is left are the causes beside, in this order of likelihood."
            mend="Go back to the last state that worked, step by step: the sheet for it is under Fit, “Restore what was found”. Then change one thing at a time, or ask whoever makes the board."
          />
        )}
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
      {state === 'open' && others.length > 0 && (
        <Part title="Other checks worth it" hint="best first">
          <ul className="grid gap-1 sm:grid-cols-2">
            {others.slice(0, 6).map(({ check, bits, minutes }) => (
              <li key={check.id}>
                <Button
                  look="quiet"
                  className="text-left text-aside"
                  onClick={() => setChosen(check.id)}
                >
                  {checkText(check, nameOf)}
                </Button>
                <span className="text-aside text-muted">
                  {' '}
                  {Math.round(minutes)} min, {bits.toFixed(1)} bit
                </span>
              </li>
            ))}
          </ul>
        </Part>
      )}
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

interface CheckCardProps {
  readonly suggestion: Suggestion;
  readonly nameOf: NameOf;
  readonly isClosed: boolean;
  readonly onSeen: (outcome: string) => void;
}

/** The check to make: how, what to mind, and for each answer what it would leave as likeliest. */
function CheckCard({ suggestion, nameOf, isClosed, onSeen }: CheckCardProps) {
  const { check, minutes, prospects } = suggestion;
  const risk = RISK_WORDS[check.risk];
  return (
    <div className="grid gap-3">
      <div>
        <p className="text-answer font-bold">{checkText(check, nameOf)}</p>
        <p className="max-w-prose">
          {checkHow(check)}{' '}
          <span className="text-muted">
            {check.hands} min of work{check.waits > 0 && `, ${check.waits} min by itself`};{' '}
            {Math.round(minutes)} min bench time.
          </span>
        </p>
      </div>
      {risk && (
        <p className="flex items-start gap-2">
          <Mark kind={check.risk === 'can lose the board' ? 'stop' : 'caution'} />
          <span>{risk}</span>
        </p>
      )}
      <ul className="grid gap-2">
        {prospects.map(({ outcome, chance, leading }) => (
          <li
            key={outcome}
            className="grid items-center gap-x-3 sm:grid-cols-[minmax(0,15rem)_1fr]"
          >
            <Button
              className="min-h-12 text-left"
              disabled={isClosed}
              onClick={() => onSeen(outcome)}
            >
              {outcomeText(check, outcome, nameOf)}
            </Button>
            <span className="text-aside text-muted">
              expected in {percent(chance)}; then most likely: {causeText(leading.cause, nameOf)},{' '}
              {percent(leading.chance)}
            </span>
          </li>
        ))}
        <li>
          <Button look="quiet" disabled={isClosed} onClick={() => onSeen('unknown')}>
            I don’t know, or cannot check it
          </Button>
        </li>
      </ul>
    </div>
  );
}

interface ListProps {
  readonly model: Model;
  readonly nameOf: NameOf;
}

function Suspects({ diagnosis, model, nameOf }: ListProps & { readonly diagnosis: Diagnosis }) {
  const out = ruledOutText(model);
  return (
    <>
      <ol className="grid gap-1.5">
        {diagnosis.suspects.slice(0, 6).map(({ cause, chance }) => (
          <li key={cause.id}>
            <p className="flex items-baseline gap-2 text-aside">
              <span className="min-w-0 grow break-words">{causeText(cause, nameOf)}</span>
              <WhyLink
                title={causeText(cause, nameOf)}
                reasons={[explainCause(cause, model.traits, nameOf)]}
              />
              <b className="figure">{percent(chance)}</b>
            </p>
            <div aria-hidden className="h-2">
              <div
                className="h-full min-w-0.5 rounded-sm bg-teal"
                style={{ width: `${chance * 100}%` }}
              />
            </div>
          </li>
        ))}
      </ol>
      {out.length > 0 && (
        <details className="mt-3 text-aside">
          <summary className="min-h-8 cursor-pointer">Ruled out: {out.length}</summary>
          <ul className="mt-1 grid gap-1 text-muted">
            {out.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

function Made({ job, bench, model, nameOf }: QuestionProps & ListProps) {
  const observations = bench.state.fault?.observations ?? [];
  if (observations.length === 0) return <p className="text-aside text-muted">No check yet.</p>;
  return (
    <ol className="grid gap-2 text-aside">
      {observations.map(({ checkId, outcome, entryId }) => {
        const check = model.checks.find(({ id }) => id === checkId);
        return (
          <li key={entryId}>
            {check ? checkText(check, nameOf) : checkId}:{' '}
            <b>{check ? outcomeText(check, outcome, nameOf) : outcome}</b>
            {job.result === null && (
              <Button
                look="quiet"
                className="ml-1 min-h-8!"
                onClick={() => bench.add({ type: 'undo', of: entryId })}
              >
                take back
              </Button>
            )}
          </li>
        );
      })}
    </ol>
  );
}
