import { slotMaximum } from '../machine/index.ts';
import type { Machine, Placement, Slot } from '../machine/index.ts';
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
  for (const slot of machine.slots) {
    const module = placement[slot.id];
    if (module) moduleBlockers(machine, module, slot, blockers);
  }
  setBlockers(machine, fitted, blockers);
  loadBlockers(machine, fitted, loads, blockers);
  return blockers;
}

function moduleBlockers(machine: Machine, module: MemoryModule, slot: Slot, out: Blocker[]): void {
  const slotId = slot.id;
  const { generation, formFactor, buffering, capacity, ranks, ecc, voltagesMv } = module;
  if (!machine.generations.includes(generation))
    out.push({ type: 'wrong-generation', slotId, generation, accepted: machine.generations });
  if (formFactor !== machine.formFactor)
    out.push({ type: 'wrong-form-factor', slotId, formFactor, accepted: machine.formFactor });
  if (!machine.bufferings.includes(buffering))
    out.push({ type: 'wrong-buffering', slotId, buffering, accepted: machine.bufferings });
  const rails = { slotId, rails: voltagesMv, machineRails: machine.voltagesMv };
  if (!isFed(machine, module)) out.push({ type: 'voltage', ...rails });
  if (machine.ecc === 'required' && !ecc) out.push({ type: 'ecc-required', slotId });
  if (machine.ecc === 'refused' && ecc) out.push({ type: 'ecc-refused', slotId });
  const most = slotMaximum(machine, slot);
  if (most !== 'unknown' && capacity > most)
    out.push({ type: 'slot-capacity', slotId, capacity, limit: most });
  if (machine.nonBinary === 'no' && isNonBinary(capacity))
    out.push({ type: 'non-binary', slotId, capacity });
  const limit = machine.maxRanksPerModule;
  if (limit !== 'unknown' && ranks !== 'unknown' && ranks > limit)
    out.push({ type: 'ranks-per-module', slotId, ranks, limit });
}

function setBlockers(machine: Machine, fitted: readonly Fitted[], out: Blocker[]): void {
  const first = fitted[0]?.module;
  if (!first) return;
  if (fitted.some(({ module }) => module.generation !== first.generation))
    out.push({
      type: 'mixed-generations',
      generations: [...new Set(fitted.map(({ module }) => module.generation))],
    });
  if (fitted.some(({ module }) => module.buffering !== first.buffering))
    out.push({
      type: 'mixed-buffering',
      bufferings: [...new Set(fitted.map(({ module }) => module.buffering))],
    });
  // A module that no rail suits was named by itself; the question here is about the others.
  const fed = fitted.filter(({ slotId, module }) => slotId === undefined || isFed(machine, module));
  if (fed.length > 0 && sharedRails(machine, fed).length === 0)
    out.push({ type: 'no-shared-voltage', machineRails: machine.voltagesMv });
}

const isFed = (machine: Machine, { voltagesMv }: MemoryModule): boolean =>
  voltagesMv.some((mv) => machine.voltagesMv.includes(mv));

/**
 * Rails every part and the machine share, mV; soldered parts count. A machine with nothing in its
 * slots runs as it was built, whatever its description says of rails.
 */
export function sharedRails(machine: Machine, fitted: readonly Fitted[]): number[] {
  if (fitted.every(({ slotId }) => slotId === undefined))
    return [...(fitted[0]?.module.voltagesMv ?? [])];
  return machine.voltagesMv.filter((mv) =>
    fitted.every(({ module }) => module.voltagesMv.includes(mv)),
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
