/**
 * A maker by its standard code (JEDEC JEP106): the bank (1 for codes without continuation) and the
 * code byte with its parity bit. Names are the shop's own, in its register; an unknown code stays one.
 */
export interface MakerCode {
  readonly bank: number;
  readonly code: number;
}

/** A maker's key as shown and stored: `3-4F`, bank and code in hex. */
export function makerKey({ bank, code }: MakerCode): string {
  return `${bank}-${code.toString(16).toUpperCase().padStart(2, '0')}`;
}

const hasOddParity = (byte: number): boolean => {
  let ones = 0;
  for (let bit = 0; bit < 8; bit++) ones += (byte >> bit) & 1;
  return ones % 2 === 1;
};

/**
 * The code of two SPD bytes (DDR3 on): continuation count with parity, then code with parity.
 *
 * @returns `undefined` where nothing was written; parity is not demanded, since makers leave it off
 */
export function makerFromBytes(continuations: number, code: number): MakerCode | undefined {
  if (code === 0 || code === 0xff) return undefined;
  return { bank: (continuations & 0x7f) + 1, code };
}

/** The two SPD bytes of a code, the count with odd parity. */
export function makerToBytes({ bank, code }: MakerCode): [continuations: number, code: number] {
  const count = (bank - 1) & 0x7f;
  return [hasOddParity(count) ? count : count | 0x80, code];
}

/** Reads a key as {@link makerKey} writes it, or the four hex digits inventories print (`02CF`, `0x82CF`). */
export function readMakerCode(text: string): MakerCode | undefined {
  const key = /^\s*(\d{1,3})\s*[-/]\s*([0-9a-f]{2})\s*$/i.exec(text);
  if (key) {
    const [, bank = '', code = ''] = key;
    return Number(bank) >= 1 && Number(bank) <= 128
      ? makerFromBytes(Number(bank) - 1, parseInt(code, 16))
      : undefined;
  }
  const digits = /^\s*(?:0x)?([0-9a-f]{2})([0-9a-f]{2})(?:0{0,12})\s*$/i.exec(text);
  return digits
    ? makerFromBytes(parseInt(digits[1] ?? '', 16), parseInt(digits[2] ?? '', 16))
    : undefined;
}
