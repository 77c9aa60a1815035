import { gb } from '#core/explaining';
import type { Piece } from '#core/practice';

interface PieceBarProps {
  readonly piece: Piece;
  readonly name: string;
  /** One side stands up. */
  readonly isHigh?: boolean;
  readonly isBroken?: boolean;
}

/** A module as one sees it: its size and its chips; the rest is on the sticker. */
export function PieceBar({ piece, name, isHigh = false, isBroken = false }: PieceBarProps) {
  return (
    <span
      className={`flex min-h-11 min-w-0 grow items-center gap-x-3 rounded-sm border border-b-4 border-edge border-b-copper bg-sheet px-3 text-ink ${isHigh ? '-rotate-1' : ''}`}
    >
      <b className="text-lg whitespace-nowrap">{gb(piece.module.capacity)}</b>
      <span className="grow text-aside">
        {name.replace(/ \(.*/, '')}
        {isHigh && ', one side stands up'}
        {isBroken && ', broken'}
      </span>
    </span>
  );
}
