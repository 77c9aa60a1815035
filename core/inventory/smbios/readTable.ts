import { gib } from '../../units/index.ts';
import type { InventoryFinding } from '../findings.ts';
import type { DeviceClaim, InventoryReading } from '../inventory.ts';
import { makerFromBytes, readMakerCode } from '../maker.ts';
import {
  ARRAY_USES,
  FORM_FACTOR_CODES,
  MEMORY_TYPES,
  SYSTEM_MEMORY,
  bufferingOf,
} from './codes.ts';
import { assembleInventory } from './inventory.ts';
import type { Mapping, MemoryArray, MemoryDevice } from './inventory.ts';
import { meant } from './placeholders.ts';
import { findTable, stringOf } from './structures.ts';
import type { Structure } from './structures.ts';

const UNKNOWN_WORD = 0xffff;

/**
 * Reads an SMBIOS table, with or without its entry point. Source: DMTF DSP0134, types 1, 2, 4, 16,
 * 17, 19 and 20. Damage is said and what stands before it is kept.
 *
 * @returns `undefined` when the bytes hold no table
 */
export function readSmbios(bytes: Uint8Array): InventoryReading | undefined {
  const table = findTable(bytes);
  if (!table) return undefined;
  const findings: InventoryFinding[] = [...table.findings];
  const of = (type: number) => table.structures.filter((one) => one.type === type);
  const text = (one: Structure | undefined, at: number) =>
    one && meant(stringOf(one, at, findings));
  const parts = assembleInventory({
    names: {
      systemMaker: text(of(1)[0], 0x04),
      systemName: text(of(1)[0], 0x05),
      systemVersion: text(of(1)[0], 0x06),
      boardName: text(of(2)[0], 0x05),
      // DSP0134, 7.5: bit 6 of the status = socket populated.
      processors: of(4).filter(({ data }) => data.bits(0x18, 6, 1) === 1).length,
      systems: of(1).map((one) => ({
        name: text(one, 0x05) ?? 'a machine without a name',
        // Name, serial number and UUID (7.2): any that differs is another machine.
        all: JSON.stringify([
          ...[0x04, 0x05, 0x07].map((at) => text(one, at) ?? ''),
          ...Array.from({ length: 16 }, (_, at) => one.data.u8(0x08 + at)),
        ]),
      })),
    },
    arrays: of(16).map(readArray),
    devices: of(17).map((one) => readDevice(one, findings)),
    mapping: readMapping(of(19), of(20)),
  });
  return {
    kind: 'smbios',
    devices: parts.devices,
    board: parts.board,
    findings: [...findings, ...parts.findings],
  };
}

/** Type 16. The maximum is in KiB; 80000000h refers to the extended field, in bytes. */
function readArray({ handle, data }: Structure): MemoryArray {
  const use = data.u8(0x05);
  const kib = data.u32(0x07);
  const maxGib = kib === 0x8000_0000 ? data.u64(0x0f) / 2 ** 30 : kib / 2 ** 20;
  const correction = data.u8(0x06);
  return {
    handle,
    isSystemMemory: use === SYSTEM_MEMORY,
    use: ARRAY_USES[use] ?? `use ${use}`,
    ...(Number.isFinite(maxGib) && maxGib > 0 ? { maxGib } : {}),
    places: data.u16(0x0d),
    // 7.17.3: 3 = none, 5 and 6 = single-bit and multi-bit ECC; others say nothing certain.
    ...(correction === 3 ? { errorCorrection: false } : {}),
    ...(correction === 5 || correction === 6 ? { errorCorrection: true } : {}),
  };
}

function readDevice(one: Structure, findings: InventoryFinding[]): MemoryDevice {
  const { data, handle } = one;
  const text = (at: number) => (data.has(at) ? stringOf(one, at, findings) : undefined);
  const place = { locator: meant(text(0x10)), bankLocator: meant(text(0x11)) };
  const mib = sizeMib(one);
  const array = data.u16(0x04);
  if (mib === 0) return { handle, array, claim: { ...place, state: 'empty', verified: true } };
  const formFactor = FORM_FACTOR_CODES[data.u8(0x0e)];
  const generation = MEMORY_TYPES[data.u8(0x12)];
  const [total, width] = [data.u16(0x08), data.u16(0x0a)];
  const hasWidths = total !== UNKNOWN_WORD && width !== UNKNOWN_WORD && width > 0;
  const makerText = meant(text(0x17));
  const ranks = data.bits(0x1b, 0, 4);
  const voltageMv = data.u16(0x26);
  // One shape for every device: a table is read a thousand times a second.
  const claim: DeviceClaim = {
    locator: place.locator,
    bankLocator: place.bankLocator,
    state: mib === undefined && generation === undefined ? 'unknown' : 'module',
    soldered: formFactor === 'soldered' ? true : undefined,
    capacity: mib === undefined ? undefined : gib(mib / 1024),
    generation,
    formFactor,
    buffering: bufferingOf(data.u16(0x13)),
    ecc: hasWidths ? total > width : undefined,
    ranks: ranks > 0 ? ranks : undefined,
    ratedShown: speedAt(one, 0x15, 0x54),
    configuredShown: speedAt(one, 0x20, 0x58),
    voltageMv: voltageMv >= 500 && voltageMv <= 3000 ? voltageMv : undefined,
    // 7.18.8: the module maker's id is the two SPD bytes, low byte first.
    maker:
      (data.has(0x2c, 0x2d) && makerFromBytes(data.u8(0x2c), data.u8(0x2d))) ||
      (makerText === undefined ? undefined : readMakerCode(makerText)),
    makerName: makerText,
    partNumber: meant(text(0x1a)),
    serial: meant(text(0x18)),
    verified: true,
  };
  return { handle, array, claim };
}

/** 7.18: size in MiB, or KiB with bit 15; 0 = empty, FFFFh = unknown, 7FFFh = see the extended size. */
function sizeMib({ data }: Structure): number | undefined {
  const size = data.u16(0x0c);
  if (size === UNKNOWN_WORD) return undefined;
  if (size === 0x7fff) return data.u32(0x1c) & 0x7fff_ffff || undefined;
  return size & 0x8000 ? (size & 0x7fff) / 1024 : size;
}

/** 7.18.4: MT/s (MHz from older producers); 0 = unknown, FFFFh = see the extended speed. */
function speedAt({ data }: Structure, at: number, extended: number): number | undefined {
  if (!data.has(at, at + 1)) return undefined;
  const speed = data.u16(at);
  if (speed === UNKNOWN_WORD)
    return data.has(extended, extended + 3)
      ? data.u32(extended) & 0x7fff_ffff || undefined
      : undefined;
  return speed || undefined;
}

function readMapping(ranges: readonly Structure[], devices: readonly Structure[]): Mapping {
  const positions = new Map<number, number[]>();
  for (const { data } of devices) {
    const position = data.u8(0x11);
    if (position === 0xff || !data.has(0x11)) continue;
    const device = data.u16(0x0c);
    positions.set(device, [...(positions.get(device) ?? []), position]);
  }
  return { positions, rowWidths: ranges.map(({ data }) => data.u8(0x0e)) };
}
