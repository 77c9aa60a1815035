import type { TimeField } from './layouts.ts';
import type { SpdTimeName, SpdTimes } from './types.ts';

/** Fills an image field by field; numbers are little-endian. */
export class ByteWriter {
  private readonly image: Uint8Array;
  /** The first time too long for its field, if any; the image is then not to be used. */
  tooLong: SpdTimeName | undefined;

  constructor(size: number) {
    this.image = new Uint8Array(size);
  }

  get(at: number): number {
    return this.image[at] ?? 0;
  }

  set(at: number, byte: number): void {
    this.image[at] = byte & 0xff;
  }

  bytes(at: number, values: readonly number[]): void {
    values.forEach((value, n) => this.set(at + n, value));
  }

  u16(at: number, value: number): void {
    this.bytes(at, [value & 0xff, (value >> 8) & 0xff]);
  }

  hex(at: number, digits: string): void {
    this.bytes(
      at,
      (digits.match(/../g) ?? []).map((pair) => parseInt(pair, 16)),
    );
  }

  /** Text padded with spaces, as the standards ask. */
  ascii(at: number, text: string, length: number): void {
    for (let n = 0; n < length; n++) this.set(at + n, n < text.length ? text.charCodeAt(n) : 0x20);
  }

  /** Sets bits of a mask; those outside it are left out. */
  mask(at: number, bits: readonly number[], size: number): void {
    for (const bit of bits)
      if (Number.isInteger(bit) && bit >= 0 && bit < size)
        this.set(at + (bit >> 3), this.get(at + (bit >> 3)) | (1 << (bit & 7)));
  }

  /** Times in units of 125 ps, rounded up, with the negative rest in the fine byte where there is one. */
  times(fields: readonly TimeField[], times: SpdTimes): void {
    for (const { name, mtb, high, fine } of fields) {
      const ps = times[name];
      if (ps === undefined) continue;
      const units = Math.ceil(ps / 125);
      if (units >= 2 ** (8 + (high?.bits ?? 0))) this.tooLong ??= name;
      this.set(mtb, units);
      if (high) {
        const keep = high.bits === 8 ? 0 : this.get(high.at) & ~(0x0f << high.shift);
        this.set(high.at, keep | ((units >> 8) << high.shift));
      }
      if (fine !== undefined) this.set(fine, ps - units * 125);
    }
  }

  slice(from: number, to: number): Uint8Array {
    return this.image.subarray(from, to);
  }

  done(): Uint8Array {
    return this.image;
  }
}
