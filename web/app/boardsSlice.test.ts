import fc from 'fast-check';
import { expect, test } from 'vitest';
import { labelled } from '../../test/support/builders.ts';
import boardsSlice, { afterMove, boardActions } from './boardsSlice.ts';
import type { Board, Place } from './boardsSlice.ts';

const sizes = [4, 8, 16, 32].map((size) => labelled(`${size}GB 1Rx8 PC4-2400T-UA1-11`));
const slots = ['a1', 'a2', 'b1', 'b2'];

const anyPlace: fc.Arbitrary<Place> = fc.oneof(
  fc.record({ type: fc.constant('slot' as const), slotId: fc.constantFrom(...slots) }),
  fc.record({ type: fc.constant('tray' as const), index: fc.nat(3) }),
);
const anyBoard: fc.Arbitrary<Board> = fc.record({
  placement: fc.dictionary(fc.constantFrom(...slots), fc.constantFrom(...sizes), {
    noNullPrototype: true,
  }),
  tray: fc.array(fc.constantFrom(...sizes), { maxLength: 4 }),
  setting: fc.constantFrom('standard' as const, 'profile' as const),
});

const held = ({ placement, tray }: Board) =>
  [...Object.values(placement), ...tray]
    .map((module) => module?.capacity ?? 0)
    .sort((a, b) => a - b);

test('no move loses or makes a module', () => {
  fc.assert(
    fc.property(anyBoard, anyPlace, anyPlace, (board, from, to) => {
      expect(held(afterMove(board, from, to))).toEqual(held(board));
    }),
  );
});

test('undoing every step comes back to the start, and redoing them to the end', () => {
  const { reducer } = boardsSlice;
  fc.assert(
    fc.property(
      anyBoard,
      fc.array(fc.tuple(anyPlace, anyPlace), { maxLength: 12 }),
      (board, moves) => {
        const key = 'job:planned';
        let state = reducer(undefined, boardActions.boardStarted({ key, board, baseVersion: 1 }));
        const present = () =>
          (state as Record<string, { present: Board } | undefined>)[key]?.present;
        for (const [from, to] of moves)
          state = reducer(state, boardActions.moduleMoved({ key, from, to }));
        const end = present();
        for (const _ of moves) state = reducer(state, boardActions.undone({ key }));
        expect(present()).toEqual(board);
        for (const _ of moves) state = reducer(state, boardActions.redone({ key }));
        expect(present()).toEqual(end);
      },
    ),
  );
});
