import type { Machine, Placement, Setting, SlotId } from '../machine/index.ts';
import { generationTraits } from '../memory/index.ts';
import { compareRates, exactRate, gib, isNonBinary } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import { pairedCapacity } from './regions.ts';
import { profilesUsable } from './rungs.ts';
import type {
  ChannelLoad,
  Fitted,
  Flag,
  Layout,
  PartPlace,
  Rung,
  RunningTimings,
} from './types.ts';
import { widerPlacement } from './widerPlacement.ts';

/** What flags are drawn from. */
export interface FlagInput {
  readonly machine: Machine;
  readonly placement: Placement;
  readonly fitted: readonly Fitted[];
  readonly loads: readonly ChannelLoad[];
  readonly setting: Setting;
  readonly profiled: boolean;
  readonly rate: DataRate;
  readonly rungs: readonly Rung[];
  readonly layouts: readonly [Layout, ...Layout[]];
  readonly timings: RunningTimings;
  /** See `TimingFinding`. */
  readonly raisedFrom: number | undefined;
}

/** Cautions and notes on a placement that runs, channel matters first, the rate table's last. */
export function raiseFlags(input: FlagInput, tableFlags: readonly Flag[]): Flag[] {
  const flags: Flag[] = [];
  channelFlags(input, flags);
  profileFlags(input, flags);
  const { raisedFrom, timings } = input;
  if (raisedFrom !== undefined)
    flags.push({
      type: 'cl-raised',
      severity: 'caution',
      needed: raisedFrom,
      runs: timings.cycles.cl,
    });
  moduleFlags(input, flags);
  traitFlags(input, flags);
  flags.push(...tableFlags);
  return flags;
}

function channelFlags(
  { machine, placement, fitted, loads, layouts, setting }: FlagInput,
  out: Flag[],
): void {
  const populated = loads.filter(({ capacity }) => capacity > 0);
  const [only] = populated;
  if (only && populated.length === 1 && machine.channels.length > 1) {
    const moves = widerPlacement(machine, placement, fitted, setting);
    if (moves) out.push({ type: 'one-channel-needless', severity: 'caution', moves });
    else out.push({ type: 'one-channel', severity: 'note', channel: only.channel });
  }
  const zone = layouts.find(({ reading }) => reading === 'zone');
  const uneven = populated.some(({ capacity }) => capacity !== only?.capacity);
  if (uneven) {
    const installed = populated.reduce((sum, { capacity }) => sum + capacity, 0);
    const paired = zone ? pairedCapacity(zone, populated.length) : gib(0);
    out.push({
      type: 'uneven-channels',
      severity: machine.unevenChannels === 'zone' ? 'note' : 'caution',
      trait: machine.unevenChannels,
      paired,
      tail: gib(installed - paired),
    });
  }
}

const placesOf = (parts: readonly Fitted[]): PartPlace[] =>
  parts.map(({ slotId }) => slotId ?? null);

function profileFlags(
  { machine, fitted, setting, profiled, rate, rungs }: FlagInput,
  out: Flag[],
): void {
  const { support } = machine.profiles;
  if (setting === 'standard' && support !== 'no' && profilesUsable(machine, fitted)) {
    const best = fitted.reduce<number>(
      (low, { module }) => Math.min(low, module.profile?.rate ?? 0),
      Infinity,
    );
    if (best > exactRate(rate))
      out.push({ type: 'profile-available', severity: 'caution', rate: best as DataRate, support });
  }
  if (setting === 'profile' && !profiled) {
    const without = placesOf(fitted.filter(({ module }) => !module.profile));
    if (support === 'no') out.push({ type: 'profiles-unsupported', severity: 'caution' });
    else out.push({ type: 'profile-missing', severity: 'caution', slotIds: without });
  }
  if (profiled && support === 'unknown')
    out.push({ type: 'trait-unknown', severity: 'caution', trait: 'profiles' });
  for (const { rule, role, limit } of rungs)
    if (
      role === 'warning' &&
      typeof limit === 'number' &&
      (rule === 'rate-table' || rule === 'controller')
    )
      out.push({ type: 'beyond-stated-limit', severity: 'caution', rule, limit, rate });
}

