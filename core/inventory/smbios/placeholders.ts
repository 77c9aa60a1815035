const NOTHING = new RegExp(
  '^(?:' +
    [
      'not (?:specified|provided|available|applicable)',
      'no module installed',
      'no dimm',
      'none',
      'unknown',
      'undefined',
      'empty',
      'n/?a',
      '(?:to be filled by )?o\\.?e\\.?m\\.?',
      'default string',
      'system (?:product name|manufacturer)',
      '(?:partnum|sernum|assettagnum|manufacturer|modulepartnumber)\\d*',
      '\\[?empty\\]?',
      '(?:0x)?0+',
      '(?:0x)?f+',
      '-+',
      '\\.+',
    ].join('|') +
    ')$',
  'i',
);

/** Text of an inventory, or `undefined` for the many ways producers say nothing. */
export function meant(text: string | undefined): string | undefined {
  if (text === undefined) return undefined;
  const trimmed = text.trim().replaceAll(/\s{2,}/g, ' ');
  return trimmed === '' || NOTHING.test(trimmed) ? undefined : trimmed;
}
