import type { LedgerEntry, LedgerGain, LedgerMode, RefittedClass } from '../ledger/index.ts';
import { LEAST_JOBS } from '../ledger/index.ts';
import type { KindOfWork } from '../promising/index.ts';
import { count, figure, gb, list } from './words.ts';
import type { Explanation } from './words.ts';

const MODE_WORDS: Readonly<Record<LedgerMode, string>> = {
  paired: 'on all channels',
  'partly paired': 'on some channels',
  'one channel wide': 'single-channel',
  'not known': 'channels not known',
};

/** What a measurement said about how the channels ran, in words. */
export const ledgerModeText = (mode: LedgerMode): string => MODE_WORDS[mode];

/** Modules and where they sat: `2 × 16 GB ORL-16S26 in CN8 and CN9`. */
export function ledgerModules({ modules }: LedgerEntry): string {
  const slotsOf = new Map<string, string[]>();
  for (const { slot, capacity, part } of modules) {
    const what = `${gb(capacity)} ${part}`;
    slotsOf.set(what, [...(slotsOf.get(what) ?? []), slot]);
  }
  return [...slotsOf]
    .map(([what, slots]) => `${slots.length} × ${what} in ${list(slots)}`)
    .join('; ');
}

/** `test passed, 540 min; no comeback in 12 days`, or that nothing was tested. */
export function ledgerStanding({ stable }: LedgerEntry, days: number, cameBack: boolean): string {
  const since = cameBack
    ? `came back after ${count(days, 'day')}`
    : `no comeback in ${count(days, 'day')}`;
  return stable ? `test passed, ${stable.minutes} min; ${since}` : `no test; ${since}`;
}

/** `memory copy ×2.20 (2.16 to 2.24)`. */
export function ledgerGainText({ test, factor, low, high }: LedgerGain): string {
  return `${test} ×${factor.toFixed(2)} (${low.toFixed(2)} to ${high.toFixed(2)})`;
}

const share = ({ bandwidth, latency }: KindOfWork) =>
  `β ${figure(bandwidth.low, 2)}–${figure(bandwidth.high, 2)}, λ ${figure(latency.low, 2)}–${figure(latency.high, 2)}`;

/** What the shop's jobs say about one kind of work. */
export function explainRefit({
  assumed,
  refitted,
  jobs,
  isRefitted,
  heldOut,
}: RefittedClass): Explanation {
  if (!isRefitted || !heldOut)
    return {
      title: `${assumed.name}: as assumed`,
      why: `${share(assumed)}. ${count(jobs, 'job')} of the ${LEAST_JOBS} it takes: real ones, whose need fitted before, with a test that stands for this work.`,
      mend: 'Name the kind of work when a timed test is recorded before and after.',
    };
  const percent = (value: number) => `${Math.round(value * 100)} %`;
  const band = (one: typeof heldOut.assumed) =>
    `${percent(one.inside)} of jobs inside bands ${figure(one.width, 2)} % wide`;
  return {
    title: `${assumed.name}: refitted from ${count(jobs, 'job')}`,
    why: `Assumed ${share(assumed)}; now ${share(refitted)}. Each job predicted without itself: as assumed ${band(heldOut.assumed)}, refitted ${band(heldOut.refitted)}.`,
    source: 'Regression of 1/gain − 1 on 1/B − 1 and L − 1, the assumed ranges as prior',
  };
}

/** How bands did on jobs they had not seen, before and after: empty until there are jobs enough. */
export function refitBands({ heldOut }: RefittedClass): string {
  if (!heldOut) return '';
  const { assumed, refitted } = heldOut;
  const inside = (share: number) => `${Math.round(share * 100)} %`;
  return `On jobs not seen: ${inside(assumed.inside)} inside bands ${figure(assumed.width, 2)} % wide before, ${inside(refitted.inside)} inside ${figure(refitted.width, 2)} % now.`;
}
