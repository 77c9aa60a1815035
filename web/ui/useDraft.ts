import { useEffect } from 'react';
import type { FieldValues, UseFormReturn } from 'react-hook-form';

const keyOf = (name: string) => `tembrix.form.${name}`;

/** What was typed into a form and not saved, from an earlier visit; `undefined` for nothing. */
export function storedDraft<Values>(name: string): Values | undefined {
  try {
    return (JSON.parse(localStorage.getItem(keyOf(name)) ?? 'null') as Values | null) ?? undefined;
  } catch {
    return undefined;
  }
}

/** Keeps a draft that no form holds. */
export function keepDraft(name: string, values: unknown): void {
  localStorage.setItem(keyOf(name), JSON.stringify(values));
}

/** Forgets a form's draft, once it is saved or given up. */
export function dropDraft(name: string): void {
  localStorage.removeItem(keyOf(name));
}

/**
 * Keeps what is typed into a form in the browser, so that leaving the page loses nothing.
 *
 * @returns sets the form to what is saved now, and forgets the draft
 */
export function useKeptDraft<Values extends FieldValues, Context, Output>(
  name: string,
  form: UseFormReturn<Values, Context, Output>,
): (saved: Values) => void {
  const { subscribe, reset } = form;
  useEffect(
    () =>
      subscribe({
        formState: { values: true, isDirty: true },
        callback: ({ values, isDirty }) => {
          if (isDirty) localStorage.setItem(keyOf(name), JSON.stringify(values));
        },
      }),
    [name, subscribe],
  );
  return (saved) => {
    reset(saved);
    // After it: setting the values is told as a change while the form still counts as dirty.
    dropDraft(name);
  };
}
