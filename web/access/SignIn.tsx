import { useEffect, useState } from 'react';
import type { FormEvent, ReactNode } from 'react';
import { useLocation, useNavigate } from 'react-router';
import type { Session } from '#contract/access';
import { accessApi } from '../app/accessApi.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';
import { focusFirst } from './focusFirst.ts';
import { NewPassword } from './NewPassword.tsx';
import { SignInForm } from './SignInForm.tsx';

const TABLET = /^#tablet=([\w-]{20,100})$/;

/** The door: first owner, name and password, a PIN on a bench that was left, or a tablet’s code. */
export default function SignIn({ session }: { readonly session: Session }) {
  const { hash } = useLocation();
  const code = TABLET.exec(hash)?.[1];
  const [isByPassword, setByPassword] = useState(false);
  const canPin = session.onDevice.length > 0;
  if (code !== undefined && session.state !== 'no owner') return <Joining code={code} />;
  if (session.state === 'no owner') return <FirstOwner />;
  if (canPin && !isByPassword)
    return <ByPin session={session} onPassword={() => setByPassword(true)} />;
  return (
    <Door title="Sign in">
      <SignInForm isDoor name={session.person?.name ?? ''}>
        {canPin && <Button onClick={() => setByPassword(false)}>Use a PIN</Button>}
      </SignInForm>
      <p className="mt-3 text-aside text-muted">
        Forgotten? The owner sets a new one under Shop › People.
      </p>
    </Door>
  );
}

interface DoorProps {
  readonly title: string;
  readonly children: ReactNode;
}

function Door({ title, children }: DoorProps) {
  return (
    <main className="grid grow content-start justify-items-center px-3 py-10">
      <div className="sheet w-full max-w-md">
        <h1 className="mb-3 text-answer font-bold">{title}</h1>
        {children}
      </div>
    </main>
  );
}

function FirstOwner() {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [setUp] = accessApi.useSetUpMutation();
  const saving = useSave(setUp);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void saving.save({ name, password });
  };
  return (
    <Door title="Whose bench is this?">
      <form ref={focusFirst} onSubmit={submit} className="grid gap-3">
        <p>
          The owner adds everybody else, sets prices and sees the month. Records are signed with the
          name entered here.
        </p>
        <TextField
          label="Your name"
          autoComplete="username"
          required
          maxLength={60}
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
        <NewPassword value={password} onChange={setPassword} />
        <SaveNotice state={saving.state} />
        <div>
          <Button look="main" type="submit">
            Open the bench
          </Button>
        </div>
        <p className="text-aside text-muted">
          Nobody can look the password up. If it is lost:{' '}
          <code className="whitespace-nowrap">npm run owner -- --reset</code> on this machine.
        </p>
      </form>
    </Door>
  );
}

interface ByPinProps {
  readonly session: Session;
  readonly onPassword: () => void;
}

function ByPin({ session: { onDevice, person, state }, onPassword }: ByPinProps) {
  const [accountId, setAccountId] = useState(
    onDevice.find(({ id }) => id === person?.id)?.id ?? onDevice[0]?.id ?? '',
  );
  const [pin, setPin] = useState('');
  const [takeOver] = accessApi.useTakeOverMutation();
  const saving = useSave(takeOver);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void saving.save({ accountId, pin });
    setPin('');
  };
  return (
    <Door title={state === 'held' ? `Held for ${person?.name ?? ''}` : 'Take the bench over'}>
      <form ref={focusFirst} onSubmit={submit} className="grid gap-3">
        <fieldset className="flex flex-wrap gap-2">
          <legend className="mb-1 font-bold">Who is here?</legend>
          {onDevice.map(({ id, name }) => (
            <label
              key={id}
              className="flex min-h-10 items-center gap-2 rounded-md border border-edge px-3 has-checked:border-teal has-checked:bg-teal-wash"
            >
              <input
                type="radio"
                name="who"
                checked={id === accountId}
                onChange={() => setAccountId(id)}
              />
              {name}
            </label>
          ))}
        </fieldset>
        <TextField
          label="PIN"
          type="password"
          inputMode="numeric"
          autoComplete="off"
          required
          maxLength={8}
          value={pin}
          onChange={({ target }) => setPin(target.value)}
        />
        <SaveNotice state={saving.state} />
        <div className="flex gap-3">
          <Button look="main" type="submit">
            Take over
          </Button>
          <Button onClick={onPassword}>Use a password</Button>
        </div>
        <p className="text-aside text-muted">What was typed on this screen is still there.</p>
      </form>
    </Door>
  );
}

/** A tablet comes in by the code it scanned; the code leaves the address at once. */
function Joining({ code }: { readonly code: string }) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const [join, { error, isUninitialized }] = accessApi.useJoinJobMutation();
  useEffect(() => {
    if (!isUninitialized) return;
    void join({ token: code })
      .unwrap()
      .then(
        () => navigate(pathname, { replace: true }),
        () => undefined,
      );
  }, [code, isUninitialized, join, navigate, pathname]);
  const failure = error && 'problem' in error ? error.problem : undefined;
  return (
    <Door title="Joining the job">
      {failure ? (
        <Notice alert kind="stop" title={failure.title} why={failure.detail} mend={failure.mend}>
          <Button onClick={() => void navigate('/', { replace: true })}>Sign in instead</Button>
        </Notice>
      ) : (
        <p role="status">
          {error ? 'The bench does not answer. Scan the code again.' : 'Letting this tablet in …'}
        </p>
      )}
    </Door>
  );
}
