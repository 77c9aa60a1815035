import { useState } from 'react';
import { coins, explainUnsafe, figure } from '#core/explaining';
import type { SlotId } from '#core/machine';
import type { Action, PieceId } from '#core/practice';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { ActionLog } from './ActionLog.tsx';
import { Customer } from './Customer.tsx';
import { HandOver } from './HandOver.tsx';
import { Machine } from './Machine.tsx';
import { MachineScreen } from './MachineScreen.tsx';
import { Pieces } from './Pieces.tsx';
import type { PracticeWalk, Step } from './practiceWalk.ts';
import { pieceNames } from './pieceNames.ts';

interface BenchViewProps {
  readonly walk: PracticeWalk;
  /** There is nothing to hand over in a sandbox. */
  readonly isSandbox?: boolean;
}

/** A simulated machine on the bench: what it is, what it shows, what lies beside it, what was done. */
export function BenchView({ walk, isSandbox = false }: BenchViewProps) {
  const { world, steps, restart } = walk;
  const [inHand, setInHand] = useState<PieceId>();
  const [isHandingOver, setHandingOver] = useState(false);
  const last = steps.at(-1);
  const isHeld = inHand !== undefined && world.places[inHand]?.at !== 'slot';
  const doAct = (action: Action) => {
    if (action.type === 'seat') setInHand(undefined);
    walk.act(action);
  };
  const names = pieceNames(world);
  return (
    <>
      {last?.unsafe && (
        <div className="sheet mb-3.5">
          <UnsafeNotice unsafe={last.unsafe} />
        </div>
      )}
      <div className="grid items-start gap-3.5 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="grid min-w-0 gap-3.5">
          {!isSandbox && <Customer world={world} onAct={doAct} />}
          <Machine
            world={world}
            inHand={isHeld ? inHand : undefined}
            high={seenHigh(steps)}
            last={last}
            names={names}
            onAct={doAct}
          />
          <Pieces
            world={world}
            names={names}
            inHand={isHeld ? inHand : undefined}
            onTake={setInHand}
            onAct={doAct}
          />
        </div>
        <div className="grid min-w-0 gap-3.5">
          <MachineScreen world={world} steps={steps} onAct={doAct} />
          <ActionLog world={world} steps={steps} names={names} />
        </div>
      </div>
      {isHandingOver && (
        <HandOver world={world} onAct={doAct} onClose={() => setHandingOver(false)} />
      )}
      <AnswerBar
        label="Clock and money"
        actions={
          <>
            <Button onClick={restart} disabled={steps.length === 0}>
              Start again
            </Button>
            {!isSandbox && (
              <Button look="main" onClick={() => setHandingOver(!isHandingOver)}>
                Hand over
              </Button>
            )}
          </>
        }
      >
        <Answer label="On the clock">{figure(world.minutes)} min</Answer>
        <Answer label="Spent">{coins(world.spent)}</Answer>
        {world.days > 0 && <Answer label="Waited for parts">{world.days} days</Answer>}
        <Answer label="Unsafe acts">
          {world.unsafe.length === 0 ? 'none' : world.unsafe.length}
        </Answer>
      </AnswerBar>
    </>
  );
}

/** Slots whose module stood up when they were looked along last, and was not touched since. */
function seenHigh(steps: readonly Step[]): ReadonlySet<SlotId> {
  const at = steps.findLastIndex(({ seen }) => seen.type === 'looked');
  const seen = steps[at]?.seen;
  if (seen?.type !== 'looked') return new Set();
  const touched = steps
    .slice(at + 1)
    .flatMap(({ action }) => ('slotId' in action ? [action.slotId] : []));
  return new Set(
    seen.slots
      .filter(({ slotId, pieceId, isHome }) => pieceId && !isHome && !touched.includes(slotId))
      .map(({ slotId }) => slotId),
  );
}

function UnsafeNotice({ unsafe }: { readonly unsafe: Parameters<typeof explainUnsafe>[0] }) {
  const { title, why, mend } = explainUnsafe(unsafe);
  return (
    <Notice alert kind="stop" title={`Stopped: ${title.toLowerCase()}`} why={why} mend={mend} />
  );
}
