/** For the form of a door: whoever stands there types at once. */
export const focusFirst = (form: HTMLFormElement | null) =>
  Array.from(form?.querySelectorAll<HTMLInputElement>('input:not([type=radio])') ?? [])
    .find(({ value }) => value === '')
    ?.focus();
