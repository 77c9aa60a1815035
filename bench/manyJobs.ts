import { sql } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import { openStore } from '../server/store/openStore.ts';
import type { StorePlace } from '../server/store/openStore.ts';
import {
  customers,
  drawer,
  jobs,
  ledger,
  machines,
  measurements,
  snapshots,
} from '../server/store/schema/index.ts';
import { seedDemo } from '../demo/seed.ts';
import { MACHINES } from '../demo/machines.ts';
import { moduleOf } from '../demo/parts.ts';
import { oddLedger } from '../test/support/anyLedger.ts';

/** How many jobs of each state lie in a data directory. */
export interface ManyJobs {
  readonly open: number;
  /** Each with its line in the ledger. */
  readonly closed?: number;
  /** Sets of runs, spread over the open jobs. */
  readonly runs?: number;
  /** Modules in stock. */
  readonly stock?: number;
}

const AT_ONCE = 500;
const LABELS = [
  '8GB 1Rx8 PC4-2400T-UA1-11',
  '8GB 1Rx8 PC4-2666V-UA1-11',
  '16GB 2Rx8 PC4-2666V-UB1-11',
  '4GB 1Rx8 PC3-12800U-11-11-A1',
] as const;
/** Machines the jobs are of. */
const OWNED = 200;

/** The demo world and very many jobs beside it. Returns the ids of the open ones. */
export async function fillWithJobs(
  place: StorePlace,
  { open, closed = 0, runs = 0, stock = 0 }: ManyJobs,
): Promise<string[]> {
  const { db, close } = await openStore(place);
  await seedDemo(db, new Date());
  const owned = Array.from({ length: OWNED }, (_, at) => ({
    id: nanoid(12),
    name: `${MACHINES.gameBoard.name} ${at}`,
    machine: { ...MACHINES.gameBoard, name: `${MACHINES.gameBoard.name} ${at}` },
  }));
  await db.insert(machines).values(owned);
  const placement = { a2: moduleOf('8GB 1Rx8 PC4-2666V-UA1-11') };
  const entries = oddLedger(closed, 1);
  const ids: string[] = [];
  for (let start = 0; start < open + closed; start += AT_ONCE) {
    const rows = Array.from({ length: Math.min(AT_ONCE, open + closed - start) }, (_, at) => {
      const n = start + at;
      const openedAt = new Date(Date.now() - n * 600_000);
      return {
        id: nanoid(12),
        customerId: nanoid(12),
        machineId: owned[n % OWNED]?.id ?? '',
        complaint: `complaint ${n}`,
        openedAt,
        closedAt: n < open ? null : new Date(openedAt.getTime() + 86_400_000),
        name: `Customer ${n}`,
        entry: entries[n - open],
      };
    });
    await db
      .insert(customers)
      .values(rows.map(({ customerId, name }) => ({ id: customerId, name })));
    await db.insert(jobs).values(rows.map(({ name: _name, entry: _entry, ...job }) => job));
    await db.insert(snapshots).values(
      rows.map(({ id }) => ({
        jobId: id,
        kind: 'as-found' as const,
        placement,
        setting: 'standard' as const,
      })),
    );
    const lines = rows.flatMap(({ id, machineId, closedAt, entry }) =>
      closedAt && entry ? [{ jobId: id, machineId, closedAt, proven: [], entry }] : [],
    );
    if (lines.length > 0) await db.insert(ledger).values(lines);
    ids.push(...rows.flatMap(({ id, closedAt }) => (closedAt ? [] : [id])));
  }
  for (let start = 0; start < runs; start += AT_ONCE)
    await db.insert(measurements).values(
      Array.from({ length: Math.min(AT_ONCE, runs - start) }, (_, at) => ({
        ...{
          id: nanoid(12),
          jobId: ids[(start + at) % ids.length] ?? '',
          kind: 'as-found' as const,
        },
        ...{ metric: 'bandwidth' as const, test: `memory copy ${start + at}`, warmUp: 1 },
        runs: [17.1, 18.2, 18.4, 18.3].map((run) => run + (at % 9) / 10),
        fingerprint: 'x',
      })),
    );
  for (let start = 0; start < stock; start += AT_ONCE)
    await db.insert(drawer).values(
      Array.from({ length: Math.min(AT_ONCE, stock - start) }, (_, at) => {
        const label = LABELS[at % LABELS.length] ?? '';
        return {
          ...{ id: nanoid(12), label: `${label} ${start + at}`, module: moduleOf(label) },
          ...{ state: 'tested' as const, price: 1000 + (at % 40) * 50, cost: 800 },
          place: `Tray ${at % 30}`,
        };
      }),
    );
  // Both do so by themselves once it is quiet; what is measured is a day's work, not the one after moving in.
  await db.execute(sql`vacuum analyze`);
  await close();
  // Opened once more, so that statistics are as they are in daily use.
  const again = await openStore(place);
  await again.close();
  return ids;
}
