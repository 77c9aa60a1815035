import { useRef, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { FilePick } from '../ui/FilePick.tsx';
import { Notice } from '../ui/Notice.tsx';
import { readPicture } from '../ui/readPicture.ts';
import type { NoPicture } from '../ui/readPicture.ts';

interface PhotoPickProps<T> {
  /** Reads a picture, using it up; where nothing was found it says what would mend that. */
  readonly read: (picture: ImageBitmap) => Promise<T | NoPicture>;
  /** Undefined when a new photo is begun: what the last one gave no longer stands. */
  readonly onRead: (reading: T | undefined, photo: File) => void;
  readonly label?: string;
}

type State =
  | { readonly type: 'idle' }
  | { readonly type: 'reading' }
  | { readonly type: 'failed'; readonly fault: NoPicture };

const NO_READER: NoPicture = {
  title: 'The reader gave no answer',
  why: 'It comes from this bench at the first photo, about 6 MB: the bench does not answer, or the browser ended it.',
  mend: 'Try again; or type it.',
};

/** A photo taken or chosen, and read, which takes seconds and can be cancelled; faults in words. */
export function PhotoPick<T extends object>({
  read,
  onRead,
  label = 'Read it off a photo',
}: PhotoPickProps<T>) {
  const [state, setState] = useState<State>({ type: 'idle' });
  const turn = useRef(0);
  const take = async (file: File) => {
    const mine = ++turn.current;
    onRead(undefined, file);
    setState({ type: 'reading' });
    const picture = await readPicture(file);
    const reading =
      'title' in picture ? picture : await read(picture).catch((): NoPicture => NO_READER);
    // A photo chosen meanwhile counts.
    if (mine !== turn.current) return;
    setState('title' in reading ? { type: 'failed', fault: reading } : { type: 'idle' });
    if (!('title' in reading)) onRead(reading, file);
  };
  return (
    <>
      {state.type === 'reading' ? (
        <p className="flex min-h-10 items-center gap-3 text-aside text-muted">
          Reading the photo …
          <Button
            look="quiet"
            onClick={() => {
              turn.current++;
              setState({ type: 'idle' });
            }}
          >
            cancel
          </Button>
        </p>
      ) : (
        <span className="text-aside">
          <FilePick
            label={label}
            accept="image/*"
            capture="environment"
            onFile={(file) => void take(file)}
          />
        </span>
      )}
      {state.type === 'failed' && <Notice alert kind="stop" {...state.fault} />}
    </>
  );
}
