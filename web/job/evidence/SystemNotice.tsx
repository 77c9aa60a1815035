import type { Job } from '#contract/records';
import { explainSystemOffer } from '#core/explaining';
import type { Machine } from '#core/machine';
import { systemOffer } from '#core/reconciling';
import type { SystemOffer } from '#core/reconciling';
import { sumGib } from '#core/units';
import { api } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { useSave } from '../../ui/useSave.ts';
import { systemIn } from './useSystem.ts';
import type { EvidenceState } from './useEvidence.ts';

interface SystemNoticeProps {
  readonly job: Job;
  readonly evidence: EvidenceState;
}

const withTrait = (machine: Machine, { type, range }: SystemOffer): Machine =>
  type === 'os-limit' ? { ...machine, osLimit: range } : { ...machine, graphicsCarveOut: range };

/** What the running system shows of its machine that the library has otherwise, to be written there. */
export function SystemNotice({ job, evidence: { documents, reconciled } }: SystemNoticeProps) {
  const { id, machine, version } = job.machine;
  const [change] = api.useChangeMachineMutation();
  const changing = useSave(change);
  const system = systemIn(documents);
  const fitted = Object.values(reconciled.placement).flatMap((one) => (one ? [one.capacity] : []));
  const installed = [...fitted, ...machine.soldered.map(({ part }) => part.capacity)];
  const offer =
    system &&
    systemOffer(machine, system.facts, installed.length > 0 ? sumGib(installed) : undefined);
  return (
    <>
      {offer && (
        <div className="mb-3">
          <Notice kind="note" {...explainSystemOffer(offer)}>
            <Button
              onClick={() =>
                void changing.save({ id, body: { machine: withTrait(machine, offer), version } })
              }
            >
              Write it into the machine
            </Button>
          </Notice>
        </div>
      )}
      <SaveNotice state={changing.state} />
    </>
  );
}
