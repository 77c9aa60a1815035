import { DATE_STYLES, NUMBER_STYLES, writeAs, writing } from '#core/units';
import type { Writing } from '#core/units';

const KEY = 'tembrix.writing';

/** Writes as the shop did when this browser was last here, so that no page is shown twice. */
export function startWriting(): void {
  const [dates, numbers] = (localStorage.getItem(KEY) ?? '').split('|');
  const style = {
    dates: DATE_STYLES.find((one) => one === dates),
    numbers: NUMBER_STYLES.find((one) => one === numbers),
  };
  if (style.dates && style.numbers) writeAs({ dates: style.dates, numbers: style.numbers });
}

/** Names a way of writing. */
const nameOf = ({ dates, numbers }: Writing) => `${dates}|${numbers}`;

/**
 * Takes the shop's way of writing over where it is another than this page's.
 *
 * @returns a name that changes with it: what was written the other way has to be written again
 */
export function followWriting(shop: Writing | undefined): string {
  if (shop && nameOf(shop) !== nameOf(writing())) {
    writeAs(shop);
    localStorage.setItem(KEY, nameOf(shop));
  }
  return nameOf(writing());
}
