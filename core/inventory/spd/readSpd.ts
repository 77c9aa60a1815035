import type { Generation } from '../../memory/index.ts';
import { isBuildableCapacity } from '../../memory/index.ts';
import { ByteView } from '../byteView.ts';
import type { FindingPlace, InventoryFinding } from '../findings.ts';
import { moduleOfImage } from './moduleOfImage.ts';
import type { SpdParts } from './parts.ts';
import { readDdr2 } from './readDdr2.ts';
import { readDdr5 } from './readDdr5.ts';
import { readDdr3, readDdr4, readLpddr } from './readMediumTimebase.ts';
import type { SpdImage } from './types.ts';

/** Memory types by code, byte 2 of every SPD (JEDEC Std 21-C, "key byte"), and the size of an image. */
const TYPES: Readonly<Record<number, readonly [Generation, size: number]>> = {
  0x08: ['DDR2', 256],
  0x0b: ['DDR3', 256],
  0x0c: ['DDR4', 512],
  0x0f: ['LPDDR3', 512],
  0x10: ['LPDDR4', 512],
  0x11: ['LPDDR4X', 512],
  0x12: ['DDR5', 1024],
  0x13: ['LPDDR5', 512],
  0x15: ['LPDDR5X', 512],
};

/** An image's generation, if its key byte names one read here. */
export function spdGeneration(bytes: Uint8Array, offset = 0): Generation | undefined {
  return TYPES[bytes[offset + 2] ?? -1]?.[0];
}

function partsOf(view: ByteView, generation: Generation): SpdParts {
  if (generation === 'DDR2') return readDdr2(view);
  if (generation === 'DDR3') return readDdr3(view);
  if (generation === 'DDR4') return readDdr4(view);
  if (generation === 'DDR5') return readDdr5(view);
  return readLpddr(view, generation);
}

/** Images of one file, and what is to be said of them. */
export interface SpdFileReading {
  readonly images: readonly SpdImage[];
  readonly findings: readonly InventoryFinding[];
}

const MOST_IMAGES = 64;

/** Reads one file of SPD images, one after another; short, blank and damaged ones are said. */
export function readSpdFile(bytes: Uint8Array): SpdFileReading {
  const images: SpdImage[] = [];
  const findings: InventoryFinding[] = [];
  let stride = 256;
  let count = 0;
  for (let offset = 0; offset < bytes.length && count < MOST_IMAGES; offset += stride) {
    count += 1;
    const place: FindingPlace = { part: 'image', number: count };
    const filling = blankFilling(bytes, offset, stride);
    if (filling !== undefined) {
      findings.push({ type: 'blank-image', severity: 'error', place, filling });
      continue;
    }
    const generation = spdGeneration(bytes, offset);
    if (generation === undefined) {
      // Behind the first image it is padding or another device's bytes; the walk goes on.
      if (count === 1 || bytes.length - offset >= stride)
        findings.push({
          type: 'unknown-memory-type',
          severity: 'error',
          place,
          code: bytes[offset + 2] ?? 0,
        });
      continue;
    }
    stride = strideAt(bytes, offset, TYPES[bytes[offset + 2] ?? -1]?.[1] ?? 256);
    const length = Math.min(stride, bytes.length - offset);
    const read = readImage(new ByteView(bytes, offset, length), generation, offset, place);
    images.push(read.image);
    findings.push(...read.findings);
  }
  return { images, findings };
}

/** The one value all bytes of an image have, where it is 00 or FF. */
function blankFilling(bytes: Uint8Array, offset: number, stride: number): number | undefined {
  const first = bytes[offset];
  if (first !== 0 && first !== 0xff) return undefined;
  const end = Math.min(bytes.length, offset + stride);
  for (let at = offset; at < end; at++) if (bytes[at] !== first) return undefined;
  return first;
}

/** Distance to the next image: the full size, or less where an image of the same kind starts earlier. */
function strideAt(bytes: Uint8Array, offset: number, full: number): number {
  const isSame = (at: number) =>
    at + 3 < bytes.length &&
    bytes[at + 2] === bytes[offset + 2] &&
    bytes[at] === bytes[offset] &&
    bytes[at + 1] === bytes[offset + 1];
  return [128, 256, 512].find((step) => step < full && isSame(offset + step)) ?? full;
}

function readImage(
  view: ByteView,
  generation: Generation,
  offset: number,
  place: FindingPlace,
): { image: SpdImage; findings: InventoryFinding[] } {
  const { wanted, sizes, damagedProfiles = [], ...parts } = partsOf(view, generation);
  const findings: InventoryFinding[] = [];
  if (view.length < wanted)
    findings.push({ type: 'truncated', severity: 'caution', place, bytes: view.length, wanted });
  for (const { block, state, stored, computed } of parts.checksums) {
    if (state === 'wrong')
      findings.push({
        type: 'checksum-wrong',
        severity: 'caution',
        place,
        block,
        stored,
        computed,
      });
    if (state === 'unwritten')
      findings.push({ type: 'checksum-unwritten', severity: 'note', place, block });
  }
  if (sizes) findings.push({ type: 'capacities-disagree', severity: 'caution', place, ...sizes });
  for (const profile of damagedProfiles)
    findings.push({ type: 'profile-damaged', severity: 'caution', place, profile });
  // The base block decides: a module block of zeros was never written by many makers.
  const verified = parts.checksums.every(({ state }) => state === 'good' || state === 'unwritten');
  const image: SpdImage = { ...parts, offset, length: view.length, verified };
  const missing = missingFields(image);
  if (missing.length > 0)
    findings.push({
      type: 'impossible-module',
      severity: 'error',
      place,
      missing: missing.join(', '),
    });
  return { image, findings };
}

function missingFields(image: SpdImage): string[] {
  if (moduleOfImage(image)) return [];
  const { formFactor, capacity, rate, times } = image;
  return [
    formFactor === undefined ? 'module type' : '',
    capacity === undefined || !isBuildableCapacity(capacity) ? 'capacity' : '',
    rate === undefined ? 'clock period' : '',
    times.tAA === undefined ? 'first time (tAA)' : '',
  ].filter(Boolean);
}
