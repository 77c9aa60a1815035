import type { ReactNode } from 'react';
import { Link, useParams } from 'react-router';
import { jobMachine, jobProof } from '#contract/jobProof';
import { jobReport } from '#contract/jobReport';
import type { Job } from '#contract/records';
import type { ReportRow } from '#core/explaining';
import { DEFAULT_TERMS } from '#core/quoting';
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
        <a className="link flex min-h-10 items-center" href={`/api/jobs/${id}/report.pdf`}>
          PDF with the technician’s appendix
        </a>
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
  const { data: shop } = api.useShopQuery();
  const { data: bench } = api.useBenchQuery(job.id);
  const proof = jobProof(job);
  const machine = jobMachine(job);
  const report = jobReport(job, {
    terms: shop?.terms ?? DEFAULT_TERMS,
    pulledTo: bench?.pulledTo ?? 'customer',
    results: [],
  });
  const { story, rows, proven, watch, cautions, parts } = report;
  return (
    <article className="sheet grid gap-3 p-6 text-body print:border-0 print:p-0 print:text-aside">
      <header className="flex flex-wrap justify-between gap-2 border-b-2 border-ink pb-2">
        <div className="min-w-0">
          <p className="font-bold text-teal">{shop?.terms.name}</p>
          <h1 className="text-answer font-bold">Memory report</h1>
          <p className="break-words">
            {job.customer.name} · {machine.name}
          </p>
        </div>
        <p className="text-right text-aside">
          Job <span className="figure font-bold">{report.number}</span>
          <br />
          {new Date(report.closedAt ?? Date.now()).toLocaleDateString(undefined, {
            dateStyle: 'long',
          })}
          {!report.closedAt && (
            <>
              <br />
              <b>draft: job still open</b>
            </>
          )}
        </p>
      </header>
      <p className="text-answer font-bold text-teal print:text-body">{report.headline}</p>
      <Section title="What you told us">
        <p className="break-words">{job.complaint}</p>
      </Section>
      <Section title="What was done, and what it gives you">
        {[story.was, story.done, story.gives].map(
          (sentence) => sentence && <p key={sentence}>{sentence}</p>,
        )}
      </Section>
      {proof?.after.type === 'runs' && (
        <Section title="How the memory lies now">
          <LaneStrip machine={machine} point={proof.after} />
        </Section>
      )}
      {rows.length > 0 && (
        <Section title="What was measured">
          <MeasuredTable rows={rows} />
        </Section>
      )}
      <Section title="What was proven">
        <Bullets
          texts={
            rows.length > 0 ? proven : ['Nothing was measured, so no gain is claimed.', ...proven]
          }
        />
      </Section>
      <div className="grid gap-3 sm:grid-cols-2 print:grid-cols-2">
        <Section title="What to watch">
          <Bullets texts={watch} />
        </Section>
        <Section title="Please take care">
          <Bullets texts={cautions} />
        </Section>
      </div>
      {parts.length > 0 && (
        <Section title="Parts">
          <Bullets texts={parts} />
        </Section>
      )}
      <footer className="border-t border-line pt-2 text-aside text-muted">
        Measured on this machine; other programs may gain more or less.
      </footer>
    </article>
  );
}

function Section({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <section>
      <h2 className="font-bold">{title}</h2>
      {children}
    </section>
  );
}

const Bullets = ({ texts }: { readonly texts: readonly string[] }) => (
  <ul className="list-disc pl-5">
    {texts.map((text) => (
      <li key={text}>{text}</li>
    ))}
  </ul>
);

function MeasuredTable({ rows }: { readonly rows: readonly ReportRow[] }) {
  return (
    <table className="w-full text-left">
      <thead>
        <tr className="border-b border-edge text-aside">
          {['Test', 'Before', 'Now', 'Change, and how sure it is'].map((head) => (
            <th key={head} scope="col" className="py-1 pr-3">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ test, name, before, after, change, sure }) => (
          <tr key={`${name} ${test}`} className="border-b border-line align-top">
            <td className="py-0.5 pr-3 break-words">
              {test} <span className="text-aside text-muted">{name}</span>
            </td>
            <td className="figure py-0.5 pr-3 whitespace-nowrap">{before}</td>
            <td className="figure py-0.5 pr-3 whitespace-nowrap">{after}</td>
            <td className="py-0.5">
              <b>{change}</b> <span className="text-aside text-muted">{sure}</span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
