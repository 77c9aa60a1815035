import { DndContext, PointerSensor, pointerWithin, useSensor, useSensors } from '@dnd-kit/core';
import type { DragEndEvent } from '@dnd-kit/core';
import { useRef } from 'react';
import type { KeyboardEvent } from 'react';
import type { Machine, Placement, SlotId } from '#core/machine';
import { sameModule } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import type { Blocker } from '#core/operating-point';
import { count, explainBlocker, gb, slotNames } from '#core/explaining';
import type { Place } from '../app/boardsSlice.ts';
import { ModuleBar } from './ModuleBar.tsx';
import type { ModuleState } from './ModuleBar.tsx';
import { SlotRow, TrayRow } from './SlotRow.tsx';
import type { PlacementBoard } from './usePlacementBoard.ts';

interface SlotBoardProps {
  readonly machine: Machine;
  readonly board: PlacementBoard;
  /** What is in the machine before the change; marks what is kept, moved, added. */
  readonly before?: Placement | undefined;
  /** Nothing can be moved. */
  readonly isFixed?: boolean;
  /** The slot to look at. */
  readonly here?: SlotId | undefined;
  /** An empty slot was chosen while nothing is carried. */
  readonly onChooseSlot?: ((slotId: SlotId) => void) | undefined;
}

interface Changes {
  readonly stateOf: (slotId: SlotId) => ModuleState;
  /** Modules that left their slot and sit in no other. */
  readonly pulled: readonly MemoryModule[];
}

/** What a placement does to each module, two alike being told apart by where they were. */
function changesTo(placement: Placement, before: Placement | undefined): Changes {
  if (!before) return { stateOf: () => 'kept', pulled: [] };
  const left = Object.entries(before).filter(([id, module]) => !sameModule(placement[id], module));
  const states = new Map<SlotId, ModuleState>();
  for (const [id, module] of Object.entries(placement)) {
    if (!module || sameModule(before[id], module)) continue;
    const source = left.findIndex(([, other]) => sameModule(other, module));
    states.set(id, source < 0 ? 'added' : 'moved');
    if (source >= 0) left.splice(source, 1);
  }
  const pulled = left.flatMap(([, module]) => module ?? []);
  return { stateOf: (id) => states.get(id) ?? 'kept', pulled };
}

/** A blocker's words for the slot it is about. */
function faultsBySlot(blockers: readonly Blocker[], machine: Machine): Map<SlotId, string> {
  const nameOf = slotNames(machine);
  const faults = new Map<SlotId, string>();
  for (const blocker of blockers)
    if ('slotId' in blocker && !faults.has(blocker.slotId))
      faults.set(blocker.slotId, explainBlocker(blocker, nameOf).title);
  return faults;
}

/** Ids for the drag layer. */
const placeFrom = (id: string | number | undefined): Place | undefined => {
  if (id === undefined) return undefined;
  const [type, rest = ''] = String(id).split(/:(.*)/s);
  return type === 'slot' ? { type: 'slot', slotId: rest } : { type: 'tray', index: Number(rest) };
};

/** Moving modules by keyboard, by press and by dragging. */
function useMoves({
  board,
  isFixed,
  onChooseSlot,
}: Pick<SlotBoardProps, 'board' | 'onChooseSlot'> & { readonly isFixed: boolean }) {
  const area = useRef<HTMLDivElement>(null);
  const { shown, carry, actions } = board;
  const step = (event: KeyboardEvent, by: number) => {
    const places = [...(area.current?.querySelectorAll<HTMLElement>('[data-place]') ?? [])];
    const at = places.indexOf(document.activeElement as HTMLElement);
    if (at < 0) return;
    event.preventDefault();
    places[(at + by + places.length) % places.length]?.focus();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown' || event.key === 'ArrowRight') step(event, 1);
    else if (event.key === 'ArrowUp' || event.key === 'ArrowLeft') step(event, -1);
    else if (event.key === 'Escape' && carry) {
      event.stopPropagation();
      actions.letGo();
    } else if (event.key === 'Delete' && !isFixed && !carry) {
      const place = placeFrom((document.activeElement as HTMLElement).dataset.place);
      if (place?.type === 'slot' && shown.placement[place.slotId])
        actions.move(place, { type: 'tray', index: shown.tray.length });
      else if (place && shown.tray[place.type === 'tray' ? place.index : -1]) actions.remove(place);
    }
  };
  const choose = (place: Place, module: MemoryModule | undefined) => {
    if (isFixed) return;
    if (carry) actions.move(carry.from, place);
    else if (module) actions.pickUp(place);
    else if (place.type === 'slot') onChooseSlot?.(place.slotId);
  };
  const end = ({ active, over }: DragEndEvent) => {
    const from = placeFrom(active.id);
    const to = placeFrom(over?.id);
    if (from && to) actions.move(from, to);
    else actions.letGo();
  };
  return { area, onKeyDown, choose, end };
}

