import { useState } from 'react';
import type { Door } from '#contract/measuring';
import { measuringApi } from '../app/measuringApi.ts';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';

/** The door customers' machines reach the measuring page by: shut until the owner opens it. */
export function MeasuringDoor() {
  const { data, error, refetch } = measuringApi.useDoorQuery();
  if (data) return <DoorForm key={data.version} door={data} />;
  return error ? (
    <Failed failure={error} what="the measuring door" onRetry={() => void refetch()} />
  ) : (
    <Loading what="the measuring door" />
  );
}

function DoorForm({ door }: { readonly door: Door }) {
  const { terms, version, addresses, url, fault } = door;
  const [address, setAddress] = useState(terms.address || (addresses[0]?.address ?? ''));
  const [port, setPort] = useState(String(terms.port));
  const [change] = measuringApi.useChangeDoorMutation();
  const saving = useSave(change);
  const save = (isOpen: boolean) =>
    void saving.save({ terms: { isOpen, address, port: Number(port) }, version });
  const isPort = /^\d+$/.test(port) && Number(port) >= 1024 && Number(port) <= 65_535;
  return (
    <section className="sheet grid gap-3" aria-label="Measuring door">
      <h2 className="font-bold">Measuring door</h2>
      <p>
        Customers’ machines on the shop’s network reach the measuring page here, on a port of its
        own. Nothing else of Tembrix can be reached there: no jobs, no customers. It can only take a
        result that carries a link’s token.
      </p>
      {url ? (
        <Notice kind="ok" title={`Open at ${url}`} />
      ) : fault ? (
        <Notice alert kind="stop" title="Shut, though it should be open" why={fault} />
      ) : (
        <Notice kind="note" title="Shut" />
      )}
      <div className="grid gap-3 sm:grid-cols-[1fr_9rem]">
        <SelectField
          label="Address of this computer"
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
      <p className="flex gap-3">
        <Button look="main" disabled={!isPort} onClick={() => save(true)}>
          {url ? 'Change address' : 'Turn on network access'}
        </Button>
        {terms.isOpen && <Button onClick={() => save(false)}>Turn off</Button>}
      </p>
      <SaveNotice state={saving.state} />
    </section>
  );
}
