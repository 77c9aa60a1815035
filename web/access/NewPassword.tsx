import { useState } from 'react';
import { TextField } from '../ui/Field.tsx';

interface NewPasswordProps {
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly label?: string;
}

/** A password to be set: seen on demand, so that nobody has to type it twice. */
export function NewPassword({ value, onChange, label = 'Password' }: NewPasswordProps) {
  const [isSeen, setSeen] = useState(false);
  return (
    <div>
      <TextField
        label={label}
        hint="Ten letters or more; three words that have nothing to do with one another are good."
        type={isSeen ? 'text' : 'password'}
        autoComplete="new-password"
        required
        minLength={10}
        maxLength={200}
        value={value}
        onChange={({ target }) => onChange(target.value)}
      />
      <label className="flex min-h-10 items-center gap-2 text-aside">
        <input type="checkbox" checked={isSeen} onChange={() => setSeen(!isSeen)} />
        Show it
      </label>
    </div>
  );
}
