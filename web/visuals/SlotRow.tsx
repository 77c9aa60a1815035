import { useDraggable, useDroppable } from '@dnd-kit/core';
import { gb } from '#core/explaining';
import type { Slot } from '#core/machine';
import { moduleSummary } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import type { Place } from '../app/boardsSlice.ts';
import { ModuleBar } from './ModuleBar.tsx';
import type { ModuleState } from './ModuleBar.tsx';
import type { PlacementBoard } from './usePlacementBoard.ts';

interface PlaceProps {
  readonly carry: PlacementBoard['carry'];
  readonly carried: MemoryModule | undefined;
  readonly onChoose: (place: Place, module: MemoryModule | undefined) => void;
  readonly onOver: (place: Place | undefined) => void;
}

interface SlotRowProps extends PlaceProps {
  readonly slot: Slot;
  readonly module: MemoryModule | undefined;
  readonly state: ModuleState | undefined;
  readonly fault: string | undefined;
  readonly isFixed: boolean;
  /** This is the one to look at. */
  readonly isHere?: boolean;
  readonly isNarrow: boolean;
}

const words = (module: MemoryModule) => `${gb(module.capacity)} ${moduleSummary(module)}`;

/** A slot with its latches, name and channel, and what sits in it. */
export function SlotRow({
  slot,
  module,
  state,
  fault,
  isFixed,
  isHere = false,
  isNarrow,
  carry,
  carried,
  onChoose,
  onOver,
}: SlotRowProps) {
  const id = `slot:${slot.id}`;
  const place: Place = { type: 'slot', slotId: slot.id };
  const drag = useDraggable({ id, disabled: isFixed || !module });
  const drop = useDroppable({ id, disabled: isFixed });
  const isTarget = isHere || (carry?.over?.type === 'slot' && carry.over.slotId === slot.id);
  const isSource = carry?.from.type === 'slot' && carry.from.slotId === slot.id;
  const channels =
    slot.channels.length > 1
      ? `channels ${slot.channels.join(', ')}`
      : `channel ${slot.channels.join('')}`;
  const action = carried ? `put ${words(carried)} here` : module ? 'pick up' : 'type its label';
  const name = `${slot.printedName}, ${channels}: ${module ? `${words(module)}${state === 'kept' || !state ? '' : `, ${state}`}` : 'empty'}`;
  return (
    <div ref={drop.setNodeRef} className="py-1">
      <div className="flex items-center gap-3">
        <span className={`${isNarrow ? 'w-19' : 'w-28'} shrink-0`}>
          <span className="figure block break-words">{slot.printedName}</span>
          <span className="text-aside">
            {channels}
            {slot.colour && `, ${slot.colour}`}
          </span>
        </span>
        <Latch isOpen={!module} />
        {/* The preview swaps what is inside while a press is under way; the press must stay the button's. */}
        <button
          ref={drag.setNodeRef}
          {...drag.listeners}
          type="button"
          data-place={id}
          disabled={isFixed}
          aria-label={isFixed ? name : `${name}. Enter: ${action}`}
          aria-pressed={isFixed ? undefined : isSource}
          onClick={() => onChoose(place, module)}
          onFocus={() => carry && onOver(place)}
          className={`flex min-w-0 grow touch-none rounded-sm text-left *:pointer-events-none ${isSource && !isTarget ? 'opacity-60' : ''} ${isTarget ? 'outline-3 outline-offset-2 outline-[#eba56c]' : ''} ${fault ? 'outline-3 outline-stop' : ''}`}
        >
          {module ? (
            <ModuleBar module={module} state={state ?? 'kept'} isNarrow={isNarrow} />
          ) : (
            <span className="flex min-h-11 grow items-center rounded-sm border border-dashed border-board-line px-3 text-aside">
              empty
            </span>
          )}
        </button>
        <Latch isOpen={!module} />
      </div>
      {fault && (
        <p
          className={`${isNarrow ? 'ml-22' : 'ml-31'} mt-1 w-fit rounded bg-stop-wash px-2 py-0.5 text-aside font-bold text-stop`}
        >
          ✕ {fault}
        </p>
      )}
    </div>
  );
}

/** A latch stands upright on a seated module and tilts over an empty slot. */
function Latch({ isOpen }: { readonly isOpen: boolean }) {
  return (
    <span
      aria-hidden
      className={`-mx-2 h-7 w-1.5 shrink-0 rounded-sm bg-board-line max-sm:hidden ${isOpen ? 'rotate-25' : ''}`}
    />
  );
}

interface TrayRowProps extends PlaceProps {
  readonly tray: readonly MemoryModule[];
  /** Modules that came out of the machine; the others were never in it. */
  readonly pulled: readonly MemoryModule[];
}

/** The tray: what comes out, and what waits to go in. */
export function TrayRow({ tray, pulled, carry, carried, onChoose, onOver }: TrayRowProps) {
  const end: Place = { type: 'tray', index: tray.length };
  const drop = useDroppable({ id: `tray:${tray.length}` });
  const found = new Set(pulled.map((module) => JSON.stringify(module)));
  const isTarget = carry?.over?.type === 'tray';
  if (tray.length === 0 && !carried) return null;
  return (
    <div
      ref={drop.setNodeRef}
      className="mt-1 flex items-start gap-3 border-t border-board-line pt-2"
    >
      <span className="w-28 shrink-0">
        <span className="figure block">tray</span>
        <span className="text-aside">not fitted</span>
      </span>
      <div className="ml-1 grid min-w-0 grow gap-1">
        {tray.map((module, index) => (
          <TrayModule
            key={index}
            index={index}
            module={module}
            isPulled={found.has(JSON.stringify(module))}
            onChoose={onChoose}
          />
        ))}
        {carried && (
          <button
            type="button"
            data-place={`tray:${tray.length}`}
            onClick={() => onChoose(end, undefined)}
            onFocus={() => onOver(end)}
            className={`min-h-10 rounded-sm border border-dashed border-board-line px-3 text-left text-aside ${isTarget ? 'outline-3 outline-[#eba56c]' : ''}`}
          >
            put it in the tray
          </button>
        )}
      </div>
    </div>
  );
}

interface TrayModuleProps {
  readonly index: number;
  readonly module: MemoryModule;
  readonly isPulled: boolean;
  readonly onChoose: PlaceProps['onChoose'];
}

function TrayModule({ index, module, isPulled, onChoose }: TrayModuleProps) {
  const id = `tray:${index}`;
  const drag = useDraggable({ id });
  const state = isPulled ? 'pulled' : 'spare';
  return (
    <button
      ref={drag.setNodeRef}
      {...drag.listeners}
      type="button"
      data-place={id}
      aria-label={`Tray: ${words(module)}, ${state}. Enter: pick up`}
      onClick={() => onChoose({ type: 'tray', index }, module)}
      className="flex touch-none text-left"
    >
      <ModuleBar module={module} state={state} />
    </button>
  );
}
