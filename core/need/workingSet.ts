import { USE_LIMIT } from './activities.ts';
import type { Activity, UseRange } from './activities.ts';

/** A peak read off the machine at work, GiB. */
export interface MeasuredPeak {
  readonly gib: number;
  /** It was paging: the work wanted more than there was, so the figure is only a lower bound. */
  readonly paging: boolean;
}

/** The kind of drive a short machine pages to. */
export const DRIVES = ['solid state', 'spinning', 'unknown'] as const;
/** See {@link DRIVES}. */
export type Drive = (typeof DRIVES)[number];

/** What is known of the work a machine does. */
export interface NeedInput {
  readonly idle: UseRange;
  /** All that is open at the same time. */
  readonly activities: readonly Activity[];
  readonly peak: MeasuredPeak | null;
  readonly drive: Drive;
  /** The work is short of graphics memory, which no module adds. */
  readonly graphicsShort: boolean;
}

/** How much the work keeps in use. */
export interface WorkingSet {
  readonly low: number;
  readonly high: number;
  /** What plans count with, margin not included. */
  readonly need: number;
  readonly from: 'peak' | 'peak, paging' | 'estimate';
}

/**
 * The working set: the idle system and everything open at once, as a range; a measured peak
 * outranks the estimate, and one seen while paging bounds it from below only.
 *
 * Plans count with the upper end: too little is a cliff, too much is file cache.
 *
 * @returns `undefined` where neither an activity nor a peak is known
 */
export function workingSet({ idle, activities, peak }: NeedInput): WorkingSet | undefined {
  const sum = (end: 'low' | 'high') =>
    activities.reduce((total, one) => total + one[end], idle[end]);
  const estimate = activities.length > 0 ? { low: sum('low'), high: sum('high') } : undefined;
  if (peak && !peak.paging) return { low: peak.gib, high: peak.gib, need: peak.gib, from: 'peak' };
  if (peak) {
    const high = Math.max(peak.gib, estimate?.high ?? 0);
    return {
      low: Math.max(peak.gib, Math.min(high, estimate?.low ?? 0)),
      high,
      need: high,
      from: 'peak, paging',
    };
  }
  return estimate && { ...estimate, need: estimate.high, from: 'estimate' };
}

/** What plans count with: the need, and a share of it on top. */
export function needWithMargin({
  need,
  margin,
}: {
  /** GiB. */
  readonly need: number;
  /** A share: 0.25 is a quarter more. */
  readonly margin: number;
}): number;
export function needWithMargin(terms: {
  /** Not stated: nothing is wanted either. */
  readonly need: number | null;
  readonly margin: number;
}): number | undefined;
export function needWithMargin({
  need,
  margin,
}: {
  readonly need: number | null;
  readonly margin: number;
}): number | undefined {
  return need === null ? undefined : need * (1 + margin);
}

/** A figure of a need that cannot be, with the field it stands in. */
export interface NeedFault {
  readonly type: 'negative' | 'reversed' | 'too-large';
  readonly path: string;
}

/** Faults of what was typed; an empty list means it can be summed. */
export function findNeedFaults({ idle, activities, peak }: NeedInput): NeedFault[] {
  return [
    ...faultsOf(idle, 'idle'),
    ...findActivityFaults(activities, 'activities.'),
    ...(peak ? faultsOf({ low: peak.gib, high: peak.gib }, 'peak') : []),
  ];
}

/** Faults of ranges alone, by their place in the list. */
export const findActivityFaults = (activities: readonly Activity[], under = ''): NeedFault[] =>
  activities.flatMap((one, at) => faultsOf(one, `${under}${at}`));

function faultsOf({ low, high }: UseRange, path: string): NeedFault[] {
  if (low < 0 || high < 0) return [{ type: 'negative', path }];
  if (high > USE_LIMIT) return [{ type: 'too-large', path }];
  return low > high ? [{ type: 'reversed', path }] : [];
}
