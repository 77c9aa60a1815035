import type { ReactNode } from 'react';
import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import type { Placement, Setting } from '#core/machine';
import { operatingPoint } from '#core/operating-point';
import { useShortcuts } from '../../app/keys.ts';
import { AnswerBar } from '../../ui/AnswerBar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { LimitsLadder } from '../../visuals/LimitsLadder.tsx';
import { Schools } from '../../visuals/Schools.tsx';
import { BoardActions } from '../BoardActions.tsx';
import { BoardPart, ReasonsSheet } from '../BoardPart.tsx';
import { Next } from '../../ui/Next.tsx';
import { PointAnswers } from '../PointAnswers.tsx';
import { AsideSheet, StepLayout } from '../StepLayout.tsx';
import { useSnapshotStep } from '../useSnapshotStep.ts';

interface HandViewProps {
  readonly job: Job;
  /** What stands above the board: the choice of views. */
  readonly head: ReactNode;
  /** Says what the search makes of a placement. */
  readonly verdictOn: (placement: Placement, setting: Setting) => ReactNode;
}

/** Try a change on the board, see what would run and what the search makes of it, take it as the plan. */
export function HandView({ job, head, verdictOn }: HandViewProps) {
  const step = useSnapshotStep(job, 'planned', 'as-found');
  const { board, machine, match, needWithGraphics } = step;
  const found = snapshotOf(job, 'as-found');
  const before = found && operatingPoint(machine, found.placement, found.setting);
  const isClosed = job.result !== null;
  const canTake = !isClosed && board.isChanged && board.point.type === 'runs';
  useShortcuts(canTake ? [{ keys: 'P', does: 'Take as plan', run: () => void step.save() }] : []);
  return (
    <StepLayout
      aside={
        <>
          {board.point.type === 'runs' && (
            <AsideSheet title="Limits ladder" hint="what sets the rate">
              <LimitsLadder machine={machine} point={board.point} />
            </AsideSheet>
          )}
          {board.point.type === 'runs' && board.isChanged && (
            <AsideSheet title="Against all plans">
              {verdictOn(board.shown.placement, board.shown.setting)}
            </AsideSheet>
          )}
          <ReasonsSheet step={step} />
          <AsideSheet title="Would each school take it?">
            <Schools report={match} chosen={job.school} />
          </AsideSheet>
        </>
      }
      bar={
        <AnswerBar
          label="What would run"
          actions={
            <BoardActions board={board}>
              {isClosed || !board.isChanged ? (
                <Next to={`/jobs/${job.id}/quote`}>Next: quote</Next>
              ) : (
                <Button look="main" keys="P" disabled={!canTake} onClick={() => void step.save()}>
                  Take as plan
                </Button>
              )}
            </BoardActions>
          }
        >
          <PointAnswers
            machine={machine}
            point={board.point}
            before={before}
            need={needWithGraphics}
            label={
              board.isPreview
                ? 'Would run, if put there'
                : board.isChanged
                  ? 'Would run'
                  : 'Plan: runs'
            }
          />
        </AnswerBar>
      }
    >
      {head}
      {machine.slots.length === 0 && (
        <div className="mb-4">
          <Notice
            kind="stop"
            title="No module can be fitted: all memory is soldered"
            why="This machine has no slot, so its memory stays as it is for life."
            mend="Tell the customer so; look at the drive, at what runs at the same time, or at another machine."
          />
        </div>
      )}
      {/* The first part of its own block: the line under the views is above it already. */}
      <div>
        <BoardPart
          step={step}
          hint="as it lies, controller to the left"
          before={found?.placement}
          isClosed={isClosed}
        />
      </div>
    </StepLayout>
  );
}
