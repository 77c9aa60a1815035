import { useEffect, useState } from 'react';
import { count, explainInventoryFinding } from '#core/explaining';
import { readScreen, screenOffPhoto } from '#core/inventory';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import type { NoPicture } from '../../ui/readPicture.ts';
import { smallPhoto } from '../../ui/smallPhoto.ts';
import { PhotoPick } from '../../visuals/PhotoPick.tsx';
import { readLines } from '../../workers/readPhoto.ts';
import type { EvidenceState } from './useEvidence.ts';

const NO_SCREEN: NoPicture = {
  title: 'No slots were found on this photo',
  why: 'It looks for lines of a firmware screen that name a slot and its size, such as DIMM_A1 8192 MB 2400 MHz.',
  mend: 'Open the page of the firmware that lists the memory, fill the picture with it, avoid glare; or type the lines.',
};

/** A firmware screen, typed or off a photo; a reading is looked at beside its photo before it counts. */
export function ScreenForm({ evidence }: { readonly evidence: EvidenceState }) {
  const [text, setText] = useState('');
  const [photo, setPhoto] = useState<File>();
  const { devices, findings } = readScreen(text);
  const [fault] = findings;
  const add = async () => {
    const kept = photo && (await smallPhoto(photo));
    const base64 = kept && 'base64' in kept ? kept.base64 : undefined;
    evidence.addTyped('screen', text, [], 'firmware screen', base64);
    setText('');
    setPhoto(undefined);
  };
  return (
    <div className="grid gap-2">
      <Field
        label="Firmware screen, a line each"
        hint="Slot, size, rate: A1 8 GB 1200. Or: A2 empty. Clock or data rate, either is understood."
        error={
          fault &&
          `${explainInventoryFinding(fault).title}. ${explainInventoryFinding(fault).mend ?? ''}`
        }
      >
        {(props) => (
          <textarea
            rows={Math.max(3, Math.min(10, text.split('\n').length))}
            {...props}
            className="input figure"
            value={text}
            onChange={({ target }) => setText(target.value)}
          />
        )}
      </Field>
      {photo && <Beside photo={photo} />}
      <div className="flex flex-wrap items-center gap-3">
        <Button disabled={devices.length === 0} onClick={() => void add()}>
          Add {count(devices.length, 'line')}
        </Button>
        <div aria-live="polite">
          <PhotoPick
            label="Read the screen off a photo"
            read={async (picture) => {
              const lines = screenOffPhoto(await readLines(picture));
              return lines === '' ? NO_SCREEN : { lines };
            }}
            onRead={(reading, file) => {
              setPhoto(reading && file);
              if (reading) setText(reading.lines);
            }}
          />
        </div>
      </div>
    </div>
  );
}

/** The photo the lines were read off, to hold them against. */
function Beside({ photo }: { readonly photo: File }) {
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    const made = URL.createObjectURL(photo);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [photo]);
  return (
    <figure className="grid gap-1">
      <figcaption className="text-aside text-caution">
        <b>Look twice:</b> compare each line with the photo before you add them.
      </figcaption>
      <img
        src={url}
        alt="The firmware screen to compare with"
        className="max-h-64 max-w-full rounded border border-line object-contain"
      />
    </figure>
  );
}
