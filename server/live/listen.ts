import { setTimeout as wait } from 'node:timers/promises';
import { sql } from 'drizzle-orm';
import type { Client } from 'pg';
import type { Database } from '../store/openStore.ts';

/** Tells all who listen on a channel, through the database itself. */
export const tellThrough =
  (db: Database) =>
  async (channel: string, payload: string): Promise<void> => {
    await db.execute(sql`select pg_notify(${channel}, ${payload})`);
  };

/** Told of every message on a channel; `undefined` = some may have been missed. */
export type OnMessage = (payload: string | undefined) => void;

const RETRY_MS = 1000;

/**
 * Listens on a PostgreSQL server on a connection of its own, and goes on when that is lost: whoever
 * listens is then told that something may have been missed.
 *
 * @param connect - an open connection
 */
export function listenOnServer(
  connect: () => Promise<Client>,
  channel: string,
  onMessage: OnMessage,
): () => Promise<void> {
  let isStopped = false;
  let client: Client | undefined;
  const open = async (isAgain: boolean): Promise<void> => {
    for (; !isStopped; await wait(RETRY_MS)) {
      const own = await connect().catch(() => undefined);
      if (!own) continue;
      client = own;
      const lost = () => {
        if (client !== own) return;
        client = undefined;
        void open(true);
      };
      own.on('error', lost).on('end', lost);
      own.on('notification', ({ payload }) => onMessage(payload ?? ''));
      const isOn = await own.query(`listen "${channel}"`).then(
        () => true,
        () => false,
      );
      if (!isOn) continue;
      if (isAgain) onMessage(undefined);
      return;
    }
  };
  const ready = open(false);
  return async () => {
    isStopped = true;
    const own = client;
    client = undefined;
    await own?.end();
    await Promise.race([ready, wait(0)]);
  };
}
