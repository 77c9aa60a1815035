import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import {
  actionText,
  checkText,
  coins,
  debriefSentence,
  explainRule,
  explainUnsafe,
  figure,
  goalText,
  seenText,
  slotNames,
} from '#core/explaining';
import type { NameOf } from '#core/explaining';
import type { Debrief, Exercise, Par, Turn } from '#core/practice';
import { goneThrough } from '../workers/practice.ts';
import { Button } from '../ui/Button.tsx';
import { Mark } from '../ui/Mark.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { WhyLink } from '../ui/Why.tsx';
import { pieceNames } from './pieceNames.ts';
import { practiceApi } from '../app/practiceApi.ts';
import type { PracticeWalk } from './practiceWalk.ts';

interface DebriefViewProps {
  readonly exercise: Exercise;
  readonly walk: PracticeWalk;
}

/** The walk gone through again: what each act told and cost, and where it parted from our own way. */
export function DebriefView({ exercise, walk }: DebriefViewProps) {
  const { actions } = walk;
  const [gone, setGone] = useState<Gone>();
  const [failure, setFailure] = useState<unknown>();
  const [tries, setTries] = useState(0);
  useEffect(() => {
    let isLatest = true;
    setFailure(undefined);
    goneThrough(exercise, actions).then(
      (found) => isLatest && setGone(found),
      (error: unknown) => isLatest && setFailure(error),
    );
    return () => {
      isLatest = false;
    };
  }, [exercise, actions, tries]);
  const what = 'our own way through it';
  if (failure !== undefined)
    return <Failed {...{ failure, what }} onRetry={() => setTries(tries + 1)} />;
  if (!gone) return <Loading what={what} />;
  return <GoneThrough exercise={exercise} walk={walk} gone={gone} />;
}

interface Gone {
  readonly debrief: Debrief;
  readonly par: Par;
}

function GoneThrough({
  exercise,
  walk,
  gone: { debrief, par },
}: DebriefViewProps & { readonly gone: Gone }) {
  useRecord(exercise, walk, par, debrief);
  const { world, lines, isSolved, turns, leftOut, firstCheck } = debrief;
  const nameOf = slotNames(exercise.machine);
  const names = pieceNames(world);
  const sentence = debriefSentence({
    ...{ solved: isSolved, unsafe: world.unsafe.length, minutes: world.minutes },
    parMinutes: par.world.minutes,
    missed: lines.filter(({ holds }) => !holds),
  });
  return (
    <div className="grid items-start gap-3.5 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <section aria-label="Turn by turn" className="sheet min-w-0">
        <h2 className="text-answer font-bold">{sentence}</h2>
        <p className="mt-1 text-muted">
          {figure(world.minutes)} min and {coins(world.spent)}; our own way takes{' '}
          {figure(par.world.minutes)} min and {coins(par.world.spent)}. A bit told halves the doubt.
        </p>
        <Turns turns={turns} partedAt={debrief.partedAt} nameOf={nameOf} names={names} />
      </section>
      <aside aria-label="What it comes to" className="grid gap-3.5">
        <section className="sheet">
          <h2 className="font-bold">What was asked for</h2>
          <ul className="mt-1 grid gap-1">
            {lines.map((line) => (
              <li key={line.what} className="flex items-start gap-2">
                <Mark kind={line.holds ? 'ok' : 'stop'} />
                <span>{goalText(line)}</span>
              </li>
            ))}
          </ul>
        </section>
        <section className="sheet">
          <h2 className="font-bold">The rule behind it</h2>
          <ul className="mt-1 grid gap-2">
            {exercise.teaches.map((rule) => {
              const { title, why } = explainRule(rule);
              return (
                <li key={rule}>
                  <b>{title}.</b> {why}
                </li>
              );
            })}
          </ul>
        </section>
        {(firstCheck || leftOut.length > 0) && (
          <section className="sheet">
            <h2 className="font-bold">Worth knowing first</h2>
            {firstCheck && (
              <p className="mt-1">
                {checkText(firstCheck.check, nameOf)}: {figure(firstCheck.bits, 2)} bits of doubt in{' '}
                {figure(firstCheck.minutes)} min, the most a minute of all.
              </p>
            )}
            {leftOut.length > 0 && (
              <>
                <p className="mt-2 text-muted">Our own way also did:</p>
                <ul className="text-aside">
                  {leftOut.map((action, at) => (
                    <li key={at}>{actionText(action, nameOf, pieceNames(par.world))}</li>
                  ))}
                </ul>
              </>
            )}
          </section>
        )}
        <p className="no-print flex flex-wrap gap-2">
          <Button look="main" onClick={walk.restart}>
            Start again
          </Button>
          <Button onClick={() => window.print()}>Print this</Button>
          <Link className="link inline-flex min-h-10 items-center" to="/practice">
            All exercises
          </Link>
        </p>
      </aside>
    </div>
  );
}

