import type { Board, Load } from './board.ts';

/** So many modules that are alike to the operating point. */
export interface Item {
  readonly kind: number;
  readonly capacity: number;
  readonly ranks: number;
  readonly count: number;
}

/**
 * Every spread of items over channels, interchangeable channels taken once; even ones come first.
 *
 * @param visit - false ends everything
 */
export function spreadOver(
  { channels, fits, hasOwnMaxima }: Board,
  items: readonly Item[],
  visit: (loads: readonly Load[], socketed: number, spread: readonly Uint8Array[]) => boolean,
): void {
  const loads = channels.map(({ soldered }) => ({ ...soldered }));
  const free = channels.map(({ slots }) => slots.length);
  const spread = channels.map(() => new Uint8Array(items.length));
  const history = channels.map(({ alike }) => alike);
  const socketed = items.reduce((sum, { count }) => sum + count, 0);
  const isSeatable = () =>
    spread.every((counts, one) =>
      fits(
        one,
        items.flatMap(({ capacity }, of) =>
          Array.from({ length: counts[of] ?? 0 }, () => capacity),
        ),
        false,
      ),
    );
  let goesOn = true;
  const place = (at: number, channel: number, left: number, before: readonly number[]): void => {
    const item = items[at];
    if (!item) {
      if (!hasOwnMaxima || isSeatable()) goesOn = visit(loads, socketed, spread);
      return;
    }
    if (channel === channels.length) {
      if (left > 0) return;
      for (let one = 0; one < channels.length; one++)
        history[one] = (before[one] ?? 0) * 32 + (spread[one]?.[at] ?? 0);
      place(at + 1, 0, items[at + 1]?.count ?? 0, [...history]);
      return;
    }
    // Of channels with the same past the earlier takes at least as many.
    let most = Math.min(left, free[channel] ?? 0);
    for (let one = channel - 1; one >= 0; one--)
      if (before[one] === before[channel]) {
        most = Math.min(most, spread[one]?.[at] ?? 0);
        break;
      }
    const load = loads[channel];
    const mine = spread[channel];
    if (!load || !mine) return;
    const saved = { ...load };
    // From an even share outwards: what runs widest is found early.
    const share = Math.min(most, Math.ceil(left / (channels.length - channel)));
    for (let turn = 0; turn <= most && goesOn; turn++) {
      const count = turn <= share ? share - turn : turn;
      mine[at] = count;
      load.capacity = saved.capacity + count * item.capacity;
      load.modules = saved.modules + count;
      if (Number.isNaN(item.ranks)) load.unranked = saved.unranked + count;
      else load.ranks = saved.ranks + count * item.ranks;
      free[channel] = (free[channel] ?? 0) - count;
      place(at, channel + 1, left - count, before);
      free[channel] = (free[channel] ?? 0) + count;
    }
    mine[at] = 0;
    Object.assign(load, saved);
  };
  place(0, 0, items[0]?.count ?? 0, [...history]);
}
