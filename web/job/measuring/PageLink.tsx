import { useEffect, useState } from 'react';
import type { MadeTicket } from '#contract/measuring';
import { clockText } from '#core/explaining';
import { api } from '../../app/api.ts';
import { measuringApi } from '../../app/measuringApi.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { QrPicture } from '../../ui/QrPicture.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { useSave } from '../../ui/useSave.ts';
import { DoorShut } from './DoorShut.tsx';

interface PageLinkProps {
  readonly jobId: string;
  readonly made: MadeTicket;
  readonly onDone: () => void;
}

const POLL_MS = 1500;

/** A link waiting for its result: to be scanned, typed or opened here. */
export function PageLink({ jobId, made, onDone }: PageLinkProps) {
  const dispatch = useAppDispatch();
  const [isOver, setOver] = useState(false);
  const { data } = measuringApi.useTicketsQuery(jobId, {
    ...(isOver ? {} : { pollingInterval: POLL_MS }),
  });
  const state = data?.find(({ id }) => id === made.id)?.state ?? 'waiting';
  const [withdraw] = measuringApi.useWithdrawTicketMutation();
  // Until the bench has heard of it the link is still good.
  const withdrawing = useSave(withdraw, onDone);
  useEffect(() => {
    if (state === 'waiting') return;
    setOver(true);
    if (state === 'used') dispatch(api.util.invalidateTags(['job', 'jobs', 'results']));
  }, [state, dispatch]);
  if (state === 'used') return <Notice alert kind="ok" title="The result is in" />;
  if (state === 'expired')
    return (
      <Notice
        kind="caution"
        title="This link has expired"
        mend="Make another, or bring the code from the page."
      />
    );
  const { link, token } = made;
  return (
    <div className="flex flex-wrap gap-4" role="group" aria-label="Link to the measuring page">
      {link && <QrPicture text={link} />}
      <div className="grid min-w-0 grow basis-64 content-start gap-2">
        {link ? (
          <>
            <p>
              Scan it with the customer’s machine, or type it there; capitals and hyphens are no
              matter:
            </p>
            <p className="figure text-answer font-bold break-all" data-testid="measuring-link">
              {link}
            </p>
          </>
        ) : (
          <DoorShut carry="page" />
        )}
        <p role="status" className="text-muted">
          Waiting for the result; one result, until {clockText(made.expiresAt)}.
        </p>
        <p className="flex flex-wrap items-center gap-3">
          <a className="link" href={`/measure/#${token}`} target="_blank" rel="noreferrer">
            Measure this computer
          </a>
          <Button
            look="quiet"
            onClick={() => void withdrawing.save({ id: jobId, ticketId: made.id })}
          >
            withdraw the link
          </Button>
        </p>
        <SaveNotice state={withdrawing.state} />
      </div>
    </div>
  );
}
