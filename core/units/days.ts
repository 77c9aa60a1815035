/** A day of the calendar as ISO 8601 writes it, `2026-11-25`; days compare as text. */
type Day = string;

const DAY_MS = 86_400_000;

/**
 * The day a moment falls on by the clock on the wall of the machine that asks. What a shop promises
 * for a day holds until its own midnight, wherever Greenwich is by then.
 *
 * @param at - a moment, or ms since 1970
 */
export function dayOf(at: Date | number): Day {
  const date = new Date(at);
  const two = (part: number) => String(part).padStart(2, '0');
  const year = String(date.getFullYear()).padStart(4, '0');
  return `${year}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
}

/** The day so many days later; a day whose clocks are changed is one day, too. */
export const daysLater = (day: Day, days: number): Day =>
  new Date(Date.parse(day) + days * DAY_MS).toISOString().slice(0, 10);

/** How many days a day is after another; below 0 = before it. */
export const daysFrom = (from: Day, to: Day): number =>
  Math.round((Date.parse(to) - Date.parse(from)) / DAY_MS);
