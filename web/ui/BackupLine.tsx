import { Link } from 'react-router';
import { count } from '#core/explaining';
import type { BackupState } from '#contract/backups';
import { api } from '../app/api.ts';
import { benchNow } from '../app/benchClock.ts';

const DAY_MS = 86_400_000;
/** A backup older than this is old: the bench makes one a day while it runs. */
const OLD_DAYS = 3;
const daysSince = (at: string) => Math.floor((benchNow() - Date.parse(at)) / DAY_MS);

/** What is wrong with the backups; nothing while they are as they should be. */
export function backupLack({
  isKept,
  isRunning,
  problem,
  newest,
}: BackupState): string | undefined {
  if (!isKept || isRunning) return undefined;
  if (problem !== null) return 'The last backup failed';
  if (newest === null) return 'There is no backup yet';
  const days = daysSince(newest.at);
  return days > OLD_DAYS ? `The newest backup is ${count(days, 'day')} old` : undefined;
}

/** One quiet line on the bench while its backups need somebody. */
export function BackupLine() {
  const { data } = api.useBackupsQuery();
  const text = data && backupLack(data);
  if (text === undefined) return null;
  return (
    <p className="mt-4 text-aside text-muted">
      {text}.{' '}
      <Link to="/shop" className="text-teal underline underline-offset-3">
        See to it
      </Link>
    </p>
  );
}
