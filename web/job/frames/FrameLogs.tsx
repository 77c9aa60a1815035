import { useEffect, useMemo, useRef, useState } from 'react';
import type { ReactNode } from 'react';
import type { Job } from '#contract/records';
import {
  STUTTER_WORDS,
  explainFrameFault,
  explainFrameGain,
  figure,
  frameCautions,
  frameReadingText,
} from '#core/explaining';
import { wholeNumber } from '#core/units';
import { FRAME_COLUMNS, FRAME_UNITS } from '#core/proving';
import type { FrameColumn, FrameGain, FrameReading, FrameUnit } from '#core/proving';
import { frameReader } from '../../workers/frames.ts';
import type { NoAnswer } from '../../workers/asked.ts';
import type { FrameSide, FramesAnswer } from '../../workers/frames.ts';
import { FilePick, TABLES } from '../../ui/FilePick.tsx';
import type { MarkKind } from '../../ui/Mark.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { FramePictures } from './FramePictures.tsx';
import { KeepFrames } from './KeepFrames.tsx';

/** The latest answer of each side, and what both make together. */
interface Shown {
  readonly sides: Partial<Record<FrameSide, Pick<FramesAnswer, 'view' | 'fault'>>>;
  readonly gain: FramesAnswer['gain'];
  readonly distribution: FramesAnswer['distribution'] | undefined;
}

const SIDES = [
  ['before', 'Before'],
  ['after', 'After'],
] as const;

/**
 * Frame logs before and after, read and compared in a worker. The files stay in this browser; a log
 * can be kept as one run of a test.
 */
export function FrameLogs({ job }: { readonly job: Job }) {
  const [shown, setShown] = useState<Shown>({
    sides: {},
    gain: undefined,
    distribution: undefined,
  });
  const [reading, setReading] = useState<FrameSide>();
  const [failure, setFailure] = useState<NoAnswer>();
  const [reader] = useState(frameReader);
  const latest = useRef(0);
  useEffect(() => () => reader.close(), [reader]);
  const ask = (side: FrameSide, question: { file?: File; reading?: FrameReading }) => {
    const own = ++latest.current;
    setReading(side);
    setFailure(undefined);
    reader.ask({ side, ...question }).then(
      ({ view, fault, gain, distribution }) => {
        if (own !== latest.current) return;
        setReading(undefined);
        setShown(({ sides }) => ({
          sides: { ...sides, [side]: { view, fault } },
          gain,
          distribution,
        }));
      },
      (error: unknown) => {
        if (own !== latest.current) return;
        setReading(undefined);
        setFailure(error as NoAnswer);
      },
    );
  };
  const { gain, distribution } = shown;
  const explanation = gain && explainFrameGain(gain);
  return (
    <div className="grid gap-3">
      <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
        {SIDES.map(([side, name]) => (
          <Side
            key={side}
            {...{ side, name, shown: shown.sides[side] }}
            isReading={reading === side}
            onAsk={(question) => ask(side, question)}
            keep={(view) => <KeepFrames job={job} side={side} view={view} />}
          />
        ))}
      </div>
      {failure && (
        <Notice
          alert
          kind="stop"
          title={failure.problem.title}
          why={failure.problem.detail}
          mend="Choose both files again."
        />
      )}
      {gain && explanation && (
        <Notice
          kind={kindOf(gain)}
          title={explanation.title}
          why={explanation.why}
          mend={explanation.mend}
        />
      )}
      <Summaries sides={shown.sides} />
      {distribution && <FramePictures sides={shown.sides} distribution={distribution} />}
    </div>
  );
}

const kindOf = ({ low, high, record }: FrameGain): MarkKind =>
  record.before || record.after ? 'caution' : low > 1 ? 'ok' : high < 1 ? 'stop' : 'same';

interface SideProps {
  readonly side: FrameSide;
  readonly name: string;
  readonly shown: Shown['sides'][FrameSide];
  readonly isReading: boolean;
  readonly onAsk: (question: { file?: File; reading?: FrameReading }) => void;
  readonly keep: (view: FrameView) => ReactNode;
}

type FrameView = NonNullable<FramesAnswer['view']>;

