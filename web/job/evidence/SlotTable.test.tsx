import { screen, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test } from 'vitest';
import type { Machine } from '#core/machine';
import type { SlotPicture } from '#core/reconciling';
import { desktop } from '../../../test/support/builders.ts';
import { show } from '../../../test/support/screen.tsx';
import { SlotTable } from './SlotTable.tsx';
import type { EvidenceState } from './useEvidence.ts';

/** Evidence that says of every slot it is empty, and of some that nothing is clear. */
function table(machine: Machine, unclear: readonly string[]) {
  const slots = machine.slots.map(({ id }) => ({
    ...{ slotId: id, module: undefined, rows: [], matches: [] },
    state: unclear.includes(id) ? 'unclear' : 'empty',
  })) as unknown as SlotPicture[];
  const evidence = { machine, documents: [], reconciled: { slots } } as unknown as EvidenceState;
  show(<SlotTable evidence={evidence} makers={[]} isClosed={false} />);
}
const folded = () => screen.queryByText(/with nothing open/);

describe('the slots of the evidence', () => {
  test('stand one by one where they are few', () => {
    table(desktop(), []);
    expect(folded()).toBeNull();
    for (const name of ['A1', 'A2', 'B1', 'B2']) expect(screen.getByText(name)).toBeDefined();
  });

  test('of a machine with many, those with something open stand first, the others behind one line', async () => {
    const machine = desktop({}, 4, 2);
    table(machine, ['b1', 'd2']);
    const line = screen.getByText('6 slots with nothing open', { exact: false });
    const fold = line.closest('details');
    if (!fold) throw new Error('expected a fold');
    expect(fold.open).toBe(false);
    for (const { id, printedName } of machine.slots) {
      const own = screen.getByText(printedName);
      expect(fold.contains(own), printedName).toBe(!['b1', 'd2'].includes(id));
    }
    await userEvent.click(line);
    expect(fold.open).toBe(true);
    expect(within(fold).getAllByText('one source')).toHaveLength(6);
  });

  test('with something open in all of them hide nothing', () => {
    const machine = desktop({}, 4, 2);
    table(
      machine,
      machine.slots.map(({ id }) => id),
    );
    expect(folded()).toBeNull();
    expect(screen.getAllByText('not clear what')).toHaveLength(8);
  });
});
