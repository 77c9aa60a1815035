import { useMemo } from 'react';
import { Link } from 'react-router';
import { jobHeadline, jobProof, snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { explainGain } from '#core/explaining';
import { api } from '../app/api.ts';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';
import { MemoryTests } from './fault/MemoryTests.tsx';
import { MakeExercise } from './MakeExercise.tsx';
import { AsideSheet, Part, StepLayout } from './StepLayout.tsx';

/** What a job is closed with, and where it is saved. */
const LACKING = [
  { kind: 'as-found', step: 'inspect', name: 'Record what was found' },
  { kind: 'as-fitted', step: 'fit', name: 'Record what was fitted' },
] as const;

/** The verdict in words, the memory test, the report, and the end of the job. */
export function HandOverStep({ job }: { readonly job: Job }) {
  const proof = useMemo(() => jobProof(job), [job]);
  const [close] = api.useCloseJobMutation();
  const [reopen] = api.useReopenJobMutation();
  const closing = useSave(close);
  const reopening = useSave(reopen);
  const isClosed = job.result !== null;
  const own = { id: job.id, body: { version: job.version } };
  return (
    <StepLayout
      aside={
        <>
          <AsideSheet title="Report" hint="one page for the customer">
            <Link
              className="link flex min-h-10 items-center font-bold"
              to={`/jobs/${job.id}/report`}
            >
              Open the report to print
            </Link>
            <a className="link flex min-h-10 items-center" href={`/api/jobs/${job.id}/report.pdf`}>
              PDF with the technician’s appendix
            </a>
          </AsideSheet>
          {isClosed && (
            <AsideSheet title="Practice" hint="for whoever learns next">
              <MakeExercise jobId={job.id} />
            </AsideSheet>
          )}
        </>
      }
      bar={
        <AnswerBar
          label="Hand over"
          actions={
            isClosed ? (
              <Button onClick={() => void reopening.save(own)}>Open again</Button>
            ) : (
              <Button look="main" disabled={!proof} onClick={() => void closing.save(own)}>
                Hand over and close
              </Button>
            )
          }
        >
          <Answer label={isClosed ? 'Closed with' : 'Verdict'}>
            {job.result?.headline ?? (proof ? jobHeadline(job, proof) : 'Nothing to hand over yet')}
          </Answer>
        </AnswerBar>
      }
    >
      <Part title="What was proven">
        {proof && proof.metrics.length > 0 ? (
          <ul className="grid gap-3">
            {proof.metrics.map((metric) => {
              const { title, why, mend } = explainGain(metric);
              const verdict = metric.gain?.verdict;
              const kind =
                verdict === 'gain'
                  ? 'ok'
                  : verdict === 'loss'
                    ? 'stop'
                    : verdict === 'inside noise'
                      ? 'same'
                      : 'caution';
              return (
                <li key={`${metric.metric} ${metric.test}`}>
                  <Notice kind={kind} title={`${metric.test}: ${title}`} why={why} mend={mend} />
                </li>
              );
            })}
          </ul>
        ) : (
          <Notice
            kind="caution"
            title="Nothing was measured"
            why="The report can say what is fitted, not what it gained."
            mend="Measure before and after under Prove."
          />
        )}
      </Part>
      <Part title="Memory test">
        <MemoryTests job={job} isClosed={isClosed} faultAt={`/jobs/${job.id}/fault`} />
      </Part>
      {!proof && (
        <Part title="Before it is closed">
          <Notice
            kind="caution"
            title="Not ready to close"
            why="A job is closed with a record of what was found and what was fitted."
            mend="Save both. If nothing was changed, record what was found as fitted."
          >
            <p className="flex flex-wrap gap-x-4">
              {LACKING.filter(({ kind }) => !snapshotOf(job, kind)).map(({ step, name }) => (
                <Link
                  key={step}
                  className="link inline-flex min-h-10 items-center font-bold"
                  to={`/jobs/${job.id}/${step}`}
                >
                  {name}
                </Link>
              ))}
            </p>
          </Notice>
        </Part>
      )}
      <SaveNotice state={closing.state} sides={() => []} />
      <SaveNotice state={reopening.state} />
    </StepLayout>
  );
}
