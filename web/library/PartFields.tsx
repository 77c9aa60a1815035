import { COVERINGS, SCREW_DRIVES } from '#core/fitting';
import type { CoverPart, Covering, ScrewDrive } from '#core/fitting';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import type { CoverDraft } from './useCoverDraft.ts';

interface PartFieldsProps {
  readonly draft: CoverDraft;
  readonly part: CoverPart;
  readonly onRemoved: () => void;
}

const TITLES = { fastener: 'Screw', clip: 'Clip', cable: 'Lead' } as const;

/** What is known of one part of a cover, its place, and its turn. */
export function PartFields({ draft, part, onRemoved }: PartFieldsProps) {
  const { map, set, setPart } = draft;
  const at = map.parts.findIndex(({ id }) => id === part.id);
  const change = (fields: Partial<CoverPart>) => setPart(part.id, fields);
  const shift = (by: number) =>
    set((now) => {
      const parts = [...now.parts];
      const [taken] = parts.splice(at, 1);
      if (taken) parts.splice(at + by, 0, taken);
      return { ...now, parts };
    });
  return (
    <div className="grid gap-3">
      <h2 className="font-bold">
        {TITLES[part.kind]} {at + 1}
      </h2>
      {part.kind === 'fastener' && (
        <>
          <div className="grid grid-cols-2 gap-3">
            <SelectField
              label="Drive"
              value={part.drive}
              onChange={({ target }) => change({ drive: target.value as ScrewDrive })}
              options={SCREW_DRIVES.map((drive) => [drive, drive])}
            />
            <TextField
              label="Bit"
              placeholder="PH1, T5"
              value={part.size}
              maxLength={8}
              onChange={({ target }) => change({ size: target.value })}
            />
            <TextField
              label="Length, mm"
              hint="empty = not known"
              inputMode="decimal"
              value={part.length === 'unknown' ? '' : part.length}
              onChange={({ target }) => {
                const value = Number(target.value.replace(',', '.'));
                change({ length: target.value === '' || !(value > 0) ? 'unknown' : value });
              }}
            />
            <SelectField
              label="Hidden under"
              value={part.under}
              onChange={({ target }) => change({ under: target.value as Covering })}
              options={COVERINGS.map((one) => [one, one])}
            />
          </div>
          <label className="flex min-h-10 items-center gap-3">
            <input
              type="checkbox"
              className="size-5"
              checked={part.captive}
              onChange={({ target }) => change({ captive: target.checked })}
            />
            Captive: stays in the cover
          </label>
        </>
      )}
      {part.kind === 'cable' && (
        <TextField
          label="Which lead"
          value={part.what}
          maxLength={40}
          onChange={({ target }) => change({ what: target.value })}
        />
      )}
      <div className="grid grid-cols-2 gap-3">
        {(['x', 'y'] as const).map((axis) => (
          <TextField
            key={axis}
            label={axis === 'x' ? 'From the left, mm' : 'From the top, mm'}
            type="number"
            value={part[axis]}
            onChange={({ target }) => change({ [axis]: Number(target.value) })}
          />
        ))}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button disabled={at <= 0} onClick={() => shift(-1)}>
          Earlier
        </Button>
        <Button disabled={at >= map.parts.length - 1} onClick={() => shift(1)}>
          Later
        </Button>
        <Button
          onClick={() => {
            set((now) => ({ ...now, parts: now.parts.filter(({ id }) => id !== part.id) }));
            onRemoved();
          }}
        >
          Remove
        </Button>
      </div>
    </div>
  );
}
