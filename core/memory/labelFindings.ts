import type { AssumedField } from './module.ts';

/** What the reader has to say about a label. An `error` leaves no module; the others do not. */
export type LabelFinding =
  | { readonly type: 'nothing-typed'; readonly severity: 'error' }
  | {
      readonly type: 'too-long';
      readonly severity: 'error';
      readonly length: number;
      readonly limit: number;
    }
  | {
      readonly type: 'missing';
      readonly severity: 'error';
      readonly field: 'capacity' | 'generation';
    }
  | {
      readonly type: 'impossible-capacity';
      readonly severity: 'error';
      readonly capacity: number;
      readonly nearest: readonly number[];
    }
  | { readonly type: 'impossible-rate'; readonly severity: 'error'; readonly rate: number }
  | {
      readonly type: 'conflict';
      readonly severity: 'error';
      readonly field: string;
      readonly first: string;
      readonly second: string;
    }
  | {
      readonly type: 'assumed';
      readonly severity: 'note';
      readonly field: AssumedField;
      readonly value: string;
    }
  | { readonly type: 'profile-without-cl'; readonly severity: 'caution'; readonly rate: number }
  | { readonly type: 'not-understood'; readonly severity: 'caution'; readonly text: string };
