import { coins } from '#core/explaining';
import type { NameOf } from '#core/explaining';
import { moduleSummary } from '#core/memory';
import { piecesAt } from '#core/practice';
import type { Action, Piece, PieceId, World } from '#core/practice';
import { Button } from '../ui/Button.tsx';
import { PieceBar } from './PieceBar.tsx';

interface PiecesProps {
  readonly world: World;
  readonly names: NameOf;
  readonly inHand: PieceId | undefined;
  readonly onTake: (pieceId: PieceId | undefined) => void;
  readonly onAct: (action: Action) => void;
}

/** What lies beside the machine, what is in the drawer, and what can be bought. */
export function Pieces({ world, names, inHand, onTake, onAct }: PiecesProps) {
  const mat = piecesAt(world, 'mat');
  const drawer = piecesAt(world, 'drawer');
  const list = (pieces: readonly Piece[]) =>
    pieces.map((piece) => {
      const isHeld = inHand === piece.id;
      const isBroken = world.broken.includes(piece.id);
      return (
        <li
          key={piece.id}
          className="flex flex-wrap items-center gap-2"
          draggable={!isBroken}
          onDragStart={() => onTake(piece.id)}
        >
          <PieceBar piece={piece} name={names(piece.id)} isBroken={isBroken} />
          <Button
            className="text-aside"
            aria-pressed={isHeld}
            disabled={isBroken}
            onClick={() => onTake(isHeld ? undefined : piece.id)}
          >
            {isHeld ? 'In hand' : 'Take in hand'}
          </Button>
          <Button
            className="text-aside"
            onClick={() => onAct({ type: 'read sticker', pieceId: piece.id })}
          >
            Read sticker
          </Button>
          <Button
            className="text-aside"
            onClick={() => onAct({ type: 'clean', pieceId: piece.id })}
          >
            Clean contacts
          </Button>
        </li>
      );
    });
  const { offers } = world.exercise;
  return (
    <section aria-label="Beside the machine" className="sheet grid gap-3">
      <div>
        <h2 className="font-bold">On the mat</h2>
        {mat.length > 0 ? (
          <ul className="mt-1 grid gap-2">{list(mat)}</ul>
        ) : (
          <p className="text-muted">Nothing lies here.</p>
        )}
      </div>
      {drawer.length > 0 && (
        <div>
          <h2 className="font-bold">In the drawer, known good</h2>
          <ul className="mt-1 grid gap-2">{list(drawer)}</ul>
        </div>
      )}
      {offers.length > 0 && (
        <div>
          <h2 className="font-bold">To be had</h2>
          <ul className="mt-1 grid gap-2">
            {offers.map(({ id, module, units, price, days }) => (
              <li key={id} className="flex flex-wrap items-center gap-x-3 gap-y-1">
                <span className="min-w-0 grow">
                  {units > 1 && `${units} × `}
                  <b>{module.capacity} GB</b>{' '}
                  <span className="figure text-aside">{moduleSummary(module)}</span>
                </span>
                <span>
                  {coins(price)} · {days} days
                </span>
                <Button
                  className="text-aside"
                  onClick={() => onAct({ type: 'order', offerId: id })}
                >
                  Order it
                </Button>
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
