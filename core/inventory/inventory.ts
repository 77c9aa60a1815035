import type { Buffering, FormFactor, Generation, MemoryModule } from '../memory/index.ts';
import type { Gibibytes } from '../units/index.ts';
import type { Collected } from './collected/readCollected.ts';
import type { InventoryFinding } from './findings.ts';
import type { MakerCode } from './maker.ts';
import type { SpdImage } from './spd/types.ts';

/** Kinds of file a machine's memory is described by. */
export const INVENTORY_KINDS = [
  'spd',
  'smbios',
  'smbios-listing',
  'cim',
  'hardware-report',
  'collected',
  'unknown',
] as const;
/** See {@link INVENTORY_KINDS}. */
export type InventoryKind = (typeof INVENTORY_KINDS)[number];

/** What one source says of one place for memory. Fields it does not state are absent. */
export interface DeviceClaim {
  /** The place as the source names it; an SPD image names none. */
  readonly locator?: string | undefined;
  readonly bankLocator?: string | undefined;
  readonly state: 'module' | 'empty' | 'unknown';
  /** The source calls it chips on the board, not a module. */
  readonly soldered?: boolean | undefined;
  readonly capacity?: Gibibytes | undefined;
  readonly generation?: Generation | undefined;
  readonly formFactor?: FormFactor | undefined;
  readonly buffering?: Buffering | undefined;
  readonly ecc?: boolean | undefined;
  readonly ranks?: number | undefined;
  readonly chipWidth?: number | undefined;
  /** Rated figure as the source prints it, MT/s or, from older producers, MHz. */
  readonly ratedShown?: number | undefined;
  /** Figure it is set to now, MT/s or MHz. */
  readonly configuredShown?: number | undefined;
  readonly voltageMv?: number | undefined;
  readonly maker?: MakerCode | undefined;
  /** The maker as printed, where it is no code. */
  readonly makerName?: string | undefined;
  readonly partNumber?: string | undefined;
  readonly serial?: string | undefined;
  /** 0 = not interleaved, 1 … = place in the interleave; absent = not stated. */
  readonly interleavePosition?: number | undefined;
  /** Everything, where the source suffices for it (SPD, labels). */
  readonly module?: MemoryModule | undefined;
  /** Checksums hold, or the source has none to break. */
  readonly verified: boolean;
  /** The array it hangs on, where there are several. */
  readonly array?: number | undefined;
}

/** What an inventory says of the board as a whole. */
export interface BoardFacts {
  readonly systemMaker?: string | undefined;
  readonly systemName?: string | undefined;
  /** Some makers put a code for the name, and the name here. */
  readonly systemVersion?: string | undefined;
  readonly boardName?: string | undefined;
  /** Populated processor sockets. */
  readonly processors?: number | undefined;
  /** Sum over the system-memory arrays; a claim that can be below what is fitted. */
  readonly maxTotal?: Gibibytes | undefined;
  /** Places the arrays claim. */
  readonly places?: number | undefined;
  readonly errorCorrection?: boolean | undefined;
  /** Whether the firmware interleaves addresses over modules. */
  readonly interleaves: 'yes' | 'no' | 'unknown';
}

/** All that was read from one file. */
export interface InventoryReading {
  readonly kind: InventoryKind;
  readonly devices: readonly DeviceClaim[];
  readonly board?: BoardFacts | undefined;
  /** The images of an SPD file, in order. */
  readonly images?: readonly SpdImage[] | undefined;
  /** The parts and figures of a collected file; each part is read as a file of its own. */
  readonly collected?: Collected | undefined;
  readonly findings: readonly InventoryFinding[];
}