function moduleFlags({ machine, fitted, profiled, rate }: FlagInput, out: Flag[]): void {
  const slotsOf = (test: (part: Fitted) => boolean) => placesOf(fitted.filter(test));
  const inSlots = (test: (part: Fitted) => boolean) => slotsOf(test).filter((id) => id !== null);
  const unused = new Map<DataRate, SlotId[]>();
  for (const { module, slotId } of fitted) {
    const rated = (profiled ? module.profile?.rate : undefined) ?? module.rate;
    if (slotId === undefined || compareRates(rated, rate) <= 0) continue;
    unused.set(rated, [...(unused.get(rated) ?? []), slotId]);
  }
  for (const [rated, slotIds] of unused)
    out.push({ type: 'rate-unused', severity: 'note', slotIds, rated, runs: rate });
  const withEcc = inSlots(({ module }) => module.ecc);
  const mixedEcc = withEcc.length > 0 && fitted.some(({ module }) => !module.ecc);
  if (mixedEcc || (withEcc.length > 0 && machine.ecc === 'ignored'))
    out.push({ type: 'ecc-off', severity: mixedEcc ? 'caution' : 'note' });
  if (withEcc.length > 0 && machine.ecc === 'unknown')
    out.push({ type: 'ecc-unknown', severity: 'caution', slotIds: withEcc });
  const odd = inSlots(({ module }) => isNonBinary(module.capacity));
  if (odd.length > 0 && machine.nonBinary === 'unknown')
    out.push({ type: 'non-binary-unknown', severity: 'caution', slotIds: odd });
  if (machine.rateTable.length > 0) {
    const unranked = slotsOf(({ module }) => module.ranks === 'unknown');
    if (unranked.length > 0)
      out.push({ type: 'ranks-unknown', severity: 'caution', slotIds: unranked });
  }
  const guessed = slotsOf(({ module }) =>
    (module.assumed ?? []).some((field) => field !== 'form factor'),
  );
  if (guessed.length > 0) out.push({ type: 'assumed', severity: 'note', slotIds: guessed });
  const wide = slotsOf(
    ({ module }) => module.chipWidth === 16 && generationTraits(module.generation).halvedBankGroups,
  );
  if (wide.length > 0) out.push({ type: 'wide-chips', severity: 'note', slotIds: wide });
}

function traitFlags({ machine, fitted, rate }: FlagInput, out: Flag[]): void {
  const { limit, fabricClock } = machine.sync;
  if (typeof limit === 'number' && compareRates(rate, limit) > 0)
    out.push({ type: 'clock-halved', severity: 'caution', limit, fabric: fabricClock });
  const installed = gib(fitted.reduce((sum, { module }) => sum + module.capacity, 0));
  if (machine.osLimit !== 'none' && installed > machine.osLimit.low)
    out.push({ type: 'os-limit', severity: 'caution', installed, limit: machine.osLimit });
  const filled: SlotId[] = [];
  for (const { slotId } of fitted) if (slotId !== undefined) filled.push(slotId);
  const expected =
    machine.fillOrder === 'unknown' ? undefined : machine.fillOrder[filled.length - 1];
  if (expected && filled.some((slotId) => !expected.includes(slotId)))
    out.push({ type: 'fill-order', severity: 'caution', expected });
  // Spelt out: this runs for every placement a search tries, and dynamic access is slow.
  const unknown = (trait: UnknownTrait, severity: Flag['severity']) =>
    out.push({ type: 'trait-unknown', severity, trait });
  if (machine.controllerLimit === 'unknown') unknown('controllerLimit', 'caution');
  if (machine.firmwareCap === 'unknown') unknown('firmwareCap', 'caution');
  if (filled.length === 0) return;
  if (machine.maxPerSlot === 'unknown') unknown('maxPerSlot', 'note');
  if (machine.maxTotal === 'unknown') unknown('maxTotal', 'note');
  if (machine.requiredFirstSlot === 'unknown' && filled.length < machine.slots.length)
    unknown('requiredFirstSlot', 'note');
}

type UnknownTrait = Extract<Flag, { type: 'trait-unknown' }>['trait'];
