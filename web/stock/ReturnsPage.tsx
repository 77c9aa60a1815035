import { Link } from 'react-router';
import { RETURN_STATES } from '#contract/bench';
import type { ReturnRecord, ReturnState } from '#contract/bench';
import { moduleText, shortDay } from '#core/explaining';
import { api } from '../app/api.ts';
import { Mark } from '../ui/Mark.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Empty, Failed, Loading } from '../ui/States.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { useSave } from '../ui/useSave.ts';
import { Page } from '../ui/Page.tsx';

const STATE_MARKS = {
  'to send': 'caution',
  sent: 'note',
  replaced: 'ok',
  refunded: 'ok',
  refused: 'stop',
} as const;

/** Modules found bad, and where each stands with whoever sold it. */
export function ReturnsPage() {
  const { data, error, refetch } = api.useReturnsQuery(undefined, {
    refetchOnMountOrArgChange: true,
  });
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
        <div className="sheet overflow-x-auto p-0!">
          <table className="w-full text-left">
            <caption className="sr-only">Modules sent back</caption>
            <TableHead heads={['Module', 'Reason', 'Job', 'Since', 'By', 'State']} />
            <tbody>
              {data.map((one) => (
                <Row key={one.id} one={one} />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Page>
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
