import { useDeferredValue, useState } from 'react';
import type { HeldCustomer } from '#contract/customerData';
import { count } from '#core/explaining';
import { ownerApi } from '../app/ownerApi.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { Page } from '../ui/Page.tsx';

/** What the shop holds of each customer: out as a file, or away for good, as they ask. */
export function CustomersPage() {
  const [search, setSearch] = useState('');
  const asked = useDeferredValue(search);
  const { data, error, refetch } = ownerApi.useHeldCustomersQuery(asked, {
    refetchOnMountOrArgChange: true,
  });
  return (
    <Page
      title="Customers’ data"
      isNarrow
      actions={
        <input
          type="search"
          aria-label="Search customers"
          placeholder="Name"
          className="input max-w-72"
          value={search}
          onChange={({ target }) => setSearch(target.value)}
        />
      }
    >
      <p className="mb-3">
        A customer may ask for what you hold of them, or ask you to erase it. Local law says what
        has to be kept, and how long: accounts often have to be.
      </p>
      {!data ? (
        error ? (
          <Failed failure={error} what="the customers" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the customers" />
        )
      ) : data.length === 0 ? (
        <Empty title={search === '' ? 'No customer yet.' : 'Nobody of that name.'} />
      ) : (
        <ul className="grid gap-3">
          {data.map((one) => (
            <Customer key={one.id} customer={one} />
          ))}
        </ul>
      )}
    </Page>
  );
}

function Customer({ customer }: { readonly customer: HeldCustomer }) {
  const { id, name, contact, jobs, openJobs, files, isErased } = customer;
  const [isAsked, setAsked] = useState(false);
  const [typed, setTyped] = useState('');
  const [erase, erasing] = ownerApi.useEraseCustomerMutation();
  return (
    <li className="sheet grid gap-2">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="min-w-0 font-bold break-words">{name}</h2>
        <span className="text-aside text-muted">
          {[contact, count(jobs, 'job'), count(files, 'file')]
            .filter((one) => one !== '')
            .join(', ')}
        </span>
        {!isErased && (
          <span className="ml-auto flex gap-4">
            <a
              className="link inline-flex min-h-10 items-center"
              href={`/api/customers/${id}/data.json`}
              aria-label={`Save what is held of ${name}`}
            >
              Save it as a file
            </a>
            <Button
              look="quiet"
              aria-expanded={isAsked}
              aria-label={`Erase ${name}`}
              onClick={() => setAsked(!isAsked)}
            >
              Erase …
            </Button>
          </span>
        )}
      </div>
      {isAsked && !isErased && (
        <Notice
          kind="stop"
          title="This cannot be undone"
          why={`The name, the contact, what they said, and ${count(files, 'file')} of their machines go. What was fitted, measured and proven stays, as nobody’s.`}
          mend={openJobs > 0 ? `Hand over ${count(openJobs, 'open job')} first.` : undefined}
        >
          <form
            className="flex flex-wrap items-end gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              void erase({ id, name: typed });
            }}
          >
            <div className="grow">
              <TextField
                label="Their name, to be sure"
                value={typed}
                onChange={({ target }) => setTyped(target.value)}
              />
            </div>
            <Button type="submit" disabled={typed !== name || openJobs > 0 || erasing.isLoading}>
              Erase for good
            </Button>
          </form>
        </Notice>
      )}
      {erasing.error && (
        <Failed
          failure={erasing.error}
          what="it away"
          onRetry={() => void erase({ id, name: typed })}
        />
      )}
      {erasing.data && (
        <Notice
          kind={erasing.data.backups.length === 0 ? 'ok' : 'caution'}
          title={`Erased from ${count(erasing.data.jobs, 'job')}`}
          why={
            erasing.data.backups.length === 0
              ? 'No backup kept here holds it.'
              : `These backups still hold it: ${erasing.data.backups.join(', ')}.`
          }
          mend={
            erasing.data.backups.length === 0
              ? undefined
              : 'Delete them once a newer backup is made, and their copies elsewhere. Files saved before hold it too.'
          }
        />
      )}
    </li>
  );
}
