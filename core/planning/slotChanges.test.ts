import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anySmallQuery } from '../../test/support/anyQuery.ts';
import { runToEnd, slotChanges, withVerified } from './index.ts';

describe('what a plan does slot by slot', { timeout: 120_000 }, () => {
  test('is what its units say: every slot once, every module where it ends up, nothing pulled unsaid', () => {
    const seen = new Set<string>();
    fc.assert(
      fc.property(anySmallQuery, (asked) => {
        const query = { ...asked, machine: withVerified(asked.machine, asked.offers) };
        for (const plan of runToEnd(query).plans) {
          const changes = slotChanges(query.machine, query.fitted, plan);
          expect(changes.map(({ slotId }) => slotId)).toEqual(
            query.machine.slots.map(({ id }) => id),
          );
          for (const { slotId, state, module, isFromDrawer } of changes) {
            seen.add(state);
            const stays = state === 'kept' || state === 'added' || state === 'moved';
            expect(plan.placement[slotId]).toEqual(stays ? module : undefined);
            if (state === 'kept') expect(query.fitted[slotId]).toEqual(module);
            if (state === 'pulled') expect(plan.pulled).toContain(slotId);
            if (state === 'left') expect(plan.moved).toContain(slotId);
            if (state === 'empty') expect(query.fitted[slotId]).toBeUndefined();
            if (isFromDrawer) expect(state).toBe('added');
          }
          expect(changes.filter(({ isFromDrawer }) => isFromDrawer)).toHaveLength(
            plan.drawer.length,
          );
        }
      }),
      { numRuns: 80, seed: 4 },
    );
    for (const state of ['kept', 'added', 'pulled', 'empty']) expect(seen).toContain(state);
  });
});
