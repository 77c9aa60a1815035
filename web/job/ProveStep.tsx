import { useMemo } from 'react';
import { Link } from 'react-router';
import {
  jobFacts,
  jobHeadline,
  jobMachine,
  jobProof,
  passLacking,
  snapshotOf,
} from '#contract/jobProof';
import type { Job } from '#contract/records';
import {
  channelsWord,
  explainChannels,
  explainGain,
  multiplicityText,
  pointText,
  toSettleText,
} from '#core/explaining';
import { samePlacement } from '#core/machine';
import type { ChannelInference, Proof } from '#core/proving';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Mark } from '../ui/Mark.tsx';
import type { MarkKind } from '../ui/Mark.tsx';
import { Empty } from '../ui/States.tsx';
import { WhyLink } from '../ui/Why.tsx';
import { ProofStrip } from '../visuals/ProofStrip.tsx';
import { FrameLogs } from './frames/FrameLogs.tsx';
import { Next } from '../ui/Next.tsx';
import { Measurements } from './runs/Measurements.tsx';
import { ShownRateCheck } from './ShownRateCheck.tsx';
import { FoldedPart, FoldedSheet } from '../ui/Folded.tsx';
import { AsideSheet, Part, StepLayout } from './StepLayout.tsx';

/** Measured runs before and after, against what was promised and what is possible. */
export function ProveStep({ job }: { readonly job: Job }) {
  const proof = useMemo(() => jobProof(job), [job]);
  const more = proof && openQuestion(proof);
  const together = proof && multiplicityText(proof);
  return (
    <StepLayout
      aside={
        <>
          <AsideSheet title="Checks">
            <Checks job={job} proof={proof} />
          </AsideSheet>
          {proof?.channels && (
            <AsideSheet title="Channel mode" hint="from bandwidth">
              <ChannelOdds inference={proof.channels} jobId={job.id} />
            </AsideSheet>
          )}
          {proof?.after.type === 'runs' && (
            <FoldedSheet title="Rate on a screen" hint="clock or data rate?">
              <ShownRateCheck key={job.id} point={proof.after} />
            </FoldedSheet>
          )}
        </>
      }
      bar={
        <AnswerBar label="Verdict" actions={<NextAfterProve job={job} />}>
          <Answer label="Verdict" why={verdictReasons(proof)}>
            {proof ? jobHeadline(job, proof) : 'Nothing to judge yet'}
          </Answer>
          {more && <Answer label="Still open">{more}</Answer>}
        </AnswerBar>
      }
    >
      <Part title="Proof strip" hint="grey before · copper after · each dot one run">
        {proof && proof.metrics.length > 0 ? (
          comparedFirst(proof.metrics).map((metric) => (
            <ProofStrip key={`${metric.metric} ${metric.test}`} proof={metric} />
          ))
        ) : (
          <Empty title={proof ? 'Nothing is measured yet.' : notFittedText(job)}>
            Three runs before and three after, under the same conditions, make a sound verdict.
          </Empty>
        )}
        {together && <p className="border-t border-line pt-2 text-aside text-muted">{together}</p>}
      </Part>
      {/* Until something is fitted, the baseline is what can be measured now. */}
      {snapshotOf(job, 'as-fitted') ? (
        <>
          <RunsAfter job={job} />
          <Baseline job={job} />
        </>
      ) : (
        <>
          <Baseline job={job} />
          <RunsAfter job={job} />
        </>
      )}
      <FoldedPart
        title="Frame logs"
        hint="from any recorder; read in this browser, kept as runs if you say so"
      >
        <FrameLogs job={job} />
      </FoldedPart>
    </StepLayout>
  );
}

/** What is missing of a comparison while nothing is fitted. */
function notFittedText(job: Job): string {
  if (!isReady(job, 'as-found')) return 'Record what was found first.';
  return jobFacts(job).hasBaseline
    ? 'The baseline is measured; nothing is fitted yet.'
    : 'Nothing is fitted yet: measure the baseline below.';
}

/** What was planned and not fitted comes before the machine is handed over. */
function NextAfterProve({ job }: { readonly job: Job }) {
  const { hasPlan, hasYes, hasFitted } = jobFacts(job);
  if (!hasPlan || hasFitted) return <Next to={`/jobs/${job.id}/hand-over`}>Next: hand over</Next>;
  const next = hasYes ? 'fit' : 'quote';
  return <Next to={`/jobs/${job.id}/${next}`}>Next: {next}</Next>;
}

const isReady = (job: Job, kind: 'as-found' | 'as-fitted') => snapshotOf(job, kind) !== undefined;

const RunsAfter = ({ job }: { readonly job: Job }) => (
  <Measurements
    job={job}
    kind="as-fitted"
    title="Runs after fitting"
    isReady={isReady(job, 'as-fitted')}
    recordedAt="fit"
  />
);

