import { gib } from '../../units/index.ts';
import type { InventoryFinding } from '../findings.ts';
import type { BoardFacts, DeviceClaim } from '../inventory.ts';

/** An array as either form of the table describes it. */
export interface MemoryArray {
  readonly handle: number;
  readonly isSystemMemory: boolean;
  readonly use: string;
  readonly maxGib?: number | undefined;
  readonly places: number;
  readonly errorCorrection?: boolean | undefined;
}

/** A device with the array it hangs on and, where mapped, its interleave position. */
export interface MemoryDevice {
  readonly handle: number;
  readonly array: number;
  readonly claim: DeviceClaim;
}

/** Address ranges: devices by handle, with their interleave positions; rows of several devices. */
export interface Mapping {
  /** Interleave position by device handle; a device may be mapped more than once. */
  readonly positions: ReadonlyMap<number, readonly number[]>;
  /** Devices in a row, of each array range; more than one means interleaved. */
  readonly rowWidths: readonly number[];
}

/** What a table says of the board's names and processors. */
export interface BoardNames {
  readonly systemMaker?: string | undefined;
  readonly systemName?: string | undefined;
  readonly systemVersion?: string | undefined;
  readonly boardName?: string | undefined;
  readonly processors: number;
  /** What each structure of type 1 says of its system, all fields in one text; the standard has one. */
  readonly systems: readonly { readonly name: string; readonly all: string }[];
}

/** All parts, from the binary table or from its listing alike. */
export interface TableParts {
  readonly names: BoardNames;
  readonly arrays: readonly MemoryArray[];
  readonly devices: readonly MemoryDevice[];
  readonly mapping: Mapping;
}

/**
 * Puts the parts of a table together: devices of system-memory arrays only, the maximum summed over
 * arrays, and whether the firmware interleaves.
 */
export function assembleInventory({ names, arrays, devices, mapping }: TableParts): {
  devices: DeviceClaim[];
  board: BoardFacts;
  findings: InventoryFinding[];
} {
  const findings: InventoryFinding[] = [];
  const ignored = new Set<number>();
  for (const { handle, isSystemMemory, use } of arrays) {
    if (isSystemMemory) continue;
    ignored.add(handle);
    const place = { part: 'structure', number: handle } as const;
    findings.push({ type: 'array-ignored', severity: 'note', place, use });
  }
  const isOfSeveral = new Set(names.systems.map(({ all }) => all)).size > 1;
  if (isOfSeveral)
    findings.push({
      ...{ type: 'several-machines', severity: 'error', place: { part: 'file' } },
      names: names.systems.map(({ name }) => name),
    });
  // Two tables put together would make one machine with the slots of both.
  const own = isOfSeveral ? [] : devices.filter(({ array }) => !ignored.has(array));
  if (!isOfSeveral && own.length === 0)
    findings.push({ type: 'no-memory-devices', severity: 'error', place: { part: 'file' } });
  const systems = arrays.filter(({ isSystemMemory }) => isSystemMemory);
  const maximum = systems.reduce((sum, { maxGib = 0 }) => sum + maxGib, 0);
  const fitted = own.reduce((sum, { claim }) => sum + (claim.capacity ?? 0), 0);
  // Makers state what they sold, and larger modules came later.
  if (maximum > 0 && maximum < fitted)
    findings.push({
      ...{ type: 'maximum-too-low', severity: 'note', place: { part: 'file' } },
      ...{ maximum, fitted },
    });
  const ecc = systems.find(({ errorCorrection }) => errorCorrection !== undefined)?.errorCorrection;
  return {
    devices: own.map(({ handle, array, claim }) => {
      const positions = mapping.positions.get(handle);
      return {
        ...claim,
        ...(positions ? { interleavePosition: Math.max(...positions) } : {}),
        ...(systems.length > 1 ? { array } : {}),
      };
    }),
    board: {
      systemMaker: names.systemMaker,
      systemName: names.systemName,
      systemVersion: names.systemVersion,
      boardName: names.boardName,
      ...(names.processors > 0 ? { processors: names.processors } : {}),
      ...(maximum > 0 && maximum <= 65_536 ? { maxTotal: gib(maximum) } : {}),
      ...(systems.length > 0
        ? { places: systems.reduce((sum, { places }) => sum + places, 0) }
        : {}),
      ...(ecc === undefined ? {} : { errorCorrection: ecc }),
      interleaves: interleaves(mapping),
    },
    findings,
  };
}

/** DSP0134, 7.20 and 7.21: position 0 = not interleaved, FFh = unknown; a row of several = interleaved. */
function interleaves({ positions, rowWidths }: Mapping): BoardFacts['interleaves'] {
  const known = [...positions.values()].flat();
  if (known.some((position) => position > 0)) return 'yes';
  if (rowWidths.some((width) => width > 1)) return 'yes';
  return positions.size > 1 && known.length > 0 ? 'no' : 'unknown';
}
