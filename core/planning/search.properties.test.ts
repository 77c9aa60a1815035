import fc from 'fast-check';
import { expect, test } from 'vitest';
import { anySmallQuery } from '../../test/support/anyQuery.ts';
import { bruteForceFront } from '../../test/support/bruteForcePlans.ts';
import { PlanSearch, vectorOf } from './index.ts';
import type { PlanQuery, SearchResult } from './index.ts';

function frontOf(query: PlanQuery): SearchResult {
  const run = new PlanSearch(query).run();
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
  }
}

const vectors = ({ plans }: SearchResult) => plans.map(({ worth }) => vectorOf(worth));

test('finds exactly the front that trying everything finds', { timeout: 600_000 }, () => {
  fc.assert(
    fc.property(anySmallQuery, (query) => {
      const found = vectors(frontOf(query)).map((vector) => vector.join(' ')).sort();
      expect(found).toEqual(bruteForceFront(query));
    }),
    { numRuns: Number(process.env['RUNS'] ?? 600), seed: Number(process.env['SEED'] ?? 20 ) },
  );
});
