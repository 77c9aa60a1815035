import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import type { Ledger, LedgerLine } from '#contract/ledger';
import {
  explainRefit,
  figure,
  ledgerGainText,
  ledgerModules,
  ledgerStanding,
  refitBands,
} from '#core/explaining';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { Mark } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { useSave } from '../ui/useSave.ts';
import { WhyLink, WhyPanel, WhyProvider } from '../ui/Why.tsx';

const MODES = ['paired', 'partly paired', 'one channel wide', 'not known'] as const;
const COMPARED_MOST = 4;

/** What was proven here: machine × modules × slots × setting, and what came of it. */
export function LedgerPage() {
  const { data, error, refetch } = api.useLedgerQuery(undefined, {
    refetchOnMountOrArgChange: true,
  });
  return (
    <main className="mx-auto w-full max-w-[1400px] px-5 py-4">
      <h1 className="text-answer font-bold">Ledger</h1>
      <p className="mb-3 text-muted">
        What closed jobs proved. Parts that passed a memory test count as listed when the same
        machine is planned again.
      </p>
      {!data &&
        (error ? (
          <Failed failure={error} what="the ledger" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the ledger" />
        ))}
      {data?.lines.length === 0 && (
        <Empty title="Nothing is proven yet.">
          Every job that is handed over adds a line: what was fitted where, and what it gained.
        </Empty>
      )}
      {data && data.lines.length > 0 && (
        <WhyProvider>
          <div className="grid items-start gap-3.5 lg:grid-cols-[minmax(0,1fr)_20.5rem]">
            <Lines lines={data.lines} />
            <aside aria-label="Reasons" className="grid gap-3.5">
              <WhyPanel />
              <section className="sheet">
                <h2 className="mb-2 font-bold">What predictions go by</h2>
                <ul className="grid gap-1.5">
                  {refittedFirst(data.shares).map((one) => {
                    const reason = explainRefit(one);
                    return (
                      <li key={one.assumed.id} className="flex items-start gap-2 text-aside">
                        <Mark kind={one.isRefitted ? 'ok' : 'same'} />
                        <span className="grow">
                          {reason.title}
                          <span className="block text-muted">{refitBands(one)}</span>
                        </span>
                        <WhyLink title={one.assumed.name} reasons={[reason]} />
                      </li>
                    );
                  })}
                </ul>
                <OddJobs {...{ data }} />
              </section>
            </aside>
          </div>
        </WhyProvider>
      )}
    </main>
  );
}

/** Jobs that others do not bear out: named, and one press leaves them out. */
function OddJobs({ data }: { readonly data: Ledger }) {
  const [leaveOut] = api.useLeaveOutMutation();
  const saving = useSave(leaveOut);
  const left = data.lines.filter(({ isLeftOut }) => isLeftOut);
  if (data.odd.length === 0 && left.length === 0) return null;
  const number = (one: number) => String(one).padStart(4, '0');
  return (
    <div className="mt-3 grid gap-2 text-aside">
      {data.odd.map(({ jobId, jobNumber, activity, factor, expected }) => (
        <Notice
          key={`${jobId} ${activity}`}
          kind="caution"
          title={`Job ${number(jobNumber)} is unlike the others`}
          why={`It gained ×${figure(factor)} where the others make it ×${figure(expected)}, so it counts for next to nothing. Minutes for seconds, before and after exchanged, or another file?`}
        >
          <Button
            look="quiet"
            onClick={() => void saving.save({ id: jobId, body: { isLeftOut: true } })}
          >
            Leave job {number(jobNumber)} out
          </Button>
        </Notice>
      ))}
      {left.map(({ jobId, jobNumber }) => (
        <p key={jobId} className="flex flex-wrap items-center gap-2">
          Job {number(jobNumber)} is left out of predictions.
          <Button
            look="quiet"
            onClick={() => void saving.save({ id: jobId, body: { isLeftOut: false } })}
          >
            Count it again
          </Button>
        </p>
      ))}
      <SaveNotice state={saving.state} />
    </div>
  );
}

/** What this shop's own jobs say stands before what is merely assumed. */
const refittedFirst = (shares: Ledger['shares']) =>
  [...shares].sort((a, b) => Number(b.isRefitted) - Number(a.isRefitted));

