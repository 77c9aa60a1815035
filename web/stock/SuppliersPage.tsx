import { useState } from 'react';
import { Link } from 'react-router';
import type { SupplierRecord } from '#contract/suppliers';
import { ageText, count } from '#core/explaining';
import { benchNow } from '../app/benchClock.ts';
import { stockApi } from '../app/stockApi.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { useMay } from '../ui/useMay.ts';
import { useSave } from '../ui/useSave.ts';
import { useSteady } from '../ui/useSteady.ts';
import { Page } from '../ui/Page.tsx';
import { AskService } from './PlaceOrder.tsx';
import { PriceListImport } from './PriceListImport.tsx';

/** Who sells to the shop, how old their prices are, and how they are asked. */
export function SuppliersPage() {
  const { data, error, refetch } = stockApi.useSuppliersQuery(undefined, {
    refetchOnMountOrArgChange: true,
  });
  const mayChange = useMay('prices');
  return (
    <Page title="Suppliers" isNarrow>
      {!data ? (
        error ? (
          <Failed failure={error} what="the suppliers" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the suppliers" />
        )
      ) : (
        <div className="grid gap-4">
          {data.length === 0 && (
            <Empty title="No supplier yet.">
              Enter one below, or name it with a module of the catalogue.
            </Empty>
          )}
          {data.map((one) => (
            <Supplier key={one.id} record={one} mayChange={mayChange} />
          ))}
          {mayChange && (
            <section className="sheet" aria-label="A new supplier">
              <h2 className="mb-2 font-bold">A new supplier</h2>
              <SupplierForm key={data.length} />
            </section>
          )}
        </div>
      )}
    </Page>
  );
}

interface SupplierProps {
  readonly record: SupplierRecord;
  readonly mayChange: boolean;
}

function Supplier({ record: newest, mayChange }: SupplierProps) {
  // What is typed goes on from the version it began with.
  const record = useSteady(newest) ?? newest;
  const [open, setOpen] = useState<'terms' | 'list'>();
  const { name, contact, offers, pricedAt, serviceUrl } = record;
  const toggle = (what: 'terms' | 'list') => setOpen(open === what ? undefined : what);
  return (
    <section className="sheet grid gap-2" aria-label={name}>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="min-w-0 font-bold break-words">{name}</h2>
        <Link className="link text-aside" to={`/modules?search=${encodeURIComponent(name)}`}>
          {count(offers, 'offer')}
        </Link>
        {pricedAt !== null && (
          <span className="text-aside text-muted">
            newest price {ageText(pricedAt, benchNow())}
          </span>
        )}
        {mayChange && (
          <span className="ml-auto flex gap-4">
            <Button look="quiet" aria-expanded={open === 'list'} onClick={() => toggle('list')}>
              Price list
            </Button>
            <Button
              look="quiet"
              aria-label={`Change ${name}`}
              aria-expanded={open === 'terms'}
              onClick={() => toggle('terms')}
            >
              Change
            </Button>
          </span>
        )}
      </div>
      {contact !== '' && <p className="break-words">{contact}</p>}
      {mayChange && serviceUrl !== '' && <AskService record={record} />}
      {open === 'terms' && (
        <SupplierForm key={record.version} record={record} onDone={() => setOpen(undefined)} />
      )}
      {open === 'list' && <PriceListImport record={record} />}
    </section>
  );
}

interface SupplierFormProps {
  /** Absent for a new one. */
  readonly record?: SupplierRecord;
  readonly onDone?: () => void;
}

function SupplierForm({ record, onDone }: SupplierFormProps) {
  const [name, setName] = useState(record?.name ?? '');
  const [contact, setContact] = useState(record?.contact ?? '');
  const [serviceUrl, setServiceUrl] = useState(record?.serviceUrl ?? '');
  const [key, setKey] = useState<string>();
  const [add] = stockApi.useAddSupplierMutation();
  const [change] = stockApi.useChangeSupplierMutation();
  const adding = useSave(add);
  const changing = useSave(change, onDone);
  const isAddress = serviceUrl === '' || /^https?:\/\/\S+$/.test(serviceUrl);
  const save = () => {
    const body = {
      ...{ name, contact, serviceUrl: serviceUrl.trim() },
      ...(key === undefined ? {} : { serviceKey: key }),
    };
    if (record) void changing.save({ id: record.id, body: { ...body, version: record.version } });
    else void adding.save(body);
  };
  return (
    <form
      noValidate
      className="grid gap-3 sm:grid-cols-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() !== '' && isAddress) save();
      }}
    >
      <TextField
        label="Name"
        maxLength={80}
        value={name}
        hint={record && record.offers > 0 ? 'its offers follow' : undefined}
        onChange={({ target }) => setName(target.value)}
      />
      <TextField
        label="Contact"
        maxLength={300}
        value={contact}
        hint="who to call, and when"
        onChange={({ target }) => setContact(target.value)}
      />
      <TextField
        label="Address of its service"
        inputMode="url"
        spellCheck={false}
        maxLength={300}
        value={serviceUrl}
        error={isAddress ? undefined : 'An address such as https://orders.example/api.'}
        hint="empty: it has none"
        onChange={({ target }) => setServiceUrl(target.value)}
      />
      <TextField
        label="Key of its service"
        type="password"
        autoComplete="off"
        maxLength={300}
        value={key ?? ''}
        hint={record?.hasKey ? 'one is kept; type to replace it' : 'if it wants one'}
        onChange={({ target }) => setKey(target.value)}
      />
      <div className="sm:col-span-2">
        <Button type="submit" disabled={name.trim() === '' || !isAddress}>
          {record ? 'Save' : 'Add it'}
        </Button>
      </div>
      <div className="sm:col-span-2">
        <SaveNotice state={adding.state} />
        <SaveNotice state={changing.state} />
      </div>
    </form>
  );
}
