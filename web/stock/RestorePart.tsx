import { useState } from 'react';
import { Link } from 'react-router';
import type { RestorePreview } from '#contract/backups';
import { count, momentText } from '#core/explaining';
import { ownerApi } from '../app/ownerApi.ts';
import { Button } from '../ui/Button.tsx';
import { FilePick } from '../ui/FilePick.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Failed } from '../ui/States.tsx';
import { TableHead } from '../ui/TableHead.tsx';

/** Going back to a backup: what would be lost is shown first. */
export function RestorePart({ newest }: { readonly newest: string | undefined }) {
  const { data } = ownerApi.useKeptBackupsQuery(newest);
  const [name, setName] = useState('');
  const [preview, previewed] = ownerApi.usePreviewRestoreMutation();
  const [give, giving] = ownerApi.useGiveBackupMutation();
  const chosen = name || (data?.[0]?.name ?? '');
  if (!data) return null;
  const take = (file: File) =>
    void give(file)
      .unwrap()
      .then((given) => {
        setName(given.name);
        previewed.reset();
      })
      .catch(() => undefined);
  return (
    <section className="grid gap-3 border-t border-line pt-3" aria-label="Go back to a backup">
      <div className="flex flex-wrap items-end gap-3">
        {data.length > 0 && (
          <>
            <label className="grid gap-1">
              <b>Go back to a backup</b>
              <select
                className="input w-auto!"
                value={chosen}
                onChange={({ target }) => {
                  setName(target.value);
                  previewed.reset();
                }}
              >
                {data.map((one) => (
                  <option key={one.name} value={one.name}>
                    {momentText(one.at)}
                    {one.isGiven ? ', from a file' : ''}
                  </option>
                ))}
              </select>
            </label>
            <Button disabled={previewed.isLoading} onClick={() => void preview(chosen)}>
              {previewed.isLoading ? 'Comparing …' : 'What would change?'}
            </Button>
          </>
        )}
        {giving.isLoading ? (
          <p role="status">The file is being read …</p>
        ) : (
          <FilePick label="Choose a backup file" accept=".gz,.tar.gz" onFile={take} />
        )}
      </div>
      {giving.data && !giving.isLoading && (
        <Notice
          kind="ok"
          title={`Read and found whole: the backup of ${momentText(giving.data.at)}`}
          why="Nothing has changed yet. See first what going back to it would change."
        />
      )}
      {giving.error && (
        <Failed
          failure={giving.error}
          what="the file"
          onRetry={() => giving.originalArgs && take(giving.originalArgs)}
        />
      )}
      {previewed.error && (
        <Failed failure={previewed.error} what="the backup" onRetry={() => void preview(chosen)} />
      )}
      {previewed.data && <Preview preview={previewed.data} />}
    </section>
  );
}

function Preview({ preview }: { readonly preview: RestorePreview }) {
  const [restore, restoring] = ownerApi.useRestoreBackupMutation();
  const { tables, jobs, at, name } = preview;
  const lost = jobs.named.filter(({ isLost }) => isLost).length;
  if (tables.length === 0)
    return <Notice kind="ok" title="Nothing: all of it is as it was at that time" />;
  return (
    <div className="grid gap-3">
      <Notice
        kind="stop"
        title={`Going back to ${momentText(at)} takes away what came after it`}
        why={
          jobs.named.length === 0
            ? 'No job is newer here.'
            : `${count(jobs.named.length + jobs.more, 'job')} ${jobs.named.length + jobs.more === 1 ? 'is' : 'are'} newer here${lost > 0 ? `, ${lost} of these taken in since` : ''}.`
        }
        mend="What is here is backed up first, so this can be undone the same way. Take single jobs along as files before, if you want to keep them."
      />
      <div className="overflow-x-auto">
        <table className="w-full text-left tabular-nums">
          <caption className="sr-only">What would change</caption>
          <TableHead heads={['What', 'Lost', 'Come back', 'As they were']} />
          <tbody>
            {tables.map((row) => (
              <tr key={row.name} className="border-b border-line last:border-0">
                <td className="px-3 py-1.5">{row.name}</td>
                <td className="px-3 py-1.5 font-bold">{row.lost}</td>
                <td className="px-3 py-1.5">{row.back}</td>
                <td className="px-3 py-1.5">{row.changed}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {jobs.named.length > 0 && (
        <ul className="grid gap-1" aria-label="Jobs newer here">
          {jobs.named.map((job) => (
            <li key={job.id} className="flex flex-wrap items-center gap-x-3">
              <Link className="link figure font-bold" to={`/jobs/${job.id}`}>
                {String(job.number).padStart(4, '0')}
              </Link>
              {job.customerName}
              <span className="text-aside text-muted">
                {job.isLost ? 'would be lost' : 'would be as it was'}; last changed{' '}
                {momentText(job.changedAt)}
              </span>
            </li>
          ))}
          {jobs.more > 0 && <li className="text-muted">… and {jobs.more} more</li>}
        </ul>
      )}
      <div>
        <Button
          disabled={restoring.isLoading}
          onClick={() =>
            void restore(name)
              .unwrap()
              .then(() => window.location.assign('/'))
              .catch(() => undefined)
          }
        >
          {restoring.isLoading ? 'Going back …' : 'Go back to it'}
        </Button>
        <span className="ml-3 text-aside text-muted">Everybody signs in again afterwards.</span>
      </div>
      {restoring.error && (
        <Failed failure={restoring.error} what="it back" onRetry={() => void restore(name)} />
      )}
    </div>
  );
}
