import type { ByteView } from '../byteView.ts';
import type { SpdChecksum } from './types.ts';

/** What one byte does to the CRC, for all 256 of them: eight shifts each, done once. */
const CRC_OF_BYTE = Uint16Array.from({ length: 256 }, (_, byte) => {
  let crc = byte << 8;
  for (let bit = 0; bit < 8; bit++) crc = crc & 0x8000 ? (crc << 1) ^ 0x1021 : crc << 1;
  return crc;
});

/** CRC-16 of SPD blocks from DDR3 on: polynomial 1021h, start 0, high bit first (Annex K, byte 126). */
export function crc16(bytes: Uint8Array): number {
  let crc = 0;
  for (const byte of bytes) crc = ((crc << 8) & 0xffff) ^ (CRC_OF_BYTE[(crc >> 8) ^ byte] ?? 0);
  return crc;
}

/** Sum of bytes modulo 256, the DDR2 checksum (Annex J, byte 63). */
export function sum8(bytes: Uint8Array): number {
  let sum = 0;
  for (const byte of bytes) sum = (sum + byte) & 0xff;
  return sum;
}

function judge(block: string, isThere: boolean, stored: number, computed: number): SpdChecksum {
  const state = !isThere
    ? 'missing'
    : stored === computed
      ? 'good'
      : stored === 0
        ? 'unwritten'
        : 'wrong';
  return { block, state, stored, computed };
}

/** Checks a block whose CRC stands low byte first at `at`. */
export function checkCrc(
  view: ByteView,
  name: string,
  from: number,
  to: number,
  at: number,
): SpdChecksum {
  const block = `${name} (${from}–${to})`;
  const isThere = view.has(from, to) && view.has(at, at + 1);
  return judge(block, isThere, view.u16(at), isThere ? crc16(view.slice(from, to + 1)) : 0);
}

/** Checks a DDR2 image: bytes 0 to 62 against byte 63. */
export function checkSum(view: ByteView): SpdChecksum {
  const isThere = view.has(0, 63);
  return judge('base (0–62)', isThere, view.u8(63), isThere ? sum8(view.slice(0, 63)) : 0);
}
