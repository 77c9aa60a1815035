import { useMemo } from 'react';
import { jobMachine, snapshotOf } from '#contract/jobProof';
import { job as jobSchema } from '#contract/records';
import type { Job, SnapshotKind } from '#contract/records';
import { pointText } from '#core/explaining';
import { judgeMatch } from '#core/matching';
import type { Placement, Setting } from '#core/machine';
import { operatingPoint } from '#core/operating-point';
import { api } from '../app/api.ts';
import { useShortcuts } from '../app/keys.ts';
import { useAppDispatch } from '../app/store.ts';
import { useSaveSnapshot } from '../ui/useSaveSnapshot.ts';
import { usePlacementBoard } from '../visuals/usePlacementBoard.ts';
import { needWithMargin } from '#core/need';

const EMPTY = { placement: {} as Placement, setting: 'standard' as Setting };

/**
 * A step that fills one of the job's configurations on the slot board.
 *
 * @param from - the configuration a first draft starts from
 */
export function useSnapshotStep(job: Job, kind: SnapshotKind, from?: SnapshotKind) {
  const machine = jobMachine(job);
  const dispatch = useAppDispatch();
  const saved = snapshotOf(job, kind);
  const origin = from && snapshotOf(job, from);
  const start = useMemo(
    () => (origin ? { placement: origin.placement, setting: origin.setting } : EMPTY),
    [origin],
  );
  const board = usePlacementBoard(`${job.id}:${kind}`, machine, saved, start);
  const { actions } = board;
  const { save, state, clear } = useSaveSnapshot(() => actions.discard());
  const send = (version: number) =>
    save({
      id: job.id,
      kind,
      body: {
        placement: board.present.placement,
        setting: board.present.setting,
        version,
      },
    });
  useShortcuts([
    { keys: 'Ctrl Z', does: 'Undo on the board', run: actions.undo },
    { keys: 'Ctrl Shift Z', does: 'Redo on the board', run: actions.redo },
  ]);

  const need = needWithMargin(job);
  const match = useMemo(
    () =>
      judgeMatch(machine, board.shown.placement, board.shown.setting, {
        need,
        capacityFirst: job.capacityFirst,
        memoryTestPassed: job.memoryTestPassed,
      }),
    [machine, board.shown, need, job.capacityFirst, job.memoryTestPassed],
  );
  const theirVersion = (theirs: unknown) => {
    const parsed = jobSchema.safeParse(theirs);
    return (parsed.success && snapshotOf(parsed.data, kind)?.version) || 0;
  };
  const describe = (placement: unknown, setting: unknown) =>
    pointText(operatingPoint(machine, placement as Placement, setting as Setting));
  const { point } = board;
  const isEmpty =
    point.type === 'blocked' && point.blockers.every(({ type }) => type === 'nothing-fitted');
  return {
    machine,
    saved,
    board,
    /** Nobody has said yet what is in the slots: no fault of the machine's. */
    isUnrecorded: isEmpty && !saved && !board.isPreview,
    match,
    need,
    needWithGraphics: need === undefined ? undefined : need + machine.graphicsCarveOut.high,
    save: () => send(board.baseVersion),
    saveState: state,
    notice: {
      state,
      sides: (yours: unknown, theirs: unknown) => {
        const mine = yours as { placement: unknown; setting: unknown };
        const parsed = jobSchema.safeParse(theirs);
        const other = parsed.success ? snapshotOf(parsed.data, kind) : undefined;
        return [
          [
            'Runs at',
            describe(mine.placement, mine.setting),
            other ? describe(other.placement, other.setting) : 'nothing',
          ],
        ] as const;
      },
      onKeepMine: (theirs: unknown) => void send(theirVersion(theirs)),
      onTakeTheirs: (theirs: unknown) => {
        clear();
        const parsed = jobSchema.safeParse(theirs);
        if (parsed.success) void dispatch(api.util.upsertQueryData('job', job.id, parsed.data));
        actions.discard();
      },
    },
  };
}

export type SnapshotStep = ReturnType<typeof useSnapshotStep>;
