import { isModuleCapacity } from '../memory/index.ts';
import { readScreen } from './readScreen.ts';

/** Sums and headings of a screen: they name no slot. */
const NO_SLOT = /total|usable|available|installed|system|graphics|cache|size|speed|frequency/i;
/** A slot's name says so, or ends in its number or letter. */
const SLOT = /dimm|slot|bank|chan|^[A-H]\d?$|[\s_-][A-H]?\d$/i;
const FIGURE = '[\\dOoIlSB]{1,6}';

/** Letters a general reader sees in place of digits. */
const DIGIT: Readonly<Record<string, string>> = { O: '0', o: '0', I: '1', l: '1', S: '5', B: '8' };
const digits = (text: string) => text.replaceAll(/[OoIlSB]/g, (sign) => DIGIT[sign] ?? sign);

/**
 * The lines of a firmware screen that a general reader saw on a photo, as somebody would type them:
 * a slot with its size and rate, or an empty one. Digits taken for letters are put right before a
 * unit, where nothing else can stand; sums, headings and sizes no module has are left out.
 *
 * @returns lines {@link readScreen} understands, to be looked at before they count; empty for any
 * other picture
 * @example screenOffPhoto(['DIMM_A1:  8I92 M8  24OO MHz', 'Total Memory 16384 MB'])
 * // 'DIMM_A1: 8192 MB 2400 MHz'
 */
export function screenOffPhoto(lines: readonly string[]): string {
  return lines
    .map((line) =>
      line
        .replaceAll(/\s+/g, ' ')
        .trim()
        .replaceAll(/\b([MG])[8&]/gi, '$1B')
        .replaceAll(new RegExp(`(?<![\\w.])(${FIGURE}) ?([MG])i?B\\b`, 'gi'), unit)
        .replaceAll(new RegExp(`(?<![\\w.])(${FIGURE}) ?(M[HT][Zz2/][Ss]?)`, 'g'), unit),
    )
    .filter((line) => {
      const [device] = readScreen(line).devices;
      if (!device?.locator || NO_SLOT.test(device.locator)) return false;
      return (
        SLOT.test(device.locator) &&
        (device.capacity === undefined || isModuleCapacity(undefined, device.capacity))
      );
    })
    .join('\n');
}

const unit = (_whole: string, figure: string, name: string) =>
  `${digits(figure)} ${/^[mg]$/i.test(name) ? `${name.toUpperCase()}B` : 'MHz'}`;
