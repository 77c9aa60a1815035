import type { ModuleRecord } from '#contract/records';
import type { Machine, SlotId } from '#core/machine';
import { bareExercise } from '#core/practice';
import type { Exercise, HiddenFault } from '#core/practice';

/** What was chosen for the bench; the address of the page carries it. */
export interface Sandbox {
  readonly machineId: string;
  /** Catalogue ids by slot. */
  readonly slots: Readonly<Record<SlotId, string>>;
  readonly faults: readonly HiddenFault[];
}

/** Faults that can be hidden in a machine with these slots filled; modules go by their slot. */
export function faultsFor(slotIds: readonly SlotId[]): HiddenFault[] {
  return [
    ...slotIds.flatMap((slotId): HiddenFault[] => [
      { kind: 'not seated', slotId },
      { kind: 'dead slot', slotId },
      { kind: 'dirty contacts', pieceId: slotId },
      { kind: 'bad module', pieceId: slotId, shows: 'errors' },
      { kind: 'bad module', pieceId: slotId, shows: 'no start' },
    ]),
    { kind: 'lead left off' },
    { kind: 'stale settings' },
    { kind: 'profile unstable' },
    { kind: 'mixed timings' },
    { kind: 'heat' },
    { kind: 'not the memory', shows: 'crashes' },
    { kind: 'start option', usable: 4 },
    { kind: 'firmware outdated', upTo: 8 },
  ];
}

const sameFault = (a: HiddenFault, b: HiddenFault) => JSON.stringify(a) === JSON.stringify(b);

/** The address of a sandbox. */
export function toAddress({ machineId, slots, faults }: Sandbox): URLSearchParams {
  const to = new URLSearchParams();
  if (machineId) to.set('machine', machineId);
  for (const [slotId, moduleId] of Object.entries(slots))
    if (moduleId) to.append('in', `${slotId}:${moduleId}`);
  const all = faultsFor(Object.keys(slots).filter((id) => slots[id]));
  for (const fault of faults) {
    const at = all.findIndex((one) => sameFault(one, fault));
    if (at >= 0) to.append('fault', String(at));
  }
  return to;
}

/** A sandbox from its address; what makes no sense is left out. */
export function fromAddress(from: URLSearchParams): Sandbox {
  const slots = Object.fromEntries(
    from.getAll('in').flatMap((text) => {
      const [slotId, moduleId] = text.split(':');
      return slotId && moduleId ? [[slotId, moduleId]] : [];
    }),
  );
  const all = faultsFor(Object.keys(slots));
  return {
    machineId: from.get('machine') ?? '',
    slots,
    faults: from.getAll('fault').flatMap((at) => all[Number(at)] ?? []),
  };
}

/** The machine with what was put in it, as an exercise without a goal. */
export function sandboxOf(
  machine: Machine,
  { machineId, slots, faults }: Sandbox,
  modules: readonly ModuleRecord[],
): Exercise {
  const placement = Object.fromEntries(
    Object.entries(slots).flatMap(([slotId, moduleId]) => {
      const record = modules.find((one) => one.id === moduleId);
      return record ? [[slotId, record.module]] : [];
    }),
  );
  const id = `sandbox-${machineId}-${JSON.stringify(slots)}`;
  return bareExercise(id, machine, placement, 'standard', faults);
}
