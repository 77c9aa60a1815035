import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { CAUTION_WORDS, pointText, slotNames, taskWords, toolText } from '#core/explaining';
import { cautionsFor, toolsFor, trayOf } from '#core/fitting';
import { operatingPoint } from '#core/operating-point';
import { useShortcuts } from '../app/keys.ts';
import { Answer, AnswerBar } from '../ui/AnswerBar.tsx';
import { Button } from '../ui/Button.tsx';
import { Mark } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { ProblemNotice } from '../ui/ProblemNotice.tsx';
import { Empty } from '../ui/States.tsx';
import { BoardActions } from './BoardActions.tsx';
import { BoardPart, ReasonsSheet } from './BoardPart.tsx';
import { Next } from '../ui/Next.tsx';
import { PointAnswers } from './PointAnswers.tsx';
import { AsideSheet, Part, StepLayout } from './StepLayout.tsx';
import { FirstStart } from './fit/FirstStart.tsx';
import { SheetList } from './fit/SheetList.tsx';
import { Signed } from './fit/Signed.tsx';
import { TaskView } from './fit/TaskView.tsx';
import { WithBench } from './fit/WithBench.tsx';
import type { Bench } from './fit/useBench.ts';
import { useSnapshotStep } from './useSnapshotStep.ts';

const PURPOSE_WORDS = {
  fit: 'Fit the plan',
  reseat: 'Reseat',
  'roll back': 'Restore what was found',
} as const;

/** The fit sheet of this machine and plan, step by step, then the first start. */
export function FitStep({ job }: { readonly job: Job }) {
  return <WithBench job={job}>{(bench) => <Fitting job={job} bench={bench} />}</WithBench>;
}

function Fitting({ job, bench }: { readonly job: Job; readonly bench: Bench }) {
  const navigate = useNavigate();
  const isClosed = job.result !== null;
  const { sheet, state, target } = bench;
  const { next } = sheet;
  const machine = job.machine.machine;
  const planned = snapshotOf(job, 'planned');
  const canTick = !isClosed && !job.swollenBattery && next !== undefined;
  const tick = () => next && bench.add({ type: 'tick', stepId: next.id });
  const read = () => void navigate(`/jobs/${job.id}/fit/read`);
  useShortcuts([
    ...(canTick ? [{ keys: 'D', does: 'Step done', run: tick }] : []),
    ...(sheet.steps.length > 0 ? [{ keys: 'R', does: 'Reading mode', run: read }] : []),
  ]);
  const hasStarted =
    state.round.startedAt !== undefined || snapshotOf(job, 'as-fitted') !== undefined;
  const point = operatingPoint(machine, target.placement, target.setting);
  const theSheet = sheet.steps.length > 0 && (
    <Part key="sheet" title="Sheet" hint="made for this machine and plan" action={<Signed />}>
      <SheetList job={job} bench={bench} isClosed={isClosed} />
    </Part>
  );
  // Once all is done the readings come first.
  const theStart = hasStarted && (
    <Part key="start" title="First start" hint="each reading is compared with the plan at once">
      <FirstStart job={job} bench={bench} isClosed={isClosed} />
    </Part>
  );
  return (
    <StepLayout
      aside={
        <>
          <Kit job={job} bench={bench} />
          <More job={job} bench={bench} isClosed={isClosed} />
        </>
      }
      bar={
        <AnswerBar
          label="What is to be done"
          actions={
            <>
              {sheet.steps.length > 0 && (
                <Button keys="R" onClick={read}>
                  Reading mode
                </Button>
              )}
              {canTick ? (
                <Button look="main" keys="D" onClick={tick}>
                  Done
                </Button>
              ) : (
                <Next to={`/jobs/${job.id}/prove`}>Next: prove</Next>
              )}
            </>
          }
        >
          <Answer label={next ? `Now · ${sheet.done} of ${sheet.steps.length} done` : 'The sheet'}>
            {next
              ? taskWords(next.task, machine, slotNames(machine)).title
              : sheet.steps.length === 0
                ? 'Nothing is to be moved'
                : 'All steps are done'}
          </Answer>
        </AnswerBar>
      }
    >
      <Notices job={job} bench={bench} />
      <Part
        title={PURPOSE_WORDS[state.round.purpose]}
        hint={
          state.round.purpose === 'fit' && !planned
            ? 'no plan taken yet'
            : `will run: ${pointText(point)}`
        }
        action={
          bench.undo && !isClosed ? (
            <Button look="quiet" className="text-aside" onClick={bench.undo}>
              undo the last step
            </Button>
          ) : undefined
        }
      >
        {next ? (
          <TaskView key={next.id} job={job} bench={bench} step={next} />
        ) : sheet.steps.length === 0 ? (
          <Empty title="Nothing is to be moved.">
            {planned || isClosed
              ? 'What sits in the machine is what is planned.'
              : 'Take a plan first, or correct the board below where something was changed without one.'}
          </Empty>
        ) : (
          <Notice kind="ok" title="All steps are done. Take the readings below." />
        )}
      </Part>
      {next ? [theSheet, theStart] : [theStart, theSheet]}
      <BoardCorrection job={job} isClosed={isClosed} />
    </StepLayout>
  );
}

