import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { jobMachine } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { clockText, PHASE_WORDS, slotNames, taskWords } from '#core/explaining';
import { api } from '../../app/api.ts';
import { useShortcuts } from '../../app/keys.ts';
import { useWholeScreen } from '../../app/wholeScreen.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { ProblemNotice } from '../../ui/ProblemNotice.tsx';
import { Failed, Loading } from '../../ui/States.tsx';
import { TaskView } from './TaskView.tsx';
import { WithBench } from './WithBench.tsx';
import type { Bench } from './useBench.ts';
import { useSpeech } from './useSpeech.ts';

/** One step fills the screen: for dirty hands, a foot pedal, a phone beside the machine. */
export function ReadingPage() {
  const { id = '' } = useParams();
  const { data: job, error, refetch } = api.useJobQuery(id, { refetchOnMountOrArgChange: true });
  if (job) return <WithBench job={job}>{(bench) => <Reading job={job} bench={bench} />}</WithBench>;
  return error ? (
    <Failed failure={error} what="the job" onRetry={() => void refetch()} />
  ) : (
    <Loading what="the job" />
  );
}

/** The step that fills the screen, what its keys do, and the way back and forth. */
function useReading(job: Job, bench: Bench) {
  const navigate = useNavigate();
  const machine = jobMachine(job);
  const { steps, next } = bench.sheet;
  // A step looked back at; undefined follows the work.
  const [backAt, setBackAt] = useState<string>();
  const nextAt = next ? steps.indexOf(next) : steps.length;
  const shownAt = backAt === undefined ? nextAt : steps.findIndex(({ id }) => id === backAt);
  const step = steps[shownAt];
  const isBehind = shownAt < nextAt;
  const mayWork = !job.swollenBattery && job.result === null;
  const words = step && taskWords(step.task, machine, slotNames(machine));
  const speech = useSpeech(words && `${words.title}. ${words.how}`);
  const leave = () => void navigate(`/jobs/${job.id}/fit`);
  const look = (at: number) => setBackAt(at === nextAt ? undefined : steps[at]?.id);
  const forward = () => {
    if (isBehind) look(shownAt + 1);
    else if (step && mayWork) bench.add({ type: 'tick', stepId: step.id });
    else if (!step) leave();
  };
  const back = () => look(Math.max(0, shownAt - 1));
  const untick = () => step?.tick && bench.add({ type: 'undo', of: step.tick.entryId });
  useShortcuts([
    { keys: 'Space', does: 'Done, next step', run: forward },
    { keys: 'PageDown', does: 'Done, next step (pedal)', run: forward },
    { keys: 'ArrowRight', does: 'Done, next step', run: forward },
    { keys: 'PageUp', does: 'Look back (pedal)', run: back },
    { keys: 'ArrowLeft', does: 'Look back', run: back },
    { keys: 'U', does: 'Take the tick back', run: untick },
    { keys: 'S', does: 'Read aloud', run: speech.toggle },
    { keys: 'Escape', does: 'Leave the reading mode', run: leave },
  ]);
  const done = steps.filter(({ tick }) => tick).length;
  return {
    ...{ job, bench, steps, step, shownAt, isBehind, done, speech, leave, forward, back, untick },
    isStopped: step !== undefined && !isBehind && !mayWork,
  };
}

type ReadingState = ReturnType<typeof useReading>;

function Reading({ job, bench }: { readonly job: Job; readonly bench: Bench }) {
  const reading = useReading(job, bench);
  const { step, shownAt, forward } = reading;
  useWholeScreen();
  // A step ticked from its lower end is followed by the upper end of the next.
  useEffect(() => void scrollTo(0, 0), [shownAt]);
  return (
    <main className="flex grow flex-col bg-sheet" aria-label="Reading mode">
      <ReadingHead {...reading} />
      {job.swollenBattery && (
        <div className="p-4">
          <Notice
            alert
            kind="stop"
            title="Work is stopped: the battery is swollen"
            why="Isolate it, keep it away from what burns, and hand it over under local rules."
            mend="Intake says when work may go on."
          />
        </div>
      )}
      {bench.failure && (
        <div className="p-4">
          <ProblemNotice failure={bench.failure} />
        </div>
      )}
      {/* The whole page is the key for a thumb; the same is the button below. */}
      {/* oxlint-disable-next-line jsx-a11y/no-static-element-interactions, jsx-a11y/click-events-have-key-events */}
      <div
        className="grow px-4 py-[3vh] sm:px-[6vw]"
        onClick={(event) => {
          if (!(event.target as Element).closest('button, a, [role=button]')) forward();
        }}
      >
        {step ? (
          <>
            <TaskView job={job} bench={bench} step={step} isLarge />
            {step.tick && (
              <p className="mt-4 text-lg">
                ✓ done by {step.tick.by}, {clockText(step.tick.at)}
              </p>
            )}
          </>
        ) : (
          <AllDone isNothing={reading.steps.length === 0} />
        )}
      </div>
      <ReadingFoot {...reading} />
    </main>
  );
}

function ReadingHead({ steps, step, shownAt, done, speech, leave }: ReadingState) {
  return (
    <header className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-1.5">
      <p className="figure font-bold">
        {step ? `${shownAt + 1} of ${steps.length}` : `${done} of ${steps.length} done`}
      </p>
      {step && <p className="text-muted">{PHASE_WORDS[step.phase]}</p>}
      <div className="ml-auto flex gap-2">
        {speech.isAble && (
          <Button aria-pressed={speech.isOn} onClick={speech.toggle}>
            {speech.isOn ? 'Quiet' : 'Read aloud'}
          </Button>
        )}
        <Button onClick={leave}>Leave</Button>
      </div>
      <div aria-hidden className="h-1.5 w-full overflow-hidden rounded bg-bone">
        <div
          className="h-full bg-teal"
          style={{ width: `${(100 * done) / Math.max(1, steps.length)}%` }}
        />
      </div>
    </header>
  );
}

function AllDone({ isNothing }: { readonly isNothing: boolean }) {
  return (
    <div className="grid gap-4">
      <h1 className="text-[clamp(2.2rem,7vw,4.75rem)] leading-[1.05] font-bold">
        {isNothing ? 'Nothing is to be done' : 'All steps are done'}
      </h1>
      <p className="text-xl">
        {isNothing
          ? 'What sits in the machine is what is planned.'
          : 'Take the readings after the first start.'}
      </p>
    </div>
  );
}

function ReadingFoot({ step, shownAt, isBehind, isStopped, back, untick, forward }: ReadingState) {
  return (
    <footer className="sticky bottom-0 flex gap-3 border-t border-line bg-sheet p-3">
      <Button className="min-h-16 px-6 text-lg" disabled={shownAt <= 0} onClick={back}>
        Back
      </Button>
      {isBehind && step?.tick && (
        <Button className="min-h-16 px-4" onClick={untick}>
          Not done
        </Button>
      )}
      <Button look="main" className="min-h-16 grow text-xl" onClick={forward} disabled={isStopped}>
        {!step ? 'To the readings' : isBehind ? 'Next' : 'Done'}
      </Button>
    </footer>
  );
}
