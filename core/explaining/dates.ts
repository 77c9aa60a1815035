/**
 * Days and moments as people read them: the month as a word, so that nobody takes the day for the
 * month. A moment counts by the clock on the wall of the machine that shows it; a day without a time
 * (`2026-11-25`) is the same everywhere.
 */
const LANGUAGE = 'en-GB';

const DAY_ALONE = /^\d{4}-\d{2}-\d{2}$/;

function format(options: Intl.DateTimeFormatOptions): (at: string) => string {
  const here = new Intl.DateTimeFormat(LANGUAGE, options);
  const anywhere = new Intl.DateTimeFormat(LANGUAGE, { ...options, timeZone: 'UTC' });
  return (at) => (DAY_ALONE.test(at) ? anywhere : here).format(new Date(at));
}

/** A day written out, for letters: `25 November 2026`. */
export const longDay = format({ dateStyle: 'long' });
/** A day in lists: `25 Nov 2026`. */
export const shortDay = format({ dateStyle: 'medium' });
/** A day not far off: `25 Nov`. */
export const nearDay = format({ day: 'numeric', month: 'short' });
/** `25 Nov 2026, 14:05`. */
export const momentText = format({ dateStyle: 'medium', timeStyle: 'short' });
/** `14:05`. */
export const clockText = format({ hour: '2-digit', minute: '2-digit' });
