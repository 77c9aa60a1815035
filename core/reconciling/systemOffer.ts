import type { SystemFacts, Told } from '../inventory/index.ts';
import type { GibRange, Machine } from '../machine/index.ts';
import { gib } from '../units/index.ts';

/** A trait of a machine that its running system shows otherwise than the library has it. */
export type SystemOffer =
  | {
      readonly type: 'os-limit';
      readonly range: GibRange;
      /** GiB the system may use. */
      readonly visible: number;
      readonly from: string;
    }
  | {
      readonly type: 'carve-out';
      readonly range: GibRange;
      readonly visible: number;
      /** GiB fitted and soldered. */
      readonly installed: number;
      readonly from: string;
    };

/** Firmware and tables of the system keep up to this much for themselves, GiB. */
const OWN_SHARE = 0.3;
/** No built-in graphics takes more, GiB; what is missing beyond is a module that is not seen. */
const MOST_CARVED = 8;
/** A 32-bit system has addresses for this much, GiB. */
const ADDRESSES_32 = 4;
/** Steps firmware sets aside memory in, GiB. */
const STEP = 1 / 8;

const within = ({ low, high }: GibRange, range: GibRange) => low <= range.low && range.high <= high;

/**
 * What the figures of a running system say of its machine: a limit of a 32-bit system, or memory that
 * built-in graphics holds back. Nothing where the library has it so, or where the missing part is too
 * large to be either (a module the system does not see is a fault, not a trait).
 *
 * @param installed - GiB fitted and soldered; undefined where it is not known
 */
export function systemOffer(
  { osLimit, graphicsCarveOut }: Pick<Machine, 'osLimit' | 'graphicsCarveOut'>,
  { visible, bits, graphics }: SystemFacts,
  installed: number | undefined,
): SystemOffer | undefined {
  if (!visible || installed === undefined) return undefined;
  const missing = installed - visible.value;
  if (bits?.value === 32 && visible.value < ADDRESSES_32 && missing > OWN_SHARE) {
    const low = down(visible.value);
    const range = rangeOf(low, Math.min(ADDRESSES_32, low + 0.5));
    return osLimit !== 'none' && within(osLimit, range)
      ? undefined
      : { type: 'os-limit', range, ...source(visible) };
  }
  if (missing <= OWN_SHARE || missing > MOST_CARVED) return undefined;
  const range = graphics
    ? rangeOf(down(graphics.value), up(graphics.value))
    : rangeOf(Math.max(0, down(missing - OWN_SHARE)), up(missing));
  // What graphics says it has and the system does not miss is memory of its own.
  if (range.low > missing || within(graphicsCarveOut, range)) return undefined;
  // Nor is there anything to learn where what the library says accounts for it.
  const { low, high } = graphicsCarveOut;
  if (!graphics && low <= missing && high >= missing - OWN_SHARE && high > 0) return undefined;
  return { type: 'carve-out', range, installed, ...source(visible) };
}

const source = ({ value, from }: Told<number>) => ({ visible: value, from });
const down = (value: number) => Math.floor(value / STEP) * STEP;
const up = (value: number) => Math.ceil(value / STEP) * STEP;
const rangeOf = (low: number, high: number): GibRange => ({ low: gib(low), high: gib(high) });
