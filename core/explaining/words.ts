import type { Machine, SlotId } from '../machine/index.ts';
import type { PartPlace } from '../operating-point/index.ts';
import { decimals } from '../units/index.ts';

/** A verdict or figure in words: what holds, why, and what would change it. */
export interface Explanation {
  readonly title: string;
  readonly why: string;
  /** What to do about it; absent where nothing needs doing. */
  readonly mend?: string | undefined;
  /** The rule or standard behind it. */
  readonly source?: string | undefined;
}

/** Names a place as the board prints it; soldered memory has no slot. */
export type NameOf = (slotId: SlotId | undefined) => string;

/** Names from a machine's own slots; an id it does not have is quoted. */
export function slotNames({ slots }: Pick<Machine, 'slots'>): NameOf {
  return (slotId) =>
    slotId === undefined
      ? 'the soldered memory'
      : (slots.find(({ id }) => id === slotId)?.printedName ?? `“${slotId}”`);
}

/** `A, B and C`; `or` where a choice is meant. */
export function list(items: readonly string[], word: 'and' | 'or' = 'and'): string {
  if (items.length < 2) return items.join('');
  return `${items.slice(0, -1).join(', ')} ${word} ${items.at(-1)}`;
}

/** The plural of a noun of the trade: `modules`, `entries`, `batches`. */
export function plural(noun: string): string {
  if (/[^aeiou]y$/.test(noun)) return `${noun.slice(0, -1)}ies`;
  return /(?:s|x|ch|sh)$/.test(noun) ? `${noun}es` : `${noun}s`;
}

/** `1 module`, `3 modules`. */
export function count(n: number, noun: string): string {
  return `${n} ${n === 1 ? noun : plural(noun)}`;
}

const CHANNEL_WORDS = ['single', 'dual', 'triple', 'quad'];

/** What the trade calls so many channels at once: `dual-channel`. */
export const channelsWord = (channels: number): string =>
  `${CHANNEL_WORDS[channels - 1] ?? String(channels)}-channel`;

/** A figure to so many digits, without trailing zeros: 38.4, 102, 0.25. */
export function figure(value: number, digits = 3): string {
  return decimals(Number(value.toPrecision(digits)));
}

/** Capacity as the trade writes it: `24 GB`, `512 MB`. */
export function gb(capacity: number): string {
  return capacity > 0 && capacity < 1 ? `${capacity * 1024} MB` : `${figure(capacity, 4)} GB`;
}

/** Rails: `1.35 V or 1.5 V`. */
export function volts(rails: readonly number[]): string {
  return list(
    rails.map((mv) => `${decimals(mv / 1000)} V`),
    'or',
  );
}

/** Places by name, or how many modules where names would fill the line. */
export function places(slotIds: readonly PartPlace[], nameOf: NameOf): string {
  const names = [...new Set(slotIds.map((id) => nameOf(id ?? undefined)))];
  return names.length > 3 ? count(names.length, 'module') : list(names);
}
