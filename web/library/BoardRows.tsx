import type { UseFormReturn } from 'react-hook-form';
import type { MachineForm } from './machineForm.ts';

interface RowProps {
  readonly form: UseFormReturn<MachineForm>;
  readonly index: number;
  readonly channels: readonly string[];
  readonly onRemove: () => void;
}

const CELL = 'input text-ink';
const QUIET = 'min-h-10 px-1 text-aside underline underline-offset-3 disabled:opacity-40';

function Fault({ message }: { readonly message: string | undefined }) {
  return (
    message && (
      <p className="mt-1 w-fit rounded bg-stop-wash px-2 py-0.5 text-aside font-bold text-stop">
        ✕ {message}
      </p>
    )
  );
}

interface SlotRowFieldsProps extends RowProps {
  /** Its place in the fill order, from 0; −1 for none. */
  readonly place: number;
  readonly isOrdering: boolean;
  readonly isLast: boolean;
  readonly onTap: () => void;
  readonly onMove: (by: 1 | -1) => void;
}

/** A slot as it is printed: name, colour, channel; in ordering, one large target. */
export function SlotRowFields(props: SlotRowFieldsProps) {
  const { form, index, channels, place, isOrdering, isLast, onTap, onMove, onRemove } = props;
  const { errors } = form.formState;
  const slot = errors.slots?.[index];
  const { printedName = '', colour = '' } = form.getValues(`slots.${index}`) ?? {};
  const number = index + 1;
  const badge = place >= 0 && (
    <span className="flex size-7 shrink-0 items-center justify-center rounded-full bg-[#eba56c] font-bold text-[#1b2a2c]">
      {place + 1}
    </span>
  );
  if (isOrdering)
    return (
      <button
        type="button"
        aria-pressed={place >= 0}
        disabled={printedName.trim() === ''}
        onClick={onTap}
        className="my-1 flex min-h-12 w-full items-center gap-3 rounded-sm border border-dashed border-board-line px-3 text-left aria-pressed:border-solid aria-pressed:bg-teal-deep"
      >
        <span className="figure">{printedName || 'no name yet'}</span>
        <span className="text-aside">{colour}</span>
        <span className="ml-auto">{badge}</span>
      </button>
    );
  return (
    <div className="py-1">
      <div className="flex flex-wrap items-center gap-2">
        <span aria-hidden className="h-7 w-1.5 shrink-0 rotate-25 rounded-sm bg-board-line" />
        <input
          aria-label={`Slot ${number}, printed name`}
          aria-invalid={slot?.printedName !== undefined}
          placeholder="as printed"
          className={`${CELL} figure w-32! grow`}
          {...form.register(`slots.${index}.printedName`)}
        />
        <span className="flex items-center gap-1.5">
          <span
            aria-hidden
            className="size-5 rounded-sm border border-board-line"
            style={{ background: cssColour(colour) }}
          />
          <input
            aria-label={`Slot ${number}, colour`}
            placeholder="colour"
            className={`${CELL} w-20!`}
            {...form.register(`slots.${index}.colour`)}
          />
        </span>
        <span className="flex items-center gap-1.5 text-aside">
          channel
          <input
            aria-label={`Slot ${number}, channel`}
            aria-invalid={slot?.channels !== undefined}
            list="board-channels"
            className={`${CELL} figure w-14!`}
            {...form.register(`slots.${index}.channels`)}
          />
        </span>
        <span className="flex items-center gap-1.5 text-aside">
          most
          <input
            aria-label={`Slot ${number}, most in GB, where it differs`}
            aria-invalid={slot?.maxCapacity !== undefined}
            placeholder="GB"
            inputMode="decimal"
            className={`${CELL} figure w-14!`}
            {...form.register(`slots.${index}.maxCapacity`)}
          />
        </span>
        {badge}
        <span className="ml-auto flex items-center gap-1">
          <button
            type="button"
            className={QUIET}
            disabled={index === 0}
            aria-label={`Move slot ${number} up`}
            onClick={() => onMove(-1)}
          >
            ↑
          </button>
          <button
            type="button"
            className={QUIET}
            disabled={isLast}
            aria-label={`Move slot ${number} down`}
            onClick={() => onMove(1)}
          >
            ↓
          </button>
          <button
            type="button"
            className={QUIET}
            aria-label={`Remove slot ${number}`}
            onClick={onRemove}
          >
            remove
          </button>
        </span>
      </div>
      <Fault
        message={
          slot?.printedName?.message ?? slot?.channels?.message ?? slot?.maxCapacity?.message
        }
      />
      {index === 0 && (
        <datalist id="board-channels">
          {channels.map((channel) => (
            <option key={channel} value={channel} />
          ))}
        </datalist>
      )}
    </div>
  );
}

/** Soldered chips on their channel, by what a label would say of them. */
export function ChipsRow({ form, index, onRemove }: RowProps) {
  const fault = form.formState.errors.soldered?.[index];
  const number = index + 1;
  return (
    <div className="py-1">
      <div className="flex flex-wrap items-center gap-2">
        <span aria-hidden className="flex gap-0.5">
          {[0, 1, 2].map((chip) => (
            <span key={chip} className="h-6 w-2.5 rounded-[2px] bg-teal-wash" />
          ))}
        </span>
        <input
          aria-label={`Soldered part ${number}, as a label`}
          aria-invalid={fault?.label !== undefined}
          placeholder="12GB 1Rx16 DDR5-5600 CL46"
          className={`${CELL} figure w-56! grow`}
          {...form.register(`soldered.${index}.label`)}
        />
        <span className="flex items-center gap-1.5 text-aside">
          soldered to channel
          <input
            aria-label={`Soldered ${number}, channel`}
            aria-invalid={fault?.channel !== undefined}
            className={`${CELL} figure w-14!`}
            {...form.register(`soldered.${index}.channel`)}
          />
        </span>
        <button
          type="button"
          className={`${QUIET} ml-auto`}
          aria-label={`Remove soldered part ${number}`}
          onClick={onRemove}
        >
          remove
        </button>
      </div>
      <Fault message={fault?.label?.message ?? fault?.channel?.message} />
    </div>
  );
}

/** Printed colours as the browser knows them; anything else stays blank. */
function cssColour(name: string): string {
  return /^(black|white|grey|gray|blue|yellow|red|green|orange|purple|brown|beige)$/i.test(
    name.trim(),
  )
    ? name.trim()
    : 'transparent';
}
