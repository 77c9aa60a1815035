import type { RestorePreview } from '#contract/backups';
import type { BenchContent } from './format.ts';
import type { Row } from './content.ts';

/** Tables whose rows people know, as they call them; the rest goes with these. */
const TOLD: Readonly<Record<string, string>> = {
  jobs: 'jobs',
  customers: 'customers',
  machines: 'machines',
  modules: 'modules of the catalogue',
  quotes: 'quotes',
  measurements: 'measurements',
  evidence: 'pieces of evidence',
  drawer: 'modules of the drawer',
  orders: 'orders',
  suppliers: 'suppliers',
  returns: 'returns',
  accounts: 'accounts',
  shop_terms: 'the shop’s terms',
};

/** Jobs named one by one; more are counted. */
const NAMED = 30;

const keyOf = (row: Row): string => JSON.stringify(row.id ?? row.key ?? row.job_id ?? row);

function rowsOf(content: BenchContent, table: string): Map<string, string> {
  const text = content.tables.find(({ name }) => name === table)?.text ?? '';
  const lines = text === '' ? [] : text.split('\n');
  return new Map(lines.map((line) => [keyOf(JSON.parse(line) as Row), line]));
}

/**
 * What restoring a backup would take away, bring back and change: what is newer here than there.
 *
 * @param here - the bench as it stands
 * @param there - the backup
 */
export function previewOf(
  here: BenchContent,
  there: BenchContent,
): Pick<RestorePreview, 'tables' | 'jobs'> {
  const tables = Object.entries(TOLD).flatMap(([table, name]) => {
    const [now, then] = [rowsOf(here, table), rowsOf(there, table)];
    const lost = [...now.keys()].filter((key) => !then.has(key)).length;
    const back = [...then.keys()].filter((key) => !now.has(key)).length;
    const changed = [...now].filter(([key, line]) => then.has(key) && !isSame(line, then.get(key)));
    const row = { name, here: now.size, there: then.size, lost, back, changed: changed.length };
    return lost + back + changed.length === 0 ? [] : [row];
  });
  const customers = new Map(
    [...rowsOf(here, 'customers')].map(([key, line]) => [
      key,
      String((JSON.parse(line) as Row).name),
    ]),
  );
  const then = rowsOf(there, 'jobs');
  const newer = [...rowsOf(here, 'jobs')]
    .filter(([key, line]) => !isSame(line, then.get(key)))
    .map(([key, line]) => {
      const row = JSON.parse(line) as Row;
      return {
        ...{ id: String(row.id), number: Number(row.number), isLost: !then.has(key) },
        customerName: customers.get(JSON.stringify(row.customer_id)) ?? '',
        changedAt: new Date(String(row.changed_at)).toISOString(),
      };
    })
    .sort((a, b) => b.changedAt.localeCompare(a.changedAt));
  return {
    tables,
    jobs: { named: newer.slice(0, NAMED), more: Math.max(0, newer.length - NAMED) },
  };
}

/** Columns a backup from before them does not have are no difference. */
function isSame(line: string, other: string | undefined): boolean {
  if (other === undefined) return false;
  if (line === other) return true;
  const [now, then] = [JSON.parse(line) as Row, JSON.parse(other) as Row];
  return Object.keys(then).every((key) => JSON.stringify(now[key]) === JSON.stringify(then[key]));
}
