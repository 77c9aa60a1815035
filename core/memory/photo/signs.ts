/** A sign a general reader saw on a photo, and how sure it was of it, 0 to 1. */
export interface SeenSign {
  readonly sign: string;
  readonly confidence: number;
}

/**
 * Signs that look alike in print, worn or blurred. A group lists what is taken for one another;
 * a sign may be in several.
 */
const ALIKE = [
  ...['0OQDCU', '1IL|!T7J[]/', '2Z7', '3B8E', '4A', '5S$', '6GBC', '8B3S6&', '9GQP'],
  ...['VUY', 'XK%*', 'RKPA', '-_~.=', 'PF', 'EF', 'MN', 'C(G', 'TY7', 'LE', 'HN', 'UO'],
];
const alike = new Map<string, Set<string>>();
for (const group of ALIKE)
  for (const sign of group)
    alike.set(sign, new Set([...(alike.get(sign) ?? []), ...group].filter((one) => one !== sign)));

const FOLDS = ['0OQDU', '1IL|!T7J', '2Z', '8B3', '4A', '5S$', '6GC', '-_~.=', 'VY', 'XK'];
const foldOf = new Map(
  FOLDS.flatMap((group) => [...group].map((sign) => [sign, group[0] ?? sign])),
);

/** A text with signs that look alike made the same: enough to find a known word among thousands. */
export const folded = (text: string): string =>
  [...text.toUpperCase()].map((sign) => foldOf.get(sign) ?? sign).join('');

/** What it costs that one sign was read as another: 0 the same, below a half alike, 1 unlike. */
const COST = { alike: 0.35, unlike: 1, extra: 0.75, missing: 0.85 } as const;

function costOf({ sign, confidence }: SeenSign, wanted: string): number {
  if (sign === wanted) return 0;
  const base = alike.get(wanted)?.has(sign) ? COST.alike : COST.unlike;
  // What the reader itself doubted costs less to change.
  return base * (0.4 + 0.6 * confidence);
}

/** A word found at a place of a line. */
export interface Match {
  readonly cost: number;
  /** Signs it took. */
  readonly length: number;
  /** For each of its letters the sign it was read from; -1 where none was there. */
  readonly from: readonly number[];
}

/** Signs more or fewer than the word has. */
const SLACK = 2;

/**
 * How well a word lies at a place of a line: the cheapest way to read its letters from the signs there.
 *
 * @param most - a costlier match is none
 */
export function matchAt(
  signs: readonly SeenSign[],
  start: number,
  word: string,
  most: number,
): Match | undefined {
  const wide = Math.min(signs.length - start, word.length + SLACK);
  if (wide < word.length - SLACK) return undefined;
  // rows: letters read; columns: signs used
  const rows: Float64Array[] = [Float64Array.from({ length: wide + 1 }, (_, n) => n * COST.extra)];
  for (let at = 1; at <= word.length; at++) {
    const above = rows[at - 1] ?? new Float64Array();
    const row = new Float64Array(wide + 1);
    row[0] = at * COST.missing;
    let least = row[0];
    for (let used = 1; used <= wide; used++) {
      const seen = signs[start + used - 1];
      const same = seen ? costOf(seen, word[at - 1] ?? '') : COST.unlike;
      row[used] = Math.min(
        (above[used - 1] ?? Infinity) + same,
        (above[used] ?? Infinity) + COST.missing,
        (row[used - 1] ?? Infinity) + COST.extra,
      );
      least = Math.min(least, row[used] ?? Infinity);
    }
    if (least > most) return undefined;
    rows.push(row);
  }
  const last = rows[word.length] ?? new Float64Array();
  let length = 0;
  for (let used = 1; used <= wide; used++)
    if ((last[used] ?? Infinity) < (last[length] ?? Infinity)) length = used;
  const cost = last[length] ?? Infinity;
  return cost > most ? undefined : { cost, length, from: pathOf(rows, signs, start, word, length) };
}

/** Which sign each letter was read from, back along the cheapest way. */
function pathOf(
  rows: readonly Float64Array[],
  signs: readonly SeenSign[],
  start: number,
  word: string,
  length: number,
): number[] {
  const from = Array.from({ length: word.length }, () => -1);
  let [at, used] = [word.length, length];
  const value = (row: number, column: number) => rows[row]?.[column] ?? Infinity;
  while (at > 0) {
    const seen = used > 0 ? signs[start + used - 1] : undefined;
    const here = value(at, used);
    if (seen && isNear(here, value(at - 1, used - 1) + costOf(seen, word[at - 1] ?? ''))) {
      from[at - 1] = start + used - 1;
      at--;
      used--;
    } else if (isNear(here, value(at - 1, used) + COST.missing)) at--;
    else used--;
  }
  return from;
}

const isNear = (a: number, b: number) => Math.abs(a - b) < 1e-9;
