import {
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useFieldArray, useWatch } from 'react-hook-form';
import type { UseFormReturn } from 'react-hook-form';
import { SLOT_LIMIT } from '#core/machine';
import { Button } from '../ui/Button.tsx';
import { ChipsRow, SlotRowFields } from './BoardRows.tsx';
import { nextLetter, orderFromTaps, tapsFromOrder } from './boardForm.ts';
import type { MachineForm } from './machineForm.ts';

interface BoardEditorProps {
  readonly form: UseFormReturn<MachineForm>;
}

const CHIPS = 'chips';

/**
 * The machine's memory area, described where it lies: slots in physical order with the names and
 * colours printed beside them and the channel each feeds; chips dragged onto a channel; the fill
 * order by tapping slots in turn.
 */
export function BoardEditor({ form }: BoardEditorProps) {
  const slots = useFieldArray({ control: form.control, name: 'slots' });
  const soldered = useFieldArray({ control: form.control, name: 'soldered' });
  const [isOrdering, setOrdering] = useState(false);
  const typed = useWatch({
    control: form.control,
    name: ['channels', 'fillOrder', 'slots', 'generations'],
  });
  const [channelText, fillOrder, shown, generations] = typed;
  const channels = channelText
    .toUpperCase()
    .split(/[\s,;]+/)
    .filter(Boolean);
  const taps = tapsFromOrder(
    fillOrder,
    shown.map(({ printedName }) => printedName),
  );
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const set = (field: 'channels' | 'fillOrder', value: string) =>
    form.setValue(field, value, { shouldDirty: true });
  const solder = (channel: string) =>
    soldered.append({ channel, label: `8GB ${generations.split(/[\s,]/)[0] ?? 'DDR4'}` });
  const addSlot = () => {
    const channel = channels[slots.fields.length % Math.max(1, channels.length)] ?? 'A';
    slots.append({
      id: nanoid(6),
      printedName: '',
      colour: '',
      channels: channel,
      maxCapacity: '',
    });
  };
  const tap = (name: string) => {
    if (name === '') return;
    const next = taps.includes(name) ? taps.filter((one) => one !== name) : [...taps, name];
    set('fillOrder', orderFromTaps(next));
  };
  return (
    <DndContext
      sensors={sensors}
      accessibility={{ screenReaderInstructions: { draggable: '' } }}
      onDragEnd={({ over }) => over && solder(String(over.id))}
    >
      <div className="flex gap-3 rounded-lg bg-board p-3 text-board-text max-md:flex-col">
        <div className="flex w-44 shrink-0 flex-col gap-2 max-md:w-full">
          <p className="text-aside font-bold">Controller</p>
          {channels.map((channel) => (
            <ChannelZone key={channel} channel={channel} onSolder={() => solder(channel)} />
          ))}
          <div className="flex flex-wrap gap-2">
            <BoardButton
              disabled={channels.length >= 16}
              onClick={() => set('channels', [...channels, nextLetter(channels)].join(' '))}
            >
              Add a channel
            </BoardButton>
            {channels.length > 1 && (
              <BoardButton onClick={() => set('channels', channels.slice(0, -1).join(' '))}>
                Remove {channels.at(-1)}
              </BoardButton>
            )}
          </div>
          <Chips />
        </div>
        <div className="min-w-0 grow">
          {soldered.fields.map((field, index) => (
            <ChipsRow
              key={field.id}
              {...{ form, index, channels }}
              onRemove={() => soldered.remove(index)}
            />
          ))}
          {slots.fields.map((field, index) => {
            const name = shown[index]?.printedName ?? '';
            return (
              <SlotRowFields
                key={field.id}
                {...{ form, index, channels }}
                place={taps.indexOf(name)}
                isOrdering={isOrdering}
                isLast={index === slots.fields.length - 1}
                onTap={() => tap(name)}
                onMove={(by) => slots.swap(index, index + by)}
                onRemove={() => slots.remove(index)}
              />
            );
          })}
          <div className="mt-2 flex flex-wrap gap-2">
            <BoardButton disabled={slots.fields.length > SLOT_LIMIT} onClick={addSlot}>
              Add a slot
            </BoardButton>
            {slots.fields.length > 1 && (
              <BoardButton aria-pressed={isOrdering} onClick={() => setOrdering(!isOrdering)}>
                {isOrdering ? 'Finish the fill order' : 'Set the fill order'}
              </BoardButton>
            )}
            {isOrdering && taps.length > 0 && (
              <BoardButton onClick={() => set('fillOrder', '')}>Start over</BoardButton>
            )}
          </div>
          {isOrdering && (
            <p className="mt-2 text-aside" role="status">
              Tap the slots in the order the manual fills them. A tapped one is taken back by a
              second tap. {taps.length > 0 && `So far: ${taps.join(', then ')}.`}
            </p>
          )}
        </div>
      </div>
    </DndContext>
  );
}

function BoardButton(props: React.ComponentProps<typeof Button>) {
  return (
    <Button {...props} className="border-board-line! bg-transparent! text-aside text-board-text" />
  );
}

/** A channel of the controller: chips are dropped here, or put on with its button. */
function ChannelZone({
  channel,
  onSolder,
}: {
  readonly channel: string;
  readonly onSolder: () => void;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: channel });
  return (
    <div
      ref={setNodeRef}
      className={`flex min-h-10 items-center gap-2 rounded border px-2 text-aside ${isOver ? 'border-[#eba56c] bg-teal-deep' : 'border-board-line'}`}
    >
      <span>channel {channel}</span>
      <button
        type="button"
        className="ml-auto min-h-8 underline underline-offset-3"
        aria-label={`Solder memory onto channel ${channel}`}
        onClick={onSolder}
      >
        + chips
      </button>
    </div>
  );
}

/** The chips to drag onto a channel. */
function Chips() {
  const { setNodeRef, listeners, transform } = useDraggable({ id: CHIPS });
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      className="flex min-h-10 cursor-grab touch-none items-center justify-center gap-1.5 rounded border border-dashed border-board-line px-2 text-aside"
    >
      {[0, 1, 2, 3].map((chip) => (
        <span key={chip} aria-hidden className="h-4 w-3 rounded-[2px] bg-board-line" />
      ))}
      drag onto a channel
    </div>
  );
}
