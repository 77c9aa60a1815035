import { useState } from 'react';
import type { FormEvent } from 'react';
import { ROLES } from '#contract/access';
import type { Role } from '#contract/access';
import type { Account } from '#contract/accounts';
import { count, momentText } from '#core/explaining';
import { accessApi } from '../app/accessApi.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { Page } from '../ui/Page.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';
import { NewPassword } from './NewPassword.tsx';
import { ROLE_WORDS } from './roleWords.ts';

const ROLE_OPTIONS = ROLES.map((role) => [role, ROLE_WORDS[role].name] as const);

/** Everybody of the shop, and what they may. */
export function PeoplePage() {
  const { data, error, refetch } = accessApi.useAccountsQuery();
  return (
    <Page title="People" isNarrow>
      {data ? (
        <div className="grid gap-4">
          <ul className="grid gap-3">
            {data.map((one) => (
              <Person key={`${one.id} ${one.version}`} account={one} />
            ))}
          </ul>
          <NewPerson />
          <dl className="grid gap-x-4 gap-y-1 text-aside sm:grid-cols-[8rem_1fr]">
            {ROLES.map((role) => (
              <div key={role} className="contents">
                <dt className="font-bold">{ROLE_WORDS[role].name}</dt>
                <dd>{ROLE_WORDS[role].may}</dd>
              </div>
            ))}
          </dl>
        </div>
      ) : error ? (
        <Failed failure={error} what="the people" onRetry={() => void refetch()} />
      ) : (
        <Loading what="the people" />
      )}
    </Page>
  );
}

function Person({ account }: { readonly account: Account }) {
  const { id, version, isActive, seenAt, sessions } = account;
  const [name, setName] = useState(account.name);
  const [role, setRole] = useState<Role>(account.role);
  const [isAsking, setAsking] = useState(false);
  const [change] = accessApi.useChangeAccountMutation();
  const saving = useSave(change);
  const save = (more: { isActive?: boolean } = {}) =>
    void saving.save({ id, body: { version, name, role, isActive, ...more } });
  const isChanged = name.trim() !== account.name || role !== account.role;
  return (
    <li className="sheet grid gap-2" aria-label={account.name}>
      <form
        className="grid items-end gap-3 sm:grid-cols-[1fr_10rem_auto]"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <TextField
          label="Name"
          required
          maxLength={60}
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
        <SelectField
          label="Role"
          value={role}
          options={ROLE_OPTIONS}
          onChange={({ target }) => setRole(target.value as Role)}
        />
        <Button type="submit" disabled={!isChanged}>
          Save
        </Button>
      </form>
      <div className="flex flex-wrap items-center gap-x-4">
        <span className="text-aside text-muted">
          {!isActive
            ? 'Closed: signs in nowhere. Records keep the name.'
            : seenAt === null
              ? 'Not signed in anywhere.'
              : `On ${count(sessions, 'device')}, last ${momentText(seenAt)}.`}
        </span>
        <span className="ml-auto flex flex-wrap gap-2">
          {isActive && (
            <Button look="quiet" aria-expanded={isAsking} onClick={() => setAsking(!isAsking)}>
              New password
            </Button>
          )}
          <Button look="quiet" onClick={() => save({ isActive: !isActive })}>
            {isActive ? 'Close the account' : 'Open it again'}
          </Button>
        </span>
      </div>
      {isAsking && <SetPassword id={id} onDone={() => setAsking(false)} />}
      <SaveNotice
        state={saving.state}
        sides={(mine, theirs) => [
          ['Name', (mine as Account).name, (theirs as Account).name],
          [
            'Role',
            ROLE_WORDS[(mine as Account).role].name,
            ROLE_WORDS[(theirs as Account).role].name,
          ],
        ]}
        onKeepMine={(theirs) =>
          void saving.save({
            id,
            body: { version: (theirs as Account).version, name, role, isActive },
          })
        }
        onTakeTheirs={(theirs) => {
          setName((theirs as Account).name);
          setRole((theirs as Account).role);
          saving.clear();
        }}
      />
    </li>
  );
}

interface SetPasswordProps {
  readonly id: string;
  readonly onDone: () => void;
}

function SetPassword({ id, onDone }: SetPasswordProps) {
  const [password, setPassword] = useState('');
  const [set] = accessApi.useSetPasswordMutation();
  const saving = useSave(set, onDone);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void saving.save({ id, body: { password } });
  };
  return (
    <form onSubmit={submit} className="grid gap-2">
      <NewPassword label="New password" value={password} onChange={setPassword} />
      <div className="flex items-center gap-3">
        <Button type="submit">Set it</Button>
        <span className="text-aside text-muted">Their devices are signed out.</span>
      </div>
      <SaveNotice state={saving.state} />
    </form>
  );
}

function NewPerson() {
  const [name, setName] = useState('');
  const [role, setRole] = useState<Role>('technician');
  const [password, setPassword] = useState('');
  const [add] = accessApi.useAddAccountMutation();
  const saving = useSave(add, () => {
    setName('');
    setPassword('');
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void saving.save({ body: { name, role, password } });
  };
  return (
    <section className="sheet" aria-labelledby="new-person">
      <h2 id="new-person" className="mb-2 font-bold">
        Add somebody
      </h2>
      <form onSubmit={submit} className="grid gap-3">
        <div className="grid gap-3 sm:grid-cols-[1fr_10rem]">
          <TextField
            label="Name"
            hint="Stands under what they do."
            required
            maxLength={60}
            value={name}
            onChange={({ target }) => setName(target.value)}
          />
          <SelectField
            label="Role"
            value={role}
            options={ROLE_OPTIONS}
            onChange={({ target }) => setRole(target.value as Role)}
          />
        </div>
        <NewPassword label="First password" value={password} onChange={setPassword} />
        <SaveNotice state={saving.state} />
        <div className="flex items-center gap-3">
          <Button look="main" type="submit">
            Add
          </Button>
          <span className="text-aside text-muted">They change it under their name in the bar.</span>
        </div>
      </form>
    </section>
  );
}
