import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { EXERCISE_FILE_LIMIT } from '#contract/practice';
import type { ListedExercise, PracticeRun } from '#contract/practice';
import { RULE_WORDS, count, figure } from '#core/explaining';
import { RULES } from '#core/practice';
import type { RuleId } from '#core/practice';
import { askAgain } from '../ui/askAgain.ts';
import { FilePick } from '../ui/FilePick.tsx';
import { Mark } from '../ui/Mark.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Page } from '../ui/Page.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';
import { useMe } from '../ui/useMe.ts';
import { practiceApi } from '../app/practiceApi.ts';
import { isBegun } from './practiceWalk.ts';
import { isKnown, nextExercise, rulesKnown } from './progress.ts';

const LEVELS = ['', 'First days', 'On your own', 'Trickier', 'What catches old hands out'] as const;

/** Machines to practise on: what there is, what one knows already, and what to try next. */
export function PracticePage() {
  const { name } = useMe();
  const exercises = practiceApi.useExercisesQuery();
  const runs = practiceApi.usePracticeRunsQuery('');
  const { data } = exercises;
  const error = exercises.error ?? runs.error;
  // Without the runs all that was shown to be known would stand there as never tried.
  if (!data || !runs.data)
    return (
      <Page title="Practice bench">
        {error ? (
          <Failed failure={error} what="the exercises" onRetry={() => askAgain(exercises, runs)} />
        ) : (
          <Loading what="the exercises" />
        )}
      </Page>
    );
  const own = runs.data;
  return (
    <Page
      title="Practice bench"
      actions={
        <>
          <Link className="link inline-flex min-h-10 items-center font-bold" to="/sandbox">
            Sandbox: any machine, any fault
          </Link>
          <TakeIn />
        </>
      }
    >
      <p className="mb-3 max-w-[70ch] text-muted">
        A simulated machine with something hidden in it, a clock that runs and parts that cost
        money. It behaves as machines do, and nothing can be broken but in the simulation. Real work
        follows the machine’s service manual and your local rules.
      </p>
      <div className="grid items-start gap-3.5 lg:grid-cols-[minmax(0,1fr)_20.5rem]">
        <div className="grid gap-3.5">
          {([1, 2, 3, 4] as const).map((level) => (
            <Level
              key={level}
              title={LEVELS[level]}
              exercises={data.filter((one) => one.level === level)}
              runs={own}
            />
          ))}
        </div>
        <Trainee exercises={data} runs={own} name={name} />
      </div>
    </Page>
  );
}

interface LevelProps {
  readonly title: string;
  readonly exercises: readonly ListedExercise[];
  readonly runs: readonly PracticeRun[];
}

function Level({ title, exercises, runs }: LevelProps) {
  if (exercises.length === 0) return null;
  return (
    <section className="sheet" aria-label={title}>
      <h2 className="font-bold">{title}</h2>
      <ul className="mt-1">
        {exercises.map((one) => (
          <li
            key={one.id}
            className="grid gap-x-4 border-t border-line py-2 first:border-0 sm:grid-cols-[minmax(0,1fr)_11rem]"
          >
            <span className="min-w-0">
              <Link
                className="link inline-flex min-h-8 items-center font-bold"
                to={`/practice/${one.id}`}
              >
                {one.title}
              </Link>
              <span className="block text-aside break-words text-muted">“{one.says}”</span>
            </span>
            <Standing
              exercise={one}
              runs={runs.filter(({ exerciseId }) => exerciseId === one.id)}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Standing({
  exercise,
  runs,
}: {
  readonly exercise: ListedExercise;
  readonly runs: readonly PracticeRun[];
}) {
  const solved = runs.filter((run) => run.solved);
  const best = Math.min(...solved.map(({ minutes }) => minutes));
  if (isBegun(exercise.id))
    return <p className="text-aside sm:text-right">begun, not handed over</p>;
  if (solved.length > 0)
    return (
      <p className="flex items-center gap-2 text-aside sm:justify-end">
        <Mark kind="ok" /> solved, best {figure(best)} min
      </p>
    );
  return (
    <p className="text-aside text-muted sm:text-right">
      {runs.length > 0 ? `tried ${count(runs.length, 'time')}, not solved` : 'not tried'}
    </p>
  );
}

interface TraineeProps {
  readonly exercises: readonly ListedExercise[];
  readonly runs: readonly PracticeRun[];
  readonly name: string;
}

/** What one person knows, and what to try next; nobody is measured against anybody else. */
function Trainee({ exercises, runs, name }: TraineeProps) {
  const known = rulesKnown(exercises, runs);
  const next = nextExercise(exercises, runs);
  const unsafe = runs.reduce((sum, run) => sum + run.unsafe, 0);
  return (
    <aside aria-label="Your practice" className="sheet grid gap-3">
      <h2 className="font-bold">{name}</h2>
      {next && (
        <p>
          <b>Next for you:</b>{' '}
          <Link className="link" to={`/practice/${next.id}`}>
            {next.title}
          </Link>
        </p>
      )}
      <p>
        {count(runs.length, 'walk')}, {count(runs.filter(isKnown).length, 'time')} solved at our
        pace
        {unsafe > 0 && `, ${count(unsafe, 'unsafe act')}`}.
      </p>
      <div>
        <h2 className="font-bold">
          Rules shown to be known: {known.size} of {RULES.length}
        </h2>
        <ul className="mt-1 grid gap-0.5 text-aside">
          {RULES.map((rule: RuleId) => (
            <li key={rule} className="flex items-start gap-2">
              <span aria-hidden={!known.has(rule)} className="inline-flex w-5 justify-center">
                {known.has(rule) ? <Mark kind="ok" /> : '·'}
              </span>
              <span className={known.has(rule) ? '' : 'text-muted'}>{RULE_WORDS[rule][0]}</span>
            </li>
          ))}
        </ul>
      </div>
    </aside>
  );
}

/** Takes in somebody else's exercise from its file. */
function TakeIn() {
  const navigate = useNavigate();
  const [fault, setFault] = useState<string>();
  const [take] = practiceApi.useImportExerciseMutation();
  const taking = useSave(take, ({ exercise }) => void navigate(`/practice/${exercise.id}`));
  const read = async (file: File) => {
    setFault(undefined);
    if (file.size > EXERCISE_FILE_LIMIT)
      return setFault('The file is too large for an exercise. Export it again.');
    try {
      await taking.save({ body: JSON.parse(await file.text()) as never });
    } catch {
      setFault('The file is no complete JSON. Export it again.');
    }
  };
  return (
    <>
      <FilePick
        label="Take in an exercise file"
        accept=".json,application/json"
        onFile={(file) => void read(file)}
      />
      {fault && <Notice alert kind="stop" title={fault} />}
      <SaveNotice state={taking.state} />
    </>
  );
}
