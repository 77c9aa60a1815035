import { useState } from 'react';
import type { FormEvent } from 'react';
import type { OpenSession } from '#contract/accounts';
import { momentText } from '#core/explaining';
import { accessApi } from '../app/accessApi.ts';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Page } from '../ui/Page.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';
import { NewPassword } from './NewPassword.tsx';
import { ROLE_WORDS } from './roleWords.ts';
import { SignInForm } from './SignInForm.tsx';

/** One’s own account: PIN of this device, password, and where one is signed in. */
export function MePage() {
  const { data: session } = api.useSessionQuery();
  const [signOut] = accessApi.useSignOutMutation();
  const [hold] = accessApi.useHoldMutation();
  const leaving = useSave(signOut);
  const holding = useSave(hold);
  if (!session?.person) return <Page title="Your account" isNarrow />;
  const { person, hasPin, signsInByItself, jobId } = session;
  return (
    <Page
      title={person.name}
      isNarrow
      actions={
        <>
          <span className="text-muted">{ROLE_WORDS[person.role].name}</span>
          <span className="ml-auto flex flex-wrap gap-2">
            {hasPin && <Button onClick={() => void holding.save({})}>Hold the bench</Button>}
            <Button onClick={() => void leaving.save(undefined)}>Sign out</Button>
          </span>
        </>
      }
    >
      {jobId !== null ? (
        <Notice
          kind="note"
          title="This tablet was let in for one job"
          why="It is signed out when the job is closed. Password and PIN are changed on the bench screen."
        />
      ) : (
        <div className="grid gap-4">
          {signsInByItself && (
            <Notice
              kind="note"
              title="A made-up shop"
              why="On this machine it lets everybody in as its owner. Sign in as a technician or at the counter to see what they see."
            />
          )}
          <SaveNotice state={leaving.state} />
          <PinPart hasPin={hasPin} />
          <PasswordPart />
          <Devices />
          {signsInByItself && <SomebodyElse />}
        </div>
      )}
    </Page>
  );
}

function PinPart({ hasPin }: { readonly hasPin: boolean }) {
  const [pin, setPin] = useState('');
  const [set] = accessApi.useSetPinMutation();
  const saving = useSave(set, () => setPin(''));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void saving.save({ pin });
  };
  return (
    <section className="sheet" aria-labelledby="pin">
      <h2 id="pin" className="font-bold">
        PIN on this device
      </h2>
      <p className="mb-2 text-muted">
        {hasPin
          ? 'Set. After ten minutes without a touch the bench is held until it is given.'
          : 'None. With one, a shared bench is held after ten minutes without a touch, and taken over in a moment.'}
      </p>
      <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
        <div className="w-40">
          <TextField
            label={hasPin ? 'New PIN' : 'PIN'}
            type="password"
            inputMode="numeric"
            pattern="\d{4,8}"
            title="4 to 8 digits"
            required
            maxLength={8}
            value={pin}
            onChange={({ target }) => setPin(target.value)}
          />
        </div>
        <Button type="submit">Set</Button>
        {hasPin && (
          <Button look="quiet" onClick={() => void saving.save({ pin: null })}>
            Forget it
          </Button>
        )}
      </form>
      <SaveNotice state={saving.state} />
    </section>
  );
}

function PasswordPart() {
  const [old, setOld] = useState('');
  const [password, setPassword] = useState('');
  const [change] = accessApi.useChangePasswordMutation();
  const saving = useSave(change, () => {
    setOld('');
    setPassword('');
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void saving.save({ old, password });
  };
  return (
    <section className="sheet" aria-labelledby="password">
      <h2 id="password" className="mb-2 font-bold">
        Password
      </h2>
      <form onSubmit={submit} className="grid gap-3">
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField
            label="Password now"
            type="password"
            autoComplete="current-password"
            required
            value={old}
            onChange={({ target }) => setOld(target.value)}
          />
          <NewPassword label="New password" value={password} onChange={setPassword} />
        </div>
        <SaveNotice state={saving.state} />
        <div className="flex items-center gap-3">
          <Button type="submit">Change it</Button>
          <span className="text-aside text-muted">Your other devices are signed out.</span>
        </div>
      </form>
    </section>
  );
}

function Devices() {
  const { data, error, refetch } = accessApi.useSessionsQuery();
  const [end] = accessApi.useEndSessionMutation();
  const saving = useSave(end);
  return (
    <section className="sheet" aria-labelledby="devices">
      <h2 id="devices" className="mb-2 font-bold">
        Signed in on
      </h2>
      {data ? (
        <ul>
          {data.map((one) => (
            <Device key={one.id} session={one} onEnd={() => void saving.save(one.id)} />
          ))}
          {data.length === 0 && <li className="text-muted">No device.</li>}
        </ul>
      ) : error ? (
        <Failed failure={error} what="your devices" onRetry={() => void refetch()} />
      ) : (
        <Loading what="your devices" />
      )}
      <SaveNotice state={saving.state} />
    </section>
  );
}

interface DeviceProps {
  readonly session: OpenSession;
  readonly onEnd: () => void;
}

function Device({ session: { device, seenAt, isThis, hasPin, job }, onEnd }: DeviceProps) {
  return (
    <li className="flex flex-wrap items-center gap-x-4 border-t border-line py-1 first:border-0">
      <span className="font-bold">
        {device}
        {isThis && ' – this one'}
      </span>
      <span className="text-muted">
        last used {momentText(seenAt)}
        {hasPin && ', with a PIN'}
        {job && `, for job ${String(job.number).padStart(4, '0')} alone`}
      </span>
      {!isThis && (
        <Button look="quiet" className="ml-auto" onClick={onEnd}>
          Sign it out
        </Button>
      )}
    </li>
  );
}

/** In a made-up shop, where nobody is signed out: another role to try. */
function SomebodyElse() {
  return (
    <section className="sheet" aria-labelledby="else">
      <h2 id="else" className="mb-2 font-bold">
        Sign in as somebody else
      </h2>
      <SignInForm />
    </section>
  );
}
