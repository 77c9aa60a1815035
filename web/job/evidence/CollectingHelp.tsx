import { Tabs } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { MadeTicket } from '#contract/measuring';
import { clockText } from '#core/explaining';
import { api } from '../../app/api.ts';
import { measuringApi } from '../../app/measuringApi.ts';
import { useAppDispatch } from '../../app/store.ts';
import { Button } from '../../ui/Button.tsx';
import { CommandLine } from '../../ui/CommandLine.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { useSave } from '../../ui/useSave.ts';
import { DoorShut } from '../measuring/DoorShut.tsx';
import { COLLECTING_WAYS } from './collectingWays.ts';
import type { CollectingWay } from './collectingWays.ts';

/** How the machine itself tells what is fitted: a script, a line, or a link it sends to. */
export function CollectingHelp({ jobId }: { readonly jobId?: string }) {
  return (
    <details>
      <summary className="link min-h-6 cursor-pointer text-aside">
        No files yet? Have the machine collect them
      </summary>
      <Tabs.Root defaultValue="cim" className="mt-2 grid gap-3">
        <p>What does its shell know?</p>
        <Tabs.List aria-label="What its shell knows" className="flex flex-wrap gap-1">
          {COLLECTING_WAYS.map(({ shell, title }) => (
            <Tabs.Trigger
              key={shell}
              value={shell}
              className="figure min-h-10 rounded-md border border-edge px-3 text-aside data-[state=active]:border-teal data-[state=active]:bg-teal-wash data-[state=active]:font-bold"
            >
              {title}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {COLLECTING_WAYS.map((way) => (
          <Tabs.Content key={way.shell} value={way.shell} className="grid gap-3">
            <Way way={way} />
            {jobId !== undefined && <Sending jobId={jobId} way={way} />}
          </Tabs.Content>
        ))}
      </Tabs.Root>
    </details>
  );
}

function Way({ way: { script, run, line } }: { readonly way: CollectingWay }) {
  return (
    <>
      <div className="grid gap-1">
        <p>
          <a className="link font-bold" href={`/measure/${script}`}>
            Save {script}
          </a>{' '}
          to a stick, run it on the machine, and drop collected.json here. It shows what will be in
          the file before it is written; it needs nothing installed.
        </p>
        <CommandLine label={`Run ${script}`} text={run} />
        <p className="text-aside text-muted">
          For ten minutes it notes the most memory in use: open what is usually open together. Left
          out: names of people, programs and files, and the machine’s own serial numbers.
        </p>
      </div>
      <div className="grid gap-1">
        <p>The list of memory alone, without a script:</p>
        <CommandLine label="The list of memory alone" text={line} />
      </div>
    </>
  );
}

const POLL_MS = 1500;

/** The same over the shop's network: one line that fetches the script and sends its file to this job. */
function Sending({ jobId, way }: { readonly jobId: string; readonly way: CollectingWay }) {
  const dispatch = useAppDispatch();
  const [made, setMade] = useState<MadeTicket>();
  const [make] = measuringApi.useMakeTicketMutation();
  const making = useSave(make, setMade);
  const { data } = measuringApi.useTicketsQuery(jobId, {
    skip: made === undefined,
    pollingInterval: POLL_MS,
  });
  const state = data?.find(({ id }) => id === made?.id)?.state;
  useEffect(() => {
    if (state === 'used') dispatch(api.util.invalidateTags(['evidence', 'job']));
  }, [state, dispatch]);
  const door = made?.link?.split('/#')[0];
  return (
    <div className="grid gap-1">
      {made?.link && door && state !== 'used' && state !== 'expired' ? (
        <>
          <p>Paste it into the machine’s shell; the file comes to this job by itself:</p>
          <CommandLine label="Collect and send" text={way.fetch(door, made.link)} />
          <p role="status" className="text-aside text-muted">
            Waiting for the file; one file, until {clockText(made.expiresAt)}.
          </p>
        </>
      ) : (
        <>
          {state === 'used' && <Notice alert kind="ok" title="The file is in" />}
          {state === 'expired' && <Notice kind="caution" title="This link has expired" />}
          {made && made.link === null && <DoorShut carry="script" />}
          <div>
            <Button
              onClick={() =>
                void making.save({
                  id: jobId,
                  body: { brings: 'files', kind: 'as-found', power: 'unknown' },
                })
              }
            >
              Have it sent over the network
            </Button>
          </div>
        </>
      )}
      <SaveNotice state={making.state} />
    </div>
  );
}
