import { useRef, useState } from 'react';
import type { Job, KeptPlan } from '#contract/records';
import { api } from '../../app/api.ts';
import { useSave } from '../../ui/useSave.ts';

/**
 * The plans put aside on a job. A change shows at once; saves go one after another, each on the
 * version the one before it made, so that a quick undo never races the drop it undoes.
 */
export function useKeptPlans(job: Job) {
  const [change] = api.useChangeJobMutation();
  const [wanted, setWanted] = useState<readonly KeptPlan[]>();
  const version = useRef(job.version);
  version.current = Math.max(version.current, job.version);
  const line = useRef(Promise.resolve());
  const waiting = useRef(0);
  const { save, state } = useSave(change, (saved) => {
    version.current = Math.max(version.current, saved.version);
  });
  const setKept = (keptPlans: readonly KeptPlan[]) => {
    setWanted(keptPlans);
    waiting.current += 1;
    line.current = line.current
      .then(() =>
        save({ id: job.id, body: { version: version.current, keptPlans: [...keptPlans] } }),
      )
      .then(() => {
        waiting.current -= 1;
        // From here the record speaks again, also where the save was refused.
        if (waiting.current === 0) setWanted(undefined);
      });
  };
  return { kept: wanted ?? job.keptPlans, setKept, state };
}
