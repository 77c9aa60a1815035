import { screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { beforeEach, describe, expect, test } from 'vitest';
import { show } from '../../test/support/screen.tsx';
import { dropDraft, keepDraft, storedDraft, useKeptDraft } from './useDraft.ts';

interface Values {
  name: string;
  note: string;
}

function Form({ name = 'one' }: { readonly name?: string }) {
  const [initial] = useState(() => storedDraft<Values>(name) ?? { name: '', note: '' });
  const form = useForm<Values>({ defaultValues: initial });
  const settle = useKeptDraft(name, form);
  return (
    <form>
      <input aria-label="Name" {...form.register('name')} />
      <textarea aria-label="Note" {...form.register('note')} />
      <button type="button" onClick={() => settle({ name: 'as saved', note: '' })}>
        Save
      </button>
    </form>
  );
}
const valueOf = (label: string) => screen.getByLabelText<HTMLInputElement>(label).value;

beforeEach(() => localStorage.clear());

describe('what is typed and not saved', () => {
  test('is there again when the page is opened anew', async () => {
    const { unmount } = show(<Form />);
    await userEvent.type(screen.getByLabelText('Name'), 'Net loft');
    await userEvent.type(screen.getByLabelText('Note'), 'two lines');
    expect(storedDraft<Values>('one')).toEqual({ name: 'Net loft', note: 'two lines' });
    unmount();
    show(<Form />);
    expect([valueOf('Name'), valueOf('Note')]).toEqual(['Net loft', 'two lines']);
  });

  test('is not kept before anything is typed', () => {
    show(<Form />);
    expect(storedDraft('one')).toBeUndefined();
    expect(valueOf('Name')).toBe('');
  });

  test('is a draft no more once it is saved, and is one again when typing goes on', async () => {
    show(<Form />);
    await userEvent.type(screen.getByLabelText('Name'), 'Net loft');
    await userEvent.click(screen.getByText('Save'));
    expect(storedDraft('one')).toBeUndefined();
    expect(valueOf('Name')).toBe('as saved');
    await userEvent.type(screen.getByLabelText('Name'), '!');
    expect(storedDraft<Values>('one')?.name).toBe('as saved!');
  });

  test('of two forms lie apart', () => {
    keepDraft('one', { name: 'first', note: '' });
    keepDraft('two', { name: 'second', note: '' });
    dropDraft('one');
    expect(storedDraft('one')).toBeUndefined();
    expect(storedDraft<Values>('two')?.name).toBe('second');
  });

  test('that cannot be read is dropped rather than stopping the page', () => {
    localStorage.setItem('tembrix.form.one', '{"name":');
    expect(storedDraft('one')).toBeUndefined();
    localStorage.setItem('tembrix.form.one', 'null');
    expect(storedDraft('one')).toBeUndefined();
  });
});
