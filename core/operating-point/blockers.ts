import type { Machine, Placement, SlotId } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { isNonBinary, sumGib } from '../units/index.ts';
import type { Blocker, ChannelLoad, Fitted } from './types.ts';

/**
 * Everything that keeps a placement from running, before any rate is looked for. All that hold
 * are reported: mending one of three leaves two.
 */
export function findBlockers(
  machine: Machine,
  placement: Placement,
  fitted: readonly Fitted[],
  loads: readonly ChannelLoad[],
): Blocker[] {
  const blockers: Blocker[] = [];
  for (const slotId of Object.keys(placement))
    if (placement[slotId] && !machine.slots.some(({ id }) => id === slotId))
      blockers.push({ type: 'no-such-slot', slotId });
  if (fitted.length === 0) blockers.push({ type: 'nothing-fitted' });
  for (const { module, slotId } of fitted)
    if (slotId !== undefined) moduleBlockers(machine, module, slotId, blockers);
  setBlockers(machine, fitted, blockers);
  loadBlockers(machine, fitted, loads, blockers);
  return blockers;
}

function moduleBlockers(
  machine: Machine,
  module: MemoryModule,
  slotId: SlotId,
  out: Blocker[],
): void {
  const { generation, formFactor, buffering, capacity, ranks, ecc, voltagesMv } = module;
  if (!machine.generations.includes(generation))
    out.push({ type: 'wrong-generation', slotId, generation, accepted: machine.generations });
  if (formFactor !== machine.formFactor)
    out.push({ type: 'wrong-form-factor', slotId, formFactor, accepted: machine.formFactor });
  if (!machine.bufferings.includes(buffering))
    out.push({ type: 'wrong-buffering', slotId, buffering, accepted: machine.bufferings });
  const rails = { slotId, rails: voltagesMv, machineRails: machine.voltagesMv };
  // A rail of another generation is that generation's fault, already named.
  if (
    machine.generations.includes(generation) &&
    !voltagesMv.some((mv) => machine.voltagesMv.includes(mv))
  )
    out.push({ type: 'voltage', ...rails });
  if (machine.ecc === 'required' && !ecc) out.push({ type: 'ecc-required', slotId });
  if (machine.ecc === 'refused' && ecc) out.push({ type: 'ecc-refused', slotId });
  if (machine.maxPerSlot !== 'unknown' && capacity > machine.maxPerSlot)
    out.push({ type: 'slot-capacity', slotId, capacity, limit: machine.maxPerSlot });
  if (machine.nonBinary === 'no' && isNonBinary(capacity))
    out.push({ type: 'non-binary', slotId, capacity });
  const limit = machine.maxRanksPerModule;
  if (limit !== 'unknown' && ranks !== 'unknown' && ranks > limit)
    out.push({ type: 'ranks-per-module', slotId, ranks, limit });
}

function setBlockers(machine: Machine, fitted: readonly Fitted[], out: Blocker[]): void {
  const first = fitted[0]?.module;
  if (!first) return;
  const mixed = fitted.some(({ module }) => module.generation !== first.generation);
  if (mixed)
    out.push({
      type: 'mixed-generations',
      generations: [...new Set(fitted.map(({ module }) => module.generation))],
    });
  if (fitted.some(({ module }) => module.buffering !== first.buffering))
    out.push({
      type: 'mixed-buffering',
      bufferings: [...new Set(fitted.map(({ module }) => module.buffering))],
    });
  const alreadyNamed = out.some(({ type }) => type === 'voltage');
  if (!mixed && !alreadyNamed && sharedRails(machine, fitted).length === 0)
    out.push({ type: 'no-shared-voltage', machineRails: machine.voltagesMv });
}

/** Rails every part and the machine share, mV. Soldered parts have their own supply. */
export function sharedRails(machine: Machine, fitted: readonly Fitted[]): number[] {
  const socketed = fitted.filter(({ slotId }) => slotId !== undefined);
  if (socketed.length === 0) return [...(fitted[0]?.module.voltagesMv ?? [])];
  return machine.voltagesMv.filter((mv) =>
    socketed.every(
      ({ module }) =>
        module.voltagesMv.includes(mv) || !machine.generations.includes(module.generation),
    ),
  );
}

function loadBlockers(
  machine: Machine,
  fitted: readonly Fitted[],
  loads: readonly ChannelLoad[],
  out: Blocker[],
): void {
  const capacity = sumGib(fitted.map(({ module }) => module.capacity));
  if (machine.maxTotal !== 'unknown' && capacity > machine.maxTotal)
    out.push({ type: 'total-capacity', capacity, limit: machine.maxTotal });
  const limit = machine.maxRanksPerChannel;
  if (limit !== 'unknown')
    for (const { channel, ranks } of loads)
      if (ranks !== 'unknown' && ranks > limit)
        out.push({ type: 'ranks-per-channel', channel, ranks, limit });
  const first = machine.requiredFirstSlot;
  const anySlotFilled = fitted.some(({ slotId }) => slotId !== undefined);
  // Soldered memory alone starts with every slot empty.
  if (
    anySlotFilled &&
    first !== 'none' &&
    first !== 'unknown' &&
    !fitted.some(({ slotId }) => slotId === first)
  )
    out.push({ type: 'first-slot-empty', slotId: first });
}
