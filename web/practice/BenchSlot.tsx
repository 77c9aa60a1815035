import { useState } from 'react';
import type { NameOf } from '#core/explaining';
import type { Slot, SlotId } from '#core/machine';
import { pieceIn } from '#core/practice';
import type { Action, PieceId, World } from '#core/practice';
import { Button } from '../ui/Button.tsx';
import { Do } from './Do.tsx';
import { PieceBar } from './PieceBar.tsx';

interface BenchSlotProps {
  readonly world: World;
  readonly slot: Slot;
  readonly inHand: PieceId | undefined;
  readonly names: NameOf;
  readonly isHigh: boolean;
  readonly isHere: boolean;
  readonly onHere: (slotId: SlotId | undefined) => void;
  readonly onAct: (action: Action) => void;
}

/** A slot of the open machine: what sits in it, and what the hands can do there. */
export function BenchSlot(props: BenchSlotProps) {
  const { world, slot, inHand, names, isHigh, isHere, onHere, onAct } = props;
  const piece = pieceIn(world, slot.id);
  const channels = `channel ${slot.channels.join(', ')}`;
  return (
    <div
      role="group"
      aria-label={`Slot ${slot.printedName}`}
      className="rounded border border-board-line px-2.5 py-2"
      onDragOver={(event) => !piece && event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        onHere(slot.id);
      }}
    >
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <span className="w-24 shrink-0">
          <span className="figure block break-words">{slot.printedName}</span>
          <span className="text-aside">
            {channels}
            {slot.colour && `, ${slot.colour}`}
          </span>
        </span>
        {piece ? (
          <PieceBar piece={piece} name={names(piece.id)} isHigh={isHigh} />
        ) : (
          <span className="flex min-h-11 grow items-center rounded-sm border border-dashed border-board-line px-3 text-aside">
            empty, latches open
          </span>
        )}
        <span className="flex flex-wrap gap-2">
          {piece && (
            <>
              <Do text="Pull" onDo={() => onAct({ type: 'pull', slotId: slot.id })} />
              <Do text="Press home" onDo={() => onAct({ type: 'press home', slotId: slot.id })} />
              <Do
                text="Read sticker"
                onDo={() => onAct({ type: 'read sticker', pieceId: piece.id })}
              />
            </>
          )}
          {!piece && inHand && (
            <Do
              text={`Put ${names(inHand)} here`}
              onDo={() => onHere(isHere ? undefined : slot.id)}
            />
          )}
        </span>
      </div>
      {!piece && inHand && isHere && (
        <Seating
          onSeat={(how) => {
            onHere(undefined);
            onAct({ type: 'seat', pieceId: inHand, slotId: slot.id, ...how });
          }}
        />
      )}
    </div>
  );
}

interface How {
  readonly way: 'right' | 'turned';
  readonly pressed: 'both' | 'one';
  readonly force?: boolean;
}

/** How it goes in: which way round, and how it is pressed. */
function Seating({ onSeat }: { readonly onSeat: (how: How) => void }) {
  const [isTurned, setTurned] = useState(false);
  const way = isTurned ? 'turned' : 'right';
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2 rounded bg-sheet p-2 text-ink">
      <label className="flex min-h-10 items-center gap-2">
        <input
          type="checkbox"
          className="size-5"
          checked={isTurned}
          onChange={({ target }) => setTurned(target.checked)}
        />
        turned round
      </label>
      <Button look="main" onClick={() => onSeat({ way, pressed: 'both' })}>
        Press both sides home
      </Button>
      <Button onClick={() => onSeat({ way, pressed: 'one' })}>Press one side</Button>
      <Button look="quiet" onClick={() => onSeat({ way, pressed: 'both', force: true })}>
        Push with force
      </Button>
    </div>
  );
}
