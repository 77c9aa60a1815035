import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop } from '../../test/support/builders.ts';
import { withListed } from './index.ts';

const parts = fc.array(fc.constantFrom('AB-1', 'AB-2', 'CD-3'), { maxLength: 4 });

describe('parts that count as listed', () => {
  test('are the maker’s and the shop’s, each once; none to add changes nothing', () => {
    fc.assert(
      fc.property(fc.oneof(parts, fc.constant('unknown' as const)), parts, (listed, more) => {
        const machine = desktop({ verifiedParts: listed });
        const { verifiedParts } = withListed(machine, more);
        if (more.length === 0) {
          expect(verifiedParts).toEqual(listed);
          return;
        }
        const all = [...(listed === 'unknown' ? [] : listed), ...more];
        expect([...verifiedParts].sort()).toEqual([...new Set(all)].sort());
        expect(machine.verifiedParts).toBe(listed);
      }),
    );
  });
});
