/** What a backup is called: in order of time. */
export const backupName = (at: Date): string =>
  `tembrix-${at.toISOString().slice(0, 19).replaceAll(/[-:]/g, '').replace('T', '-')}.tar.gz`;

/** When a backup was made, by its name; empty where it is the name of none. */
export function backupTime(name: string): string {
  const parts = /^tembrix-(\d{4})(\d\d)(\d\d)-(\d\d)(\d\d)(\d\d)\.tar\.gz$/.exec(name)?.slice(1);
  if (!parts) return '';
  const [year, month, day, hour, minute, second] = parts;
  const at = new Date(`${year}-${month}-${day}T${hour}:${minute}:${second}Z`);
  return Number.isNaN(at.getTime()) ? '' : at.toISOString();
}
