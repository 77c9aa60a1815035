import { useState } from 'react';
import { Button } from './Button.tsx';
import { SelectField, TextField } from './Field.tsx';
import { Notice } from './Notice.tsx';
import { SaveNotice } from './SaveNotice.tsx';
import type { SaveState } from './saveQueue.ts';

interface Terms {
  readonly isOpen: boolean;
  readonly address: string;
  readonly port: number;
}

interface ListenFormProps {
  readonly terms: Terms;
  /** Of this computer on the shop's network. */
  readonly addresses: readonly { readonly address: string; readonly name: string }[];
  /** Where it is reached; null while it is off. */
  readonly url: string | null;
  /** Why it is off though it should be on. */
  readonly fault: string | null;
  /** The settings of this computer say where; nothing can be changed here. */
  readonly isFixed?: boolean;
  readonly hint?: string;
  readonly state: SaveState;
  readonly onSave: (terms: Terms) => void;
}

/** Whether something is reached over the shop's network, and where. */
export function ListenForm({ terms, addresses, url, fault, ...props }: ListenFormProps) {
  const { isFixed = false, hint, state, onSave } = props;
  const [address, setAddress] = useState(terms.address || (addresses[0]?.address ?? ''));
  const [port, setPort] = useState(String(terms.port));
  const save = (isOpen: boolean) => onSave({ isOpen, address, port: Number(port) });
  const isPort = /^\d+$/.test(port) && Number(port) >= 1024 && Number(port) <= 65_535;
  return (
    <>
      {url ? (
        <Notice kind="ok" title={`On, at ${url}`} />
      ) : fault ? (
        <Notice alert kind="stop" title="Off, though it should be on" why={fault} />
      ) : (
        <Notice kind="note" title="Off" />
      )}
      {isFixed ? (
        <p className="text-muted">TEMBRIX_LISTEN says where it listens.</p>
      ) : (
        <>
          <div className="grid gap-3 sm:grid-cols-[1fr_9rem]">
            <SelectField
              label="Address of this computer"
              {...(hint === undefined ? {} : { hint })}
              value={address}
              onChange={({ target }) => setAddress(target.value)}
              options={addresses.map((one) => [one.address, `${one.address} (${one.name})`])}
            />
            <TextField
              label="Port"
              inputMode="numeric"
              value={port}
              error={isPort ? undefined : 'From 1024 to 65535.'}
              onChange={({ target }) => setPort(target.value)}
            />
          </div>
          <div className="flex flex-wrap gap-3">
            <Button look="main" disabled={!isPort || address === ''} onClick={() => save(true)}>
              {terms.isOpen ? 'Change address' : 'Turn on network access'}
            </Button>
            {terms.isOpen && <Button onClick={() => save(false)}>Turn off</Button>}
          </div>
        </>
      )}
      <SaveNotice state={state} />
    </>
  );
}
