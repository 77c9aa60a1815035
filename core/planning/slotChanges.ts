import type { Machine, Placement, SlotId } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import type { Plan } from './query.ts';

/** What a plan does at one slot. */
export interface SlotChange {
  readonly slotId: SlotId;
  readonly printedName: string;
  /** `left`: its module moves to another slot. A slot that gets another module is `added` or `moved`. */
  readonly state: 'kept' | 'added' | 'moved' | 'pulled' | 'left' | 'empty';
  /** The module there afterwards; for `pulled` the one that comes out. */
  readonly module?: MemoryModule | undefined;
  readonly isFromDrawer: boolean;
}

/** What a plan does, slot by slot, in the machine's own order. */
export function slotChanges(
  { slots }: Pick<Machine, 'slots'>,
  fitted: Placement,
  { units }: Pick<Plan, 'units'>,
): readonly SlotChange[] {
  return slots.map(({ id: slotId, printedName }): SlotChange => {
    const unit = units.find((one) => one.slotId === slotId);
    const isFromDrawer = unit?.source.type === 'drawer';
    const at = { slotId, printedName, isFromDrawer };
    if (unit) {
      const { source, module } = unit;
      if (source.type !== 'kept') return { ...at, state: 'added', module };
      return { ...at, state: source.from === slotId ? 'kept' : 'moved', module };
    }
    const was = fitted[slotId];
    if (!was) return { ...at, state: 'empty' };
    const goesOn = units.some(({ source }) => source.type === 'kept' && source.from === slotId);
    return goesOn ? { ...at, state: 'left' } : { ...at, state: 'pulled', module: was };
  });
}