function Lines({ lines }: { readonly lines: readonly LedgerLine[] }) {
  const [search, setSearch] = useState('');
  const [mode, setMode] = useState('');
  const [isTested, setTested] = useState(false);
  const [compared, setCompared] = useState<readonly string[]>([]);
  const shown = useMemo(() => {
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    return lines.filter(({ entry, jobNumber }) => {
      const text = `${jobNumber} ${entry.machineName} ${ledgerModules(entry)} ${entry.rate} ${entry.setting} ${entry.gains.map(({ test }) => test).join(' ')}`;
      return (
        (mode === '' || entry.mode === mode) &&
        (!isTested || entry.stable !== null) &&
        words.every((word) => text.toLowerCase().includes(word))
      );
    });
  }, [lines, search, mode, isTested]);
  const toggle = (id: string) =>
    setCompared(
      compared.includes(id)
        ? compared.filter((one) => one !== id)
        : [...compared, id].slice(-COMPARED_MOST),
    );
  const picked = lines.filter(({ jobId }) => compared.includes(jobId));
  return (
    <div className="grid min-w-0 gap-3.5">
      <div className="sheet flex flex-wrap items-end gap-3">
        <div className="grow basis-60">
          <TextField
            label="Find"
            type="search"
            placeholder="machine, part, rate, test"
            value={search}
            onChange={({ target }) => setSearch(target.value)}
          />
        </div>
        <SelectField
          label="Mode"
          value={mode}
          onChange={({ target }) => setMode(target.value)}
          options={[['', 'any'], ...MODES.map((one) => [one, one] as const)]}
        />
        <label className="flex min-h-10 items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={isTested}
            onChange={({ target }) => setTested(target.checked)}
          />
          memory test passed
        </label>
      </div>
      {picked.length > 1 && <Compared lines={picked} />}
      {shown.length === 0 ? (
        <Empty title="No line fits.">Search for less, or for any mode.</Empty>
      ) : (
        <div className="sheet overflow-x-auto p-0!">
          <table className="w-full text-left">
            <caption className="sr-only">What closed jobs proved</caption>
            <TableHead
              heads={['Compare', 'Job', 'Machine and modules', 'Ran', 'Stable', 'Gains']}
            />
            <tbody>
              {shown.map((line) => (
                <Row
                  key={line.jobId}
                  line={line}
                  isCompared={compared.includes(line.jobId)}
                  onToggle={() => toggle(line.jobId)}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}

const numberOf = ({ jobNumber }: LedgerLine) => String(jobNumber).padStart(4, '0');
const ranText = ({ entry: { rate, setting, mode } }: LedgerLine) =>
  `${rate} MT/s, ${setting}, ${mode}`;

interface RowProps {
  readonly line: LedgerLine;
  readonly isCompared: boolean;
  readonly onToggle: () => void;
}

function Row({ line, isCompared, onToggle }: RowProps) {
  const { entry, days, cameBack } = line;
  return (
    <tr className="border-b border-line align-top last:border-0">
      <td className="px-3 py-2">
        <input
          type="checkbox"
          className="size-6"
          aria-label={`Compare job ${numberOf(line)}`}
          checked={isCompared}
          onChange={onToggle}
        />
      </td>
      <td className="px-3 py-2">
        <Link className="link font-bold" to={`/jobs/${line.jobId}/prove`}>
          {numberOf(line)}
        </Link>
        <span className="block text-aside whitespace-nowrap text-muted">
          {line.closedAt.slice(0, 10)}
        </span>
      </td>
      <td className="px-3 py-2 break-words">
        <b>{entry.machineName}</b>
        <span className="figure block text-aside">{ledgerModules(entry) || 'no modules'}</span>
        {entry.isSimulated && (
          <span className="block text-aside text-caution">simulated: not used for plans</span>
        )}
      </td>
      <td className="px-3 py-2">{ranText(line)}</td>
      <td className="px-3 py-2">
        <span className="flex gap-2">
          <Mark kind={cameBack ? 'caution' : entry.stable ? 'ok' : 'same'} />
          {ledgerStanding(entry, days, cameBack)}
        </span>
      </td>
      <td className="px-3 py-2">
        {entry.gains.length === 0 ? (
          <span className="text-muted">none measured</span>
        ) : (
          <ul>
            {entry.gains.map((gain) => (
              <li key={`${gain.metric} ${gain.test}`}>
                {gain.test}{' '}
                <span className="whitespace-nowrap tabular-nums">
                  {ledgerGainText(gain).slice(gain.test.length + 1)}
                </span>
              </li>
            ))}
          </ul>
        )}
      </td>
    </tr>
  );
}

/** Two to four lines side by side, test by test. */
function Compared({ lines }: { readonly lines: readonly LedgerLine[] }) {
  const tests = [...new Set(lines.flatMap(({ entry }) => entry.gains.map(({ test }) => test)))];
  const rows: [string, (line: LedgerLine) => string][] = [
    ['Modules', ({ entry }) => ledgerModules(entry)],
    ['Ran', ranText],
    ['Stable', ({ entry, days, cameBack }) => ledgerStanding(entry, days, cameBack)],
    ...tests.map((test): [string, (line: LedgerLine) => string] => [
      test,
      ({ entry }) => {
        const gain = entry.gains.find((one) => one.test === test);
        return gain ? ledgerGainText(gain).slice(test.length + 1) : 'not measured';
      },
    ]),
  ];
  return (
    <div className="sheet overflow-x-auto">
      <table className="w-full text-left">
        <caption className="mb-1 text-left font-bold">Side by side</caption>
        <thead>
          <tr className="border-b border-edge">
            <td />
            {lines.map((line) => (
              <th key={line.jobId} scope="col" className="px-2 py-1">
                {numberOf(line)} {line.entry.machineName}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, text]) => (
            <tr key={name} className="border-b border-line align-top last:border-0">
              <th scope="row" className="py-1 pr-2 font-normal text-muted">
                {name}
              </th>
              {lines.map((line) => (
                <td key={line.jobId} className="px-2 py-1 tabular-nums">
                  {text(line)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
