import { screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test } from 'vitest';
import { carryCode, simulateProbe } from '#core/proving';
import { aJob } from '../../../test/support/aJob.ts';
import { desktop, labelled, running } from '../../../test/support/builders.ts';
import { show } from '../../../test/support/screen.tsx';
import { BringResult } from './BringResult.tsx';

const machine = desktop();
const result = simulateProbe(
  machine,
  running(machine, { a1: labelled('8GB 1Rx8 PC4-2400T-UA1-11') }),
  'none',
  5,
);
const code = carryCode(result);
const common = { kind: 'as-found', power: 'unknown', by: 'Ottoline' } as const;
const page = (more: object = {}) =>
  show(<BringResult jobId="job-1" common={common} />, { addCarried: aJob(), ...more });
const field = () => screen.getByLabelText<HTMLInputElement>('Code from the measuring page');
const take = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Take the code' });

describe('a result carried by hand', () => {
  test('is shown as it is typed, sent as it stands, and the field is empty again', async () => {
    const { server } = page();
    expect(take().disabled).toBe(true);
    await userEvent.type(field(), code.toLowerCase());
    expect(take().disabled).toBe(false);
    await userEvent.click(take());
    await waitFor(() => expect(server.sent('addCarried')).toHaveLength(1));
    expect(server.sent('addCarried')[0]).toMatchObject({ ...common, code: code.toLowerCase() });
    await waitFor(() => expect(field().value).toBe(''));
  });

  test('with one letter wrong is refused here already, and stays to be put right', async () => {
    const { server } = page();
    const last = code.at(-1) === '7' ? '8' : '7';
    await userEvent.type(field(), code.slice(0, -1) + last);
    expect(take().disabled).toBe(true);
    expect(field().getAttribute('aria-invalid')).toBe('true');
    expect(field().value).toHaveLength(code.length);
    expect(server.sent('addCarried')).toEqual([]);
  });

  test('that is half typed is not called wrong', async () => {
    page();
    await userEvent.type(field(), code.slice(0, 12));
    expect(field().getAttribute('aria-invalid')).not.toBe('true');
  });

  test('a file goes as it is; one that is no JSON is named', async () => {
    const { server } = page();
    const input = document.querySelector<HTMLInputElement>('input[type=file]');
    if (!input) throw new Error('expected a file picker');
    await userEvent.upload(
      input,
      new File([JSON.stringify(result)], 'result.json', { type: 'application/json' }),
    );
    await waitFor(() => expect(server.sent('addCarried')).toHaveLength(1));
    expect(server.sent('addCarried')[0]).toMatchObject({ file: { id: result.id } });
    await userEvent.upload(
      input,
      new File(['Dear bench'], 'letter.json', { type: 'application/json' }),
    );
    expect((await screen.findByRole('alert')).textContent).toContain('letter.json');
    expect(server.sent('addCarried')).toHaveLength(1);
  });
});
