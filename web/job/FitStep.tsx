import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { gb, pointText, slotNames } from '#core/explaining';
import type { Machine, Placement } from '#core/machine';
import { moduleSummary } from '#core/memory';
import { operatingPoint } from '#core/operating-point';
import { useShortcuts } from '../app/keys.ts';
import { AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { Mark } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { BoardActions } from './BoardActions.tsx';
import { BoardPart, ReasonsSheet } from './BoardPart.tsx';
import { Next } from './InspectStep.tsx';
import { PointAnswers } from './PointAnswers.tsx';
import { AsideSheet, Part, StepLayout } from './StepLayout.tsx';
import { useSnapshotStep } from './useSnapshotStep.ts';

/** Cautions, what to pull and what to put where, and a record of what was really fitted. */
export function FitStep({ job }: { readonly job: Job }) {
  const step = useSnapshotStep(
    job,
    'as-fitted',
    snapshotOf(job, 'planned') ? 'planned' : 'as-found',
  );
  const { board, machine } = step;
  const found = snapshotOf(job, 'as-found');
  const planned = snapshotOf(job, 'planned');
  const isClosed = job.result !== null;
  const canRecord = !isClosed && board.isChanged;
  const target = planned ?? found;
  useShortcuts(
    canRecord ? [{ keys: 'F', does: 'Record as fitted', run: () => void step.save() }] : [],
  );
  return (
    <StepLayout
      aside={
        <>
          <Cautions
            isLaptop={machine.kind === 'laptop'}
            isAllInOne={machine.kind === 'all-in-one'}
          />
          <ReasonsSheet step={step} />
        </>
      }
      bar={
        <AnswerBar
          label="What is fitted"
          actions={
            <BoardActions board={board}>
              {canRecord ? (
                <Button look="main" keys="F" onClick={() => void step.save()}>
                  Record as fitted
                </Button>
              ) : (
                <Next to={`/jobs/${job.id}/prove`}>Next: prove</Next>
              )}
            </BoardActions>
          }
        >
          <PointAnswers
            machine={machine}
            point={board.point}
            label={canRecord ? 'Would run' : 'Fitted: runs'}
          />
        </AnswerBar>
      }
    >
      <Part
        title="Moves"
        hint={
          planned
            ? `plan: ${pointText(operatingPoint(machine, planned.placement, planned.setting))}`
            : 'no plan taken yet'
        }
      >
        <Moves
          machine={machine}
          from={found?.placement ?? {}}
          to={target?.placement ?? {}}
          setting={target?.setting !== found?.setting ? target?.setting : undefined}
        />
      </Part>
      <BoardPart
        step={step}
        hint="what is in the machine now; correct it where it differs from the plan"
        before={found?.placement}
        isClosed={isClosed}
      />
    </StepLayout>
  );
}

interface MovesProps {
  readonly machine: Machine;
  readonly from: Placement;
  readonly to: Placement;
  readonly setting: string | undefined;
}

/** Slot by slot in board order: first everything out, then everything in. */
function Moves({ machine, from, to, setting }: MovesProps) {
  const nameOf = slotNames(machine);
  const differs = machine.slots.filter(
    ({ id }) => JSON.stringify(from[id]) !== JSON.stringify(to[id]),
  );
  const moves = [
    ...differs.flatMap(({ id }) =>
      from[id] ? [`Out of ${nameOf(id)}: ${gb(from[id].capacity)} ${moduleSummary(from[id])}`] : [],
    ),
    ...differs.flatMap(({ id }) =>
      to[id] ? [`Into ${nameOf(id)}: ${gb(to[id].capacity)} ${moduleSummary(to[id])}`] : [],
    ),
    ...(setting
      ? [
          `In the firmware: ${setting === 'profile' ? 'switch the overclock profile on' : 'go back to the standard setting'}`,
        ]
      : []),
  ];
  if (moves.length === 0) return <p className="text-muted">Nothing is to be moved.</p>;
  return (
    <ol className="grid list-decimal gap-1 pl-6">
      {moves.map((move) => (
        <li key={move}>{move}</li>
      ))}
    </ol>
  );
}

const CAUTIONS = [
  'Customer’s data backed up, and their consent to opening the case.',
  'Shut down fully, unplug, hold the power button for 5 s.',
  'Strap or mat against static; never on carpet.',
  'Sharp edges and hot heatsinks: let it cool, mind your hands.',
  'Check the key of each module; even press, never force.',
  'Contacts level and hidden evenly on both sides? In but not seated is the commonest fault.',
  'The first start may train memory for minutes and restart: do not cut power.',
];

function Cautions({
  isLaptop,
  isAllInOne,
}: {
  readonly isLaptop: boolean;
  readonly isAllInOne: boolean;
}) {
  return (
    <AsideSheet title="Before you touch it">
      <ul className="grid gap-2 text-aside">
        {isLaptop && (
          <li className="flex gap-2">
            <Mark kind="caution" />
            Disconnect the battery before touching the board. Never pry, puncture or heat it; if it
            is swollen, stop and isolate it.
          </li>
        )}
        {isAllInOne && (
          <li className="flex gap-2">
            <Mark kind="stop" />
            Never open the display’s supply.
          </li>
        )}
        {CAUTIONS.map((caution) => (
          <li key={caution} className="flex gap-2">
            <Mark kind="note" />
            {caution}
          </li>
        ))}
      </ul>
      <div className="mt-3 text-aside">
        <Notice
          kind="note"
          title="The service manual comes first"
          why="So do local electrical, battery and waste rules, and licensed practice. Never open a power supply."
        />
      </div>
    </AsideSheet>
  );
}
