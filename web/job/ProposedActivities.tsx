import { useMemo } from 'react';
import { gb, list } from '#core/explaining';
import { proposeActivities } from '#core/need';
import type { Activity } from '#core/need';
import { Button } from '../ui/Button.tsx';
import { useUsualActivities } from '../ui/useUsualActivities.ts';

interface ProposedActivitiesProps {
  /** What they do with it, as typed. */
  readonly words: string;
  /** Names of those that count already. */
  readonly accepted: readonly string[];
  readonly onAccept: (activities: readonly Activity[]) => void;
}

const range = ({ name, low, high }: Activity) =>
  `${name} (${gb(low).replace(' GB', '')} to ${gb(high)})`;

/** Activities the customer's words speak of, taken into the need with one press. */
export function ProposedActivities({ words, accepted, onAccept }: ProposedActivitiesProps) {
  const usual = useUsualActivities();
  const proposed = useMemo(() => proposeActivities(words, usual), [words, usual]);
  const open = proposed.filter(({ name }) => !accepted.includes(name));
  if (proposed.length === 0) return null;
  if (open.length === 0)
    return (
      <p className="mt-1 text-aside text-ok">
        ✓ Counted in the need: {list(proposed.map(({ name }) => name))}
      </p>
    );
  return (
    <p className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1 text-aside">
      <span className="min-w-0 grow basis-60">That is: {list(open.map(range))}.</span>
      <Button className="text-aside" onClick={() => onAccept(open)}>
        Count {open.length === 1 ? 'it' : 'them'} in the need
      </Button>
    </p>
  );
}
