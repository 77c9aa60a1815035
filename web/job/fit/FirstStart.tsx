import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { jobMachine } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { READING_WORDS, explainLikely, readingText, slotNames, startText } from '#core/explaining';
import { expectStart, judgeReading, placementShown, readingsFor } from '#core/fitting';
import type {
  Expected,
  Judgement,
  ReadingKind,
  ReadingValue,
  StartExpectation,
} from '#core/fitting';
import { benchNow } from '../../app/benchClock.ts';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { Notice } from '../../ui/Notice.tsx';
import type { Bench } from './useBench.ts';

interface FirstStartProps {
  readonly job: Job;
  readonly bench: Bench;
  readonly isClosed: boolean;
}

/** What to expect of the first start, when worry is due, then the readings, each judged at once. */
export function FirstStart({ job, bench, isClosed }: FirstStartProps) {
  const machine = jobMachine(job);
  const { state } = bench;
  const expected: Expected = { machine, placement: state.placement, setting: bench.target.setting };
  const start = expectStart(machine, state.placement);
  const hasPicture = state.readings.get('picture')?.value === true;
  return (
    <div className="grid gap-3">
      {!hasPicture && <p className="max-w-prose">{startText(start)}</p>}
      {state.round.startedAt !== undefined && !hasPicture && !isClosed && (
        <StartTimer startedAt={state.round.startedAt} start={start} />
      )}
      <ul className="grid gap-x-6 lg:grid-cols-2">
        {readingsFor(expected).map((kind) => (
          <Reading key={kind} {...{ kind, job, bench, expected, isClosed }} />
        ))}
      </ul>
    </div>
  );
}

function StartTimer({
  startedAt,
  start,
}: {
  readonly startedAt: string;
  readonly start: StartExpectation;
}) {
  const [now, setNow] = useState(benchNow);
  useEffect(() => {
    const timer = setInterval(() => setNow(benchNow()), 1000);
    return () => clearInterval(timer);
  }, []);
  const seconds = Math.max(0, Math.floor((now - Date.parse(startedAt)) / 1000));
  const minutes = seconds / 60;
  const kind = minutes >= start.worry ? 'stop' : minutes >= start.usual ? 'caution' : 'ok';
  const words = {
    ok: 'Dark is usual. Leave the power on.',
    caution: 'Longer than usual, no reason to worry yet. Leave the power on.',
    stop: 'That is too long: start fault-finding.',
  }[kind];
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-1 rounded-md border border-edge p-3">
      <p className="figure text-[2.2rem] leading-none font-bold" role="timer">
        {Math.floor(seconds / 60)}:{String(seconds % 60).padStart(2, '0')}
      </p>
      <p className="flex items-center gap-2 font-bold">
        <Mark kind={kind} />
        {words}
      </p>
    </div>
  );
}

interface ReadingProps extends FirstStartProps {
  readonly kind: ReadingKind;
  readonly expected: Expected;
}

function Reading({ kind, job, bench, expected, isClosed }: ReadingProps) {
  const nameOf = slotNames(expected.machine);
  const { name, ask, unit } = READING_WORDS[kind];
  const entry = bench.state.readings.get(kind);
  const judged = entry && judgeReading(kind, entry.value, expected);
  const say = (value: ReadingValue) =>
    bench.add({
      type: 'reading',
      kind,
      value: typeof value === 'object' ? [...value] : value,
    });
  const wanted = judgeReading(kind, kind === 'slots' ? [] : 0, expected)?.expected;
  return (
    <li className="grid content-start gap-1.5 border-b border-line py-2">
      <p className="flex flex-wrap items-center gap-x-2">
        {judged && <Mark kind={judged.isGood ? 'ok' : 'stop'} />}
        <b>{name}</b>
        <span className="text-aside text-muted">
          {wanted !== undefined &&
            kind !== 'picture' &&
            `plan: ${readingText(kind, wanted, nameOf)}${kind === 'rate' ? ' MT/s' : ''}`}
        </span>
        {entry && (
          <span className="ml-auto font-bold">
            {readingText(kind, entry.value, nameOf)}
            {judged?.unitTrap && judged.isGood && (
              <span className="font-normal text-muted"> · the clock, half the rate: right</span>
            )}
          </span>
        )}
      </p>
      {!isClosed && <Entry {...{ kind, ask, unit, expected }} was={entry?.value} onSay={say} />}
      {judged && !judged.isGood && <Off {...{ judged, job, bench, expected }} />}
    </li>
  );
}

