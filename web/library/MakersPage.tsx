import { useState } from 'react';
import type { FormEvent } from 'react';
import { makerKey, readMakerCode } from '#core/inventory';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';
import { Page } from '../ui/Page.tsx';

/** Standard maker codes and the shop's own names for them. A code without a name stays a code. */
export function MakersPage() {
  const { data, error, refetch } = api.useMakersQuery();
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  const [isAsked, setAsked] = useState(false);
  const [nameMaker] = api.useNameMakerMutation();
  const [forget] = api.useForgetMakerMutation();
  const forgetting = useSave(forget);
  const naming = useSave(nameMaker, () => {
    setCode('');
    setName('');
    setAsked(false);
  });
  const read = readMakerCode(code);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setAsked(true);
    if (read && name.trim()) void naming.save({ key: makerKey(read), body: { name } });
  };
  return (
    <Page title="Maker register" isNarrow>
      <form
        noValidate
        className="sheet mb-3.5 grid gap-3 sm:grid-cols-[12rem_1fr_auto]"
        onSubmit={submit}
      >
        <TextField
          label="Code"
          className="figure"
          value={code}
          hint={
            read ? `Bank and code: ${makerKey(read)}` : 'As read: 3-4F, or 024F from an inventory.'
          }
          error={isAsked && !read ? 'That is no code. Type bank and code, as in 3-4F.' : undefined}
          onChange={({ target }) => setCode(target.value)}
        />
        <TextField
          label="Your name for it"
          value={name}
          maxLength={60}
          error={isAsked && name.trim() === '' ? 'Enter the name.' : undefined}
          onChange={({ target }) => setName(target.value)}
        />
        <div className="self-start pt-6">
          <Button type="submit">Name it</Button>
        </div>
        <div className="col-span-full">
          <SaveNotice state={naming.state} />
        </div>
      </form>
      <SaveNotice state={forgetting.state} />
      {!data &&
        (error ? (
          <Failed failure={error} what="the makers" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the makers" />
        ))}
      {data?.length === 0 && (
        <Empty title="No maker is named yet.">
          Modules show the code their EEPROM carries until you name it.
        </Empty>
      )}
      {data && data.length > 0 && (
        <ul className="sheet grid p-0!">
          {data.map(({ key, name: shown }) => (
            <li
              key={key}
              className="flex min-h-12 flex-wrap items-center gap-x-4 border-b border-line px-4 last:border-0"
            >
              <span className="figure w-20">{key}</span>
              <b className="min-w-0 grow break-words">{shown}</b>
              <Button
                look="quiet"
                aria-label={`Correct ${shown}`}
                onClick={() => {
                  setCode(key);
                  setName(shown);
                }}
              >
                correct
              </Button>
              <Button
                look="quiet"
                aria-label={`Take back ${shown}`}
                onClick={() => void forgetting.save(key)}
              >
                take back
              </Button>
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}
