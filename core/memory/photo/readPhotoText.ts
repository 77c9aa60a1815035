import type { MemoryModule } from '../module.ts';
import { readLabel } from '../readLabel.ts';
import { folded, matchAt } from './signs.ts';
import type { Match, SeenSign } from './signs.ts';
import { labelWords } from './vocabulary.ts';

/** How a letter of a reading came about: as seen, changed because nothing else is a label, or in doubt. */
export type SignMark = 'seen' | 'changed' | 'doubtful';

/** A label read off a photo, to be looked at beside the photo before it is taken. */
export interface PhotoLabel {
  /** The label as taken, as {@link readLabel} reads it. */
  readonly text: string;
  /** Letter by letter: what is taken, what was seen there, and how sure that is. */
  readonly signs: readonly {
    readonly taken: string;
    readonly seen: string;
    readonly mark: SignMark;
  }[];
  readonly module: MemoryModule;
  /** The line it stands on, counted from 0; {@link OFF_A_CODE} for a label of the catalogue. */
  readonly line: number;
  /** Sum of what had to be changed; 0 for a line that is a label as seen. */
  readonly cost: number;
}

/** What other evidence says of the modules in the photo. */
export interface PhotoHints {
  readonly capacities?: readonly number[];
  readonly rates?: readonly number[];
  /** Part numbers of the catalogue and of the tables. */
  readonly partNumbers?: readonly string[];
  /** Texts of the codes on the photo: read whole or not at all. */
  readonly codes?: readonly string[];
  /** The catalogue’s labels by part number, for a module of which only the code can be read. */
  readonly labels?: Readonly<Record<string, string>>;
}

/** Costliest change of each field, and of all three; beyond it the line is something else. */
const MOST = { size: 0.9, organisation: 1, start: 0.8, name: 1.5, line: 2.4 } as const;
/** Signs before the name that size and organisation may take. */
const WIDEST_BEFORE = 16;
/** Specks of dirt that may stand between two fields. */
const GAP = 1;
const COST_OF_GAP = 0.6;
const COST_OF_HALF = 0.5;
/** A reading this much costlier than the best is no rival. */
const RIVAL = 0.3;
/** A sign the reader was less sure of than this is shown as doubtful. */
const SURE = 0.7;
/** What evidence saying the same is worth. */
const HINT = 0.3;
/** Readings of a line that are checked, cheapest first. */
const TRIED = 12;
const WIDEST_LINE = 120;
/** The line of a label that a code on the photo led to. */
export const OFF_A_CODE = -1;
/** A shorter part number stands in too many words. */
const SHORTEST_PART = 5;

interface Piece {
  readonly word: string;
  readonly from: readonly number[];
}
interface Reading {
  readonly cost: number;
  readonly pieces: readonly Piece[];
  readonly end: number;
}

/**
 * Finds the labels among lines a general reader saw on a photo. Signs it mixed up are settled by what
 * a label can be: standard sizes, organisations, rates, bins and letters. A reading with a rival, or
 * from signs the reader doubted, marks where. Any lines are accepted; nothing throws.
 *
 * @returns a reading a label, in the order of the lines
 * @example readPhotoText([seen('16G8 2Rx8 PC4-2666V-SE1-1l')])[0]?.text // 16GB 2RX8 PC4-2666V-SE1-11
 */
export function readPhotoText(
  lines: readonly (readonly SeenSign[])[],
  hints: PhotoHints = {},
): PhotoLabel[] {
  const coded = partCoded(hints);
  const part = coded ?? partNumberIn(lines, hints.partNumbers ?? []);
  const labels = lines.flatMap((line, at) => readLine(line, at, hints) ?? []);
  // Which of several modules a part number belongs to is not for this reader to guess.
  const [only, ...others] = labels;
  if (!only && coded !== undefined) return labelOfCatalogue(coded, hints) ?? [];
  return only && others.length === 0 && part !== undefined ? [withPart(only, part)] : labels;
}

/** The part number a code on the photo holds, alone or at its start, as makers print it. */
function partCoded({ codes = [], partNumbers = [] }: PhotoHints): string | undefined {
  const plain = (text: string) => text.trim().toUpperCase();
  return partNumbers
    .filter((part) => part.length >= SHORTEST_PART)
    .filter((part) =>
      codes.some((code) => {
        const [whole, own] = [plain(code), plain(part)];
        // Another revision is another part.
        return whole.startsWith(own) && /^(?:[\s,;|]|$)/.test(whole.slice(own.length));
      }),
    )
    .sort((a, b) => b.length - a.length)[0];
}

function labelOfCatalogue(part: string, { labels = {} }: PhotoHints): PhotoLabel[] | undefined {
  const text = labels[part];
  const module = text === undefined ? undefined : readLabel(text).module;
  if (text === undefined || !module) return undefined;
  const signs = [...text].map((sign) => ({ taken: sign, seen: sign, mark: 'seen' as const }));
  return [{ text, signs, module, line: OFF_A_CODE, cost: 0 }];
}

interface LineSign extends SeenSign {
  /** Nothing stands right before it. */
  readonly isFirst: boolean;
}

/** The signs of a line without its gaps, which readers put in and leave out as they like. */
function signsOf(line: readonly SeenSign[]): LineSign[] {
  const isGap = (one: SeenSign | undefined) => one === undefined || one.sign.trim() === '';
  return line
    .flatMap((one, at) =>
      isGap(one) ? [] : [{ ...one, sign: one.sign.toUpperCase(), isFirst: isGap(line[at - 1]) }],
    )
    .slice(0, WIDEST_LINE);
}

