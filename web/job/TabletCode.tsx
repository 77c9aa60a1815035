import { useEffect, useState } from 'react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { clockText } from '#core/explaining';
import type { TabletLink } from '#contract/accounts';
import { accessApi } from '../app/accessApi.ts';
import { benchNow } from '../app/benchClock.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { QrPicture } from '../ui/QrPicture.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';

/** A code that opens a job on one tablet, as whoever shows it, until the job is closed. */
export function useTabletCode(jobId: string): {
  readonly button: ReactNode;
  readonly panel: ReactNode;
} {
  const [link, setLink] = useState<TabletLink>();
  const [make] = accessApi.useLetTabletInMutation();
  const making = useSave(make, setLink);
  const isOver = useIsOver(link?.expiresAt);
  return {
    button: (
      <Button
        look="quiet"
        className="text-aside"
        aria-expanded={link !== undefined}
        onClick={() => (link ? setLink(undefined) : void making.save(jobId))}
      >
        {link ? 'Put the code away' : 'Open on a tablet'}
      </Button>
    ),
    panel: (
      <>
        <SaveNotice state={making.state} />
        {link && (
          <div
            className="sheet mb-3 flex flex-wrap gap-4"
            role="group"
            aria-label="Code for a tablet"
          >
            <Code link={link} isOver={isOver} />
          </div>
        )}
      </>
    ),
  };
}

interface CodeProps {
  readonly link: TabletLink;
  readonly isOver: boolean;
}

function Code({ link: { address, expiresAt }, isOver }: CodeProps) {
  if (address === null)
    return (
      <Notice
        kind="note"
        title="No other device reaches this bench yet"
        why="It listens on this computer alone."
      >
        <Link className="link" to="/network">
          Shop › Network
        </Link>{' '}
        opens it; the owner does that.
      </Notice>
    );
  if (isOver) return <Notice kind="caution" title="This code has expired" mend="Make another." />;
  return (
    <>
      <QrPicture text={address} />
      <div className="grid max-w-[46ch] grow basis-64 content-start gap-2">
        <p>
          Scan it with the tablet. It is let in as you, for this job alone, until the job is closed
          or you sign it out under your name.
        </p>
        <p className="text-muted">One tablet, until {clockText(expiresAt)}.</p>
        <p className="text-aside text-muted">
          Warned of the certificate? The tablet does not trust the shop’s own yet:{' '}
          <Link className="link" to="/network">
            Shop › Network
          </Link>
          .
        </p>
      </div>
    </>
  );
}

/** Turns true when a moment has passed. */
function useIsOver(at: string | undefined): boolean {
  const [over, setOver] = useState<string>();
  useEffect(() => {
    if (at === undefined) return;
    const timer = setTimeout(() => setOver(at), Math.max(0, Date.parse(at) - benchNow()));
    return () => clearTimeout(timer);
  }, [at]);
  return at !== undefined && over === at;
}
