/** Two lines: hardware often fetches a line's neighbour along with it, so only one of two is used. */
const PITCH = 128;
/** A stretch the address tables of a processor hold at once (512 pages of 4 KiB). */
const STRETCH = 2 * 1_048_576;

/**
 * Links every second line of the first bytes of a buffer into one closed chain: each line's first
 * word is the address of the next.
 *
 * The order is random within stretches of 2 MiB, and the stretches follow in random order. So no
 * prefetcher can guess the next line, and yet nearly every address is translated from the
 * processor's own tables: what is timed is memory, not page tables, and comes out alike whether a
 * system hands out small pages or large ones.
 *
 * @param bytes - multiple of 128, at least two pairs of lines
 * @param seed - any integer
 * @returns addresses in the order they are visited
 */
export function chainOver(
  buffer: ArrayBuffer,
  bytes: number,
  seed: number,
): Int32Array<ArrayBuffer> {
  const random = xorshift(seed);
  const words = new Int32Array(buffer, 0, bytes / 4);
  const order = new Int32Array(Math.floor(bytes / PITCH));
  const stretches = Int32Array.from({ length: Math.ceil(bytes / STRETCH) }, (_, at) => at);
  shuffle(stretches, 0, stretches.length, random);
  let filled = 0;
  for (const stretch of stretches) {
    const from = filled;
    const end = Math.min(bytes, (stretch + 1) * STRETCH);
    for (let at = stretch * STRETCH; at < end; at += PITCH) order[filled++] = at;
    shuffle(order, from, filled, random);
  }
  for (let at = 0; at < order.length; at++)
    words[(order[at] as number) >> 2] = order[at + 1 < order.length ? at + 1 : 0] as number;
  return order;
}

function shuffle(values: Int32Array, from: number, end: number, random: () => number): void {
  for (let at = end - 1; at > from; at--) {
    const other = from + Math.floor(random() * (at - from + 1));
    const swap = values[at] as number;
    values[at] = values[other] as number;
    values[other] = swap;
  }
}

/** xorshift32: good enough to hide an order from hardware, and quick over millions of lines. */
function xorshift(seed: number): () => number {
  let state = seed | 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 4294967296;
  };
}
