/** How far the bench's clock is ahead of this machine's, ms. */
let ahead = 0;

/** A reply names whole seconds, and is on its way for a moment: clocks this near are the same. */
const NEAR_MS = 3000;

/** Takes the bench's clock from the head of its answer (`Date`, RFC 9110). */
export function hearClock(date: string | null): void {
  const told = Date.parse(date ?? '');
  if (Number.isNaN(told)) return;
  const apart = told - Date.now();
  ahead = Math.abs(apart) < NEAR_MS ? 0 : apart;
}

/**
 * Now, ms since 1970, by the clock moments are stored with. A tablet's own may be far from it, and a
 * first start that has just begun would be called too long.
 */
export const benchNow = (): number => Date.now() + ahead;
