import type { LedgerShares } from '#contract/ledger';
import { explainRefit, figure, refitBands } from '#core/explaining';
import { measuringApi } from '../app/measuringApi.ts';
import { Button } from '../ui/Button.tsx';
import { Mark } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';
import { WhyLink } from '../ui/Why.tsx';

/** What predictions go by: the shop's own jobs where there are enough, with the odd ones named. */
export function Shares() {
  const { data, error, refetch } = measuringApi.useSharesQuery(undefined, {
    refetchOnMountOrArgChange: true,
  });
  return (
    <section className="sheet">
      <h2 className="mb-2 font-bold">What predictions go by</h2>
      {!data &&
        (error ? (
          <Failed failure={error} what="what predictions go by" onRetry={() => void refetch()} />
        ) : (
          <Loading what="what predictions go by" />
        ))}
      {data && (
        <>
          <ul className="grid gap-1.5">
            {refittedFirst(data.shares).map((one) => {
              const reason = explainRefit(one);
              return (
                <li key={one.assumed.id} className="flex items-start gap-2 text-aside">
                  <Mark kind={one.isRefitted ? 'ok' : 'same'} />
                  <span className="grow">
                    {reason.title}
                    <span className="block text-muted">{refitBands(one)}</span>
                  </span>
                  <WhyLink title={one.assumed.name} reasons={[reason]} />
                </li>
              );
            })}
          </ul>
          <OddJobs {...{ data }} />
        </>
      )}
    </section>
  );
}

/** What this shop's own jobs say stands before what is merely assumed. */
const refittedFirst = (shares: LedgerShares['shares']) =>
  [...shares].sort((a, b) => Number(b.isRefitted) - Number(a.isRefitted));

/** Jobs that others do not bear out: named, and one press leaves them out. */
function OddJobs({ data }: { readonly data: LedgerShares }) {
  const [leaveOut] = measuringApi.useLeaveOutMutation();
  const saving = useSave(leaveOut);
  if (data.odd.length === 0 && data.leftOut.length === 0) return null;
  const number = (one: number) => String(one).padStart(4, '0');
  return (
    <div className="mt-3 grid gap-2 text-aside">
      {data.odd.map(({ jobId, jobNumber, activity, factor, expected }) => (
        <Notice
          key={`${jobId} ${activity}`}
          kind="caution"
          title={`Job ${number(jobNumber)} is unlike the others`}
          why={`It gained ×${figure(factor)} where the others make it ×${figure(expected)}, so it counts for next to nothing. Minutes for seconds, before and after exchanged, or another file?`}
        >
          <Button
            look="quiet"
            onClick={() => void saving.save({ id: jobId, body: { isLeftOut: true } })}
          >
            Leave job {number(jobNumber)} out
          </Button>
        </Notice>
      ))}
      {data.leftOut.map(({ jobId, jobNumber }) => (
        <p key={jobId} className="flex flex-wrap items-center gap-2">
          Job {number(jobNumber)} is left out of predictions.
          <Button
            look="quiet"
            onClick={() => void saving.save({ id: jobId, body: { isLeftOut: false } })}
          >
            Count it again
          </Button>
        </p>
      ))}
      <SaveNotice state={saving.state} />
    </div>
  );
}
