import { useEffect, useRef, useState } from 'react';
import { OFF_A_CODE } from '#core/memory';
import type { PhotoHints, SignMark } from '#core/memory';
import { Button } from '../ui/Button.tsx';
import type { NoPicture } from '../ui/readPicture.ts';
import { readPhoto } from '../workers/readPhoto.ts';
import type { PhotoReading } from '../workers/readPhoto.ts';
import { PhotoPick } from './PhotoPick.tsx';

interface LabelPhotoProps {
  readonly hints: PhotoHints;
  /** A reading was taken, off which photo and with which codes on it; it may still be corrected. */
  readonly onLabel: (text: string, photo: Blob, codes: readonly string[]) => void;
}

const NO_LABEL: NoPicture = {
  title: 'No label was found in this photo',
  why: 'It looks for the line with size, organisation and PC name, such as 16GB 2Rx8 PC4-2400T-SE1-11.',
  mend: 'Come closer, square on, without glare; or type the label.',
};
/** A label off a photo: each reading beside its place on the photo, with what to look at twice. */
export function LabelPhoto({ hints, onLabel }: LabelPhotoProps) {
  const [read, setRead] = useState<{ readonly reading: PhotoReading; readonly photo: File }>();
  return (
    <div className="mt-1" aria-live="polite">
      <PhotoPick
        read={async (picture) => {
          const reading = await readPhoto(picture, hints);
          return reading.labels.length > 0 ? reading : NO_LABEL;
        }}
        onRead={(reading, photo) => setRead(reading && { reading, photo })}
      />
      {read && (
        <ul aria-label="Labels on the photo" className="grid gap-3">
          {read.reading.labels.map((label) => (
            <li key={label.line} className="grid gap-1 rounded-md border border-line p-2">
              <Crop reading={read.reading} box={label.box} />
              <p className="flex flex-wrap items-center gap-3">
                <Signs signs={label.signs} />
                <Button
                  onClick={() => {
                    onLabel(label.text, read.photo, read.reading.codes);
                    setRead(undefined);
                  }}
                >
                  Take it
                </Button>
              </p>
              {label.line === OFF_A_CODE ? (
                <p className="text-aside text-muted">
                  By the code on it: the label of that part in the catalogue.
                </p>
              ) : (
                <Doubts signs={label.signs} />
              )}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

type Signs = PhotoReading['labels'][number]['signs'];

const LOOKS: Readonly<Record<SignMark, string>> = {
  seen: '',
  changed: 'border-b-2 border-dotted border-caution',
  doubtful: 'border-b-2 border-caution bg-caution-wash',
};

function Signs({ signs }: { readonly signs: Signs }) {
  return (
    <span className="figure min-w-0 text-lg break-all whitespace-pre-wrap">
      {signs.map(({ taken, mark }, at) => (
        <span key={at} className={LOOKS[mark]}>
          {taken}
        </span>
      ))}
    </span>
  );
}

/** What to look at twice, in words. */
function Doubts({ signs }: { readonly signs: Signs }) {
  const of = (mark: SignMark) => signs.filter((one) => one.mark === mark);
  const changed = of('changed').map(({ taken, seen }) => `${seen} read as ${taken}`);
  const doubtful = of('doubtful').map(({ taken }) => taken);
  if (changed.length + doubtful.length === 0)
    return <p className="text-aside text-muted">Every letter was seen as it stands.</p>;
  return (
    <p className="text-aside text-caution">
      <b>Look twice:</b>{' '}
      {[
        ...(changed.length > 0 ? [`${changed.join(', ')}, since nothing else is a label`] : []),
        ...(doubtful.length > 0 ? [`in doubt: ${doubtful.join(' ')}`] : []),
      ].join('; ')}
      .
    </p>
  );
}

/** Of the line's height, on every side: the reader may have straightened the photo before it measured. */
const MARGIN = 0.7;

/** The place on the photo a label was read from. */
function Crop({ reading, box }: { readonly reading: PhotoReading; readonly box: Box }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const more = (box.y1 - box.y0) * MARGIN;
  const [x, y] = [Math.max(0, box.x0 - more), Math.max(0, box.y0 - more)];
  const wide = Math.min(reading.width, box.x1 + more) - x;
  const high = Math.min(reading.height, box.y1 + more) - y;
  useEffect(() => {
    let isOver = false;
    void createImageBitmap(reading.photo).then((picture) => {
      if (!isOver)
        canvas.current?.getContext('2d')?.drawImage(picture, x, y, wide, high, 0, 0, wide, high);
      picture.close();
    });
    return () => {
      isOver = true;
    };
  }, [reading, x, y, wide, high]);
  return (
    <canvas
      ref={canvas}
      width={wide}
      height={high}
      role="img"
      aria-label="The label on the photo"
      className="max-h-24 max-w-full rounded border border-line"
    />
  );
}

type Box = PhotoReading['labels'][number]['box'];
