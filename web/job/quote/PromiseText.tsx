import type { Quote } from '#contract/quotes';
import { figuresTogether } from '#core/units';
import type { SimulationState } from '../promise/useSimulation.ts';

interface PromiseTextProps {
  readonly promise: Quote['promise'];
  readonly simulation: SimulationState;
}

/** What the customer is told: now, then, what is gained and what is not promised. */
export function PromiseText({ promise, simulation }: PromiseTextProps) {
  return (
    <div className="grid gap-2 text-aside">
      <p>
        <b>Now:</b> {figuresTogether(promise.now)}
      </p>
      <p>
        <b>Then:</b> {figuresTogether(promise.then)}
      </p>
      {promise.room && <p>{figuresTogether(promise.room)}</p>}
      {promise.basis && (
        <p className="text-muted">
          {simulation.type === 'running'
            ? `Being simulated, ${Math.round(100 * simulation.share)}\u00a0%; until then reckoned.`
            : promise.basis}
        </p>
      )}
      <ul className="list-disc pl-4">
        {promise.gains.map((gain) => (
          <li key={gain}>{figuresTogether(gain)}</li>
        ))}
      </ul>
      <p className="font-bold">Not promised</p>
      <ul className="list-disc pl-4">
        {promise.not.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </div>
  );
}
