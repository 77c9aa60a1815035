import { Fragment, useState } from 'react';
import { Link } from 'react-router';
import type { JobRef } from '#core/month';
import { Button } from '../ui/Button.tsx';
import { saveTable } from '../ui/table.ts';

/** A line of a table: what it says, and the jobs that are behind it. */
export interface MonthRow {
  readonly key: string;
  /** As they are shown; the figure that opens the jobs is the one at `opens`. */
  readonly cells: readonly string[];
  /** The same as plain figures, for the file. */
  readonly plain?: readonly (string | number)[];
  readonly jobs: readonly JobRef[];
}

interface MonthTableProps {
  readonly caption: string;
  readonly heads: readonly string[];
  readonly rows: readonly MonthRow[];
  /** Which cell opens the jobs behind its line. */
  readonly opens: number;
  /** What the file is called, without its ending. */
  readonly file: string;
}

const number = (job: JobRef) => String(job.number).padStart(4, '0');

/** A table whose figures open the jobs behind them, and which can be taken away as a file. */
export function MonthTable({ caption, heads, rows, opens, file }: MonthTableProps) {
  const [open, setOpen] = useState<string>();
  const save = () =>
    void saveTable(`${file}.csv`, [
      [...heads, 'jobs'],
      ...rows.map(({ cells, plain, jobs }) => [...(plain ?? cells), jobs.map(number).join(' ')]),
    ]);
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left tabular-nums">
        <caption className="sr-only">{caption}</caption>
        <thead>
          <tr className="border-b border-edge text-aside text-muted">
            {heads.map((head) => (
              <th key={head} scope="col" className="py-1 pr-4 font-normal">
                {head || <span className="sr-only">What</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ key, cells, jobs }) => (
            <Fragment key={key}>
              <tr className="border-b border-line last:border-0">
                {cells.map((cell, at) => (
                  <td key={heads[at]} className="py-1 pr-4 break-words">
                    {at === opens && jobs.length > 0 ? (
                      <Button
                        look="quiet"
                        className="font-bold"
                        aria-expanded={open === key}
                        aria-label={`${cells[0] ?? ''}: ${cell}, show the jobs`}
                        onClick={() => setOpen(open === key ? undefined : key)}
                      >
                        {cell}
                      </Button>
                    ) : (
                      cell
                    )}
                  </td>
                ))}
              </tr>
              {open === key && (
                <tr className="border-b border-line bg-teal-wash">
                  <td colSpan={heads.length} className="px-2">
                    <JobLinks jobs={jobs} />
                  </td>
                </tr>
              )}
            </Fragment>
          ))}
        </tbody>
      </table>
      <Button look="quiet" className="text-aside" aria-label={`${caption} as CSV`} onClick={save}>
        Save as CSV
      </Button>
    </div>
  );
}

/** Jobs one goes to. */
export function JobLinks({ jobs }: { readonly jobs: readonly JobRef[] }) {
  return (
    <ul className="flex flex-wrap gap-x-6">
      {jobs.map((job, at) => (
        <li key={`${job.id} ${at}`} className="flex min-h-10 items-center gap-2">
          <Link className="link figure font-bold" to={`/jobs/${job.id}`}>
            {number(job)}
          </Link>
          <span className="text-aside text-muted">{job.customerName}</span>
        </li>
      ))}
    </ul>
  );
}
