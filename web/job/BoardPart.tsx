import { useEffect, useId, useState } from 'react';
import type { Placement, SlotId } from '#core/machine';
import { Button } from '../ui/Button.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { LabelEntry } from '../visuals/LabelEntry.tsx';
import type { OnSeated } from '../visuals/LabelEntry.tsx';
import { LaneStrip } from '../visuals/LaneStrip.tsx';
import { SlotBoard } from '../visuals/SlotBoard.tsx';
import { PointReasons } from '../visuals/PointReasons.tsx';
import { AsideSheet, Part } from './StepLayout.tsx';
import type { SnapshotStep } from './useSnapshotStep.ts';

interface BoardPartProps {
  readonly step: SnapshotStep;
  readonly hint: string;
  readonly before?: Placement | undefined;
  readonly isClosed: boolean;
  /** A slot whose label is asked for from elsewhere on the page. */
  readonly asksFor?: { readonly slotId: SlotId } | undefined;
  readonly onSeated?: OnSeated | undefined;
}

/** Slot board, label line, setting and lane strip: one configuration being filled. */
export function BoardPart(props: BoardPartProps) {
  const { step, hint, before, isClosed, asksFor, onSeated } = props;
  const { machine, board, needWithGraphics, notice } = step;
  const [target, setTarget] = useState<SlotId | 'auto'>('auto');
  const inputId = useId();
  const chooseSlot = (slotId: SlotId) => {
    setTarget(slotId);
    document.getElementById(inputId)?.focus();
  };
  useEffect(() => {
    if (asksFor === undefined) return;
    setTarget(asksFor.slotId);
    const input = document.getElementById(inputId);
    input?.scrollIntoView({ block: 'center' });
    input?.focus();
  }, [asksFor, inputId]);
  return (
    <>
      <Part title="Slot board" hint={hint} action={!isClosed && <SettingChoice step={step} />}>
        <SlotBoard
          machine={machine}
          board={board}
          before={before}
          isFixed={isClosed}
          onChooseSlot={chooseSlot}
        />
        {!isClosed && machine.slots.length > 0 && (
          <LabelEntry
            machine={machine}
            board={board}
            target={target}
            onTarget={setTarget}
            onSeated={onSeated}
            inputId={inputId}
          />
        )}
        {notice.state.type !== 'idle' && (
          <div className="mt-3">
            <SaveNotice {...notice} />
          </div>
        )}
      </Part>
      {board.point.type === 'runs' && (
        <Part title="Lane strip" hint="how much runs side by side">
          <LaneStrip machine={machine} point={board.point} need={needWithGraphics} />
        </Part>
      )}
    </>
  );
}

function SettingChoice({ step: { board, machine } }: { readonly step: SnapshotStep }) {
  if (machine.profiles.support === 'no') return null;
  const { setting } = board.present;
  return (
    <span role="group" aria-label="Firmware setting" className="flex items-center gap-1 text-aside">
      <span className="mr-1 text-muted">firmware setting</span>
      {(['standard', 'profile'] as const).map((one) => (
        <Button
          key={one}
          aria-pressed={setting === one}
          className={`text-aside ${setting === one ? 'bg-teal-wash' : 'font-normal!'}`}
          onClick={() => board.actions.setSetting(one)}
        >
          {setting === one ? '● ' : '○ '}
          {one === 'standard' ? 'standard' : 'overclock profile'}
        </Button>
      ))}
    </span>
  );
}

/** What stops the placement on the board, or deserves a word, in the narrow column. */
export function ReasonsSheet({ step }: { readonly step: SnapshotStep }) {
  const { machine, board, isUnrecorded } = step;
  const { point } = board;
  if (isUnrecorded)
    return (
      <AsideSheet title="Nothing recorded yet">
        Drop an inventory or firmware file on the page, or pick a slot and type what its module’s
        label says. If it came in without memory, save it as found.
      </AsideSheet>
    );
  const isBlocked = point.type === 'blocked';
  if (point.type === 'runs' && point.flags.length === 0) return null;
  return (
    <AsideSheet title={isBlocked ? 'Why it does not run' : 'Cautions and notes'}>
      <PointReasons machine={machine} point={point} />
    </AsideSheet>
  );
}