/**
 * The machine's memory area as it lies: controller, soldered parts, slots in physical order with
 * their printed names, and the tray beside it. Modules are dragged, or moved by keyboard: Enter
 * picks up and puts down, arrows choose where, Escape lets go, Delete pulls to the tray.
 */
export function SlotBoard({
  machine,
  board,
  before,
  isFixed = false,
  here,
  onChooseSlot,
}: SlotBoardProps) {
  const { shown, present, carry, carried, point, actions } = board;
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const { area, onKeyDown, choose, end } = useMoves({ board, isFixed, onChooseSlot });
  const faults = faultsBySlot(point.type === 'blocked' ? point.blockers : [], machine);
  const changes = changesTo(shown.placement, before);
  const isWide = machine.slots.length > 4;
  return (
    <DndContext
      sensors={sensors}
      // Where the pointer is, not where the bar's corners reach: letting go beside the board changes nothing.
      collisionDetection={pointerWithin}
      accessibility={{ screenReaderInstructions: { draggable: '' } }}
      onDragStart={({ active }) => {
        const from = placeFrom(active.id);
        if (from) actions.pickUp(from);
      }}
      onDragOver={({ over }) => actions.carryOver(placeFrom(over?.id))}
      onDragEnd={end}
      onDragCancel={actions.letGo}
    >
      {/* Keys reach here from the places inside, which are buttons. */}
      {/* oxlint-disable-next-line jsx-a11y/no-static-element-interactions */}
      <div
        ref={area}
        onKeyDown={onKeyDown}
        className="flex gap-3 rounded-lg bg-board p-3 text-board-text max-sm:flex-col"
      >
        <Controller machine={machine} />
        <div className="min-w-0 grow">
          <div className={isWide ? 'grid gap-x-4 gap-y-1 lg:grid-cols-2' : 'grid gap-1'}>
            <Soldered machine={machine} isNarrow={isWide} />
            {machine.slots.map((slot) => {
              const module = shown.placement[slot.id];
              return (
                <SlotRow
                  key={slot.id}
                  slot={slot}
                  module={module}
                  state={module && changes.stateOf(slot.id)}
                  fault={faults.get(slot.id)}
                  carry={carry}
                  carried={carried}
                  isFixed={isFixed}
                  isHere={here === slot.id}
                  isNarrow={isWide}
                  onChoose={choose}
                  onOver={actions.carryOver}
                />
              );
            })}
          </div>
          {!isFixed && (
            <TrayRow
              tray={carry ? present.tray : shown.tray}
              pulled={changes.pulled}
              carry={carry}
              carried={carried}
              onChoose={choose}
              onOver={actions.carryOver}
            />
          )}
        </div>
      </div>
      {!isFixed && machine.slots.length > 0 && (
        <p className="mt-1 min-h-5 text-aside text-muted" aria-live="polite">
          {carried
            ? `Carrying ${gb(carried.capacity)}: arrows choose, Enter puts down, Esc lets go.`
            : 'Drag a module, or press Enter on it. Delete pulls it to the tray.'}
        </p>
      )}
    </DndContext>
  );
}

function Controller({ machine }: { readonly machine: Machine }) {
  const { channels, generations, formFactor, controllerLimit } = machine;
  return (
    <div className="flex w-28 shrink-0 flex-col justify-center rounded border border-board-line p-2 text-center text-aside max-sm:w-full">
      <b>{count(channels.length, 'channel')}</b>
      <span>takes {generations.join(', ')}</span>
      {machine.slots.length > 0 && <span>{formFactor}</span>}
      <span>
        {controllerLimit === 'unknown' ? 'limit not known' : `to ${controllerLimit} MT/s`}
      </span>
    </div>
  );
}

interface SolderedProps {
  readonly machine: Machine;
  readonly isNarrow: boolean;
}

function Soldered({ machine, isNarrow }: SolderedProps) {
  return machine.soldered.map(({ channel, part }, at) => (
    <div key={at} className="flex items-center gap-3 py-1">
      <span className={`${isNarrow ? 'w-19' : 'w-28'} shrink-0`}>
        <span className="figure block">on board</span>
        <span className="text-aside">channel {channel}</span>
      </span>
      <ModuleBar module={part} state="soldered" isNarrow={isNarrow} />
    </div>
  ));
}
