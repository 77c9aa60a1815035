import { explainBlocker, explainFlag, slotNames } from '#core/explaining';
import type { Explanation } from '#core/explaining';
import type { Machine } from '#core/machine';
import type { OperatingPoint } from '#core/operating-point';
import { Mark } from '../ui/Mark.tsx';
import type { MarkKind } from '../ui/Mark.tsx';
import { WhyLink } from '../ui/Why.tsx';

interface PointReasonsProps {
  readonly machine: Machine;
  readonly point: OperatingPoint;
}

interface Line {
  readonly kind: MarkKind;
  readonly explanation: Explanation;
}

/** What stops a placement, or what deserves a word about it; each opens its reasons. */
export function PointReasons({ machine, point }: PointReasonsProps) {
  const nameOf = slotNames(machine);
  const lines: Line[] =
    point.type === 'blocked'
      ? point.blockers.map((blocker) => ({
          kind: 'stop',
          explanation: explainBlocker(blocker, nameOf),
        }))
      : point.flags.map((flag) => ({
          kind: flag.severity === 'caution' ? 'caution' : 'note',
          explanation: explainFlag(flag, nameOf),
        }));
  const ordered = [
    ...lines.filter(({ kind }) => kind !== 'note'),
    ...lines.filter(({ kind }) => kind === 'note'),
  ];
  return (
    <ul className="grid gap-1.5">
      {ordered.map(({ kind, explanation }) => (
        <li key={explanation.title} className="flex items-start gap-2">
          <Mark kind={kind} />
          <span className="min-w-0 grow break-words">
            {explanation.title}
            {kind !== 'note' && explanation.mend && (
              <span className="block text-aside text-muted">{explanation.mend}</span>
            )}
          </span>
          <WhyLink title={explanation.title} reasons={[explanation]} />
        </li>
      ))}
    </ul>
  );
}
