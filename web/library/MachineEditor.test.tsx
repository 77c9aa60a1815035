import { screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test } from 'vitest';
import type { MachineRecord } from '#contract/records';
import { gib } from '#core/units';
import { aJob } from '../../test/support/aJob.ts';
import { desktop } from '../../test/support/builders.ts';
import { show } from '../../test/support/screen.tsx';
import { MachineEditor } from './MachineEditor.tsx';
import { formFromMachine, machineFromForm } from './machineForm.ts';

const record: MachineRecord = aJob().machine;
const machine = desktop();
const save = () => userEvent.click(screen.getByRole('button', { name: /the machine$/ }));
const field = (label: string | RegExp) => screen.getByLabelText<HTMLInputElement>(label);
const answers = { changeMachine: { ...record, version: 2 }, createMachine: record };

describe('the form of a machine', () => {
  test('sends what was changed with the version it started from', async () => {
    const { server } = show(<MachineEditor {...{ machine, record }} />, answers);
    await userEvent.clear(field('Maximum per slot, GB'));
    await userEvent.type(field('Maximum per slot, GB'), '32');
    await save();
    await waitFor(() => expect(server.sent('changeMachine')).toHaveLength(1));
    expect(server.sent('changeMachine')[0]).toMatchObject({
      ...{ version: 1, machine: { maxPerSlot: 32, slots: { length: 4 } } },
    });
  });

  test('a slot may take another size than the others', async () => {
    const { server } = show(<MachineEditor {...{ machine, record }} />, answers);
    await userEvent.type(field('Slot 2, most in GB, where it differs'), '8');
    await save();
    await waitFor(() => expect(server.sent('changeMachine')).toHaveLength(1));
    const [sent] = server.sent('changeMachine') as { machine: { slots: object[] } }[];
    expect(sent?.machine.slots[1]).toMatchObject({ maxCapacity: 8 });
    expect(sent?.machine.slots[0]).not.toHaveProperty('maxCapacity');
  });

  test('what is no figure is said at its field, and nothing is sent', async () => {
    const { server } = show(<MachineEditor {...{ machine, record }} />, answers);
    await userEvent.clear(field('Maximum per slot, GB'));
    await userEvent.type(field('Maximum per slot, GB'), 'lots');
    await save();
    expect(await screen.findByText(/“lots” is not a number/)).toBeDefined();
    expect(server.sent('changeMachine')).toEqual([]);
  });

  test('what is typed is there again after the page was left', async () => {
    const { unmount } = show(<MachineEditor {...{ machine, record }} />, answers);
    await userEvent.clear(field('Slot 1, printed name'));
    await userEvent.type(field('Slot 1, printed name'), 'BANK 0');
    unmount();
    show(<MachineEditor {...{ machine, record }} />, answers);
    expect(field('Slot 1, printed name').value).toBe('BANK 0');
  });

  test('a stale save shows both sides, and may be made over the other', async () => {
    const theirs = { ...record, version: 5, machine: desktop({ maxPerSlot: gib(16) }) };
    const stale = {
      ...{ type: 'about:blank#stale', title: 'Changed meanwhile', status: 409 },
      ...{ detail: 'This machine was changed elsewhere.', mend: 'Compare both.' },
      theirs,
    };
    let refuse = true;
    const { server } = show(<MachineEditor {...{ machine, record }} />, {
      ...answers,
      changeMachine: ({ body }: { body: object }) =>
        refuse ? { ...stale, yours: body } : answers.changeMachine,
    });
    await userEvent.clear(field('Maximum per slot, GB'));
    await userEvent.type(field('Maximum per slot, GB'), '64');
    await save();
    expect(await screen.findByRole('row', { name: /maxPerSlot 64 16/ })).toBeDefined();
    refuse = false;
    await userEvent.click(screen.getByRole('button', { name: 'Save mine over theirs' }));
    await waitFor(() => expect(server.sent('changeMachine')).toHaveLength(2));
    expect(server.sent('changeMachine')[1]).toMatchObject({
      ...{ version: 5, machine: { maxPerSlot: 64 } },
    });
  });
});

test('a slot’s own maximum goes through the form and back; a blank one is none', () => {
  const [a1, ...others] = machine.slots;
  if (!a1) throw new Error('expected a slot');
  const own = { ...machine, slots: [{ ...a1, maxCapacity: gib(4) }, ...others] };
  const form = formFromMachine(own);
  expect(machineFromForm(form, own).machine?.slots[0]).toMatchObject({ maxCapacity: 4 });
  const blank = { ...form, slots: form.slots.map((one) => ({ ...one, maxCapacity: ' ' })) };
  expect(machineFromForm(blank, own).machine?.slots[0]).not.toHaveProperty('maxCapacity');
  const wrong = { ...form, slots: form.slots.map((one) => ({ ...one, maxCapacity: 'x' })) };
  expect(machineFromForm(wrong, own).errors).toHaveProperty(['slots.0.maxCapacity']);
});
