import { useSyncExternalStore } from 'react';
import { currentHere, onHere } from '../app/presence.ts';

interface OthersProps {
  readonly jobId: string;
  /** Step names as technicians say them. */
  readonly stepName: (step: string) => string;
}

/**
 * Who else is at a job, and what they have not saved: theirs, and left alone here. One line whatever it
 * says, in a place kept for it: they come and go while somebody presses what is below.
 */
export function Others({ jobId, stepName }: OthersProps) {
  const all = useSyncExternalStore(onHere, currentHere);
  const here = all.filter((one) => one.jobId === jobId);
  return (
    <div role="status" className="min-w-0 grow basis-0 text-aside">
      {here.length > 0 && (
        <ul className="flex gap-x-4">
          {here.map(({ tab, name, step, draft }) => (
            <li
              key={tab}
              className="min-w-0 truncate border-l-4 border-copper pl-2"
              title={draft ?? name}
            >
              <b>{name}</b> is at {stepName(step)} on another screen
              {draft !== null && (
                <>
                  , with a draft that is not saved – <span className="italic">{draft}</span>
                </>
              )}
              .
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
