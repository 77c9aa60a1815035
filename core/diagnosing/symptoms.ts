/** How a fault shows itself; what the technician or the customer reports first. */
export const SYMPTOMS = [
  'does not start',
  'starts over and over',
  'less memory than fitted',
  'much is reserved',
  'one channel wide',
  'another rate',
  'errors in a test',
  'crashes at times',
] as const;
/** See {@link SYMPTOMS}. */
export type Symptom = (typeof SYMPTOMS)[number];

/** Kinds of trouble that are looked into alike. */
export type Trouble = 'stopped' | 'less' | 'slow' | 'unstable';

/** What kind of trouble each symptom is. */
export const TROUBLES: Readonly<Record<Symptom, Trouble>> = {
  'does not start': 'stopped',
  'starts over and over': 'stopped',
  'less memory than fitted': 'less',
  'much is reserved': 'less',
  'one channel wide': 'slow',
  'another rate': 'slow',
  'errors in a test': 'unstable',
  'crashes at times': 'unstable',
};
