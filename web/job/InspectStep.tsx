import { useState } from 'react';
import { Link } from 'react-router';
import type { Job } from '#contract/records';
import type { SlotId } from '#core/machine';
import { useShortcuts } from '../app/keys.ts';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { useFileDrop } from '../ui/FileDrop.tsx';
import { onItsWay } from '../ui/onItsWay.ts';
import { Next } from '../ui/Next.tsx';
import { smallPhoto } from '../ui/smallPhoto.ts';
import type { LabelSource } from '../visuals/LabelEntry.tsx';
import { LimitsLadder } from '../visuals/LimitsLadder.tsx';
import { BoardPart, ReasonsSheet } from './BoardPart.tsx';
import { BoardActions } from './BoardActions.tsx';
import { EvidenceOffer, isEvidenceOffered } from './evidence/EvidenceOffer.tsx';
import { EvidenceIntake } from './evidence/EvidenceIntake.tsx';
import { EvidencePart } from './evidence/EvidencePart.tsx';
import { ExportFiles } from './evidence/ExportFiles.tsx';
import { QuestionsSheet } from './evidence/QuestionsSheet.tsx';
import { SystemNotice } from './evidence/SystemNotice.tsx';
import { useEvidence } from './evidence/useEvidence.ts';
import type { EvidenceState } from './evidence/useEvidence.ts';
import { LimitsSheet } from './promise/LimitsSheet.tsx';
import { Measurements } from './runs/Measurements.tsx';
import { PointAnswers } from './PointAnswers.tsx';
import { RunsLead } from './RunsLead.tsx';
import { ShownRateCheck } from './ShownRateCheck.tsx';
import { FoldedSheet } from '../ui/Folded.tsx';
import { AsideSheet, StepLayout } from './StepLayout.tsx';
import { useSnapshotStep } from './useSnapshotStep.ts';

/** What is fitted, what really runs today, and the baseline. */
export function InspectStep({ job }: { readonly job: Job }) {
  const step = useSnapshotStep(job, 'as-found');
  const evidence = useEvidence(job);
  const [labelSlot, setLabelSlot] = useState<{ readonly slotId: SlotId }>();
  const { board, machine, saved } = step;
  const isClosed = job.result !== null;
  const canSave = !isClosed && board.isChanged;
  useShortcuts(canSave ? [{ keys: 'S', does: 'Save as found', run: () => void step.save() }] : []);
  const { handlers } = useFileDrop((files) => void (isClosed || evidence.addFiles(files)));
  return (
    <StepLayout
      drop={handlers}
      aside={
        <>
          <QuestionsSheet
            evidence={evidence}
            machineId={job.machine.id}
            isClosed={isClosed}
            onTypeLabel={(slotId) => setLabelSlot({ slotId })}
          />
          {board.point.type === 'blocked' && <ReasonsSheet step={step} />}
          {board.point.type === 'runs' && (
            <>
              <ReasonsSheet step={step} />
              <AsideSheet title="Limits ladder" hint="what sets the rate">
                <LimitsLadder machine={machine} point={board.point} />
              </AsideSheet>
              <FoldedSheet title="What limits this machine" hint="and what a mend costs" isHeavy>
                <LimitsSheet job={job} />
              </FoldedSheet>
              <FoldedSheet title="Rate on a screen" hint="clock or data rate?">
                <ShownRateCheck key={job.id} point={board.point} />
              </FoldedSheet>
            </>
          )}
          <AsideSheet title="Machine">
            <p className="break-words">{machine.name}</p>
            <Link className="link" to={`/machines/${job.machine.id}`}>
              Correct its description
            </Link>
            <ExportFiles machine={machine} board={board} number={job.number} />
          </AsideSheet>
        </>
      }
      bar={
        <AnswerBar
          label="What runs today"
          actions={
            <BoardActions board={board}>
              {canSave ? (
                <Button
                  // One next action: what the evidence says goes into the slots first.
                  look={isEvidenceOffered(evidence, board) ? 'plain' : 'main'}
                  keys="S"
                  onClick={() => void step.save()}
                >
                  Save as found
                </Button>
              ) : (
                <NextAfterInspect job={job} />
              )}
            </BoardActions>
          }
        >
          {step.isUnrecorded ? (
            <Answer label="Runs today">Nothing recorded yet</Answer>
          ) : (
            <PointAnswers
              machine={machine}
              point={board.point}
              label={board.isPreview ? 'Would run' : 'Runs today'}
            />
          )}
        </AnswerBar>
      }
    >
      {board.point.type === 'runs' && (
        <RunsLead
          machine={machine}
          point={board.point}
          isSaved={saved !== undefined && !board.isChanged && !board.isPreview}
        />
      )}
      {!isClosed && <EvidenceOffer evidence={evidence} board={board} />}
      {!isClosed && <SystemNotice job={job} evidence={evidence} />}
      {!isClosed && evidence.isEmpty && <EvidenceIntake evidence={evidence} jobId={job.id} />}
      <BoardPart
        step={step}
        hint="as found, controller to the left"
        isClosed={isClosed}
        asksFor={labelSlot}
        onSeated={(label, slotIds, source) => {
          if (slotIds.length > 0) void onItsWay(keepLabel(evidence, label, slotIds, source));
        }}
      />
      <EvidencePart evidence={evidence} jobId={job.id} isClosed={isClosed} />
      <Measurements
        job={job}
        kind="as-found"
        title="Baseline"
        hint="measured before anything is changed"
        isReady={saved !== undefined && !board.isChanged}
      />
    </StepLayout>
  );
}

/** A label as evidence: who read it decides how far it is believed; its photo stays beside it. */
async function keepLabel(
  evidence: EvidenceState,
  label: string,
  slotIds: readonly SlotId[],
  source: LabelSource | undefined,
) {
  const kept = source && (await smallPhoto(source.photo));
  const photo = kept && 'base64' in kept ? kept.base64 : undefined;
  const kind = photo !== undefined && source?.isAsRead ? 'photo' : 'sticker';
  evidence.addTyped(kind, label, slotIds, 'sticker', photo);
}

/** A need that was stated at the counter is not asked for again. */
function NextAfterInspect({ job: { id, need } }: { readonly job: Job }) {
  return need === null ? (
    <Next to={`/jobs/${id}/need`}>Next: need</Next>
  ) : (
    <Next to={`/jobs/${id}/plan`}>Next: plan</Next>
  );
}