function Side({ side, name, shown, isReading, onAsk, keep }: SideProps) {
  const view = shown?.view;
  return (
    <div className="grid content-start gap-2">
      <p className="flex flex-wrap items-center gap-x-3">
        <FilePick
          label={`${name}: ${view ? 'another log' : 'choose a frame log (CSV)'}`}
          accept={TABLES}
          onFile={(file) => onAsk({ file })}
        />
        {isReading && (
          <span role="status" className="text-aside text-muted">
            reading …
          </span>
        )}
      </p>
      {view && (
        <>
          <p className="text-aside break-words text-muted">
            {view.name}: {frameReadingText(view.reading, view.columns)}
          </p>
          <ReadingChoice
            {...{ side }}
            reading={view.reading}
            columns={view.columns}
            onAsk={onAsk}
          />
          {frameCautions(view).map((caution) => (
            <Notice key={caution.title} kind="caution" {...caution} />
          ))}
          {keep(view)}
        </>
      )}
      {shown?.fault && <Notice alert kind="stop" {...explainFrameFault(shown.fault)} />}
    </div>
  );
}

interface ReadingChoiceProps extends Pick<SideProps, 'side' | 'onAsk'> {
  readonly reading: FrameReading;
  readonly columns: readonly string[];
}

/** What was found out about the file, to be put right. */
function ReadingChoice({ side, reading, columns, onAsk }: ReadingChoiceProps) {
  const change = (more: Partial<FrameReading>) => onAsk({ reading: { ...reading, ...more } });
  return (
    <p className="flex flex-wrap gap-2 text-aside">
      <select
        className="input w-auto! max-w-48"
        aria-label={`Column, ${side}`}
        value={reading.column}
        onChange={({ target }) => change({ column: Number(target.value) })}
      >
        {columns.map((name, at) => (
          <option key={at} value={at}>
            {name || `column ${at + 1}`}
          </option>
        ))}
      </select>
      <select
        className="input w-auto!"
        aria-label={`What it holds, ${side}`}
        value={reading.kind}
        onChange={({ target }) => change({ kind: target.value as FrameColumn })}
      >
        {FRAME_COLUMNS.map((kind) => (
          <option key={kind}>{kind}</option>
        ))}
      </select>
      {reading.kind !== 'frame rate' && (
        <select
          className="input w-auto!"
          aria-label={`Unit, ${side}`}
          value={reading.unit}
          onChange={({ target }) => change({ unit: target.value as FrameUnit })}
        >
          {Object.keys(FRAME_UNITS).map((unit) => (
            <option key={unit}>{unit}</option>
          ))}
        </select>
      )}
    </p>
  );
}

function Summaries({ sides }: Pick<Shown, 'sides'>) {
  const own = SIDES.flatMap(([side, name]) => {
    const view = sides[side]?.view;
    return view ? [{ name, view }] : [];
  });
  const rows = useMemo(
    () =>
      [
        ['Frames', ({ frames }) => wholeNumber(frames)],
        ['Duration, s', ({ seconds }) => figure(seconds)],
        ['Mean, fps', ({ fps }) => figure(fps)],
        ['1 % low, mean of the slowest, fps', ({ lowAverage }) => figure(lowAverage.percent1)],
        ['1 % low, percentile, fps', ({ lowPercentile }) => figure(lowPercentile.percent1)],
        ['0.1 % low, mean of the slowest, fps', ({ lowAverage }) => figure(lowAverage.percent01)],
        ['0.1 % low, percentile, fps', ({ lowPercentile }) => figure(lowPercentile.percent01)],
        ['Median frame, ms', ({ percentiles }) => figure(percentiles[50])],
        ['99 % of frames under, ms', ({ percentiles }) => figure(percentiles[99])],
        ['Stutters', ({ stutters }) => String(stutters)],
      ] as readonly (readonly [string, (one: (typeof own)[number]['view']['summary']) => string])[],
    [],
  );
  if (own.length === 0) return null;
  return (
    <table className="w-full max-w-xl text-left tabular-nums">
      <caption className="sr-only">Frame logs, before and after</caption>
      <thead>
        <tr className="border-b border-edge text-aside text-muted">
          <td />
          {own.map(({ name }) => (
            <th key={name} scope="col" className="px-2 py-1 text-right font-normal">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(([label, text]) => (
          <tr key={label} className="border-b border-line last:border-0">
            <th scope="row" className="py-1 pr-2 font-normal">
              {label}
              {label === 'Stutters' && (
                <span className="block text-aside text-muted">{STUTTER_WORDS}</span>
              )}
            </th>
            {own.map(({ name, view }) => (
              <td key={name} className="px-2 text-right font-bold">
                {text(view.summary)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
