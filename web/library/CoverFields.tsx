import { useState } from 'react';
import type { MachineRecord } from '#contract/records';
import { COVER_LIMITS } from '#core/fitting';
import type { CoverMap } from '#core/fitting';
import { api } from '../app/api.ts';
import { Button } from '../ui/Button.tsx';
import { TextField } from '../ui/Field.tsx';
import { FilePick } from '../ui/FilePick.tsx';
import { Notice } from '../ui/Notice.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { smallPhoto } from '../ui/smallPhoto.ts';
import { useSave } from '../ui/useSave.ts';

interface CoverFieldsProps {
  readonly map: CoverMap;
  readonly onChange: (change: Partial<CoverMap>) => void;
}

/** The cover's size, and what is worth knowing about it. */
export function CoverFields({ map, onChange }: CoverFieldsProps) {
  const side = (name: 'width' | 'height', label: string) => (
    <TextField
      label={`${label}, mm`}
      type="number"
      min={COVER_LIMITS.smallest}
      max={COVER_LIMITS.largest}
      value={map[name]}
      onChange={({ target }) => onChange({ [name]: Number(target.value) })}
    />
  );
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        {side('width', 'Width')}
        {side('height', 'Depth')}
      </div>
      <TextField
        label="Worth knowing"
        value={map.note}
        maxLength={500}
        onChange={({ target }) => onChange({ note: target.value })}
      />
    </>
  );
}

/** The photo the map is drawn on. */
export function CoverPhoto({ record }: { readonly record: MachineRecord }) {
  const [fault, setFault] = useState<{ title: string; why: string; mend: string }>();
  const [save] = api.useSavePhotoMutation();
  const [remove] = api.useRemovePhotoMutation();
  const saving = useSave(save);
  const removing = useSave(remove);
  const take = async (file: File) => {
    const small = await smallPhoto(file);
    if ('title' in small) return setFault(small);
    setFault(undefined);
    await saving.save({ id: record.id, body: small });
  };
  return (
    <div className="grid gap-1 text-aside">
      <p className="flex flex-wrap items-center gap-x-4">
        <FilePick
          label={record.hasPhoto ? 'Another photo' : 'Draw on a photo'}
          accept="image/*"
          onFile={(file) => void take(file)}
        />
        {record.hasPhoto && (
          <Button look="quiet" onClick={() => void removing.save(record.id)}>
            remove it
          </Button>
        )}
      </p>
      <p className="text-muted">
        Straight from above, cut to the cover; it is stretched to its width and depth.
      </p>
      {fault && <Notice alert kind="stop" {...fault} />}
      <SaveNotice state={saving.state} />
      <SaveNotice state={removing.state} />
    </div>
  );
}
