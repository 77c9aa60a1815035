import type { Suggestion } from '#core/diagnosing';
import { RISK_WORDS, causeText, checkHow, checkText, outcomeText, percent } from '#core/explaining';
import type { NameOf } from '#core/explaining';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';

interface CheckCardProps {
  readonly suggestion: Suggestion;
  readonly nameOf: NameOf;
  readonly isClosed: boolean;
  readonly onSeen: (outcome: string) => void;
}

/** The check to make: how, what to mind, and for each answer what it would leave as likeliest. */
export function CheckCard({ suggestion, nameOf, isClosed, onSeen }: CheckCardProps) {
  const { check, minutes, prospects } = suggestion;
  const risk = RISK_WORDS[check.risk];
  return (
    <div className="grid gap-3">
      <div>
        <p className="text-answer font-bold">{checkText(check, nameOf)}</p>
        <p className="max-w-prose">
          {checkHow(check)}{' '}
          <span className="text-muted">
            {check.hands} min of work{check.waits > 0 && `, ${check.waits} min by itself`};{' '}
            {Math.round(minutes)} min bench time.
          </span>
        </p>
      </div>
      {risk && (
        <p className="flex items-start gap-2">
          <Mark kind={check.risk === 'can lose the board' ? 'stop' : 'caution'} />
          <span>{risk}</span>
        </p>
      )}
      <ul className="grid gap-2">
        {prospects.map(({ outcome, chance, leading }) => (
          <li
            key={outcome}
            className="grid items-center gap-x-3 sm:grid-cols-[minmax(0,15rem)_1fr]"
          >
            <Button
              className="min-h-12 text-left"
              disabled={isClosed}
              onClick={() => onSeen(outcome)}
            >
              {outcomeText(check, outcome, nameOf)}
            </Button>
            <span className="text-aside text-muted">
              expected in {percent(chance)}; then most likely: {causeText(leading.cause, nameOf)},{' '}
              {percent(leading.chance)}
            </span>
          </li>
        ))}
        <li>
          <Button look="quiet" disabled={isClosed} onClick={() => onSeen('unknown')}>
            I don’t know, or cannot check it
          </Button>
        </li>
      </ul>
    </div>
  );
}
