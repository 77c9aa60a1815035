import { api } from '../app/api.ts';
import { momentText } from '#core/explaining';
import { backupLack } from '../ui/BackupLine.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Failed } from '../ui/States.tsx';
import { RestorePart } from './RestorePart.tsx';

const LOOK_MS = 2000;

const megabytes = (bytes: number) => `${Math.max(0.1, bytes / 2 ** 20).toFixed(1)} MB`;

/** How the backups stand, with one made at the press of a button, or taken away in a file. */
export function BackupPart() {
  const { data, error, refetch } = api.useBackupsQuery();
  const isRunning = data?.isRunning ?? false;
  api.useBackupsQuery(undefined, { pollingInterval: isRunning ? LOOK_MS : 0 });
  const [make, made] = api.useMakeBackupMutation();
  const text = data && backupLack(data);
  return (
    <section className="sheet mt-4 grid gap-3" aria-label="Backup">
      <h2 className="font-bold">Backup</h2>
      <p>
        Everything the bench holds, in one file: jobs, customers, files, photos, quotes. It names
        people, so keep it where only you can read it – and a copy on another disk.
      </p>
      {error && <Failed failure={error} what="the backups" onRetry={() => void refetch()} />}
      {text !== undefined && (
        <Notice
          kind={data?.problem == null ? 'caution' : 'stop'}
          title={text}
          why={data?.problem ?? undefined}
          mend="Make one now. If it fails, look whether the disk is full."
        />
      )}
      {data?.newest && (
        <p>
          Newest: <b>{momentText(data.newest.at)}</b>, {megabytes(data.newest.size)} – restored for
          a trial and found whole.
        </p>
      )}
      {data?.isKept === false && (
        <p className="text-muted">A made-up world keeps none by itself.</p>
      )}
      {data?.isKept && <p className="text-muted">One is made every day while the bench runs.</p>}
      {made.error && <Failed failure={made.error} what="a backup" onRetry={() => void make()} />}
      <div className="flex flex-wrap items-center gap-4">
        {data?.isKept && (
          <Button disabled={isRunning} onClick={() => void make()}>
            {isRunning ? 'Being made …' : 'Back up now'}
          </Button>
        )}
        <a
          className="inline-flex min-h-10 items-center text-teal underline underline-offset-3"
          href="/api/backup"
          download
        >
          Download a backup
        </a>
      </div>
      {data?.isKept && <RestorePart newest={data.newest?.name} />}
    </section>
  );
}
