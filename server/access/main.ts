// `npm run owner`: who owns the bench, and a new password for one who forgot it. See docs/operating.md.
import { randomInt } from 'node:crypto';
import type { Account } from '#contract/accounts';
import { StartError } from '../startError.ts';
import { placeFromEnvironment, portIn } from '../settings.ts';
import { openStore } from '../store/openStore.ts';
import { listAccounts, setPassword } from './accounts.ts';
import { LOCAL_KEY_HEADER, readLocalKey } from './localKey.ts';

/** The bench’s people, asked of the bench that runs or of its data. */
interface People {
  readonly list: () => Promise<Account[]>;
  readonly setPassword: (id: string, password: string) => Promise<unknown>;
  readonly close: () => Promise<void>;
}

async function openPeople(): Promise<People> {
  const place = placeFromEnvironment();
  try {
    const { db, close } = await openStore(place);
    return {
      list: () => listAccounts(db),
      setPassword: (...own) => setPassword(db, ...own),
      close,
    };
  } catch (error) {
    const isRunning = error instanceof StartError && error.message.startsWith('Another Tembrix');
    if (!isRunning || place.type !== 'directory') throw error;
    return askRunning(readLocalKey(place.path));
  }
}

/** Nobody else may open the data of a bench that runs: it is asked itself, by its own key. */
function askRunning(key: string): People {
  const port = portIn(process.env.TEMBRIX_PORT ?? '4870');
  const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
    const answer = await fetch(`http://127.0.0.1:${port}/api${path}`, {
      method,
      headers: { 'content-type': 'application/json', [LOCAL_KEY_HEADER]: key },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    }).catch(() => undefined);
    if (!answer?.ok)
      throw new StartError(
        'The bench runs, and does not answer here.',
        'Set TEMBRIX_PORT to the port it listens on, and run this under its account; or stop it first.',
      );
    return (await answer.json()) as T;
  };
  return {
    list: () => ask<Account[]>('GET', '/accounts'),
    setPassword: (id, password) => ask('PUT', `/accounts/${id}/password`, { password }),
    close: () => Promise.resolve(),
  };
}

const LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789';
/** Twenty letters nobody mistakes for one another: 100 bits. */
const newPassword = () =>
  Array.from({ length: 4 }, () =>
    Array.from({ length: 5 }, () => LETTERS[randomInt(LETTERS.length)]).join(''),
  ).join('-');

async function run(args: readonly string[]): Promise<string> {
  const people = await openPeople();
  try {
    const owners = (await people.list()).filter(
      ({ role, isActive }) => role === 'owner' && isActive,
    );
    const names = owners.map(({ name }) => name).join(', ');
    if (owners.length === 0)
      return 'Nobody owns this bench yet: open it in a browser on this machine.';
    if (!args.includes('--reset'))
      return `Owned by ${names}.\nA new password: npm run owner -- --reset [NAME]`;
    const [wanted] = args.filter((one) => !one.startsWith('--'));
    const owner =
      wanted === undefined && owners.length === 1
        ? owners[0]
        : owners.find(({ name }) => name.toLowerCase() === wanted?.toLowerCase());
    if (!owner)
      throw new StartError(
        wanted === undefined ? 'There is more than one owner.' : `No owner is called ${wanted}.`,
        `Name one of: ${names}.`,
      );
    const password = newPassword();
    await people.setPassword(owner.id, password);
    return `${owner.name} signs in with ${password} now, and changes it then. All their devices are signed out.`;
  } finally {
    await people.close();
  }
}

try {
  console.log(await run(process.argv.slice(2)));
} catch (error) {
  if (!(error instanceof StartError)) throw error;
  console.error(`${error.message} ${error.mend}`);
  process.exitCode = 1;
}
