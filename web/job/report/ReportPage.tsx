import { Link, useParams } from 'react-router';
import type { BenchLog } from '#contract/bench';
import { jobMachine } from '#contract/jobProof';
import { jobReport } from '#contract/jobReport';
import type { ReportSection } from '#contract/jobReport';
import type { Job } from '#contract/records';
import { longDay } from '#core/explaining';
import type { ReportRow } from '#core/explaining';
import type { Machine } from '#core/machine';
import type { ShopTerms } from '#core/quoting';
import { exhausted } from '#core/units';
import { api } from '../../app/api.ts';
import { benchNow } from '../../app/benchClock.ts';
import { askAgain } from '../../ui/askAgain.ts';
import { Button } from '../../ui/Button.tsx';
import { Failed, Loading } from '../../ui/States.tsx';
import { WhyProvider } from '../../ui/Why.tsx';
import { LaneStrip } from '../../visuals/LaneStrip.tsx';

/** One page for the customer, in plain words, made to be printed. */
export function ReportPage() {
  const { id = '' } = useParams();
  const job = api.useJobQuery(id);
  const shop = api.useShopQuery();
  const bench = api.useBenchQuery(id);
  // The customer keeps it: nothing is supposed meanwhile of the shop, or of whose the pulled modules are.
  const parts = [job, shop, bench];
  const missing = parts.find(({ data, error }) => data === undefined && error !== undefined);
  if (!job.data || !shop.data || !bench.data)
    return (
      <main className="p-5">
        {missing ? (
          <Failed failure={missing.error} what="the report" onRetry={() => askAgain(...parts)} />
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
        <Report job={job.data} terms={shop.data.terms} pulledTo={bench.data.pulledTo} />
      </WhyProvider>
    </main>
  );
}

interface ReportProps {
  readonly job: Job;
  readonly terms: ShopTerms;
  readonly pulledTo: BenchLog['pulledTo'];
}

function Report({ job, terms, pulledTo }: ReportProps) {
  const machine = jobMachine(job);
  const report = jobReport(job, { terms, pulledTo, results: [] });
  return (
    <article className="sheet grid gap-3 p-6 text-body print:border-0 print:p-0 print:text-aside">
      <header className="flex flex-wrap justify-between gap-2 border-b-2 border-ink pb-2">
        <div className="min-w-0">
          <p className="font-bold text-teal">{terms.name}</p>
          <h1 className="text-answer font-bold">Memory report</h1>
          <p className="break-words">
            {job.customer.name} · {machine.name}
          </p>
        </div>
        <p className="text-right text-aside">
          Job <span className="figure font-bold">{report.number}</span>
          <br />
          {longDay(report.closedAt ?? new Date(benchNow()).toISOString())}
          {!report.closedAt && (
            <>
              <br />
              <b>draft: job still open</b>
            </>
          )}
        </p>
      </header>
      <p className="text-answer font-bold text-teal print:text-body">{report.headline}</p>
      {report.page.map((section) => (
        <section key={section.title}>
          <h2 className="font-bold">{section.title}</h2>
          <SectionBody section={section} machine={machine} />
        </section>
      ))}
      <footer className="border-t border-line pt-2 text-aside text-muted">{report.foot}</footer>
    </article>
  );
}

function SectionBody({ section, machine }: { section: ReportSection; machine: Machine }) {
  switch (section.type) {
    case 'text':
      return <p className="break-words">{section.text}</p>;
    case 'list':
      return (
        <ul className="list-disc pl-5">
          {section.texts.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      );
    case 'lanes':
      return <LaneStrip machine={machine} point={section.point} />;
    case 'bars':
      return (
        <div className="grid gap-x-6 gap-y-2 sm:grid-cols-2 print:grid-cols-2">
          {section.rows.map((row) => (
            <BeforeAndAfter key={`${row.name} ${row.test}`} row={row} />
          ))}
        </div>
      );
    case 'table':
      return null; // only in the technician's part, which is printed from the PDF
    default:
      return exhausted(section);
  }
}

/** One test as two bars to one scale, with what changed. */
function BeforeAndAfter({ row }: { readonly row: ReportRow }) {
  const { test, name, before, after, change, means } = row;
  const longest = Math.max(means.before ?? 0, means.after ?? 0) || 1;
  const sides = [
    ['before', means.before, before, 'bg-muted'],
    ['now', means.after, after, 'bg-copper'],
  ] as const;
  return (
    <div className="break-inside-avoid">
      <p className="break-words">
        <b>{test}</b> <span className="text-aside text-muted">{name.toLowerCase()}</span>
      </p>
      <dl className="grid grid-cols-[3.2rem_minmax(0,1fr)_auto] items-center gap-x-2 text-aside">
        {sides.map(([label, value, text, look]) => (
          <div key={label} className="contents">
            <dt className="text-muted">{label}</dt>
            <dd aria-hidden className="h-2.5">
              <div
                className={`h-full rounded-sm print:[print-color-adjust:exact] ${look}`}
                style={{ width: `${(100 * (value ?? 0)) / longest}%` }}
              />
            </dd>
            <dd className="figure">{text}</dd>
          </div>
        ))}
      </dl>
      <p className="font-bold">{change}</p>
    </div>
  );
}
