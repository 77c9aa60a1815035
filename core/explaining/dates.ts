import { writing } from '../units/index.ts';
import type { DateStyle } from '../units/index.ts';

/**
 * Days and moments as people read them: the month as a word or the year in front, so that nobody
 * takes the day for the month. A moment counts by the clock on the wall of the machine that shows
 * it; a day without a time (`2026-11-25`) is the same everywhere.
 */
const LANGUAGES: Readonly<Record<DateStyle, string>> = {
  'day first': 'en-GB',
  'month first': 'en-US',
  // Its days are those of ISO 8601; it is asked for digits alone.
  'year first': 'sv-SE',
};

const DAY_ALONE = /^\d{4}-\d{2}-\d{2}$/;

type Options = Intl.DateTimeFormatOptions;
const DIGITS: Options = { year: 'numeric', month: '2-digit', day: '2-digit' };
const CLOCK: Options = { hour: '2-digit', minute: '2-digit' };

/** @param digits - what the year first is said with; where absent it is said as with the day first */
function format(words: Options, digits?: Options): (at: string) => string {
  const made = new Map<string, Intl.DateTimeFormat>();
  return (at) => {
    const isAlone = DAY_ALONE.test(at);
    const { dates } = writing();
    const key = `${dates} ${String(isAlone)}`;
    const known = made.get(key);
    const isInDigits = dates === 'year first' && digits !== undefined;
    const form =
      known ??
      new Intl.DateTimeFormat(
        dates === 'year first' && !isInDigits ? LANGUAGES['day first'] : LANGUAGES[dates],
        { ...(isInDigits ? digits : words), ...(isAlone ? { timeZone: 'UTC' } : {}) },
      );
    if (!known) made.set(key, form);
    // The narrow space before “PM” is in few printed alphabets.
    return form.format(new Date(at)).replaceAll('\u202F', ' ');
  };
}

/** A day written out, for letters: `25 November 2026`. */
export const longDay = format({ dateStyle: 'long' }, DIGITS);
/** A day in lists: `25 Nov 2026`. */
export const shortDay = format({ dateStyle: 'medium' }, DIGITS);
/** A day not far off: `25 Nov`. */
export const nearDay = format({ day: 'numeric', month: 'short' });
/** `25 Nov 2026, 14:05`. */
export const momentText = format(
  { dateStyle: 'medium', timeStyle: 'short' },
  { ...DIGITS, ...CLOCK },
);
/** `14:05`. */
export const clockText = format(CLOCK, CLOCK);
/** A month by any of its days: `November 2026`. */
export const monthText = format({ month: 'long', year: 'numeric' });
