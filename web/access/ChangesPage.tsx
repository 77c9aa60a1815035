import { useState } from 'react';
import { Link } from 'react-router';
import type { AuditEntry } from '#contract/audit';
import { CHANGE_SUBJECTS, explainChange, momentText } from '#core/explaining';
import type { ChangeSubject } from '#core/explaining';
import { auditApi } from '../app/auditApi.ts';
import { Button } from '../ui/Button.tsx';
import { Page } from '../ui/Page.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { useCurrency } from '../ui/useCurrency.ts';

const SUBJECTS = Object.entries(CHANGE_SUBJECTS) as [ChangeSubject, string][];

/** Who changed what, from what to what. Nothing of it is ever changed or removed. */
export function ChangesPage() {
  const [subject, setSubject] = useState<ChangeSubject>();
  const currency = useCurrency();
  const { data, error, refetch, hasNextPage, fetchNextPage, isFetching } =
    auditApi.useChangesInfiniteQuery(subject === undefined ? {} : { subject }, {
      refetchOnMountOrArgChange: true,
    });
  const entries = data?.pages.flatMap((page) => page.entries) ?? [];
  return (
    <Page
      title="Changes"
      actions={
        <>
          <label className="flex items-center gap-2">
            <span className="text-muted">of</span>
            <select
              className="input"
              value={subject ?? ''}
              onChange={({ target }) => setSubject((target.value || undefined) as ChangeSubject)}
            >
              <option value="">everything</option>
              {SUBJECTS.map(([value, label]) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </select>
          </label>
          <a className="link ml-auto inline-flex min-h-10 items-center" href="/api/changes.csv">
            All as CSV
          </a>
        </>
      }
    >
      {!data ? (
        error ? (
          <Failed failure={error} what="the changes" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the changes" />
        )
      ) : entries.length === 0 ? (
        <Empty title="Nothing was changed yet">
          Prices, plans, quotes, verdicts, stock, accounts and settings leave a line here, with who
          and what it was before.
        </Empty>
      ) : (
        <div className="sheet overflow-x-auto p-0!">
          <table className="w-full min-w-160 text-left">
            <thead className="text-aside text-muted">
              <tr>
                {['When', 'Who', 'What', 'From', 'To', 'Job'].map((head) => (
                  <th key={head} scope="col" className="px-3 py-2 font-normal">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {entries.map((entry) => (
                <Change key={entry.id} entry={entry} currency={currency} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {hasNextPage && (
        <div className="mt-3">
          <Button disabled={isFetching} onClick={() => void fetchNextPage()}>
            Older ones
          </Button>
        </div>
      )}
    </Page>
  );
}

interface ChangeProps {
  readonly entry: AuditEntry;
  readonly currency: string;
}

function Change({ entry, currency }: ChangeProps) {
  const { title, from, to } = explainChange(entry, currency);
  return (
    <tr className="border-t border-line align-top">
      <td className="px-3 py-1.5 whitespace-nowrap">{momentText(entry.at)}</td>
      <td className="px-3 py-1.5">{entry.who ?? <span className="text-muted">the bench</span>}</td>
      <td className="max-w-72 px-3 py-1.5 break-words">{title}</td>
      <td className="max-w-60 px-3 py-1.5 break-words text-muted">{from}</td>
      <td className="max-w-60 px-3 py-1.5 break-words">{to}</td>
      <td className="px-3 py-1.5">
        {entry.job && (
          <Link className="link figure" to={`/jobs/${entry.job.id}`}>
            {String(entry.job.number).padStart(4, '0')}
          </Link>
        )}
      </td>
    </tr>
  );
}
