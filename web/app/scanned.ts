/** A key as a scanner presses it: what the layout makes of it, and which key it was. */
export interface ScannedKey {
  readonly key: string;
  /** The physical key by its place, whatever layout the system has. */
  readonly code: string;
  readonly shift: boolean;
}

/** What was scanned: a tag of a job or of a drawer module, what the measuring page shows, or words to look for. */
export type Scanned =
  | { readonly type: 'page'; readonly path: string }
  | { readonly type: 'result' }
  /** One of the codes a collected file is shown as. */
  | { readonly type: 'file' }
  | { readonly type: 'words'; readonly words: string };

/** What the keys of the layout scanners are made for print, plain and with Shift. */
const PRINTED: Readonly<Record<string, readonly [string, string]>> = {
  ...Object.fromEntries(
    [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'].map((letter) => [
      `Key${letter}`,
      [letter.toLowerCase(), letter] as const,
    ]),
  ),
  ...Object.fromEntries(
    [...')!@#$%^&*('].map((sign, digit) => [`Digit${digit}`, [String(digit), sign] as const]),
  ),
  ...{ Minus: ['-', '_'], Equal: ['=', '+'], Slash: ['/', '?'], Period: ['.', '>'] },
  ...{ Comma: [',', '<'], Semicolon: [';', ':'], Quote: ["'", '"'], Backslash: ['\\', '|'] },
  ...{ BracketLeft: ['[', '{'], BracketRight: [']', '}'], Space: [' ', ' '] },
};

/**
 * The meaning of a burst of keys. A system set to another layout than the scanner’s prints other signs
 * (`Ö--` for `://`); a tag is then known by the places of the keys.
 */
export function meaningOf(keys: readonly ScannedKey[]): Scanned {
  const shown = keys.map(({ key }) => key).join('');
  const pressed = keys
    .map(({ key, code, shift }) => PRINTED[code]?.[shift ? 1 : 0] ?? key)
    .join('');
  const byPlace = meaningOfText(pressed);
  return byPlace.type === 'words' ? meaningOfText(shown) : byPlace;
}

/** As the measuring page writes its carry code. */
const CARRIED = /^(?:[\dA-Z]{4}-){7}[\dA-Z]{4}$/i;

/** The meaning of a code that was read. */
export function meaningOfText(text: string): Scanned {
  const [, path] =
    /^https?:\/\/[^/]+(\/(?:jobs\/[\w-]{6,40}(?:\/[a-z-]+)?|drawer\/[\w-]{6,40}))\/?$/i.exec(
      text.trim(),
    ) ?? [];
  if (path !== undefined) return { type: 'page', path };
  if (/^tembrix-file:/i.test(text.trim())) return { type: 'file' };
  return CARRIED.test(text.trim()) ? { type: 'result' } : { type: 'words', words: text.trim() };
}
