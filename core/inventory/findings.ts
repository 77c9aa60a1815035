/** Where in a file something was found: an image, a handle, an item of a list, a line. */
export interface FindingPlace {
  readonly part: 'file' | 'image' | 'structure' | 'item' | 'line' | 'block';
  /** Counted from 1; a structure's handle. */
  readonly number?: number | undefined;
  /** A field or byte range within it, as the standard names it. */
  readonly field?: string | undefined;
}

/**
 * What a reader has to say about a file. `error`: nothing could be taken from the place; `caution`:
 * taken, but not to be trusted blindly; `note`: worth knowing.
 */
export type InventoryFinding = { readonly place: FindingPlace } & (
  | { readonly type: 'empty-file'; readonly severity: 'error' }
  | {
      readonly type: 'too-large';
      readonly severity: 'error';
      readonly bytes: number;
      readonly limit: number;
    }
  | { readonly type: 'not-recognised'; readonly severity: 'error' }
  | { readonly type: 'blank-image'; readonly severity: 'error'; readonly filling: number }
  | { readonly type: 'unknown-memory-type'; readonly severity: 'error'; readonly code: number }
  | {
      readonly type: 'truncated';
      readonly severity: 'caution';
      readonly bytes: number;
      readonly wanted: number;
    }
  | {
      readonly type: 'checksum-wrong';
      readonly severity: 'caution';
      readonly block: string;
      readonly stored: number;
      readonly computed: number;
    }
  | { readonly type: 'checksum-unwritten'; readonly severity: 'note'; readonly block: string }
  | {
      readonly type: 'capacities-disagree';
      readonly severity: 'caution';
      readonly computed: number;
      readonly stated: number;
      readonly used: 'computed' | 'stated';
    }
  | { readonly type: 'impossible-module'; readonly severity: 'error'; readonly missing: string }
  | { readonly type: 'profile-damaged'; readonly severity: 'caution'; readonly profile: number }
  | {
      readonly type: 'table-cut';
      readonly severity: 'caution';
      readonly wanted: number;
      readonly there: number;
    }
  | { readonly type: 'structure-damaged'; readonly severity: 'caution'; readonly length: number }
  | {
      readonly type: 'string-missing';
      readonly severity: 'caution';
      readonly index: number;
      readonly count: number;
    }
  | { readonly type: 'handle-twice'; readonly severity: 'caution' }
  | { readonly type: 'no-memory-devices'; readonly severity: 'error' }
  | {
      readonly type: 'several-machines';
      readonly severity: 'error';
      readonly names: readonly string[];
    }
  | { readonly type: 'array-ignored'; readonly severity: 'note'; readonly use: string }
  | {
      readonly type: 'maximum-too-low';
      readonly severity: 'note';
      readonly maximum: number;
      readonly fitted: number;
    }
  | { readonly type: 'unit-unreadable'; readonly severity: 'caution'; readonly text: string }
  | { readonly type: 'not-json'; readonly severity: 'error'; readonly near: string }
  | { readonly type: 'wrong-shape'; readonly severity: 'error'; readonly wanted: string }
  | {
      readonly type: 'wrong-value';
      readonly severity: 'caution';
      readonly text: string;
      readonly wanted: string;
    }
  | { readonly type: 'line-not-understood'; readonly severity: 'caution'; readonly text: string }
  /** A collected file that ends before its last bracket. */
  | { readonly type: 'collected-cut'; readonly severity: 'error' }
  | {
      readonly type: 'newer-version';
      readonly severity: 'error';
      readonly version: number;
      readonly newest: number;
    }
  | { readonly type: 'part-edited'; readonly severity: 'error'; readonly what: string }
  | { readonly type: 'lines-wrapped'; readonly severity: 'note' }
  | { readonly type: 'too-many-items'; readonly severity: 'caution'; readonly limit: number }
);
