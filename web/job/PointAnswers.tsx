import {
  count,
  explainPeak,
  explainPoint,
  explainRate,
  explainUsable,
  explainWidth,
  figure,
  rateText,
  slotNames,
  usableText,
  widthText,
} from '#core/explaining';
import type { Machine } from '#core/machine';
import type { OperatingPoint } from '#core/operating-point';
import { peakAtLoad } from '#core/operating-point';
import { Answer } from '../ui/AnswerBar.tsx';

interface PointAnswersProps {
  readonly machine: Machine;
  readonly point: OperatingPoint;
  /** What ran before the change, for comparison. */
  readonly before?: OperatingPoint | undefined;
  /** GiB wanted, carve-out included. */
  readonly need?: number | undefined;
  /** How the first answer is introduced. */
  readonly label: string;
}

const unlessSame = (was: string | undefined, is: string) => (was === is ? undefined : was);

/** The large figures of a placement for the answer bar. */
export function PointAnswers({ machine, point, before, need, label }: PointAnswersProps) {
  const nameOf = slotNames(machine);
  if (point.type === 'blocked')
    return (
      <Answer label={label} why={explainPoint(point, nameOf)}>
        <span className="text-stop">✕ Does not run: {count(point.blockers.length, 'reason')}</span>
      </Answer>
    );
  const was = before?.type === 'runs' ? before : undefined;
  const peakText = (of: typeof point) =>
    `${figure(need === undefined ? of.peak : peakAtLoad(of.layouts[0], need))} GB/s`;
  return (
    <>
      <Answer
        label={label}
        why={explainRate(point, nameOf)}
        was={unlessSame(was && rateText(was), rateText(point))}
      >
        {rateText(point)}
      </Answer>
      <Answer
        label="Side by side"
        why={explainWidth(point, nameOf)}
        was={unlessSame(was && widthText(was), widthText(point))}
      >
        {widthText(point)}
      </Answer>
      <Answer
        label={need === undefined ? 'Peak bandwidth' : 'Peak bandwidth at this load'}
        why={explainPeak(point, machine.channelBits, need)}
        was={unlessSame(was && peakText(was), peakText(point))}
      >
        {peakText(point)}
      </Answer>
      <Answer
        label="Usable"
        why={explainUsable(point, machine)}
        was={unlessSame(was && usableText(was), usableText(point))}
      >
        {usableText(point)}
      </Answer>
    </>
  );
}
