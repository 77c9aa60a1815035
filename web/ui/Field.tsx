import { useId } from 'react';
import type { ComponentProps, ReactNode } from 'react';

interface FieldProps {
  readonly label: string;
  /** What to enter, where the label does not say it. */
  readonly hint?: ReactNode;
  /** What is wrong and what would mend it. */
  readonly error?: string | undefined;
  readonly children: (props: {
    id: string;
    'aria-invalid': boolean;
    'aria-describedby': string | undefined;
    className: string;
  }) => ReactNode;
}

/** A labelled control with its hint and error tied to it. */
export function Field({ label, hint, error, children }: FieldProps) {
  const id = useId();
  const aside = hint || error ? `${id}-aside` : undefined;
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-bold">
        {label}
      </label>
      {children({
        id,
        'aria-invalid': error !== undefined,
        'aria-describedby': aside,
        className: 'input',
      })}
      {aside && (
        <p id={aside} className="mt-1 text-aside">
          {error !== undefined && <span className="font-bold text-stop">✕ {error} </span>}
          {hint && <span className="text-muted">{hint}</span>}
        </p>
      )}
    </div>
  );
}

/** Of a one-line field. */
export type TextFieldProps = Omit<FieldProps, 'children'> & ComponentProps<'input'>;

/** One line of text or a figure. */
export function TextField({ label, hint, error, ...input }: TextFieldProps) {
  return (
    <Field label={label} hint={hint} error={error}>
      {(props) => <input autoComplete="off" {...input} {...props} />}
    </Field>
  );
}

interface SelectFieldProps extends Omit<FieldProps, 'children'>, ComponentProps<'select'> {
  readonly options: readonly (readonly [value: string, label: string])[];
}

/** A choice of a few. */
export function SelectField({ label, hint, error, options, ...select }: SelectFieldProps) {
  return (
    <Field label={label} hint={hint} error={error}>
      {(props) => (
        <select {...select} {...props}>
          {options.map(([value, text]) => (
            <option key={value} value={value}>
              {text}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}
