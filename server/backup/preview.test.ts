import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { BenchContent } from './format.ts';
import { previewOf } from './preview.ts';

type Rows = Readonly<Record<string, Readonly<Record<string, unknown>>>>;
const content = (tables: Readonly<Record<string, Rows>>): BenchContent => ({
  ...{ schema: 1, files: new Map() },
  tables: Object.entries(tables).map(([name, rows]) => {
    const lines = Object.values(rows).map((row) => JSON.stringify(row));
    return { name, rows: lines.length, text: lines.join('\n') };
  }),
});
const job = (id: string, more: object = {}) => ({
  ...{ id, number: id.length, customer_id: 'c', changed_at: '2026-05-01T10:00:00Z', ...more },
});
const keyed = (rows: readonly { id: string }[]): Rows =>
  Object.fromEntries(rows.map((row) => [row.id, row]));

test('the same bench has nothing to show; a column from later is no difference', () => {
  const here = content({ jobs: keyed([job('a', { draw_cap: null })]) });
  expect(previewOf(here, here)).toEqual({ tables: [], jobs: { named: [], more: 0 } });
  expect(previewOf(here, content({ jobs: keyed([job('a')]) })).tables).toEqual([]);
});

test('names jobs, the latest first, and counts what is beyond thirty', () => {
  const jobs = Array.from({ length: 40 }, (_, at) =>
    job('j'.repeat(at + 1), { changed_at: new Date(Date.UTC(2026, 4, 1 + at)).toISOString() }),
  );
  const customers = keyed([{ id: 'c' }].map((one) => ({ ...one, name: 'Net loft' })));
  const { jobs: told } = previewOf(content({ jobs: keyed(jobs), customers }), content({}));
  expect([told.named.length, told.more]).toEqual([30, 10]);
  expect(told.named[0]).toMatchObject({ number: 40, customerName: 'Net loft', isLost: true });
});

test('lost, back and changed are of different rows, and together explain both sides', () => {
  const anyRows = fc
    .uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e'))
    .chain((ids) => fc.tuple(...ids.map((id) => fc.nat(2).map((value) => ({ id, value })))))
    .map((rows) => keyed(rows as { id: string }[]));
  fc.assert(
    fc.property(anyRows, anyRows, (here, there) => {
      const [row] = previewOf(content({ modules: here }), content({ modules: there })).tables;
      const ids = [Object.keys(here), Object.keys(there)] as const;
      const both = ids[0].filter((id) => ids[1].includes(id));
      const changed = both.filter((id) => here[id]?.value !== there[id]?.value).length;
      expect(row ?? { lost: 0, back: 0, changed: 0 }).toMatchObject({
        lost: ids[0].length - both.length,
        back: ids[1].length - both.length,
        changed,
      });
    }),
  );
});
