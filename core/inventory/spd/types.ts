import type { Buffering, FormFactor, Generation, OverclockProfile } from '../../memory/index.ts';
import type { DataRate, Gibibytes } from '../../units/index.ts';
import type { MakerCode } from '../maker.ts';

/** Times an SPD may state, ps. Names are the standards'. */
export type SpdTimeName =
  | 'tCK'
  | 'tAA'
  | 'tRCD'
  | 'tRP'
  | 'tRAS'
  | 'tRC'
  | 'tRFC1'
  | 'tRFC2'
  | 'tRFC4'
  | 'tRFCsb'
  | 'tFAW'
  | 'tRRD_S'
  | 'tRRD_L'
  | 'tCCD_L'
  | 'tWR'
  | 'tWTR_S'
  | 'tWTR_L'
  | 'tRTP';

/** Times by name, whole ps. */
export type SpdTimes = { readonly [Name in SpdTimeName]?: number | undefined };

/** One checksummed block of an image. */
export interface SpdChecksum {
  /** What the block holds, with its bytes: `base (0–125)`. */
  readonly block: string;
  /** `unwritten`: left at 0 and not matching, which is not the same as wrong. */
  readonly state: 'good' | 'wrong' | 'unwritten' | 'missing';
  readonly stored: number;
  readonly computed: number;
}

/** All that one SPD image states. Absent fields were not written or not readable. */
export interface SpdImage {
  /** Where it starts in its file. */
  readonly offset: number;
  readonly length: number;
  readonly generation: Generation;
  /** Encoding revision, `1.1`. */
  readonly revision: string;
  readonly formFactor?: FormFactor | undefined;
  readonly buffering?: Buffering | undefined;
  readonly capacity?: Gibibytes | undefined;
  /** Ranks per channel of 64 bits; per subchannel on DDR5. */
  readonly ranks?: number | undefined;
  /** Odd ranks carry other chips than even ones. */
  readonly asymmetric: boolean;
  readonly chipWidth?: number | undefined;
  /** Data bits, without ECC; over all subchannels. */
  readonly busWidth?: number | undefined;
  /** ECC bits, over all subchannels. */
  readonly eccWidth: number;
  readonly channels?: number | undefined;
  readonly times: SpdTimes;
  readonly rate?: DataRate | undefined;
  readonly supportedCls: readonly number[];
  readonly voltagesMv: readonly number[];
  readonly maker?: MakerCode | undefined;
  readonly dramMaker?: MakerCode | undefined;
  readonly partNumber?: string | undefined;
  readonly partRevision?: string | undefined;
  readonly serial?: string | undefined;
  readonly made?: { readonly year: number; readonly week: number } | undefined;
  /** Overclock profiles 1, 2 … that are switched on in the image. */
  readonly profiles: readonly OverclockProfile[];
  readonly checksums: readonly SpdChecksum[];
  /** No checksum is wrong or missing. */
  readonly verified: boolean;
}
