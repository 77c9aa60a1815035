import type { ChannelId, Machine, Placement, SlotId } from '../machine/index.ts';
import { fittedParts, operatingPoint } from '../operating-point/index.ts';

/** How a controller spreads addresses over channels, where anyone knows. */
export interface Interleave {
  /** Bytes on one channel before the next one's turn. */
  readonly granule: number;
  readonly order: readonly ChannelId[];
}

/** One failing address of a memory test. */
export interface MemoryError {
  /** Bytes. */
  readonly address: number;
  /** Data bits that differed, 0 to 63; empty where not told. */
  readonly bits: readonly number[];
}

/** What errors say about where the fault sits. */
export interface Narrowing {
  /** Errors that may come from each slot; one error may count for several. */
  readonly slots: readonly { readonly slotId: SlotId; readonly errors: number }[];
  /** Errors above all memory that is fitted. */
  readonly beyond: number;
  readonly verdict:
    | { readonly type: 'one module'; readonly slotId: SlotId }
    | { readonly type: 'one of'; readonly slotIds: readonly SlotId[] }
    | { readonly type: 'all over' }
    | { readonly type: 'map unknown' }
    | { readonly type: 'no errors' };
  /** The one data bit behind nearly all of them. */
  readonly bit: number | undefined;
}

/** A module is suspected from this share of the errors on. */
const NEARLY_ALL = 0.9;
const GIB = 2 ** 30;

/**
 * Narrows the suspect module from failing addresses: where the interleave is known, or where an
 * address lies in memory that only one channel reaches. Holes below 4 GB and channel hashing shift
 * addresses on some machines, so the answer is a suspicion to be checked, never a proof.
 */
export function narrowErrors(
  machine: Machine,
  placement: Placement,
  errors: readonly MemoryError[],
  interleave: Interleave | undefined,
): Narrowing {
  const point = operatingPoint(machine, placement, 'standard');
  const parts = fittedParts(machine, placement);
  const [layout, other] = point.type === 'runs' ? point.layouts : [];
  const slotsOn = (channels: readonly ChannelId[]) =>
    parts.flatMap(({ slotId, channels: own }) =>
      slotId !== undefined && own.some((one) => channels.includes(one)) ? [slotId] : [],
    );
  const all = parts.flatMap(({ slotId }) => slotId ?? []);
  const suspects = ({ address }: MemoryError): readonly SlotId[] => {
    if (all.length === 1 && parts.length === 1) return all;
    // Two readings of the layout give two maps, and one channel wide nobody knows who comes first.
    if (!layout || other || layout.reading === 'single') return all;
    let start = 0;
    for (const { channels, capacity } of layout.regions) {
      const end = start + capacity * GIB;
      if (address < end) {
        if (channels.length === 1 || !interleave) return slotsOn(channels);
        const order = interleave.order.filter((one) => channels.includes(one));
        const turn = Math.floor((address - start) / interleave.granule) % order.length;
        return slotsOn(order.slice(turn, turn + 1));
      }
      start = end;
    }
    return [];
  };
  const sets = errors.map(suspects);
  const placed = sets.filter((set) => set.length > 0);
  const slots = all.map((slotId) => ({
    slotId,
    errors: placed.filter((set) => set.includes(slotId)).length,
  }));
  const named = slots.filter((one) => one.errors >= NEARLY_ALL * placed.length);
  return {
    ...{ slots, beyond: sets.length - placed.length, bit: commonBit(errors) },
    verdict:
      errors.length === 0
        ? { type: 'no errors' }
        : placed.length === 0 || (named.length === all.length && all.length > 1)
          ? { type: 'map unknown' }
          : named.length === 1 && named[0]
            ? { type: 'one module', slotId: named[0].slotId }
            : named.length > 1
              ? { type: 'one of', slotIds: named.map(({ slotId }) => slotId) }
              : { type: 'all over' },
  };
}

function commonBit(errors: readonly MemoryError[]): number | undefined {
  const told = errors.filter(({ bits }) => bits.length > 0);
  const counts = new Map<number, number>();
  for (const { bits } of told) for (const bit of bits) counts.set(bit, (counts.get(bit) ?? 0) + 1);
  const [top] = [...counts].sort((a, b) => b[1] - a[1]);
  return top && told.length > 1 && top[1] >= NEARLY_ALL * told.length ? top[0] : undefined;
}

/** What is wrong with a table of errors, by row counted from 1 (the header is row 1). */
export type ErrorTableFault =
  | { readonly type: 'no address column'; readonly row: 1 }
  | { readonly type: 'no address'; readonly row: number; readonly text: string };

const COLUMNS = {
  address: /addr/i,
  expected: /expect|good|writ/i,
  actual: /actual|read|bad|found/i,
  mask: /bit|mask|xor|diff/i,
};

/**
 * Reads failing addresses from rows of text with a header: an address column (hex with or without
 * 0x, or decimal where every value is), and, where there are any, expected and actual values or the
 * differing bits as a mask. Rows at fault are named, the others are read.
 */
export function errorsFromRows(rows: readonly (readonly string[])[]): {
  errors: MemoryError[];
  faults: ErrorTableFault[];
} {
  const [header = [], ...body] = rows;
  const at = (pattern: RegExp) => header.findIndex((name) => pattern.test(name));
  const address = at(COLUMNS.address);
  if (address < 0) return { errors: [], faults: [{ type: 'no address column', row: 1 }] };
  const columns = {
    expected: at(COLUMNS.expected),
    actual: at(COLUMNS.actual),
    mask: at(COLUMNS.mask),
  };
  const isHex = body.some((cells) => /x|[a-f]/i.test(cells[address] ?? ''));
  const faults: ErrorTableFault[] = [];
  const errors = body.flatMap((cells, row): MemoryError[] => {
    const text = (cells[address] ?? '').trim().replaceAll(/[\s_]/g, '');
    const value = valueOf(text, isHex);
    if (value === undefined || value > BigInt(Number.MAX_SAFE_INTEGER)) {
      faults.push({ type: 'no address', row: row + 2, text });
      return [];
    }
    const cell = (one: number) => (one < 0 ? undefined : valueOf((cells[one] ?? '').trim(), true));
    const [good, bad, mask] = [cell(columns.expected), cell(columns.actual), cell(columns.mask)];
    const differing = good !== undefined && bad !== undefined ? good ^ bad : (mask ?? 0n);
    return [{ address: Number(value), bits: bitsOf(differing) }];
  });
  return { errors, faults };
}

function valueOf(text: string, isHex: boolean): bigint | undefined {
  const digits = text.replace(/^0x/i, '').replace(/h$/i, '');
  if (!(isHex ? /^[\da-f]{1,16}$/i : /^\d{1,20}$/).test(digits)) return undefined;
  return BigInt(isHex ? `0x${digits}` : digits);
}

function bitsOf(mask: bigint): number[] {
  return Array.from({ length: 64 }, (_, bit) => bit).filter((bit) => (mask >> BigInt(bit)) & 1n);
}
