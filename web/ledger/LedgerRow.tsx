import { Link } from 'react-router';
import type { LedgerLine } from '#contract/ledger';
import {
  ledgerGainText,
  ledgerModeText,
  ledgerModules,
  ledgerStanding,
  shortDay,
} from '#core/explaining';
import { Mark } from '../ui/Mark.tsx';

const numberOf = ({ jobNumber }: LedgerLine) => String(jobNumber).padStart(4, '0');
const ranText = ({ entry: { rate, setting, mode } }: LedgerLine) =>
  `${rate} MT/s, ${setting}, ${ledgerModeText(mode)}`;

interface RowProps {
  readonly line: LedgerLine;
  readonly isCompared: boolean;
  readonly onToggle: () => void;
}

export function Row({ line, isCompared, onToggle }: RowProps) {
  const { entry, days, cameBack } = line;
  return (
    <tr className="border-b border-line align-top last:border-0">
      <td className="px-3 py-2">
        <label className="flex min-w-8 items-center">
          <input
            type="checkbox"
            className="size-6"
            aria-label={`Compare job ${numberOf(line)}`}
            checked={isCompared}
            onChange={onToggle}
          />
        </label>
      </td>
      <td className="px-3 py-2">
        <Link className="link font-bold" to={`/jobs/${line.jobId}/prove`}>
          {numberOf(line)}
        </Link>
        <span className="block text-aside whitespace-nowrap text-muted">
          {shortDay(line.closedAt)}
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
export function Compared({ lines }: { readonly lines: readonly LedgerLine[] }) {
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
