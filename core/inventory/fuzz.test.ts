import { expect, test } from 'vitest';
import { INVENTORY_KINDS } from './index.ts';
import { fuzzInventory } from '../../test/support/fuzzInventory.ts';
import { often } from '../../test/support/draws.ts';

test('thousands of random and mutated inputs: nothing throws, nothing hangs, every reader is reached', () => {
  // How long the slowest takes is measured by `npm run fuzz`; what hangs here runs into the limit.
  const { thrown, kinds } = fuzzInventory(often(2000, 10_000), 20_26);
  expect(thrown.slice(0, 3)).toEqual([]);
  expect(Object.keys(kinds).sort()).toEqual([...INVENTORY_KINDS].sort());
});
