import type { Ratios } from '../timing-simulation/index.ts';
import { figure } from './words.ts';
import type { Explanation } from './words.ts';

/** Below this a change is not one that can be told from the model’s own spread. */
const TOLD = 0.05;

const change = (ratio: number) =>
  Math.abs(ratio - 1) < TOLD ? 'no change to tell' : `× ${figure(ratio, 3)}`;

/** What a simulation of both sides gave, in words, and what it leaves out. */
export function explainRatios({ bandwidth, reply }: Ratios): Explanation {
  const moved = [
    ['reading on and on', bandwidth.stream],
    ['reading and writing in turns', bandwidth.triad],
    ['single lines anywhere', bandwidth.random],
    ['built-in graphics', bandwidth.graphics],
  ] as const;
  return {
    title: 'Both sides were simulated, command by command',
    why: `Moved: ${moved.map(([name, ratio]) => `${name} ${change(ratio)}`).join(', ')}. Time of a whole reply, controller and fabric included: at rest ${change(reply.idle)}, under the same load ${change(reply.loaded)}.`,
    mend: 'A processor or fabric that cannot draw as much keeps less of it. Measure before and after.',
    source: 'JESD79-3, -4, -5; docs/simulation.md',
  };
}