function Notices({ job, bench }: { readonly job: Job; readonly bench: Bench }) {
  const { failure, isWaiting, isPlanNewer, sheet } = bench;
  const isRefused = job.consents.openCase === 'no' && sheet.opens;
  const isChanged = isPlanNewer && sheet.next !== undefined;
  // Nothing at all where there is nothing to say: an empty box would leave a gap.
  if (!failure && !isWaiting && !isChanged && !isRefused) return null;
  return (
    <div className="grid gap-3">
      {failure && <ProblemNotice failure={failure} />}
      {isWaiting && (
        <Notice
          kind="caution"
          title="Not saved yet"
          why="The server does not answer. Ticks are kept in this browser and sent when it is back."
        />
      )}
      {isChanged && (
        <Notice
          kind="caution"
          title="The plan was changed after work began"
          why="What is done stays done; what is left was worked out again from what sits in the machine now."
        />
      )}
      {isRefused && (
        <Notice
          kind="stop"
          title="The customer said no to opening it"
          why="It is on record at intake."
          mend="Ask again, and write the answer at intake."
        />
      )}
    </div>
  );
}

/** Tools, screws in the tray, and cautions of this machine and work. */
function Kit({ job, bench }: { readonly job: Job; readonly bench: Bench }) {
  const machine = job.machine.machine;
  const map = job.machine.coverMap ?? undefined;
  const tools = toolsFor(machine, map, bench.sheet.opens);
  const piles = map ? trayOf(map, new Set(bench.state.round.ticks.keys())) : [];
  return (
    <>
      {tools.length > 0 && (
        <AsideSheet title="Tools">
          <ul className="grid gap-1 text-aside">
            {tools.map((tool) => (
              <li key={toolText(tool)}>{toolText(tool)}</li>
            ))}
          </ul>
          {piles.length > 0 && (
            <>
              <h3 className="mt-3 font-bold">In the tray</h3>
              <ul className="mt-1 grid gap-1 text-aside">
                {piles.map(({ drive, size, length, count }) => (
                  <li key={`${drive} ${size} ${length}`} className="figure">
                    {count} × {size || drive}, {length === 'unknown' ? '? mm' : `${length} mm`}
                  </li>
                ))}
              </ul>
            </>
          )}
        </AsideSheet>
      )}
      {bench.sheet.steps.length > 0 && (
        <AsideSheet title="Safety">
          <ul className="grid gap-2 text-aside">
            {cautionsFor(machine, bench.sheet, bench.target.setting).map((caution) => {
              const { text, stops } = CAUTION_WORDS[caution];
              return (
                <li key={caution} className="flex gap-2">
                  <Mark kind={stops ? 'stop' : 'caution'} />
                  <span>
                    {text} {stops && <b>{stops}</b>}
                  </span>
                </li>
              );
            })}
          </ul>
          <div className="mt-3 text-aside">
            <Notice
              kind="note"
              title="The service manual comes first"
              why="So do local electrical, battery and waste rules, and licensed practice."
            />
          </div>
        </AsideSheet>
      )}
    </>
  );
}

