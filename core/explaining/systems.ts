import type { CollectedFact, CollectedFactName, SystemFacts } from '../inventory/index.ts';
import { COLLECTED_FACTS } from '../inventory/index.ts';
import type { SystemOffer } from '../reconciling/index.ts';
import { decimals } from '../units/index.ts';
import type { Explanation } from './words.ts';

/** GiB to a hundredth: figures of a system, not of a module. */
const gbText = (gib: number) => `${decimals(Number(gib.toFixed(2)))} GB`;

const FACT_NAMES: Readonly<Record<CollectedFactName, string>> = {
  'memory-visible': 'The system may use',
  'memory-in-use': 'In use',
  'memory-peak': 'Most in use',
  'watched-for': 'Watched for',
  'page-file-in-use': 'Paged out',
  'paged-in': 'Paged in meanwhile',
  'graphics-share': 'Held by graphics',
  'system-bits': 'System',
  'drive-kind': 'Drive',
  'power-source': 'Power source',
  'power-mode': 'Power mode',
};

/** A figure of a collected file in words: sizes in GB or MB, times in minutes. */
export function factText({ name, value }: CollectedFact): { name: string; value: string } {
  const shown = (): string => {
    switch (COLLECTED_FACTS[name]) {
      case 'KiB':
        return Number(value) >= 2 ** 19
          ? gbText(Number(value) / 2 ** 20)
          : `${Math.round(Number(value) / 2 ** 10)} MB`;
      case 's':
        return `${Math.round(Number(value) / 60)} min`;
      case 'bit':
        return `${value}-bit`;
      case 'word':
        return value;
    }
  };
  return { name: FACT_NAMES[name], value: shown() };
}

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
  const range = `${decimals(Number(offer.range.low.toFixed(3)))} to ${decimals(Number(offer.range.high.toFixed(3)))} GB`;
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
