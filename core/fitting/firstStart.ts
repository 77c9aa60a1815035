import type { Machine, Placement } from '../machine/index.ts';
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
  readonly because: readonly ('DDR5' | 'much memory' | 'ECC' | 'four channels')[];
}

/**
 * Minutes by generation. Judgements of practice: older firmware trains in seconds, DDR5 firmware
 * trains every rank at every start after a change and may restart while doing so.
 */
const BASE = { old: { usual: 0.5, worry: 2 }, DDR4: { usual: 1, worry: 4 } };
const DDR5 = { usual: 4, worry: 10 };
/** From here on training takes noticeably longer, GiB. */
const MUCH = 64;

/** How long the first start may take with what is fitted, and when worry is due. */
export function expectStart(machine: Machine, placement: Placement): StartExpectation {
  const parts = fittedParts(machine, placement);
  const generation = parts[0]?.module.generation ?? machine.generations[0] ?? 'DDR4';
  const trains = /5/.test(generation);
  const { usual, worry } = trains ? DDR5 : /4/.test(generation) ? BASE.DDR4 : BASE.old;
  const total = parts.reduce((sum, { module }) => sum + module.capacity, 0);
  const because: StartExpectation['because'][number][] = [
    ...(trains ? (['DDR5'] as const) : []),
    ...(total >= MUCH ? (['much memory'] as const) : []),
    ...(parts.some(({ module }) => module.ecc) ? (['ECC'] as const) : []),
    ...(machine.channels.length >= 4 ? (['four channels'] as const) : []),
  ];
  const times = 1 + 0.5 * because.filter((one) => one !== 'DDR5').length;
  return {
    usual: Math.ceil(usual * times * 2) / 2,
    worry: Math.ceil(worry * times),
    restarts: trains ? 3 : /4/.test(generation) ? 2 : 1,
    because,
  };
}