interface MoreProps {
  readonly job: Job;
  readonly bench: Bench;
  readonly isClosed: boolean;
}

/** Ways off the sheet: the cover map, fault-finding, opening again, the way back. */
function More({ job, bench, isClosed }: MoreProps) {
  const { state, sheet } = bench;
  const begin = (purpose: 'fit' | 'roll back') =>
    bench.add({ type: 'begin', purpose, slotIds: [] });
  const parts = job.machine.coverMap?.parts.length;
  return (
    <AsideSheet title="More">
      <ul className="grid text-aside">
        <li>
          <Link
            className="link flex min-h-10 items-center"
            to={`/machines/${job.machine.id}/cover?job=${job.id}`}
          >
            {parts === undefined ? 'Draw how the cover opens' : `Cover map: ${parts} parts`}
          </Link>
        </li>
        <li>
          <Link className="link flex min-h-10 items-center" to={`/jobs/${job.id}/fault`}>
            Look for a fault
          </Link>
        </li>
        {!isClosed && state.round.purpose !== 'fit' && (
          <li>
            <Button look="quiet" onClick={() => begin('fit')}>
              Go on with the plan
            </Button>
          </li>
        )}
        {!isClosed && state.isTouched && state.round.purpose !== 'roll back' && (
          <li>
            <Button look="quiet" onClick={() => begin('roll back')}>
              Restore what was found
            </Button>
          </li>
        )}
      </ul>
      {sheet.pulled.length > 0 && (
        <p className="mt-2 text-aside">
          Pulled modules go to{' '}
          {sheet.pulled[0]?.to === 'drawer'
            ? 'the drawer: the customer was given credit.'
            : 'the customer’s bag: they are theirs.'}
        </p>
      )}
    </AsideSheet>
  );
}

/** What really sits in the machine, where it differs from what was ticked. */
function BoardCorrection({ job, isClosed }: { readonly job: Job; readonly isClosed: boolean }) {
  const hasPlan = snapshotOf(job, 'planned') !== undefined;
  const step = useSnapshotStep(job, 'as-fitted', hasPlan ? 'planned' : 'as-found');
  const [isOpen, setOpen] = useState(isClosed);
  const { board, machine } = step;
  const found = snapshotOf(job, 'as-found');
  const canRecord = !isClosed && board.isChanged;
  useShortcuts(
    canRecord ? [{ keys: 'F', does: 'Record as fitted', run: () => void step.save() }] : [],
  );
  return (
    <Part
      title="What sits in it"
      hint="recorded by the sheet; correct it here if it differs"
      action={
        canRecord ? (
          <BoardActions board={board}>
            <Button keys="F" onClick={() => void step.save()}>
              Record as fitted
            </Button>
          </BoardActions>
        ) : undefined
      }
    >
      <p className="mb-2 flex flex-wrap items-center gap-x-6 gap-y-1">
        <PointAnswers
          machine={machine}
          point={board.point}
          label={canRecord ? 'Would run' : 'Fitted: runs'}
        />
        <Button look="quiet" aria-expanded={isOpen} onClick={() => setOpen((open) => !open)}>
          {isOpen ? 'hide the board' : 'show the board'}
        </Button>
      </p>
      {isOpen && (
        <>
          <BoardPart
            step={step}
            hint="what is in the machine now"
            before={found?.placement}
            isClosed={isClosed}
          />
          <ReasonsSheet step={step} />
        </>
      )}
    </Part>
  );
}