const Baseline = ({ job }: { readonly job: Job }) => (
  <Measurements
    job={job}
    kind="as-found"
    title="Baseline"
    hint="on the modules as found"
    isReady={isReady(job, 'as-found')}
    recordedAt="inspect"
  />
);

/** What tells most stands first: compared, then refused, then still to be measured. */
function comparedFirst(metrics: Proof['metrics']): Proof['metrics'] {
  const rank = ({ gain, use, before, after }: Proof['metrics'][number]) =>
    gain || use ? 0 : before.length > 0 && after.length > 0 ? 1 : 2;
  return [...metrics].sort((a, b) => rank(a) - rank(b));
}

/** Every comparison's reasons, and the channel mode's. */
function verdictReasons(proof: Proof | undefined) {
  if (!proof || proof.metrics.length === 0) return undefined;
  return [
    ...(proof.channels ? [explainChannels(proof.channels)] : []),
    ...proof.metrics.map((metric) => {
      const { title, ...rest } = explainGain(metric);
      return { ...rest, title: `${metric.test}: ${title}` };
    }),
  ];
}

function openQuestion({ headline, channels }: Proof): string | undefined {
  if ('proof' in headline && headline.proof.gain) {
    const runs = toSettleText(headline.proof.gain);
    if (runs) return runs;
  }
  return channels?.verdict.type === "can't tell" ? explainChannels(channels).title : undefined;
}

const percent = (share: number) =>
  share > 0 && share < 0.01 ? '<1 %' : `${Math.round(share * 100)} %`;

function ChannelOdds({
  inference,
  jobId,
}: {
  readonly inference: ChannelInference;
  readonly jobId: string;
}) {
  const explanation = explainChannels(inference);
  const rows = [
    ...inference.widths.map(
      ({ width, probability }) => [channelsWord(width), probability] as const,
    ),
    ...(inference.widths.length > 0 ? [['something else', inference.neither] as const] : []),
  ];
  return (
    <>
      <p className="mb-2 flex items-start gap-2 font-bold">
        <Mark kind={channelMark(inference)} />
        <span className="grow">{explanation.title}</span>
        <WhyLink title={explanation.title} reasons={[explanation]} />
      </p>
      <dl className="grid grid-cols-[auto_1fr_auto] items-center gap-x-3 gap-y-1">
        {rows.map(([name, probability]) => (
          <div key={name} className="contents">
            <dt>{name}</dt>
            <dd aria-hidden className="h-3">
              <div
                className="h-full min-w-0.5 rounded-sm bg-teal"
                style={{ width: `${probability * 100}%` }}
              />
            </dd>
            <dd className="figure text-right font-bold">{percent(probability)}</dd>
          </div>
        ))}
      </dl>
      {(inference.verdict.type === 'one wide' || inference.verdict.type === 'partly') && (
        <Link
          className="link mt-2 flex min-h-10 items-center font-bold"
          to={`/jobs/${jobId}/fault?symptom=one+channel+wide`}
        >
          Find out why
        </Link>
      )}
      <p className="mt-2 text-aside text-muted">
        An uneven tail cannot be seen from a page: it may read from either part.
      </p>
    </>
  );
}

function channelMark({ verdict }: ChannelInference): MarkKind {
  if (verdict.type === 'paired') return 'ok';
  return verdict.type === "can't tell" || verdict.type === 'only one channel holds memory'
    ? 'caution'
    : 'stop';
}

function Checks({ job, proof }: { readonly job: Job; readonly proof: Proof | undefined }) {
  const fitted = snapshotOf(job, 'as-fitted');
  const planned = snapshotOf(job, 'planned');
  const lacking = passLacking(job);
  const asPlanned =
    fitted &&
    planned &&
    fitted.setting === planned.setting &&
    samePlacement(fitted.placement, planned.placement);
  const checks: [MarkKind, string][] = [
    fitted
      ? ['ok', `Fitted: ${proof ? pointText(proof.after) : ''}`]
      : ['caution', 'What was fitted is not on record'],
    ...(fitted && planned
      ? [
          [
            asPlanned ? 'ok' : 'caution',
            asPlanned ? 'Fitted as planned' : 'Not fitted as planned',
          ] as [MarkKind, string],
        ]
      : []),
    job.measurements.some(({ kind }) => kind === 'as-found')
      ? ['ok', 'Baseline measured']
      : ['caution', 'No baseline'],
    job.memoryTestPassed
      ? ['ok', 'Memory test passed']
      : lacking === undefined
        ? ['caution', 'No memory-test pass recorded (at hand over)']
        : ['stop', `Not proven: ${lacking} without a memory-test pass (at hand over)`],
  ];
  return (
    <ul className="grid gap-2" aria-label={`Checks on ${jobMachine(job).name}`}>
      {checks.map(([kind, text]) => (
        <li key={text} className="flex items-start gap-2">
          <Mark kind={kind} />
          <span className="min-w-0 break-words">{text}</span>
        </li>
      ))}
    </ul>
  );
}
