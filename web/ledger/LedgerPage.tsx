import { useDeferredValue, useState } from 'react';
import type { LedgerLine } from '#contract/ledger';
import { ledgerModeText } from '#core/explaining';
import { LEDGER_MODES } from '#core/ledger';
import type { LedgerMode } from '#core/ledger';
import { measuringApi } from '../app/measuringApi.ts';
import { SelectField, TextField } from '../ui/Field.tsx';
import { MoreLines, SHOWN_MOST } from '../ui/MoreLines.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { WhyPanel, WhyProvider } from '../ui/Why.tsx';
import { Compared, Row } from './LedgerRow.tsx';
import { Shares } from './Shares.tsx';
import { Page } from '../ui/Page.tsx';

const COMPARED_MOST = 4;
const PAGE = 50;

/** What was proven here: machine × modules × slots × setting, and what came of it. */
export function LedgerPage() {
  const [search, setSearch] = useState('');
  const [mode, setMode] = useState<LedgerMode | ''>('');
  const [isTested, setTested] = useState(false);
  const [limit, setLimit] = useState(PAGE);
  const query = useDeferredValue({
    ...{ search: search.slice(0, 200), mode, limit },
    isTested: isTested ? 'true' : 'false',
  });
  const { data, error, refetch } = measuringApi.useLedgerQuery(query, {
    refetchOnMountOrArgChange: true,
  });
  const isNarrowed = search.trim() !== '' || mode !== '' || isTested;
  return (
    <Page title="Results">
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
      {data && !isNarrowed && data.total === 0 && (
        <Empty title="Nothing is proven yet.">
          Every job that is handed over adds a line: what was fitted where, and what it gained.
        </Empty>
      )}
      {data && (isNarrowed || data.total > 0) && (
        <WhyProvider>
          <div className="grid items-start gap-3.5 lg:grid-cols-[minmax(0,1fr)_20.5rem]">
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
                  label="Ran"
                  value={mode}
                  onChange={({ target }) => setMode(target.value as LedgerMode | '')}
                  options={[
                    ['', 'any'],
                    ...LEDGER_MODES.map((one) => [one, ledgerModeText(one)] as const),
                  ]}
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
              <Lines lines={data.lines} />
              <MoreLines
                shown={data.lines.length}
                total={data.total}
                onMore={() => setLimit(Math.min(SHOWN_MOST, limit + PAGE))}
              />
            </div>
            <aside aria-label="Reasons" className="grid gap-3.5">
              <WhyPanel />
              <Shares />
            </aside>
          </div>
        </WhyProvider>
      )}
    </Page>
  );
}

function Lines({ lines }: { readonly lines: readonly LedgerLine[] }) {
  // Lines, not their ids: what is compared stays while other lines are looked for.
  const [compared, setCompared] = useState<readonly LedgerLine[]>([]);
  const isCompared = ({ jobId }: LedgerLine) => compared.some((one) => one.jobId === jobId);
  const toggle = (line: LedgerLine) =>
    setCompared(
      isCompared(line)
        ? compared.filter((one) => one.jobId !== line.jobId)
        : [...compared, line].slice(-COMPARED_MOST),
    );
  return (
    <>
      {compared.length > 1 && <Compared lines={compared} />}
      {lines.length === 0 ? (
        <Empty title="No line fits.">Search for less, or for any mode.</Empty>
      ) : (
        <div className="sheet overflow-x-auto p-0!">
          <table className="w-full text-left">
            <caption className="sr-only">What closed jobs proved</caption>
            <TableHead
              heads={['Compare', 'Job', 'Machine and modules', 'Ran', 'Stable', 'Gains']}
            />
            <tbody>
              {lines.map((line) => (
                <Row
                  key={line.jobId}
                  line={line}
                  isCompared={isCompared(line)}
                  onToggle={() => toggle(line)}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}