interface EntryProps {
  readonly kind: ReadingKind;
  readonly ask: string;
  readonly unit: string | undefined;
  readonly expected: Expected;
  readonly was: ReadingValue | undefined;
  readonly onSay: (value: ReadingValue) => void;
}

function Entry({ kind, ask, unit, expected, was, onSay }: EntryProps) {
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string>();
  if (kind === 'picture' || kind === 'profile')
    return (
      <p className="flex flex-wrap items-center gap-2">
        <span className="grow text-aside">{ask}</span>
        {([true, false] as const).map((value) => (
          <Button key={String(value)} aria-pressed={was === value} onClick={() => onSay(value)}>
            {value ? 'Yes' : 'No'}
          </Button>
        ))}
      </p>
    );
  if (kind === 'slots') return <SlotsEntry {...{ ask, expected, was, onSay }} />;
  return (
    <form
      className="flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const value = Number(text.replace(',', '.'));
        if (text.trim() === '' || !Number.isFinite(value) || value < 0 || value > 1e6) {
          setFault(`Enter the figure as shown, in ${unit}.`);
          return;
        }
        setFault(undefined);
        setText('');
        onSay(value);
      }}
    >
      <label className="flex grow flex-wrap items-center gap-2">
        <span className="grow text-aside">{ask}</span>
        <input
          className="input w-24!"
          inputMode="decimal"
          value={text}
          aria-invalid={fault !== undefined}
          onChange={({ target }) => setText(target.value)}
        />
        <span className="text-aside">{unit}</span>
      </label>
      <Button type="submit">Check</Button>
      {fault && <p className="w-full text-aside font-bold text-stop">✕ {fault}</p>}
    </form>
  );
}

/** Slots are picked, then compared together: half-way through there is nothing to judge. */
function SlotsEntry({ ask, expected, was, onSay }: Omit<EntryProps, 'kind' | 'unit'>) {
  const [shown, setShown] = useState(Array.isArray(was) ? (was as readonly string[]) : []);
  return (
    <div className="flex flex-wrap items-center gap-2" role="group" aria-label={ask}>
      <span className="w-full text-aside">{ask}</span>
      {expected.machine.slots.map(({ id, printedName }) => {
        const isShown = shown.includes(id);
        return (
          <Button
            key={id}
            aria-pressed={isShown}
            className={isShown ? 'bg-teal-wash' : 'font-normal!'}
            onClick={() => setShown(isShown ? shown.filter((one) => one !== id) : [...shown, id])}
          >
            {isShown ? '● ' : '○ '}
            {printedName}
          </Button>
        );
      })}
      <Button onClick={() => onSay(shown)}>Check</Button>
    </div>
  );
}

interface OffProps {
  readonly judged: Judgement;
  readonly job: Job;
  readonly bench: Bench;
  readonly expected: Expected;
}

/** A reading that is off: the likely reason, and the one thing to do about it. */
function Off({ judged, job, bench, expected }: OffProps) {
  const { likely, symptom } = judged;
  if (!likely) return null;
  const words = explainLikely(likely, slotNames(expected.machine));
  const isMoved = likely.type === 'other slots' && likely.shown.length === likely.wanted.length;
  const unseen = likely.type === 'not seen' ? likely.choices.flat() : [];
  return (
    <Notice kind="stop" {...words}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        {isMoved && (
          <Button
            onClick={() => {
              bench.add({
                type: 'sits',
                placement: placementShown(expected, likely.shown),
                setting: bench.state.setting,
              });
              bench.add({ type: 'begin', purpose: 'fit', slotIds: [] });
            }}
          >
            Open again and move them
          </Button>
        )}
        {unseen.length > 0 && (
          <Button onClick={() => bench.add({ type: 'begin', purpose: 'reseat', slotIds: unseen })}>
            Open again and reseat
          </Button>
        )}
        <Link
          className="link font-bold"
          to={`/jobs/${job.id}/fault?symptom=${encodeURIComponent(symptom ?? '')}`}
        >
          Look for the fault
        </Link>
      </div>
    </Notice>
  );
}
