import { useEffect, useRef, useState } from 'react';
import { readCodes } from '../workers/readCodes.ts';
import { Button } from './Button.tsx';
import { FilePick } from './FilePick.tsx';
import { Notice } from './Notice.tsx';
import { readPicture } from './readPicture.ts';
import type { NoPicture } from './readPicture.ts';

const NO_CODE: NoPicture = {
  title: 'No code was found in this photo',
  why: 'It reads QR, DataMatrix and Code 128; the code must be sharp and whole.',
  mend: 'Come closer, hold still, and keep the glare off it.',
};

const NO_READER: NoPicture = {
  title: 'The code reader gave no answer',
  why: 'It comes from this bench, about 1 MB: the bench does not answer, or the browser ended it.',
  mend: 'Try again when the bench is back; or type what stands under the code.',
};

interface CodeReaderProps {
  readonly onText: (text: string) => void;
  /** Looks for the next code after each; otherwise one is enough. */
  readonly goesOn?: boolean;
}

/** A code by the camera where the page may use it, and by a photo everywhere. */
export function CodeReader({ onText, goesOn = false }: CodeReaderProps) {
  const [fault, setFault] = useState<NoPicture>();
  const take = async (file: File) => {
    setFault(undefined);
    const picture = await readPicture(file);
    if ('title' in picture) return setFault(picture);
    const texts = await readCodes(picture).catch(() => undefined);
    if (texts === undefined) return setFault(NO_READER);
    const [text] = texts;
    if (text === undefined) setFault(NO_CODE);
    else onText(text);
  };
  return (
    <div className="grid gap-3">
      <Camera onText={onText} goesOn={goesOn} />
      <FilePick
        label="Take or choose a photo"
        accept="image/*"
        capture="environment"
        onFile={(file) => void take(file)}
      />
      {fault && <Notice alert kind="stop" {...fault} />}
    </div>
  );
}

type CameraState =
  | 'asking'
  | 'on'
  | 'no reader'
  | 'refused'
  | 'none'
  | 'unencrypted'
  | 'busy'
  | 'broken'
  | 'gone';

const CAMERA_WORDS: Readonly<Record<Exclude<CameraState, 'on'>, string>> = {
  asking: 'Asking for the camera …',
  'no reader': 'The code reader gives no answer: the bench may be away. It is asked again.',
  refused: 'The camera was refused. Allow it in the browser and try again, or take a photo.',
  none: 'There is no camera on this device. Take a photo instead.',
  unencrypted: 'The browser lends no camera to pages without https. Take a photo instead.',
  busy: 'The camera is in use by another program. Close that one and try again, or take a photo.',
  broken: 'The camera could not be started. Unplug it, plug it in and try again, or take a photo.',
  gone: 'The camera is gone. Plug it in and try again, or take a photo.',
};

/** What a browser calls the reasons it starts no camera for (Media Capture and Streams). */
const REASONS: Readonly<Record<string, CameraState>> = {
  ...{ NotAllowedError: 'refused', SecurityError: 'refused', NotReadableError: 'busy' },
  NotFoundError: 'none',
};

/** What somebody at the device can mend. */
const MENDED = new Set<CameraState>(['refused', 'busy', 'broken', 'gone']);

/** Before anything was asked. */
const atFirst = (): CameraState => {
  if ('mediaDevices' in navigator) return 'asking';
  return window.isSecureContext ? 'none' : 'unencrypted';
};

/** Looks again after this, ms: a hand holds still for longer. */
const LOOK_MS = 250;
/** A reader that gave no answer is asked again after this, ms. */
const ASK_AGAIN_MS = 3000;

function Camera({ onText, goesOn }: Required<CodeReaderProps>) {
  const video = useRef<HTMLVideoElement>(null);
  const [state, setState] = useState<CameraState>(atFirst);
  const [attempt, setAttempt] = useState(1);
  const latest = useRef(onText);
  useEffect(() => {
    latest.current = onText;
  });
  useEffect(() => {
    if (!('mediaDevices' in navigator)) return;
    let stream: MediaStream | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let isOver = false;
    const look = async () => {
      const { current } = video;
      let next = LOOK_MS;
      if (current && current.readyState >= HTMLMediaElement.HAVE_CURRENT_DATA) {
        const texts = await readCodes(await createImageBitmap(current)).catch(() => undefined);
        if (isOver) return;
        setState(texts ? 'on' : 'no reader');
        if (!texts) next = ASK_AGAIN_MS;
        const [text] = texts ?? [];
        if (text !== undefined) {
          latest.current(text);
          if (!goesOn) return;
        }
      }
      timer = setTimeout(() => void look(), next);
    };
    navigator.mediaDevices
      .getUserMedia({ video: { facingMode: 'environment' } })
      .then(async (opened) => {
        stream = opened;
        if (isOver || !video.current) return opened.getTracks().forEach((track) => track.stop());
        for (const track of opened.getVideoTracks())
          track.addEventListener('ended', () => {
            isOver = true;
            clearTimeout(timer);
            setState('gone');
          });
        video.current.srcObject = opened;
        await video.current.play();
        setState('on');
        await look();
      })
      .catch((error: unknown) => {
        if (!isOver) setState(REASONS[(error as Error).name] ?? 'broken');
      });
    return () => {
      isOver = true;
      clearTimeout(timer);
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, [goesOn, attempt]);
  return (
    <>
      {state !== 'on' && (
        <p role="status" className="text-muted">
          {CAMERA_WORDS[state]}
        </p>
      )}
      {MENDED.has(state) && (
        <Button
          className="justify-self-start"
          onClick={() => {
            setState('asking');
            setAttempt(attempt + 1);
          }}
        >
          Try the camera again
        </Button>
      )}
      {(state === 'asking' || state === 'on' || state === 'no reader') && (
        <video
          ref={video}
          muted
          playsInline
          aria-label="What the camera sees"
          className={`max-h-80 w-full rounded-md bg-bar object-cover ${state === 'on' ? '' : 'hidden'}`}
        />
      )}
    </>
  );
}
