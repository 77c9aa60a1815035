import { gb } from '#core/explaining';
import type { NameOf } from '#core/explaining';
import type { World } from '#core/practice';

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';

/** Names one can say of modules that look alike: `module B (8 GB)`. What is in them is on the sticker. */
export function pieceNames(world: World): NameOf {
  return (id) => {
    const at = world.pieces.findIndex((piece) => piece.id === id);
    const piece = world.pieces[at];
    if (!piece) return 'a module';
    return `module ${LETTERS[at] ?? String(at + 1)} (${gb(piece.module.capacity)})`;
  };
}
