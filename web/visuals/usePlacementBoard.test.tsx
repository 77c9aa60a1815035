import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { Provider } from 'react-redux';
import { beforeEach, describe, expect, test } from 'vitest';
import type { Placement } from '#core/machine';
import { desktop, labelled } from '../../test/support/builders.ts';
import { freshStore } from '../../test/support/screen.tsx';
import { usePlacementBoard } from './usePlacementBoard.ts';

const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const sixteen = labelled('16GB 2Rx8 PC4-2400T-UB1-11');
const machine = desktop();
const EMPTY = { placement: {}, setting: 'standard' } as const;
const slot = (slotId: string) => ({ type: 'slot', slotId }) as const;

let store: ReturnType<typeof freshStore>;
beforeEach(() => {
  store = freshStore();
});

interface Props {
  readonly saved?: { placement: Placement; setting: 'standard' | 'profile'; version: number };
}

function board(initial: Props = {}) {
  const wrapper = ({ children }: { readonly children: ReactNode }) => (
    <Provider store={store}>{children}</Provider>
  );
  return renderHook(({ saved }: Props) => usePlacementBoard('job:found', machine, saved, EMPTY), {
    ...{ initialProps: initial, wrapper },
  });
}
const filled = (placement: Placement) =>
  Object.keys(placement)
    .filter((id) => placement[id])
    .sort();

describe('a board', () => {
  test('answers at once: put in, moved, taken out, undone and done again', () => {
    const { result } = board();
    expect(result.current.point.type).toBe('blocked');
    act(() => void result.current.actions.take({ a1: eight }));
    expect(result.current.point).toMatchObject({ type: 'runs', installed: 8 });
    act(() => void result.current.actions.move(slot('a1'), slot('b2')));
    expect(filled(result.current.present.placement)).toEqual(['b2']);
    act(() => void result.current.actions.remove(slot('b2')));
    expect(filled(result.current.present.placement)).toEqual([]);
    act(() => void result.current.actions.undo());
    expect(filled(result.current.present.placement)).toEqual(['b2']);
    act(() => void result.current.actions.undo());
    act(() => void result.current.actions.redo());
    expect(filled(result.current.present.placement)).toEqual(['b2']);
    expect([result.current.canUndo, result.current.canRedo]).toEqual([true, true]);
  });

  test('shows a move before it is made, and drops the preview when it is let go', () => {
    const { result } = board();
    act(() => void result.current.actions.take({ a1: eight, b1: sixteen }));
    act(() => result.current.actions.pickUp(slot('a1')));
    act(() => result.current.actions.carryOver(slot('b2')));
    expect(result.current.isPreview).toBe(true);
    expect(filled(result.current.shown.placement)).toEqual(['b1', 'b2']);
    expect(filled(result.current.present.placement)).toEqual(['a1', 'b1']);
    expect(result.current.carried).toEqual(eight);
    act(() => result.current.actions.letGo());
    expect(result.current.isPreview).toBe(false);
    expect(filled(result.current.shown.placement)).toEqual(['a1', 'b1']);
  });

  test('the setting is part of the draft, and changes what runs', () => {
    const kit = labelled('8GB 1Rx8 PC4-2133P-UA1-11 profile 3600MT/s CL18 1.35V');
    const { result } = board();
    act(() => void result.current.actions.take({ a1: kit, b1: kit }));
    expect(result.current.point).toMatchObject({ rate: 2133 });
    act(() => void result.current.actions.setSetting('profile'));
    expect(result.current.point).toMatchObject({ rate: 3600 });
    act(() => void result.current.actions.undo());
    expect(result.current.point).toMatchObject({ rate: 2133 });
  });
});

describe('a board and what is saved', () => {
  const saved = { placement: { a1: eight }, setting: 'standard', version: 3 } as const;

  test('is unchanged while it shows the same, in whatever order it was written', () => {
    const both = {
      placement: { b1: eight, a1: sixteen },
      setting: 'standard',
      version: 1,
    } as const;
    const { result } = board({ saved: both });
    expect([result.current.isChanged, result.current.baseVersion]).toEqual([false, 1]);
    act(() => void result.current.actions.take({ a1: sixteen, b1: { ...eight } }));
    expect(result.current.isChanged).toBe(false);
    act(() => void result.current.actions.take({ a1: eight, b1: sixteen }));
    expect(result.current.isChanged).toBe(true);
  });

  test('follows a newer save while nothing was touched, and keeps a draft that was', () => {
    const { result, rerender } = board({ saved });
    const newer = { placement: { b1: sixteen }, setting: 'standard', version: 4 } as const;
    rerender({ saved: newer });
    expect(filled(result.current.present.placement)).toEqual(['b1']);
    act(() => void result.current.actions.move(slot('b1'), slot('a2')));
    rerender({ saved: { placement: {}, setting: 'standard', version: 5 } });
    expect(filled(result.current.present.placement)).toEqual(['a2']);
    expect(result.current.baseVersion).toBe(4);
    act(() => void result.current.actions.discard());
    expect(filled(result.current.present.placement)).toEqual([]);
  });

  test('a module that does not fit stays on the board, with why', () => {
    const { result } = board();
    const old = labelled('8GB 2Rx8 PC3-12800U-11-13-A1');
    act(() => void result.current.actions.take({ a1: old }));
    expect(result.current.present.placement['a1']).toEqual(old);
    expect(result.current.point).toMatchObject({ blockers: [{ type: 'wrong-generation' }, {}] });
  });
});
