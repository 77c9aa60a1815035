import { explainRung, rungName, slotNames } from '#core/explaining';
import type { Machine } from '#core/machine';
import type { Rung, Running } from '#core/operating-point';
import { WhyLink } from '../ui/Why.tsx';

interface LimitsLadderProps {
  readonly machine: Machine;
  readonly point: Running;
}

const ROLE_WORDS: Readonly<Record<Rung['role'], string>> = {
  binds: 'sets the rate',
  slack: '',
  warning: 'passed by the profile',
  idle: '',
};

/** All limits on the rate; the binding ones washed copper, with what would lift them. */
export function LimitsLadder({ machine, point }: LimitsLadderProps) {
  const nameOf = slotNames(machine);
  const figures = point.rungs.flatMap(({ limit }) =>
    typeof limit === 'number' ? [limit as number] : [],
  );
  const highest = Math.max(...figures, point.rate);
  const order = (rung: Rung) => (typeof rung.limit === 'number' ? rung.limit : Infinity);
  const rungs = [...point.rungs].sort((a, b) => order(b) - order(a));
  return (
    <ol className="grid gap-1">
      {rungs.map((rung) => {
        const { limit, role, rule } = rung;
        const name = rungName(rung, nameOf);
        const isFigure = typeof limit === 'number';
        return (
          <li
            key={rule}
            className={`rounded-sm px-2 py-1 ${role === 'binds' ? 'bg-copper-wash' : ''}`}
          >
            <div className="flex items-baseline gap-2">
              <span className={`min-w-0 grow break-words ${role === 'binds' ? 'font-bold' : ''}`}>
                {name}
              </span>
              <span className={`figure whitespace-nowrap ${role === 'binds' ? 'font-bold' : ''}`}>
                {isFigure ? (
                  <>
                    {limit} <span className="text-aside">MT/s</span>
                  </>
                ) : limit === 'none' ? (
                  'no limit'
                ) : (
                  'not known'
                )}
              </span>
              <WhyLink title={name} reasons={[explainRung(rung, nameOf)]} />
            </div>
            {isFigure && (
              <div
                aria-hidden
                className={`mt-0.5 h-1 rounded ${role === 'binds' ? 'bg-copper' : 'bg-edge'}`}
                style={{ width: `${(100 * limit) / highest}%` }}
              />
            )}
            {ROLE_WORDS[role] && <p className="text-aside font-bold">{ROLE_WORDS[role]}</p>}
            {role === 'binds' && (
              <p className="mb-1 text-aside">
                <b>To lift it:</b> {explainRung(rung, nameOf).mend}
              </p>
            )}
          </li>
        );
      })}
    </ol>
  );
}
