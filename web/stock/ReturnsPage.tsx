import { useState } from 'react';
import { Link } from 'react-router';
import { RETURN_STATES } from '#contract/bench';
import type { ReturnRecord, ReturnState } from '#contract/bench';
import { moduleText, shortDay } from '#core/explaining';
import { readLabel } from '#core/memory';
import type { AssumedField } from '#core/memory';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { Mark } from '../ui/Mark.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { SerialField } from '../ui/SerialField.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { useSave } from '../ui/useSave.ts';
import { Page } from '../ui/Page.tsx';
import { LabelPhoto } from '../visuals/LabelPhoto.tsx';

const STATE_MARKS = {
  'to send': 'caution',
  sent: 'note',
  replaced: 'ok',
  refunded: 'ok',
  refused: 'stop',
} as const;

/** Modules found bad, and where each stands with whoever sold it. */
export function ReturnsPage() {
  const [sought, setSought] = useState('');
  const { data, error, refetch } = api.useReturnsQuery(undefined, {
    refetchOnMountOrArgChange: true,
  });
  const found = (data ?? []).filter((one) => isSought(one, sought));
  return (
    <Page title="Returns">
      {!data &&
        (error ? (
          <Failed failure={error} what="the returns" onRetry={() => void refetch()} />
        ) : (
          <Loading what="the returns" />
        ))}
      {data?.length === 0 && (
        <Empty title="Nothing is on its way back.">
          Modules that fault-finding names as bad come here from their job.
        </Empty>
      )}
      {data && data.length > 0 && (
        <div className="mb-3 max-w-xl">
          <TextField
            label="Which module is it?"
            hint="Its label, part or serial number, job or reason."
            type="search"
            spellCheck={false}
            value={sought}
            onChange={({ target }) => setSought(target.value)}
          />
          <LabelPhoto hints={{ partNumbers: partsOf(data) }} onLabel={setSought} />
        </div>
      )}
      {data && data.length > 0 && found.length === 0 && (
        <Empty title="None of the modules sent back is like this.">
          Clear the line above to see all {data.length}.
        </Empty>
      )}
      {found.length > 0 && (
        <div className="sheet overflow-x-auto p-0!">
          <table className="w-full text-left">
            <caption className="sr-only">Modules sent back</caption>
            <TableHead heads={['Module', 'Reason', 'Job', 'Since', 'By', 'State']} />
            <tbody>
              {found.map((one) => (
                <Row key={one.id} one={one} />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Page>
  );
}

const partsOf = (returns: readonly ReturnRecord[]) =>
  returns.flatMap(({ module }) => module.partNumber ?? []);

/** A label finds modules of its kind; any other words what stands in the row. */
function isSought({ module, serial, reason, jobNumber }: ReturnRecord, sought: string): boolean {
  const { module: asked } = readLabel(sought);
  if (asked) {
    const isSaid = (field: AssumedField) => !asked.assumed?.includes(field);
    return (
      asked.generation === module.generation &&
      asked.capacity === module.capacity &&
      (!isSaid('form factor') || asked.formFactor === module.formFactor) &&
      (!isSaid('rate') || asked.rate === module.rate)
    );
  }
  const text = `${moduleText(module)} ${module.partNumber ?? ''} ${serial} ${reason} ${String(jobNumber).padStart(4, '0')}`;
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.toLowerCase().includes(word));
}

/** Whoever sold it asks for it. */
function Serial({ one }: { readonly one: ReturnRecord }) {
  const [typed, setTyped] = useState<string>();
  const [change] = api.useChangeReturnMutation();
  const saving = useSave(change, () => setTyped(undefined));
  const { id, serial, state, version } = one;
  if (typed === undefined)
    return (
      <span className="block text-aside">
        {serial && <span className="figure mr-2">{serial}</span>}
        <Button look="quiet" onClick={() => setTyped(serial)}>
          {serial ? 'change' : 'note its serial number'}
        </Button>
      </span>
    );
  return (
    <form
      noValidate
      className="grid max-w-64 min-w-48 gap-2 py-1"
      onSubmit={(event) => {
        event.preventDefault();
        void saving.save({ id, body: { state, serial: typed, version } });
      }}
    >
      <SerialField value={typed} onChange={setTyped} />
      <span className="flex gap-3">
        <Button type="submit">Save</Button>
        <Button look="quiet" onClick={() => setTyped(undefined)}>
          leave it
        </Button>
      </span>
      <SaveNotice state={saving.state} />
    </form>
  );
}

function Row({ one }: { readonly one: ReturnRecord }) {
  const [change] = api.useChangeReturnMutation();
  const changing = useSave(change);
  const number = String(one.jobNumber).padStart(4, '0');
  return (
    <>
      <tr className="h-12 border-b border-line last:border-0">
        <td className="px-3 py-1 break-words">
          <b>{moduleText(one.module)}</b>
          <span className="figure block text-aside text-muted">{one.module.partNumber ?? ''}</span>
          <Serial key={one.serial} one={one} />
        </td>
        <td className="px-3 break-words">{one.reason}</td>
        <td className="px-3">
          <Link className="link font-bold" to={`/jobs/${one.jobId}/fit`}>
            {number}
          </Link>
        </td>
        <td className="px-3 whitespace-nowrap">{shortDay(one.at)}</td>
        <td className="px-3 break-words">{one.by}</td>
        <td className="px-3">
          <span className="flex items-center gap-2">
            <Mark kind={STATE_MARKS[one.state]} />
            <select
              aria-label={`State of the return of job ${number}`}
              className="input w-auto!"
              value={one.state}
              onChange={({ target }) =>
                void changing.save({
                  id: one.id,
                  body: { state: target.value as ReturnState, version: one.version },
                })
              }
            >
              {RETURN_STATES.map((state) => (
                <option key={state}>{state}</option>
              ))}
            </select>
          </span>
        </td>
      </tr>
      {changing.state.type === 'failed' && (
        <tr>
          <td colSpan={6} className="px-3 py-2">
            <SaveNotice state={changing.state} />
          </td>
        </tr>
      )}
    </>
  );
}
