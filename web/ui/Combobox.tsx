import { useCombobox } from 'downshift';
import { useEffect, useMemo, useState } from 'react';
import type { ReactNode } from 'react';
import { Field } from './Field.tsx';

/** One choice of a long list. */
export interface Choice {
  readonly value: string;
  readonly label: string;
  /** What tells it from others of the same name. */
  readonly aside?: string | undefined;
}

interface ComboboxProps {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly error?: string | undefined;
  readonly choices: readonly Choice[];
  /** The value chosen; empty for none. */
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly disabled?: boolean | undefined;
  readonly placeholder?: string | undefined;
}

/** As many as one looks through; more is found faster by typing on. */
const SHOWN = 50;

const words = (text: string) =>
  text
    .toLowerCase()
    .split(/[\s,;·–-]+/)
    .filter(Boolean);

/** Choices that hold every word typed, those that begin with it first. */
export function findChoices(choices: readonly Choice[], typed: string): readonly Choice[] {
  const wanted = words(typed);
  if (wanted.length === 0) return choices;
  const [first = ''] = wanted;
  const found = choices.filter(({ label, aside = '' }) => {
    const text = `${label} ${aside}`.toLowerCase();
    return wanted.every((word) => text.includes(word));
  });
  const begins = ({ label }: Choice) => label.toLowerCase().startsWith(first);
  return [...found.filter(begins), ...found.filter((one) => !begins(one))];
}

/** A choice out of hundreds: type to find, arrows and Enter to choose, Esc to leave it as it was. */
export function Combobox(props: ComboboxProps) {
  const { label, hint, error, choices, value, onChange, disabled = false, placeholder } = props;
  const chosen = useMemo(
    () => choices.find((one) => one.value === value) ?? null,
    [choices, value],
  );
  const chosenLabel = chosen?.label ?? '';
  const [typed, setTyped] = useState(chosenLabel);
  const found = useMemo(
    () => (typed === chosen?.label ? choices : findChoices(choices, typed)),
    [choices, typed, chosen],
  );
  const shown = found.slice(0, SHOWN);
  const box = useCombobox<Choice>({
    items: [...shown],
    selectedItem: chosen,
    inputValue: typed,
    itemToString: (one) => one?.label ?? '',
    itemToKey: (one) => one?.value,
    // A second click into the field is on the way to typing, not away from it.
    stateReducer: (_state, { type, changes }) =>
      type === useCombobox.stateChangeTypes.InputClick ? { ...changes, isOpen: true } : changes,
    onSelectedItemChange: ({ selectedItem }) => {
      onChange(selectedItem?.value ?? '');
      setTyped(selectedItem?.label ?? '');
    },
    onIsOpenChange: ({ isOpen, type }) => {
      // Left without a choice: an emptied field chooses nothing, anything else is as it was.
      if (isOpen || type === useCombobox.stateChangeTypes.ItemClick) return;
      if (type === useCombobox.stateChangeTypes.InputKeyDownEnter) return;
      if (typed.trim() === '' && value !== '') onChange('');
      else setTyped(chosenLabel);
    },
  });
  const { isOpen } = box;
  // What was chosen elsewhere, or arrived later, shows here as well; whoever is typing goes on.
  useEffect(() => {
    if (!isOpen) setTyped(chosenLabel);
  }, [isOpen, value, chosenLabel]);
  return (
    <Field label={label} hint={hint} error={error}>
      {({ id, ...aria }) => (
        <div className="relative">
          <input
            {...aria}
            {...box.getInputProps({
              ...{ id, disabled, placeholder, autoComplete: 'off', 'aria-labelledby': undefined },
              onFocus: ({ target }) => target.select(),
              // At once: by way of the state of the list, letters typed fast would be lost.
              onChange: ({ currentTarget }) => setTyped(currentTarget.value),
            })}
          />
          <ul
            {...box.getMenuProps({
              'aria-label': `${label}: choices`,
              'aria-labelledby': undefined,
            })}
            className={
              box.isOpen
                ? 'absolute z-20 mt-1 max-h-80 w-full overflow-y-auto rounded-md border border-edge bg-sheet py-1 shadow-lg'
                : ''
            }
          >
            {box.isOpen &&
              shown.map((one, index) => (
                <li
                  key={one.value}
                  className={`flex min-h-10 cursor-pointer flex-wrap items-center gap-x-3 px-3 py-1 ${box.highlightedIndex === index ? 'bg-teal-wash' : ''}`}
                  {...box.getItemProps({ item: one, index })}
                >
                  <span className="min-w-0 break-words">
                    {one.value === value && '✓ '}
                    {one.label}
                  </span>
                  {one.aside && <span className="text-aside text-muted">{one.aside}</span>}
                </li>
              ))}
          </ul>
          {box.isOpen && (shown.length === 0 || found.length > SHOWN) && (
            <p role="status" className="mt-1 text-aside text-muted">
              {shown.length === 0
                ? 'Nothing has these words.'
                : `${found.length - SHOWN} more: type on.`}
            </p>
          )}
        </div>
      )}
    </Field>
  );
}
