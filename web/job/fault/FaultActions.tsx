import { useNavigate } from 'react-router';
import { jobMachine, snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { actionFor } from '#core/diagnosing';
import type { Action, Suspect } from '#core/diagnosing';
import { causeText, explainAction, explainCause, percent, pointText } from '#core/explaining';
import type { NameOf } from '#core/explaining';
import { operatingPoint } from '#core/operating-point';
import { api } from '../../app/api.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { useSave } from '../../ui/useSave.ts';
import { useSaveSnapshot } from '../../ui/useSaveSnapshot.ts';
import type { Bench } from '../fit/useBench.ts';
import { useTerms } from '../useTerms.ts';

interface FaultActionsProps {
  readonly job: Job;
  readonly bench: Bench;
  readonly suspects: readonly Suspect[];
  readonly nameOf: NameOf;
}

/** A cause less likely than this is not worth an action, %. */
const WORTH_ACTING = 0.1;

/** What the found cause calls for, each a step that flows back into the job. */
export function FaultActions({ job, bench, suspects, nameOf }: FaultActionsProps) {
  const leading = suspects
    .filter(({ chance }, at) => at === 0 || chance >= WORTH_ACTING)
    .slice(0, 3);
  return (
    <ul className="mt-3 grid gap-4">
      {leading.map(({ cause, chance }) => {
        const { title, why, mend } = explainCause(cause, [], nameOf);
        return (
          <li key={cause.id}>
            <Notice kind="note" title={`${title} · ${percent(chance)}`} why={why} mend={mend}>
              <ActionButton
                job={job}
                bench={bench}
                action={actionFor(cause)}
                reason={causeText(cause, nameOf)}
                nameOf={nameOf}
              />
            </Notice>
          </li>
        );
      })}
    </ul>
  );
}

interface ActionButtonProps extends Omit<FaultActionsProps, 'suspects'> {
  readonly action: Action;
  readonly reason: string;
}

function ActionButton({ job, bench, action, reason, nameOf }: ActionButtonProps) {
  const navigate = useNavigate();
  const [addReturn] = api.useAddReturnMutation();
  const go = (step: string) => void navigate(`/jobs/${job.id}/${step}`);
  const planning = useSaveSnapshot(() => go('fit'));
  const returning = useSave(addReturn, () => go('plan'));
  const terms = useTerms(job, () => go('plan'));
  const machine = jobMachine(job);
  const planned = snapshotOf(job, 'planned');
  const { placement } = bench.state;
  const words = explainAction(action, nameOf);
  const planSetting = (setting: 'standard' | 'profile') =>
    void planning.save({
      id: job.id,
      kind: 'planned',
      body: {
        placement: planned?.placement ?? placement,
        setting,
        version: planned?.version ?? 0,
      },
    });
  const run = () => {
    switch (action.type) {
      case 'reseat':
        bench.add({ type: 'begin', purpose: 'reseat', slotIds: [...action.slotIds] });
        return go('fit');
      case 'move':
        bench.add({ type: 'begin', purpose: 'fit', slotIds: [] });
        return go('fit');
      case 'return': {
        const module = placement[action.slotId];
        if (!module) return undefined;
        const body = {
          ...{ slotId: action.slotId, module, supplier: '' },
          reason,
        };
        return void returning.save({ id: job.id, body: body });
      }
      case 'leave slot':
        return void terms.save({
          deadSlots: [...new Set([...job.deadSlots, action.slotId])],
        });
      case 'standard setting':
        return planSetting('standard');
      case 'profile on':
        return planSetting('profile');
      case 'plan anew':
        return go('plan');
      default:
        return go('fit');
    }
  };
  const isDone =
    action.type === 'return' && job.returns.some(({ slotId }) => slotId === action.slotId);
  const changed = action.type === 'standard setting' || action.type === 'profile on';
  const setting = action.type === 'profile on' ? 'profile' : 'standard';
  return (
    <div className="grid gap-2">
      {changed && (
        <p className="text-aside">
          Promised now:{' '}
          {pointText(
            operatingPoint(
              machine,
              planned?.placement ?? placement,
              planned?.setting ?? bench.state.setting,
            ),
          )}
          <br />
          Then:{' '}
          <b>{pointText(operatingPoint(machine, planned?.placement ?? placement, setting))}</b>
        </p>
      )}
      {isDone ? (
        <p className="font-bold">It is on the list of returns.</p>
      ) : (
        <p className="flex flex-wrap items-center gap-x-3">
          <Button onClick={run}>{words.title}</Button>
          <span className="text-aside text-muted">{words.why}</span>
        </p>
      )}
      <SaveNotice state={planning.state} />
      <SaveNotice state={returning.state} />
      <SaveNotice {...terms.notice} />
    </div>
  );
}
