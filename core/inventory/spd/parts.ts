import type { SpdImage } from './types.ts';

/** What a generation's reader finds, before its place in the file is added. */
export type SpdParts = Omit<SpdImage, 'offset' | 'length' | 'verified'> & {
  /** Bytes the fields read here need. */
  readonly wanted: number;
  /** Size by rows, columns and banks beside the stated one, GiB, where they differ. */
  readonly sizes?:
    | {
        readonly computed: number;
        readonly stated: number;
        readonly used: 'computed' | 'stated';
      }
    | undefined;
  /** Overclock profiles whose own checksum fails. */
  readonly damagedProfiles?: readonly number[] | undefined;
};