interface TurnsProps {
  readonly turns: readonly Turn[];
  readonly partedAt: number | undefined;
  readonly nameOf: NameOf;
  readonly names: NameOf;
}

function Turns({ turns, partedAt, nameOf, names }: TurnsProps) {
  return (
    <ol className="mt-3 grid gap-0">
      {turns.map(({ action, seen, at, minutes, spent, unsafe, bits, isOnPar }, index) => (
        <li
          key={index}
          className="grid gap-x-3 border-t border-line py-1.5 sm:grid-cols-[4.5rem_minmax(0,1fr)_9rem]"
        >
          <span className="figure text-aside text-muted">{figure(at)} min</span>
          <span className="min-w-0">
            {index === partedAt && (
              <span className="mr-2 rounded-full border border-copper px-2 text-aside font-bold text-copper">
                parts from our own way
              </span>
            )}
            {actionText(action, nameOf, names)}
            <span className="block text-aside text-muted">{seenText(seen, nameOf, names)}</span>
            {unsafe && (
              <span className="mt-1 flex flex-wrap items-center gap-2 font-bold text-stop">
                <Mark kind="stop" /> {explainUnsafe(unsafe).title}
                <WhyLink title={explainUnsafe(unsafe).title} reasons={[explainUnsafe(unsafe)]} />
              </span>
            )}
          </span>
          <span className="text-aside sm:text-right">
            {figure(minutes)} min
            {spent > 0 && `, ${coins(spent)}`}
            {bits !== undefined && (
              <span className="block">
                told {figure(bits, 2)} {bits === 1 ? 'bit' : 'bits'}
              </span>
            )}
            {!isOnPar && <span className="block text-muted">not on our way</span>}
          </span>
        </li>
      ))}
    </ol>
  );
}

/** Kept once for each walk that ended here, whoever comes back to look at it. */
const recorded = new Set<string>();

function useRecord(exercise: Exercise, walk: PracticeWalk, par: Par, debrief: Debrief): void {
  const [record] = practiceApi.useRecordPracticeRunMutation();
  const sent = useRef(false);
  useEffect(() => {
    const key = `tembrix.practised.${exercise.id}`;
    const walked = JSON.stringify(walk.actions);
    if (sent.current || recorded.has(walked) || localStorage.getItem(key) === walked) return;
    sent.current = true;
    recorded.add(walked);
    const { world, isSolved, turns } = debrief;
    record({
      body: {
        ...{ exerciseId: exercise.id, solved: isSolved },
        ...{ minutes: world.minutes, parMinutes: par.world.minutes, spent: world.spent },
        ...{ acts: turns.length, unsafe: world.unsafe.length },
      },
    })
      .unwrap()
      .then(
        () => localStorage.setItem(key, walked),
        // Not recorded: whoever comes back to it tries again.
        () => recorded.delete(walked),
      );
  }, [exercise, walk.actions, par, debrief, record]);
}
