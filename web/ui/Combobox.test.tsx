import { act, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import fc from 'fast-check';
import { useState } from 'react';
import { describe, expect, test } from 'vitest';
import { show } from '../../test/support/screen.tsx';
import { Combobox, findChoices } from './Combobox.tsx';
import type { Choice } from './Combobox.tsx';

const choices: readonly Choice[] = Array.from({ length: 500 }, (_, at) => ({
  value: `m${at}`,
  label: `Cabin ${at} ${at % 2 ? 'tower' : 'box'}`,
  aside: at % 5 ? 'desktop · DDR4' : 'laptop · DDR5',
}));

function Scene({ first = '' }: { readonly first?: string }) {
  const [value, setValue] = useState(first);
  return (
    <>
      <Combobox label="Machine" choices={choices} value={value} onChange={setValue} />
      <output>{value}</output>
    </>
  );
}
const scene = (first?: string) => {
  show(<Scene {...(first ? { first } : {})} />);
  return screen.getByRole<HTMLInputElement>('combobox');
};

describe('a choice out of hundreds', () => {
  test('is found by words in any order, and taken with arrow and Enter', async () => {
    const field = scene();
    await userEvent.type(field, 'tower 417');
    expect(screen.getAllByRole('option')).toHaveLength(1);
    await userEvent.keyboard('{ArrowDown}{Enter}');
    expect(field.value).toBe('Cabin 417 tower');
    expect(screen.getByText('m417')).toBeDefined();
    expect(screen.queryAllByRole('option')).toEqual([]);
  });

  test('shows no more than one looks through, and says how many are left', async () => {
    const field = scene();
    await userEvent.click(field);
    expect(screen.getAllByRole('option')).toHaveLength(50);
    expect(screen.getByText('450 more: type on.')).toBeDefined();
  });

  test('typed over and left, it is as it was; emptied, nothing is chosen', async () => {
    const field = scene('m7');
    expect(field.value).toBe('Cabin 7 tower');
    await userEvent.clear(field);
    await userEvent.type(field, 'nothing like it');
    expect(screen.getByText('Nothing has these words.')).toBeDefined();
    await userEvent.tab();
    expect(field.value).toBe('Cabin 7 tower');
    expect(screen.getByText('m7')).toBeDefined();
    await userEvent.clear(field);
    await userEvent.tab();
    expect(field.value).toBe('');
    expect(screen.queryByText('m7')).toBeNull();
  });

  test('what is chosen or fetched meanwhile takes no words from whoever types; left, it shows', async () => {
    let elsewhere: (value: string, list: readonly Choice[]) => void = () => undefined;
    function Changing() {
      const [{ value, list }, set] = useState({ value: 'm7', list: choices });
      elsewhere = (value, list) => set({ value, list });
      return <Combobox label="Machine" choices={list} value={value} onChange={() => undefined} />;
    }
    show(<Changing />);
    const field = screen.getByRole<HTMLInputElement>('combobox');
    await userEvent.clear(field);
    await userEvent.type(field, 'tower 4');
    // The list came again, and then a file named another machine.
    act(() => elsewhere('m7', structuredClone(choices)));
    expect(field.value).toBe('tower 4');
    act(() => elsewhere('m8', choices));
    await userEvent.type(field, '17');
    expect(field.value).toBe('tower 417');
    await userEvent.tab();
    expect(field.value).toBe('Cabin 8 box');
    act(() => elsewhere('m9', choices));
    expect(field.value).toBe('Cabin 9 tower');
  });

  test('what is found holds every word typed, whatever is typed; nothing typed finds all', () => {
    expect(findChoices(choices, '  ')).toHaveLength(500);
    const word = fc.constantFrom('cabin', 'TOWER', 'box', '41', 'DDR5', 'laptop', '?', 'zz');
    fc.assert(
      fc.property(fc.array(word, { minLength: 1, maxLength: 4 }), (typed) => {
        const found = new Set(findChoices(choices, typed.join(' ')));
        for (const one of choices) {
          const text = `${one.label} ${one.aside ?? ''}`.toLowerCase();
          expect(found.has(one)).toBe(typed.every((part) => text.includes(part.toLowerCase())));
        }
      }),
    );
    const [first] = findChoices(choices, 'cabin 41');
    expect(first?.label).toContain('Cabin');
  });
});
