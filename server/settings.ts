import { isIP } from 'node:net';
import { join, resolve } from 'node:path';
import type { DoorTerms } from '#contract/measuring';
import { pino } from 'pino';
import { packageRoot } from './packageRoot.ts';
import type { StorePlace } from './store/openStore.ts';
import { StartError } from './startError.ts';

/** Where the data lie: a server by DATABASE_URL, else a directory by TEMBRIX_DATA. */
export function placeFromEnvironment(): StorePlace {
  const { DATABASE_URL, TEMBRIX_DATA } = process.env;
  return DATABASE_URL
    ? { type: 'server', url: DATABASE_URL }
    : { type: 'directory', path: TEMBRIX_DATA ?? join(packageRoot(), 'data') };
}

/** Where backups lie, by TEMBRIX_BACKUPS. */
export const backupsDirectory = (): string =>
  resolve(process.env.TEMBRIX_BACKUPS ?? join(packageRoot(), 'backups'));

/**
 * A port as typed.
 *
 * @throws StartError where it is none
 */
export function portIn(text: string): number {
  const port = /^\d{1,5}$/.test(text) ? Number(text) : NaN;
  if (port <= 65_535) return port;
  throw new StartError(
    `“${text}” is no port.`,
    'Set TEMBRIX_PORT to a whole number from 1 to 65535, or leave it out for 4870.',
  );
}

/**
 * A log level as typed.
 *
 * @throws StartError where it is none
 */
export function levelIn(text: string): string {
  const levels = [...Object.keys(pino.levels.values), 'silent'];
  if (levels.includes(text)) return text;
  throw new StartError(
    `“${text}” is no log level.`,
    `Set TEMBRIX_LOG to one of ${levels.join(', ')}, or leave it out for warn.`,
  );
}

/**
 * Addresses the bench is reached at beside loopback, with commas between them.
 *
 * @throws StartError naming the one that cannot be read
 */
export function addressesIn(text: string): URL[] {
  return text
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '')
    .map((one) => {
      const url = URL.canParse(one) ? new URL(one) : undefined;
      if (url && /^https?:$/.test(url.protocol) && url.pathname === '/' && !url.username)
        return url;
      throw new StartError(
        `“${one}” is no address of a bench.`,
        'Set TEMBRIX_ADDRESSES to addresses such as http://bench.lan:4870, with commas between them.',
      );
    });
}

/**
 * Where the bench listens for other devices, by TEMBRIX_LISTEN: an address of this computer, with a port
 * behind it or 4871. Nothing where it is not set.
 *
 * @throws StartError where it cannot be read
 */
export function listenIn(text: string): DoorTerms | undefined {
  if (text.trim() === '') return undefined;
  const [, six, four, port = '4871'] =
    /^(?:\[([\da-f:]+)\]|([^\s:]+))(?::(\d+))?$/i.exec(text.trim()) ?? [];
  const address = six ?? four ?? '';
  if (isIP(address) !== 0 && Number(port) >= 1 && Number(port) <= 65_535)
    return { isOpen: true, address, port: Number(port) };
  throw new StartError(
    `“${text}” is no address to listen at.`,
    'Set TEMBRIX_LISTEN to an address of this computer, such as 192.168.1.20 or 192.168.1.20:4871.',
  );
}

/** A database's address without its password. */
const withoutPassword = (address: string): string => {
  if (!URL.canParse(address)) return '(an address that cannot be read)';
  const url = new URL(address);
  if (url.password) url.password = '***';
  for (const name of [...url.searchParams.keys()])
    if (/pass|secret|key/i.test(name)) url.searchParams.set(name, '***');
  return url.href;
};

/** Settings a server starts with, one a line, nothing secret among them. */
export function settingsText(env: Readonly<Record<string, string | undefined>>): string {
  const store = env.DATABASE_URL
    ? `database   ${withoutPassword(env.DATABASE_URL)}`
    : `data       ${env.TEMBRIX_DATA ?? join(packageRoot(), 'data')}`;
  return [
    store,
    `backups    ${resolve(env.TEMBRIX_BACKUPS ?? join(packageRoot(), 'backups'))}`,
    `port       ${env.TEMBRIX_PORT ?? '4870'} on this machine`,
    ...(env.TEMBRIX_LISTEN ? [`listens    ${env.TEMBRIX_LISTEN} for other devices`] : []),
    ...(env.TEMBRIX_ADDRESSES ? [`addresses  ${env.TEMBRIX_ADDRESSES}`] : []),
    `log        ${env.TEMBRIX_LOG ?? 'warn'}`,
  ].join('\n');
}