function readLine(
  line: readonly SeenSign[],
  at: number,
  hints: PhotoHints,
): PhotoLabel | undefined {
  const signs = signsOf(line);
  const valid: { reading: Reading; text: string; module: MemoryModule; cost: number }[] = [];
  for (const reading of readingsOf(signs)) {
    const text = reading.pieces.map(({ word }) => word).join(' ');
    const { module, findings } = readLabel(text);
    if (!module || findings.some(({ severity }) => severity === 'error')) continue;
    const isHinted =
      (hints.capacities?.includes(module.capacity) ?? false) ||
      (hints.rates?.includes(module.rate) ?? false);
    valid.push({ reading, text, module, cost: Math.max(0, reading.cost - (isHinted ? HINT : 0)) });
  }
  valid.sort((a, b) => a.cost - b.cost);
  const [best, ...rest] = valid;
  if (!best) return undefined;
  const rivals = rest.filter(({ cost, text }) => cost - best.cost < RIVAL && text !== best.text);
  const tail = tailOf(signs, best.reading.end, best.text);
  return {
    text: best.text + tail,
    signs: [
      ...best.reading.pieces.flatMap((piece, field) => [
        ...(field > 0 ? [{ taken: ' ', seen: ' ', mark: 'seen' as const }] : []),
        ...marked(
          piece,
          signs,
          rivals.map(({ reading }) => reading.pieces[field]?.word ?? ''),
        ),
      ]),
      ...[...tail].map((sign) => ({ taken: sign, seen: sign, mark: 'seen' as const })),
    ],
    module: best.module,
    line: at,
    cost: best.cost,
  };
}

/**
 * Every way to read a line as size, organisation and name, the cheapest ones first. The name is looked
 * for first: it is the longest, so little else resembles one; the other two stand right before it.
 */
function readingsOf(signs: readonly LineSign[]): Reading[] {
  const { sizes, organisations, names } = labelWords();
  const named = everywhere(signs, 0, names, MOST.name, (start) =>
    Boolean(matchAt(signs, start, 'PC', MOST.start)),
  )
    .sort((a, b) => a.cost - b.cost)
    .slice(0, TRIED);
  return named
    .flatMap((name) => {
      const first = Math.max(0, name.start - WIDEST_BEFORE);
      const before = signs.slice(0, name.start);
      return everywhere(before, first, organisations, MOST.organisation)
        .filter(({ start, length }) => name.start - start - length <= GAP)
        .flatMap((organisation) =>
          everywhere(before.slice(0, organisation.start), first, sizes, MOST.size)
            .filter(({ start, length }) => organisation.start - start - length <= GAP)
            .map((size): Reading => ({
              cost:
                size.cost +
                organisation.cost +
                name.cost +
                // Half a size is a size too: 2GB of 32GB.
                (signs[size.start]?.isFirst ? 0 : COST_OF_HALF) +
                COST_OF_GAP * (name.start - size.start - size.length - organisation.length),
              pieces: [size, organisation, name],
              end: name.start + name.length,
            })),
        );
    })
    .filter(({ cost }) => cost <= MOST.line)
    .sort((a, b) => a.cost - b.cost)
    .slice(0, TRIED);
}

/** Where words lie in a line, from a place on. */
const everywhere = (
  signs: readonly SeenSign[],
  first: number,
  words: readonly string[],
  most: number,
  isWorthwhile: (start: number) => boolean = () => true,
) => {
  const found: (Match & { word: string; start: number })[] = [];
  for (let start = first; start < signs.length; start++) {
    if (!isWorthwhile(start)) continue;
    for (const word of words) {
      const match = matchAt(signs, start, word, most);
      if (match) found.push({ ...match, word, start });
    }
  }
  return found;
};

function marked(piece: Piece, signs: readonly SeenSign[], rivals: readonly string[]) {
  return [...piece.word].map((taken, at) => {
    const seen = signs[piece.from[at] ?? -1];
    const isRivalled = rivals.some(
      (word) => word !== piece.word && (word.length !== piece.word.length || word[at] !== taken),
    );
    const isUnsure = isRivalled || seen === undefined || seen.confidence < SURE;
    const mark: SignMark = isUnsure ? 'doubtful' : seen.sign === taken ? 'seen' : 'changed';
    return { taken: taken === 'X' ? 'x' : taken, seen: seen?.sign ?? '', mark };
  });
}

/** The raw-card field behind the name where it is plainly one: it says nothing of what runs. */
function tailOf(signs: readonly SeenSign[], end: number, text: string): string {
  const rest = signs
    .slice(end, end + 9)
    .map(({ sign }) => sign)
    .join('');
  const [tail = ''] = /^(?:[A-H]\d-\d{2,4}|-\d\d-[A-H]\d)(?![A-Z\d])/.exec(rest) ?? [];
  return readLabel(text + tail).module ? tail : '';
}

/** A part number the catalogue or the tables know, wherever it stands in the photo. */
function partNumberIn(
  lines: readonly (readonly SeenSign[])[],
  known: readonly string[],
): string | undefined {
  const texts = lines.map((line) =>
    folded(
      signsOf(line)
        .map(({ sign }) => sign)
        .join(''),
    ),
  );
  return known
    .filter((part) => part.length >= SHORTEST_PART)
    .filter((part) => texts.some((text) => text.includes(folded(part))))
    .sort((a, b) => b.length - a.length)[0];
}

function withPart(label: PhotoLabel, part: string): PhotoLabel {
  const text = `${label.text} ${part}`;
  const { module, findings } = readLabel(text);
  return module && findings.every(({ severity }) => severity !== 'error')
    ? { ...label, text, module }
    : label;
}
