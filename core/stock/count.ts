/** A module as the records have it. */
export interface CountedPiece {
  readonly id: string;
  /** Where it should lie; empty = the drawer without a name. */
  readonly place: string;
  /** It left stock: how; `null` = it is there. */
  readonly gone: string | null;
}

/** What a count found, against the records. */
export interface CountResult {
  readonly expected: number;
  /** Of those expected. */
  readonly found: number;
  /** Should lie there and were not scanned. */
  readonly missing: readonly string[];
  /** Lie there, and should lie elsewhere. */
  readonly elsewhere: readonly { readonly id: string; readonly place: string }[];
  /** Lie there, though they left stock. */
  readonly back: readonly { readonly id: string; readonly gone: string }[];
  /** Codes that are of no module here. */
  readonly strange: readonly string[];
  /** Scans of something scanned before. */
  readonly twice: number;
}

/**
 * Holds what was scanned against what should be there.
 *
 * @param pieces - every module the shop has or had
 * @param place - the place that was counted; absent = everything
 * @param scanned - ids read from labels, in any order, some twice
 */
export function countDifferences(
  pieces: readonly CountedPiece[],
  place: string | undefined,
  scanned: readonly string[],
): CountResult {
  const byId = new Map(pieces.map((piece) => [piece.id, piece]));
  const seen = new Set(scanned);
  const belongs = (piece: CountedPiece) =>
    piece.gone === null && (place === undefined || piece.place === place);
  const expected = pieces.filter(belongs);
  const known = [...seen].flatMap((id) => byId.get(id) ?? []);
  return {
    expected: expected.length,
    found: expected.filter(({ id }) => seen.has(id)).length,
    missing: expected.filter(({ id }) => !seen.has(id)).map(({ id }) => id),
    elsewhere: known
      .filter((piece) => piece.gone === null && !belongs(piece))
      .map(({ id, place: other }) => ({ id, place: other })),
    back: known.flatMap(({ id, gone }) => (gone === null ? [] : [{ id, gone }])),
    strange: [...seen].filter((id) => !byId.has(id)),
    twice: scanned.length - seen.size,
  };
}
