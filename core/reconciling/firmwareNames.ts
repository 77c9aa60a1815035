import type { BoardFacts } from '../inventory/index.ts';

type Names = Pick<BoardFacts, 'systemName' | 'systemVersion' | 'boardName'>;

const plain = (text = '') =>
  text
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/**
 * What a machine's firmware calls it, system and board, without case and signs: by this the same kind
 * of machine is known again, whatever the shop named it.
 *
 * @returns `undefined` when the firmware names neither
 */
export function firmwareKey({ systemName, boardName }: Names): string | undefined {
  const [system, board] = [plain(systemName), plain(boardName)];
  return system === '' && board === '' ? undefined : `${system} | ${board}`;
}

/** Whether a machine bears one of the names its firmware gives, but for case and signs. */
export function isNamed(name: string, names: Names): boolean {
  const wanted = plain(name);
  return (
    wanted !== '' &&
    [names.systemName, names.systemVersion, names.boardName].some((one) => plain(one) === wanted)
  );
}

/** `Rev 1.02`, `v3`, `1.0`, `x.x`: says which edition, not what it is. */
const EDITION = /^(?:v|ver|version|rev|revision)?[\s.:]*[\dx]+(?:[.\-_][\dx]+)*[a-z]?$/i;

/** How much a text reads like a name rather than like a code: words outweigh runs of signs. */
function nameLikeness(text: string): number {
  const parts = text.split(/[\s_/-]+/);
  const words = parts.filter((part) => /^\p{L}{3,}$/u.test(part));
  const spoken = words.filter((word) => /\p{Ll}/u.test(word));
  const isCode = parts.length === 1 && /\d/.test(text) && /\p{L}/u.test(text);
  return 2 * Math.min(2, words.length) + Math.min(1, spoken.length) - (isCode ? 1 : 0);
}

/**
 * What to call a machine: of product, version and board whichever reads like a name. Some makers put
 * a type number for the product, and the name that is printed on the lid as its version.
 *
 * @returns `undefined` when the firmware says nothing of use
 */
export function sensibleName({ systemName, systemVersion, boardName }: Names): string | undefined {
  const version = systemVersion && EDITION.test(systemVersion) ? undefined : systemVersion;
  const [best] = [systemName, version, boardName]
    .filter((text) => text !== undefined)
    .filter((text) => text.length >= 2)
    .sort((a, b) => nameLikeness(b) - nameLikeness(a));
  return best;
}
