import { useState } from 'react';
import { jobMachine } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { CAUTION_WORDS, explainLength, slotNames, taskWords } from '#core/explaining';
import { cautionsAt, cautionsFor, lengthFault, lengthsOf } from '#core/fitting';
import type { Machine, SlotId } from '#core/machine';
import type { CoverPart, Fastener, SheetStep, WrongLength } from '#core/fitting';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { CoverPicture } from '../../visuals/CoverPicture.tsx';
import { fixedBoard } from '../../visuals/fixedBoard.ts';
import { SeatPicture } from '../../visuals/SeatPicture.tsx';
import { SlotBoard } from '../../visuals/SlotBoard.tsx';
import type { Bench } from './useBench.ts';

interface TaskViewProps {
  readonly job: Job;
  readonly bench: Bench;
  readonly step: SheetStep;
  /** Read from two metres. */
  readonly isLarge?: boolean;
}

/** Address of the photo of a machine's cover; the version keeps a changed one from being stale. */
export const photoOf = ({ machine }: Pick<Job, 'machine'>): string | undefined =>
  machine.hasPhoto ? `/api/machines/${machine.id}/photo?v=${machine.version}` : undefined;

/** One step: what to do, how, what to mind, and the picture of it. */
export function TaskView({ job, bench, step, isLarge = false }: TaskViewProps) {
  const machine = jobMachine(job);
  const words = taskWords(step.task, machine, slotNames(machine));
  const applying = cautionsFor(machine, bench.sheet, bench.target.setting);
  const cautions = cautionsAt(step.task, applying);
  // It is the page where it fills the screen, and a part of one beside the list.
  const Title = isLarge ? 'h1' : 'p';
  return (
    <div
      className={
        isLarge
          ? 'grid gap-x-8 gap-y-4 lg:has-[[data-picture]]:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]'
          : 'grid gap-3 sm:grid-cols-[minmax(0,1fr)_minmax(0,19rem)]'
      }
    >
      <div className="grid content-start gap-3">
        <div>
          <Title
            className={`font-bold text-balance ${isLarge ? 'text-[clamp(2.2rem,7vw,4.75rem)] leading-[1.05]' : 'text-answer'}`}
          >
            {words.title}
          </Title>
          <p
            className={`mt-2 max-w-prose ${isLarge ? 'text-[clamp(1.1rem,2.4vw,1.7rem)] leading-snug' : ''}`}
          >
            {words.how}
          </p>
        </div>
        {cautions.length > 0 && (
          <ul className={`grid gap-2 ${isLarge ? 'text-[clamp(1rem,1.8vw,1.3rem)]' : ''}`}>
            {cautions.map((caution) => {
              const { text, stops } = CAUTION_WORDS[caution];
              return (
                <li key={caution} className="flex items-start gap-2">
                  <Mark kind={stops ? 'stop' : 'caution'} />
                  <span>
                    {text} {stops && <b className="text-stop">{stops}</b>}
                  </span>
                </li>
              );
            })}
          </ul>
        )}
        {step.task.type === 'cover' &&
          step.task.act.act === 'drive' &&
          step.task.act.part.kind === 'fastener' && (
            <LengthCheck key={step.id} job={job} part={step.task.act.part} />
          )}
      </div>
      <TaskPicture {...{ job, bench, step, isLarge }} />
      {!isLarge && 'slotId' in step.task && (
        <div className="min-w-0 sm:col-span-2">
          <Where {...{ bench, machine }} slotId={step.task.slotId} />
        </div>
      )}
    </div>
  );
}

interface WhereProps {
  readonly bench: Bench;
  readonly machine: Machine;
  readonly slotId: SlotId;
}

/** The slot board as it is now, the slot at hand marked. */
function Where({ bench: { state }, machine, slotId }: WhereProps) {
  return (
    <SlotBoard
      machine={machine}
      board={fixedBoard(machine, state.placement, state.setting)}
      here={slotId}
      isFixed
    />
  );
}

function TaskPicture({ job, bench, step, isLarge = false }: TaskViewProps) {
  const machine = jobMachine(job);
  const { task } = step;
  if (task.type === 'pull' || task.type === 'seat' || task.type === 'reseat')
    return (
      <div data-picture className="grid content-start gap-3">
        <SeatPicture
          machine={machine}
          slotId={task.slotId}
          module={task.module}
          isOut={task.type === 'pull'}
        />
        {isLarge && <Where {...{ bench, machine }} slotId={task.slotId} />}
      </div>
    );
  const map = job.machine.coverMap;
  const isCover =
    task.type === 'cover' || (task.type === 'plain' && task.step === 'nothing left over');
  if (!map || !isCover) return null;
  // Parts come out in the order hands find them: a tap on one ticks its step, whichever is next.
  const tap = (part: CoverPart) => {
    const own = bench.sheet.steps.find(
      (one) =>
        one.task.type === 'cover' &&
        one.task.act.part.id === part.id &&
        one.phase === step.phase &&
        !one.tick,
    );
    if (own) bench.add({ type: 'tick', stepId: own.id });
  };
  const canTap = job.result === null && !job.swollenBattery;
  return (
    <div data-picture>
      <CoverPicture
        map={map}
        photo={photoOf(job)}
        out={partsOut(bench)}
        here={task.type === 'cover' ? task.act.part.id : undefined}
        onPart={canTap ? tap : undefined}
      />
    </div>
  );
}

/** Parts that are out or open just now. */
export function partsOut({ state }: Pick<Bench, 'state'>): ReadonlySet<string> {
  const out = new Set<string>();
  for (const id of state.round.ticks.keys()) {
    const [act, part = ''] = id.split(/ (.*)/s);
    if (act === 'undo' || act === 'pry' || act === 'unplug') out.add(part);
    if (act === 'drive' || act === 'press' || act === 'plug') out.delete(part);
  }
  return out;
}

/** Where screws differ in length: which one is in the hand? */
function LengthCheck({ job, part }: { readonly job: Job; readonly part: Fastener }) {
  const [fault, setFault] = useState<WrongLength | 'right'>();
  const map = job.machine.coverMap;
  const lengths = map ? lengthsOf(map) : [];
  if (part.captive || part.length === 'unknown' || lengths.length < 2) return null;
  return (
    <div className="grid gap-2">
      <p className="flex flex-wrap items-center gap-2">
        <span>In your hand:</span>
        {lengths.map((length) => (
          <Button key={length} onClick={() => setFault(lengthFault(part, length) ?? 'right')}>
            {length} mm
          </Button>
        ))}
      </p>
      {fault === 'right' && <Notice kind="ok" title={`Yes: ${part.length} mm belongs here`} />}
      {fault !== undefined && fault !== 'right' && (
        <Notice alert kind="stop" {...explainLength(fault)} />
      )}
    </div>
  );
}
