import { bytesFromHexText, decodeText, looksLikeText } from './decodeText.ts';
import type { InventoryFinding } from './findings.ts';
import type { DeviceClaim, InventoryReading } from './inventory.ts';
import { isCollected, readCollected } from './collected/readCollected.ts';
import { INVENTORY_FILE_LIMIT } from './limits.ts';
import { looksLikeJson, readCim } from './readCim.ts';
import { readReport } from './readReport.ts';
import { isListing, readListing } from './smbios/readListing.ts';
import { readSmbios } from './smbios/readTable.ts';
import { moduleOfImage } from './spd/moduleOfImage.ts';
import { readSpdFile, spdGeneration } from './spd/readSpd.ts';
import type { SpdImage } from './spd/types.ts';
import { withinBounds } from './withinBounds.ts';

const nothing = (finding: InventoryFinding): InventoryReading => ({
  kind: 'unknown',
  devices: [],
  findings: [finding],
});

/**
 * Reads one inventory file of a machine, whatever it is: SPD EEPROM images (binary or hex text), an
 * SMBIOS table (dump or listing), CIM instances as JSON. Any bytes are accepted; nothing throws.
 *
 * @param bytes - the file as it is
 * @example readInventory(spdFile).devices[0]?.module?.rate
 */
export function readInventory(bytes: Uint8Array): InventoryReading {
  return withinBounds(readAny(bytes));
}

function readAny(bytes: Uint8Array): InventoryReading {
  const place = { part: 'file' } as const;
  if (bytes.length === 0) return nothing({ type: 'empty-file', severity: 'error', place });
  if (bytes.length > INVENTORY_FILE_LIMIT)
    return nothing({
      ...{ type: 'too-large', severity: 'error', place },
      ...{ bytes: bytes.length, limit: INVENTORY_FILE_LIMIT },
    });
  if (!isBlank(bytes) && looksLikeText(bytes)) {
    const text = decodeText(bytes);
    if (isCollected(text)) return readCollected(text);
    if (looksLikeJson(text)) return readJson(text);
    if (isListing(text)) return readListing(text);
    const dumped = bytesFromHexText(text);
    if (dumped) return readBinary(dumped);
    return nothing({ type: 'not-recognised', severity: 'error', place });
  }
  return readBinary(bytes);
}

/** JSON that is no list of the CIM schema may be a hardware report; each says what it misses itself. */
function readJson(text: string): InventoryReading {
  const report = text.includes('"dimm_') ? reportIn(text) : undefined;
  return report ?? readCim(text);
}

function reportIn(text: string): InventoryReading | undefined {
  try {
    return readReport(JSON.parse(text));
  } catch {
    return undefined;
  }
}

const MOST_SPD_BYTES = 64 * 1024;

function readBinary(bytes: Uint8Array): InventoryReading {
  // An SPD has its key byte at 2 and a size of its own; a table has anchors or sound structures.
  const isSpd = bytes.length <= MOST_SPD_BYTES && spdGeneration(bytes) !== undefined;
  const table = isSpd && bytes.length % 128 === 0 ? undefined : readSmbios(bytes);
  if (table) return table;
  if (isSpd || isBlank(bytes) || isPaddedSpd(bytes)) return spdReading(bytes);
  return nothing({ type: 'not-recognised', severity: 'error', place: { part: 'file' } });
}

const isBlank = (bytes: Uint8Array) =>
  bytes.length <= MOST_SPD_BYTES &&
  bytes.every((byte) => byte === bytes[0]) &&
  (bytes[0] === 0 || bytes[0] === 0xff);

/** A dump of all slots whose first is empty starts with blank bytes. */
const isPaddedSpd = (bytes: Uint8Array) =>
  bytes.length <= MOST_SPD_BYTES &&
  [256, 512, 1024].some(
    (step) => spdGeneration(bytes, step) !== undefined && isBlank(bytes.subarray(0, step)),
  );

function spdReading(bytes: Uint8Array): InventoryReading {
  const { images, findings } = readSpdFile(bytes);
  return { kind: 'spd', devices: images.map(claimOfImage), images, findings };
}

/** What an SPD image says of the place it was read from. */
export function claimOfImage(image: SpdImage): DeviceClaim {
  const module = moduleOfImage(image);
  const { capacity, generation, formFactor, buffering, ranks, chipWidth } = image;
  return {
    state: 'module',
    ...(formFactor === 'soldered' ? { soldered: true } : {}),
    ...{ capacity, generation, formFactor, buffering, ranks, chipWidth },
    ecc: image.eccWidth > 0,
    ratedShown: image.rate,
    ...(image.voltagesMv.length > 0 ? { voltageMv: Math.min(...image.voltagesMv) } : {}),
    maker: image.maker,
    partNumber: image.partNumber,
    serial: image.serial,
    ...(module ? { module } : {}),
    verified: image.verified,
  };
}
