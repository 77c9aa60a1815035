import { useState } from 'react';
import type { FormEvent, ReactNode } from 'react';
import { accessApi } from '../app/accessApi.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';
import { focusFirst } from './focusFirst.ts';

interface SignInFormProps {
  /** Who it is, where that is known. */
  readonly name?: string;
  /** At the door, where nothing else is to be done; elsewhere it takes nobody’s focus. */
  readonly isDoor?: boolean;
  /** What else can be done instead, beside the button. */
  readonly children?: ReactNode;
}

/** Name and password of whoever comes in. */
export function SignInForm({ name: known = '', isDoor = false, children }: SignInFormProps) {
  const [name, setName] = useState(known);
  const [password, setPassword] = useState('');
  const [signIn] = accessApi.useSignInMutation();
  const saving = useSave(signIn);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void saving.save({ name, password });
  };
  return (
    <form ref={isDoor ? focusFirst : undefined} onSubmit={submit} className="grid gap-3">
      <div className={isDoor ? 'grid gap-3' : 'grid gap-3 sm:grid-cols-2'}>
        <TextField
          label="Name"
          autoComplete={isDoor ? 'username' : 'off'}
          required
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete={isDoor ? 'current-password' : 'off'}
          required
          value={password}
          onChange={({ target }) => setPassword(target.value)}
        />
      </div>
      <SaveNotice state={saving.state} />
      <div className="flex gap-3">
        <Button {...(isDoor ? { look: 'main' } : {})} type="submit">
          Sign in
        </Button>
        {children}
      </div>
    </form>
  );
}
