import { Link, useParams } from 'react-router';
import { jobMachine, jobProof, passLacking, snapshotOf } from '#contract/jobProof';
import type { Job, SnapshotKind } from '#contract/records';
import {
  explainChannels,
  figure,
  gainText,
  gb,
  pointText,
  slotNames,
  usableText,
} from '#core/explaining';
import { moduleSummary } from '#core/memory';
import { METRIC_TRAITS, mean } from '#core/proving';
import type { MetricProof, Proof } from '#core/proving';
import { api } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { Failed, Loading } from '../../ui/States.tsx';
import { WhyProvider } from '../../ui/Why.tsx';
import { LaneStrip } from '../../visuals/LaneStrip.tsx';

/** One page for the customer, in plain words, made to be printed. */
export function ReportPage() {
  const { id = '' } = useParams();
  const { data: job, error, refetch } = api.useJobQuery(id);
  if (!job)
    return (
      <main className="p-5">
        {error ? (
          <Failed failure={error} what="the report" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the report" />
        )}
      </main>
    );
  return (
    <main className="mx-auto w-full max-w-[190mm] p-5 print:p-0">
      <div className="no-print mb-3 flex gap-3">
        <Button look="main" onClick={() => print()}>
          Print
        </Button>
        <Link className="link flex min-h-10 items-center" to={`/jobs/${id}/hand-over`}>
          Back to the job
        </Link>
      </div>
      <WhyProvider>
        <Report job={job} />
      </WhyProvider>
    </main>
  );
}

