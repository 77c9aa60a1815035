import type { Share, Spread, Stretch, QuoteStand, ReturnsBy } from '../month/index.ts';
import { smallness } from '../month/index.ts';
import { decimals } from '../units/index.ts';
import { count } from './words.ts';

/** Stretches of a job, as they are read. */
export const STRETCH_WORDS: Readonly<Record<Stretch, string>> = {
  inspect: 'Taken in, until it was looked into',
  plan: 'Looked into, until it was quoted',
  customer: 'Quoted, until the customer said yes',
  parts: 'Agreed, until the parts were here',
  fit: 'Parts here, until it ran again',
  prove: 'Runs again, until it was handed over',
};

export const STAND_WORDS: Readonly<Record<QuoteStand, string>> = {
  accepted: 'Accepted',
  declined: 'Declined',
  'change asked': 'Change asked',
  open: 'Still open',
  expired: 'Expired',
  replaced: 'Replaced by a later one',
};

export const RETURNS_BY_WORDS: Readonly<Record<ReturnsBy, string>> = {
  part: 'Part',
  maker: 'Maker',
  supplier: 'Supplier',
  machine: 'Machine',
  fault: 'Fault',
};

/** A length of time as one says it: `40 minutes`, `7 hours`, `3.5 days`. */
export function hoursText(hours: number): string {
  if (hours < 1) return count(Math.round(hours * 60), 'minute');
  if (hours < 36) return count(Math.round(hours), 'hour');
  return `${decimals((hours / 24).toFixed(hours < 240 ? 1 : 0))} days`;
}

/** What a handful tells: nothing said where there are enough. */
export function smallText(of: number): string {
  const size = smallness(of);
  if (size === 'enough') return '';
  return size === 'too few' ? `only ${of}: too few to tell` : `only ${of}: a rough figure`;
}

/** A middle with the middle half around it, and how few it is made of. */
export function spreadText({ jobs, median, low, high }: Spread): string {
  const few = smallText(jobs);
  const half = jobs < 2 ? '' : `, half of them ${hoursText(low)} to ${hoursText(high)}`;
  return `${hoursText(median)}${half}${few === '' ? '' : ` (${few})`}`;
}

const percent = (share: number) => `${Math.round(share * 100)} %`;

/** A share with what it may be in truth; of too few, the bare numbers. */
export function shareText({ of, share, low, high }: Share): string {
  const hits = Math.round(share * of);
  if (smallness(of) === 'too few') return `${hits} of ${of}: too few to tell a rate`;
  const rough = smallness(of) === 'few' ? ', a rough figure' : '';
  return `${hits} of ${of}, ${percent(share)} (${percent(low)} to ${percent(high)}${rough})`;
}
