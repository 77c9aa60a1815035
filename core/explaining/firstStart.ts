import { exhausted } from '../units/index.ts';
import type { Likely, ReadingKind, ReadingValue, StartExpectation } from '../fitting/index.ts';
import { figure, gb, list } from './words.ts';
import type { Explanation, NameOf } from './words.ts';

/** What the first start is like, in words. */
export function startText({
  usual,
  worry,
  restarts,
  because,
  generation,
}: StartExpectation): string {
  const reasons = because.map((one) =>
    one === 'generation' ? `${generation} trains at length` : BECAUSE_WORDS[one],
  );
  const why = reasons.length === 0 ? '' : `, for ${list(reasons)}`;
  return `No picture for up to ${minutes(usual)} and ${restarts === 1 ? 'one restart' : `up to ${restarts} restarts`} are normal${why}. Investigate after ${minutes(worry)}.`;
}

const BECAUSE_WORDS = {
  'much memory': 'there is much of it',
  ECC: 'ECC is set up too',
  'four channels': 'four channels are trained',
} as const;
const minutes = (value: number) => (value < 1 ? `${value * 60} s` : `${figure(value)} min`);

/** Names and questions of the readings. */
export const READING_WORDS: Readonly<
  Record<ReadingKind, { readonly name: string; readonly ask: string; readonly unit?: string }>
> = {
  picture: { name: 'Picture', ask: 'Does it start, with a picture?' },
  'firmware total': {
    name: 'Firmware sees',
    ask: 'Total on the firmware’s first page',
    unit: 'GB',
  },
  slots: { name: 'Each slot', ask: 'Which slots does the firmware show filled?' },
  rate: { name: 'Rate', ask: 'Rate or clock as shown', unit: 'MT/s or MHz' },
  profile: { name: 'Profile', ask: 'Is the overclock profile on?' },
  'system total': { name: 'System sees', ask: 'Installed memory in the system', unit: 'GB' },
  usable: { name: 'Usable', ask: 'Usable memory in the system', unit: 'GB' },
};

/** A reading's value with its unit. */
export function readingText(
  kind: ReadingKind,
  value: ReadingValue | { readonly low: number; readonly high: number },
  nameOf: NameOf,
): string {
  if (typeof value === 'boolean')
    return kind === 'profile' ? (value ? 'on' : 'off') : value ? 'yes' : 'no';
  if (typeof value === 'number') return kind === 'rate' ? String(value) : gb(value);
  if ('low' in value)
    return value.low === value.high ? gb(value.low) : `${gb(value.low)} to ${gb(value.high)}`;
  return value.length === 0 ? 'none' : list(value.map(nameOf));
}

/** The likely reason a reading is off, and what mends it. */
export function explainLikely(likely: Likely, nameOf: NameOf): Explanation {
  switch (likely.type) {
    case 'still training':
      return {
        title: 'Still training, or not starting',
        why: 'Until then a dark screen is memory training.',
        mend: 'Wait with the power on; then look for the fault.',
      };
    case 'not seen':
      return {
        title: `Not seen: ${list(
          likely.choices.map((set) => list(set.map(nameOf))),
          'or',
        )}`,
        why: 'Just its share is missing. In but not seated is the commonest reason.',
        mend: 'Open it again and press it home.',
      };
    case 'some not seen':
      return {
        title: `${gb(likely.missing)} not seen`,
        why: 'No module fitted is just that size: one may be recognised only in part.',
        mend: 'Look for the fault.',
      };
    case 'more than planned':
      return {
        title: `${gb(likely.more)} more than planned`,
        why: 'More is in the machine than is on record.',
        mend: 'Correct the slot board.',
      };
    case 'other slots':
      return likely.shown.length === likely.wanted.length
        ? {
            title: `In ${list(likely.shown.map(nameOf))}, planned ${list(likely.wanted.map(nameOf))}`,
            why: 'A module sits in another slot than planned: it may not run side by side with the other.',
            mend: 'Record where they sit, open it again and move them.',
          }
        : {
            title: `Shown in ${list(likely.shown.map(nameOf))}, planned ${list(likely.wanted.map(nameOf))}`,
            why: 'Other slots than planned are filled, and not as many.',
            mend: 'Look along the slots.',
          };
    case 'slower':
      return likely.isStandard
        ? {
            title: 'It runs the standard rate',
            why: 'The overclock profile that is planned is not on.',
            mend: 'Switch it on in the firmware.',
          }
        : {
            title: 'Slower than planned',
            why: 'A limit that is not on record, or stale settings.',
            mend: 'Look for the fault.',
          };
    case 'faster':
      return {
        title: 'Faster than planned',
        why: 'A profile is on, or the modules’ data say more than the label.',
        mend: 'Check the setting; the promise was made for less.',
      };
    case 'no rate':
      return {
        title: 'That is no memory rate',
        why: 'It lies outside what any memory runs.',
        mend: 'Read the figure again.',
      };
    case 'profile off':
      return {
        title: 'The profile is off',
        why: 'It is planned.',
        mend: 'Switch it on in the firmware, save, start again.',
      };
    case 'profile on':
      return {
        title: 'A profile is on',
        why: 'The plan is the standard setting.',
        mend: 'Switch it off, or plan it and test it.',
      };
    case 'system limit':
      return {
        title: `The system stops at ${gb(likely.limit)}`,
        why: 'It can address no more.',
        mend: 'Tell the customer; a larger edition would use it.',
      };
    case 'kept from the system':
      return {
        title: 'The firmware sees more than the system',
        why: 'A start option or a reserved share keeps it back.',
        mend: 'Look for the fault.',
      };
    case 'reserved':
      return {
        title: `${Math.round(likely.share * 100)} % is reserved`,
        why: 'Graphics, a start option or memory that was not mapped.',
        mend: 'Look for the fault.',
      };
    default:
      return exhausted(likely);
  }
}