function Report({ job }: { readonly job: Job }) {
  const proof = jobProof(job);
  const machine = jobMachine(job);
  const date = new Date(job.result?.closedAt ?? Date.now());
  return (
    <article className="sheet grid gap-4 p-6 print:border-0 print:p-0">
      <header className="flex flex-wrap justify-between gap-2 border-b-2 border-ink pb-2">
        <div className="min-w-0">
          <h1 className="text-answer font-bold">Memory report</h1>
          <p className="break-words">
            {job.customer.name} · {machine.name}
          </p>
        </div>
        <p className="text-right text-aside">
          Job <span className="figure font-bold">{String(job.number).padStart(4, '0')}</span>
          <br />
          {date.toLocaleDateString(undefined, { dateStyle: 'long' })}
          {!job.result && (
            <>
              <br />
              <b>draft: job still open</b>
            </>
          )}
        </p>
      </header>
      <section>
        <h2 className="font-bold">What you told us</h2>
        <p className="break-words">{job.complaint}</p>
      </section>
      <section>
        <h2 className="mb-1 font-bold">In short</h2>
        {shortStory(proof).map((sentence) => (
          <p key={sentence}>{sentence}</p>
        ))}
      </section>
      <div className="grid gap-4 sm:grid-cols-2 print:grid-cols-2">
        <Configuration job={job} kind="as-found" title="Found" />
        <Configuration job={job} kind="as-fitted" title="Fitted now" />
      </div>
      {proof?.after.type === 'runs' && (
        <section>
          <h2 className="mb-1 font-bold">How the memory lies now</h2>
          <LaneStrip machine={machine} point={proof.after} />
        </section>
      )}
      {proof && proof.metrics.length > 0 && (
        <section>
          <h2 className="mb-1 font-bold">Measured</h2>
          <table className="w-full text-left">
            <thead>
              <tr className="border-b border-edge text-aside">
                {['Test', 'Before', 'After', 'Change'].map((head) => (
                  <th key={head} scope="col" className="py-1 pr-3">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {proof.metrics.map((metric) => (
                <MeasuredRow key={`${metric.metric} ${metric.test}`} proof={metric} />
              ))}
            </tbody>
          </table>
          <p className="mt-1 text-aside text-muted">
            Means of the runs; in brackets the range the true change lies in with 95 % confidence.
          </p>
        </section>
      )}
      <footer className="border-t border-line pt-2 text-aside text-muted">
        {job.memoryTestPassed
          ? 'A full memory test passed with these modules. '
          : passLacking(job)
            ? `Not proven stable yet: ${passLacking(job)} without a memory-test pass. `
            : 'No memory-test pass is on record. '}
        Measured on this machine; other programs may gain more or less.
      </footer>
    </article>
  );
}

/** What happened, for someone who never opened a computer. */
function shortStory(proof: Proof | undefined): string[] {
  if (!proof) return ['Nothing has been fitted yet.'];
  const sentences: string[] = [];
  const { before, after, metrics, channels } = proof;
  if (after.type === 'runs') {
    const was =
      before.type === 'runs' && before.installed !== after.installed
        ? ` It had ${gb(before.installed)}.`
        : '';
    sentences.push(
      `Your machine now has ${gb(after.installed)} of memory, of which programs can use ${usableText(after)}.${was}`,
    );
  } else sentences.push('As recorded, the fitted memory would not run.');
  if (channels?.verdict.type === 'paired')
    sentences.push('The modules work side by side, which the measurement confirms.');
  else if (channels) sentences.push(`${explainChannels(channels).title}.`);
  for (const { metric, test, gain, before: was, after: is } of metrics) {
    if (!gain) continue;
    const { unit } = METRIC_TRAITS[metric];
    const figures = `${figure(mean(was))} ${unit} before, ${figure(mean(is))} ${unit} now`;
    const words = {
      gain: `“${test}”: ${figures} – ${figure(gain.factor)} times as good.`,
      loss: `“${test}”: ${figures} – worse than before.`,
      'inside noise': `“${test}”: no change beyond the usual differences from run to run.`,
      'too few runs': `“${test}” was run too few times to say how much changed.`,
    };
    sentences.push(words[gain.verdict]);
  }
  return sentences;
}

function Configuration({
  job,
  kind,
  title,
}: {
  readonly job: Job;
  readonly kind: SnapshotKind;
  readonly title: string;
}) {
  const snapshot = snapshotOf(job, kind);
  const machine = jobMachine(job);
  const proof = jobProof(job);
  const nameOf = slotNames(machine);
  const point = kind === 'as-found' ? proof?.before : proof?.after;
  return (
    <section>
      <h2 className="mb-1 font-bold">{title}</h2>
      {!snapshot && <p className="text-muted">Not on record.</p>}
      <ul>
        {machine.soldered.map(({ part }, at) => (
          <li key={at}>
            On board: <b>{gb(part.capacity)}</b>{' '}
            <span className="figure text-aside">{moduleSummary(part)}</span>
          </li>
        ))}
        {machine.slots.map(({ id }) => {
          const module = snapshot?.placement[id];
          return (
            <li key={id} className="break-words">
              {nameOf(id)}: {module ? <b>{gb(module.capacity)}</b> : 'empty'}{' '}
              {module && (
                <span className="figure text-aside">
                  {moduleSummary(module)} {module.partNumber}
                </span>
              )}
            </li>
          );
        })}
      </ul>
      {point && <p className="mt-1 text-aside">{pointText(point)}</p>}
    </section>
  );
}

function MeasuredRow({
  proof: { metric, test, before, after, gain },
}: {
  readonly proof: MetricProof;
}) {
  const { unit, name } = METRIC_TRAITS[metric];
  const show = (runs: readonly number[]) =>
    runs.length > 0 ? `${figure(mean(runs))} ${unit}` : '–';
  const change = !gain
    ? 'not compared'
    : gain.verdict === 'inside noise'
      ? `no change beyond noise ${gainText(gain)}`
      : gain.verdict === 'too few runs'
        ? 'too few runs'
        : `${gainText(gain)} ${gain.verdict === 'gain' ? 'better' : 'worse'}`;
  return (
    <tr className="border-b border-line align-top">
      <td className="py-1 pr-3 break-words">
        {test} <span className="text-aside text-muted">{name}</span>
      </td>
      <td className="figure py-1 pr-3 whitespace-nowrap">{show(before)}</td>
      <td className="figure py-1 pr-3 whitespace-nowrap">{show(after)}</td>
      <td className="py-1">{change}</td>
    </tr>
  );
}
