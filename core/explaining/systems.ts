import type { SystemFacts } from '../inventory/index.ts';
import type { SystemOffer } from '../reconciling/index.ts';
import { gb } from './words.ts';
import type { Explanation } from './words.ts';

/** GiB to a hundredth: figures of a system, not of a module. */
const gbText = (gib: number) => gb(Number(gib.toFixed(2)));

/** The most memory seen in use: `at most 9.2 GB in use over 10 min; it was paging`. */
export function peakText({ value }: NonNullable<SystemFacts['peak']>): string {
  const { gib, paging, watchedSeconds } = value;
  const seen =
    watchedSeconds > 0
      ? `at most ${gbText(gib)} in use over ${Math.round(watchedSeconds / 60)} min`
      : `${gbText(gib)} in use when it was collected`;
  return paging ? `${seen}; it was paging, so the work wanted more` : seen;
}

/** A trait that the running system shows otherwise than the library has it. */
export function explainSystemOffer(offer: SystemOffer): Explanation {
  const { visible, from } = offer;
  const range = `${Number(offer.range.low.toFixed(3))} to ${gb(offer.range.high)}`;
  switch (offer.type) {
    case 'os-limit':
      return {
        title: `A 32-bit system: it can use ${gbText(visible)}`,
        why: `A 32-bit system has no addresses for more than about 4 GB, whatever is fitted (${from}).`,
        mend: `Write the limit into the machine: ${range}. A 64-bit system would lift it.`,
      };
    case 'carve-out':
      return {
        title: `${gbText(offer.installed - visible)} of ${gbText(offer.installed)} is held back`,
        why: `The system may use ${gbText(visible)} (${from}). What is missing is held by built-in graphics and firmware.`,
        mend: `Write it into the machine: graphics takes ${range}.`,
      };
  }
}
