import type { ProbeRecord } from '#contract/measuring';
import { PROBE_MARK_WORDS, figure, probeText, momentText } from '#core/explaining';
import { measuringApi } from '../../app/measuringApi.ts';
import { Mark } from '../../ui/Mark.tsx';

interface PageResultsProps {
  readonly jobId: string;
  readonly kind: 'as-found' | 'as-fitted';
}

const WAY_WORDS: Readonly<Record<ProbeRecord['way'], string>> = {
  sent: 'sent by the page',
  code: 'by code',
  file: 'by file',
  simulated: 'simulated',
};

/** Results of the page for one side: what came, how, and what to know before believing it. */
export function PageResults({ jobId, kind }: PageResultsProps) {
  const { data = [] } = measuringApi.useResultsQuery(jobId);
  const own = data.filter((one) => one.kind === kind);
  if (own.length === 0) return null;
  return (
    <ul className="grid gap-2" aria-label="Results of the measuring page">
      {own.map((one) => (
        <li key={one.id}>
          <details>
            <summary className="min-h-10 cursor-pointer content-center">
              <b className="figure">{probeText(one.result)}</b>{' '}
              <span className="text-aside text-muted">
                {WAY_WORDS[one.way]}, {one.by}, {momentText(one.at)}
              </span>
            </summary>
            <Details record={one} />
          </details>
          {one.result.marks
            .filter((mark) => mark !== 'hidden')
            .map((mark) => (
              <p key={mark} className="flex items-start gap-2 text-aside">
                <Mark kind={mark === 'simulated' ? 'note' : 'caution'} />
                {PROBE_MARK_WORDS[mark]}
              </p>
            ))}
        </li>
      ))}
    </ul>
  );
}

/** The ramp, the steps and the rest; a code carries only the runs. */
function Details({ record: { result } }: { readonly record: ProbeRecord }) {
  if (!('ramp' in result))
    return <p className="text-muted">A code carries five runs of each test and no more.</p>;
  const { ramp, steps, random, footprint, isolated, pattern } = result;
  const rows: [string, string][] = [
    ...ramp.map(({ threads, rate }): [string, string] => [
      threads === 1 ? 'Read, 1 thread' : `Read, ${threads} threads`,
      `${figure(rate)} GB/s`,
    ]),
    ...random.map(({ chains, rate }): [string, string] => [
      `Random access, ${chains} parallel`,
      `${figure(rate)} GB/s`,
    ]),
    ...steps.map(({ kib, ns }): [string, string] => [
      `Latency over ${kib < 1024 ? `${kib} KB` : `${Math.round(kib / 1024)} MB`}`,
      `${figure(ns)} ns`,
    ]),
    ['Memory covered', `${figure(footprint)} MB`],
    ['Clock', isolated ? 'fine' : 'coarse, as usual on a shop’s network'],
    ...(pattern
      ? [
          [
            'Pattern check beside the system',
            `${pattern.wrong === 0 ? 'no fault' : `${pattern.wrong} faults`} in ${pattern.mib} MB, ${pattern.rounds} rounds`,
          ] as [string, string],
        ]
      : []),
  ];
  return (
    <dl className="grid max-w-3xl grid-cols-[auto_1fr] gap-x-4 py-1 text-aside sm:grid-cols-[auto_1fr_auto_1fr]">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-muted">{name}</dt>
          <dd className="figure font-bold">{value}</dd>
        </div>
      ))}
    </dl>
  );
}
