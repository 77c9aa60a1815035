import type { Machine, Placement } from '../machine/index.ts';
import { generationTraits } from '../memory/index.ts';
import type { Generation } from '../memory/index.ts';
import { fittedParts } from '../operating-point/index.ts';

/** What a first start after a change is like. */
export interface StartExpectation {
  /** Minutes without a picture that are nothing unusual. */
  readonly usual: number;
  /** Minutes after which something is wrong. */
  readonly worry: number;
  /** Restarts by itself that are nothing unusual. */
  readonly restarts: number;
  /** What makes it long. */
  readonly because: readonly ('generation' | 'much memory' | 'ECC' | 'four channels')[];
  readonly generation: Generation | undefined;
}

/** A machine that takes nothing known is taken to train like the older ones. */
const UNKNOWN = { usual: 0.5, worry: 2, restarts: 1, isLong: false };
/** From here on training takes noticeably longer, GiB. */
const MUCH = 64;

/** How long the first start may take with what is fitted, and when worry is due. */
export function expectStart(machine: Machine, placement: Placement): StartExpectation {
  const parts = fittedParts(machine, placement);
  const generation = parts[0]?.module.generation ?? machine.generations[0];
  const { usual, worry, restarts, isLong } = generation
    ? generationTraits(generation).training
    : UNKNOWN;
  const total = parts.reduce((sum, { module }) => sum + module.capacity, 0);
  const because: StartExpectation['because'][number][] = [
    ...(isLong ? (['generation'] as const) : []),
    ...(total >= MUCH ? (['much memory'] as const) : []),
    ...(parts.some(({ module }) => module.ecc) ? (['ECC'] as const) : []),
    ...(machine.channels.length >= 4 ? (['four channels'] as const) : []),
  ];
  const times = 1 + 0.5 * because.filter((one) => one !== 'generation').length;
  return {
    usual: Math.ceil(usual * times * 2) / 2,
    worry: Math.ceil(worry * times),
    restarts,
    because,
    generation,
  };
}
