import { useEffect, useRef, useState } from 'react';
import { readCodes } from '../workers/readCodes.ts';
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

type CameraState = 'asking' | 'on' | 'no reader' | 'refused' | 'none';

const CAMERA_WORDS: Readonly<Record<Exclude<CameraState, 'on'>, string>> = {
  asking: 'Asking for the camera …',
  'no reader': 'The code reader gives no answer: the bench may be away. It is asked again.',
  refused: 'The camera was refused. Allow it in the browser, or take a photo.',
  none: 'This page has no camera here (plain addresses have none). Take a photo instead.',
};

/** Looks again after this, ms: a hand holds still for longer. */
const LOOK_MS = 250;
/** A reader that gave no answer is asked again after this, ms. */
const ASK_AGAIN_MS = 3000;

function Camera({ onText, goesOn }: Required<CodeReaderProps>) {
  const video = useRef<HTMLVideoElement>(null);
  const [state, setState] = useState<CameraState>(() =>
    'mediaDevices' in navigator ? 'asking' : 'none',
  );
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
        video.current.srcObject = opened;
        await video.current.play();
        setState('on');
        await look();
      })
      .catch((error: unknown) => {
        if (!isOver) setState((error as Error).name === 'NotFoundError' ? 'none' : 'refused');
      });
    return () => {
      isOver = true;
      clearTimeout(timer);
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, [goesOn]);
  return (
    <>
      {state !== 'on' && (
        <p role="status" className="text-muted">
          {CAMERA_WORDS[state]}
        </p>
      )}
      {state !== 'none' && state !== 'refused' && (
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
