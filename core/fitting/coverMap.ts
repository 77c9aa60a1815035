/** How a screw is driven. `thumb` needs no tool. */
export const SCREW_DRIVES = ['cross', 'star', 'hex', 'slot', 'three-lobed', 'thumb'] as const;
/** See {@link SCREW_DRIVES}. */
export type ScrewDrive = (typeof SCREW_DRIVES)[number];

/** What lies over a fastener. */
export const COVERINGS = ['nothing', 'foot', 'cap', 'label'] as const;
/** See {@link COVERINGS}. */
export type Covering = (typeof COVERINGS)[number];

/** Where something is, mm from the left and the top edge of the cover as it lies before one. */
export interface Spot {
  readonly id: string;
  readonly x: number;
  readonly y: number;
}

/** A screw or bolt. */
export interface Fastener extends Spot {
  readonly kind: 'fastener';
  readonly drive: ScrewDrive;
  /** As stamped on the bit: `PH1`, `T5`; empty where not known. */
  readonly size: string;
  /** Under the head, mm. */
  readonly length: number | 'unknown';
  /** Stays in the cover. */
  readonly captive: boolean;
  readonly under: Covering;
}

/** A latch of the cover that is pried or pushed. */
export interface Clip extends Spot {
  readonly kind: 'clip';
}

/** A lead or ribbon that joins the cover to the board. */
export interface Cable extends Spot {
  readonly kind: 'cable';
  /** `touchpad ribbon`. */
  readonly what: string;
}

/** See the three kinds. */
export type CoverPart = Fastener | Clip | Cable;

/** A cover with all that holds it. Parts of one kind stand in the order they come out. */
export interface CoverMap {
  /** mm. */
  readonly width: number;
  /** mm. */
  readonly height: number;
  readonly parts: readonly CoverPart[];
  readonly note: string;
}

/** Bounds of a map. */
export const COVER_LIMITS = { smallest: 20, largest: 900, parts: 80, longest: 80 } as const;

/** Two parts closer than this, mm, are one part marked twice. */
const SAME_SPOT = 2;

/** What is wrong with a map, and at which field. */
export type CoverFault = { readonly path: string } & (
  | { readonly type: 'outside'; readonly at: number }
  | { readonly type: 'same spot'; readonly at: number; readonly other: number }
  | { readonly type: 'same id'; readonly at: number }
);

/** Parts outside the cover, marked twice, or sharing an id. A map without any part is sound. */
export function findCoverFaults({ width, height, parts }: CoverMap): CoverFault[] {
  return parts.flatMap((part, at): CoverFault[] => {
    const path = `parts.${at}`;
    const before = parts.slice(0, at);
    const other = before.findIndex(
      ({ x, y, kind }) => kind === part.kind && Math.hypot(x - part.x, y - part.y) < SAME_SPOT,
    );
    if (part.x < 0 || part.y < 0 || part.x > width || part.y > height)
      return [{ path, type: 'outside', at }];
    if (before.some(({ id }) => id === part.id)) return [{ path, type: 'same id', at }];
    return other < 0 ? [] : [{ path, type: 'same spot', at, other }];
  });
}

/** What is done to one part, and its opposite when closing. */
export interface CoverAct {
  /** `uncover f1`, `undo f1`, `pry c1`, `unplug k1`; closing: `plug k1` and so on. */
  readonly id: string;
  readonly act: 'uncover' | 'undo' | 'pry' | 'unplug' | 'plug' | 'press' | 'drive' | 'cover';
  readonly part: CoverPart;
  /** The part's number on the map, from 1. */
  readonly number: number;
}

const BACK = { uncover: 'cover', undo: 'drive', pry: 'press', unplug: 'plug' } as const;
type Opening = keyof typeof BACK;

/**
 * Acts that open a cover, in order: what hides screws, the screws, the clips in pry order, and last
 * the cables, which only show once the cover lifts.
 */
export function openingActs({ parts }: CoverMap): CoverAct[] {
  const of = <Kind extends CoverPart['kind']>(kind: Kind) =>
    parts.filter((part): part is Extract<CoverPart, { kind: Kind }> => part.kind === kind);
  const fasteners = of('fastener');
  const actOf = (act: Opening, part: CoverPart): CoverAct => ({
    ...{ id: `${act} ${part.id}`, act, part },
    number: parts.indexOf(part) + 1,
  });
  return [
    ...fasteners.filter(({ under }) => under !== 'nothing').map((one) => actOf('uncover', one)),
    ...fasteners.map((one) => actOf('undo', one)),
    ...of('clip').map((one) => actOf('pry', one)),
    ...of('cable').map((one) => actOf('unplug', one)),
  ];
}

/** Acts that close it: the reverse, each undone. */
export function closingActs(map: CoverMap): CoverAct[] {
  return openingActs(map)
    .reverse()
    .map(({ act, part, number }) => {
      const back = BACK[act as Opening];
      return { id: `${back} ${part.id}`, act: back, part, number };
    });
}

/** Screws alike lying in the tray. */
export interface TrayPile {
  readonly drive: ScrewDrive;
  readonly size: string;
  readonly length: number | 'unknown';
  readonly count: number;
}

/**
 * Loose screws in the tray: out and not yet back.
 *
 * @param done - ids of the acts done so far
 */
export function trayOf({ parts }: CoverMap, done: ReadonlySet<string>): TrayPile[] {
  const piles = new Map<string, TrayPile>();
  for (const part of parts) {
    if (part.kind !== 'fastener' || part.captive) continue;
    if (!done.has(`undo ${part.id}`) || done.has(`drive ${part.id}`)) continue;
    const { drive, size, length } = part;
    const key = `${drive} ${size} ${length}`;
    piles.set(key, { drive, size, length, count: (piles.get(key)?.count ?? 0) + 1 });
  }
  return [...piles.values()].sort((a, b) => Number(a.length) - Number(b.length));
}

/** Why a screw does not belong in a hole. */
export interface WrongLength {
  readonly type: 'too long' | 'too short';
  readonly wanted: number;
  readonly taken: number;
}

/** Whether a screw of a length belongs in a part's hole; unknown lengths are not judged. */
export function lengthFault(part: Fastener, taken: number | 'unknown'): WrongLength | undefined {
  const wanted = part.length;
  if (wanted === 'unknown' || taken === 'unknown' || wanted === taken) return undefined;
  return { type: taken > wanted ? 'too long' : 'too short', wanted, taken };
}

/** Lengths that differ among the loose screws: only then can one be mistaken for another. */
export function lengthsOf({ parts }: CoverMap): number[] {
  const lengths = parts.flatMap((part) =>
    part.kind === 'fastener' && !part.captive && part.length !== 'unknown' ? [part.length] : [],
  );
  return [...new Set(lengths)].sort((a, b) => a - b);
}
