import type { ReactNode } from 'react';
import { Button } from '../ui/Button.tsx';
import type { PlacementBoard } from '../visuals/usePlacementBoard.ts';

/** Undo and redo, before the step's own action. */
export function BoardActions({
  board,
  children,
}: {
  readonly board: PlacementBoard;
  readonly children: ReactNode;
}) {
  const { canUndo, canRedo, actions } = board;
  return (
    <>
      {canUndo && (
        <Button keys="Ctrl Z" onClick={actions.undo}>
          Undo
        </Button>
      )}
      {canRedo && <Button onClick={actions.redo}>Redo</Button>}
      {children}
    </>
  );
}
