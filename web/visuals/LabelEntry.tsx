import { nanoid } from 'nanoid';
import { useDeferredValue, useId, useMemo, useRef, useState } from 'react';
import type { FormEvent } from 'react';
import { explainFinding } from '#core/explaining';
import { nextSlots } from '#core/machine';
import type { Machine, Placement, SlotId } from '#core/machine';
import { EXAMPLE_LABEL, readLabel } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { LabelPhoto } from './LabelPhoto.tsx';
import { photoHints } from './photoHints.ts';
import { LabelReport } from './LabelReport.tsx';
import type { PlacementBoard } from './usePlacementBoard.ts';

interface LabelEntryProps {
  readonly machine: Machine;
  readonly board: PlacementBoard;
  /** A slot chosen on the board; `auto` takes the next by fill order. */
  readonly target: SlotId | 'auto';
  readonly onTarget: (target: SlotId | 'auto') => void;
  readonly inputId: string;
  readonly onSeated?: OnSeated | undefined;
}

/** The photo a label came from; `isAsRead` where nobody changed what was read. */
export interface LabelSource {
  readonly photo: Blob;
  readonly isAsRead: boolean;
}

/** A label was put in, into which slots, and off which photo where there was one. */
export type OnSeated = (
  label: string,
  slotIds: readonly SlotId[],
  source: LabelSource | undefined,
) => void;

/** Gives the modules of a pack a kit of their own, and seats what fits; the rest goes to the tray. */
function seat(
  machine: Machine,
  placement: Placement,
  module: MemoryModule,
  count: number,
  target: SlotId | 'auto',
) {
  const kit = count > 1 ? { kitId: `pack ${nanoid(6)}` } : {};
  const modules = Array.from({ length: count }, (): MemoryModule => ({ ...module, ...kit }));
  // A slot that was asked for takes the label even where it is filled: the sticker outranks what was supposed.
  const chosen = target === 'auto' ? [] : [target];
  const free = nextSlots(machine, placement, count).filter((id) => !chosen.includes(id));
  const slots = [...chosen, ...free].slice(0, count);
  const seated = Object.fromEntries(slots.map((id, at) => [id, modules[at]]));
  return { placement: seated as Placement, tray: modules.slice(slots.length) };
}

/** One line for a label; what it was taken for shows while typing, Enter seats the module. */
export function LabelEntry(props: LabelEntryProps) {
  const { machine, board, target, onTarget, inputId, onSeated } = props;
  const [text, setText] = useState('');
  const [off, setOff] = useState<{ readonly photo: Blob; readonly read: string }>();
  const [isAsked, setAsked] = useState(false);
  const suggestions = useId();
  const input = useRef<HTMLInputElement>(null);
  const deferred = useDeferredValue(text);
  const reading = useMemo(() => readLabel(deferred), [deferred]);
  const catalogue = api.useModulesQuery('');
  const { placement } = board.present;
  const hints = useMemo(() => photoHints(catalogue.data ?? []), [catalogue.data]);
  const errors = reading.findings.filter(({ severity }) => severity === 'error');
  const isBad = isAsked && errors.length > 0;

  const submit = (event: FormEvent) => {
    event.preventDefault();
    const { module, count } = readLabel(text);
    setAsked(true);
    if (!module) return;
    const { placement: seated, tray } = seat(machine, placement, module, count, target);
    board.actions.add(seated, tray);
    onSeated?.(
      text,
      Object.keys(seated),
      off && { photo: off.photo, isAsRead: text.trim() === off.read },
    );
    setText('');
    setOff(undefined);
    setAsked(false);
    onTarget('auto');
    input.current?.focus();
  };
  return (
    <form onSubmit={submit} className="mt-3">
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-60 grow">
          <label htmlFor={inputId} className="mb-1 block font-bold">
            Label of a module
          </label>
          <input
            ref={input}
            id={inputId}
            list={suggestions}
            autoComplete="off"
            spellCheck={false}
            className="input figure"
            value={text}
            aria-invalid={isBad}
            aria-describedby={`${inputId}-report`}
            onChange={({ target: { value } }) => {
              setText(value);
              // A line begun anew is another module’s.
              if (value === '') setOff(undefined);
            }}
          />
          <datalist id={suggestions}>
            {catalogue.data?.map(({ id, label }) => (
              <option key={id} value={label} />
            ))}
          </datalist>
        </div>
        <div>
          <label htmlFor={`${inputId}-target`} className="mb-1 block font-bold">
            goes to
          </label>
          <select
            id={`${inputId}-target`}
            className="input w-auto"
            value={target}
            onChange={({ target: { value } }) => onTarget(value)}
          >
            <option value="auto">next slot</option>
            {machine.slots
              .filter(({ id }) => !placement[id] || id === target)
              .map(({ id, printedName }) => (
                <option key={id} value={id}>
                  {printedName}
                </option>
              ))}
          </select>
        </div>
        <Button type="submit" keys="Enter">
          Put in
        </Button>
      </div>
      <div id={`${inputId}-report`} aria-live="polite" className="mt-1 min-h-5">
        {text === '' ? (
          <p className="text-aside text-muted">
            {isBad && errors[0] ? (
              <span className="font-bold text-stop">✕ {explainFinding(errors[0]).title}. </span>
            ) : null}
            As printed, or as sold: <span className="figure">{EXAMPLE_LABEL}</span>,{' '}
            <span className="figure">2x8GB DDR4-3200 CL16 1.35V</span>
          </p>
        ) : (
          <LabelReport reading={reading} />
        )}
      </div>
      <LabelPhoto
        hints={hints}
        onLabel={(label, photo) => {
          setText(label);
          setOff({ photo, read: label });
          input.current?.focus();
        }}
      />
    </form>
  );
}
