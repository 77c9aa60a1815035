/**
 * Reads little-endian numbers from bytes of any length. Beyond the end everything is 0, so a short
 * image reads as far as it goes; `has` tells what was really there.
 */
export class ByteView {
  constructor(
    private readonly bytes: Uint8Array,
    private readonly start = 0,
    readonly length = bytes.length - start,
  ) {}

  /** Whether bytes `from` to `to` (inclusive) exist. */
  has(from: number, to = from): boolean {
    return from >= 0 && to < this.length && this.start + to < this.bytes.length;
  }

  u8(at: number): number {
    return this.has(at) ? (this.bytes[this.start + at] ?? 0) : 0;
  }

  i8(at: number): number {
    return (this.u8(at) << 24) >> 24;
  }

  u16(at: number): number {
    return this.u8(at) | (this.u8(at + 1) << 8);
  }

  u32(at: number): number {
    return (this.u16(at) | (this.u16(at + 2) << 16)) >>> 0;
  }

  /** 64 bits as a float: exact to 2⁵³, enough for any address a machine has. */
  u64(at: number): number {
    return this.u32(at) + this.u32(at + 4) * 2 ** 32;
  }

  /** A bit field of one byte. */
  bits(at: number, low: number, count: number): number {
    return (this.u8(at) >> low) & ((1 << count) - 1);
  }

  /** Printable ASCII, trimmed; anything else in it becomes a space. `undefined` when nothing is left. */
  ascii(at: number, count: number): string | undefined {
    let text = '';
    for (let n = at; n < at + count && this.has(n); n++) {
      const code = this.u8(n);
      text += code >= 0x20 && code < 0x7f ? String.fromCharCode(code) : ' ';
    }
    return text.trim().replaceAll(/\s+/g, ' ') || undefined;
  }

  /** Bytes as upper-case hex; `undefined` when they were never written (all 00 or all FF). */
  hex(at: number, count: number): string | undefined {
    if (!this.has(at, at + count - 1)) return undefined;
    const values = Array.from({ length: count }, (_, n) => this.u8(at + n));
    if (values.every((one) => one === 0) || values.every((one) => one === 0xff)) return undefined;
    return values.map((one) => one.toString(16).padStart(2, '0').toUpperCase()).join('');
  }

  slice(from: number, to: number): Uint8Array {
    return this.bytes.subarray(this.start + from, this.start + Math.min(to, this.length));
  }
}
