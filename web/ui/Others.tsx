import { useSyncExternalStore } from 'react';
import { currentHere, onHere } from '../app/presence.ts';

interface OthersProps {
  readonly jobId: string;
  /** Step names as technicians say them. */
  readonly stepName: (step: string) => string;
}

/** Who else is at a job, and what they have not saved: theirs, and left alone here. */
export function Others({ jobId, stepName }: OthersProps) {
  const all = useSyncExternalStore(onHere, currentHere);
  const here = all.filter((one) => one.jobId === jobId);
  return (
    <div role="status">
      {here.length > 0 && (
        <ul className="mb-3 grid gap-1 text-aside">
          {here.map(({ tab, name, step, draft }) => (
            <li key={tab} className="border-l-4 border-copper py-0.5 pl-3 break-words">
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
