import { explainPoint, heldBackBy, list, rateText, slotNames, widthText } from '#core/explaining';
import type { Machine } from '#core/machine';
import type { Running } from '#core/operating-point';
import { WhyLink } from '../ui/Why.tsx';

interface RunsLeadProps {
  readonly machine: Machine;
  readonly point: Running;
  /** It is saved as found, so this is what the machine does today. */
  readonly isSaved: boolean;
}

/** The first thing said of an inspected machine: what it runs at, and what holds it back. */
export function RunsLead({ machine, point, isSaved }: RunsLeadProps) {
  const nameOf = slotNames(machine);
  const held = heldBackBy(point, nameOf);
  return (
    <p className="mb-3 rounded-md bg-teal-wash px-3 py-2">
      <b>
        {isSaved ? 'Runs at' : 'Would run at'} {rateText(point)}, {widthText(point)}.
      </b>{' '}
      {held.length > 0 && <>Held back by {list(held)}. </>}
      <WhyLink title="what holds it back" reasons={explainPoint(point, nameOf)} />
    </p>
  );
}
