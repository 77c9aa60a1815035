import { readPhotoText } from '#core/memory';
import type { PhotoHints, PhotoLabel, SeenSign } from '#core/memory';
import { answering } from './answering.ts';

/** Lines seen on a photo, to be settled by what a label can be. */
export interface SettleRequest {
  readonly lines: readonly (readonly SeenSign[])[];
  readonly hints: PhotoHints;
}
/** The labels among them. */
export interface Settled {
  readonly labels: readonly PhotoLabel[];
}

/** A photo to be made ready for reading, turned by quarter turns. */
export interface PrepareRequest {
  readonly picture: ImageBitmap;
  readonly turns: number;
}
/** The photo in greys, its contrast stretched, at the size it was read at. */
export interface Prepared {
  readonly photo: Blob;
  readonly width: number;
  readonly height: number;
}

/** Letters of a sticker are read best at this width of the whole; larger costs seconds. */
const WIDEST = 2000;
const NARROWEST = 1200;
/** Shares of the darkest and lightest dots that stretching gives up: glare and holes. */
const LOST = 0.02;

async function prepare({ picture, turns }: PrepareRequest): Promise<Prepared> {
  const long = Math.max(picture.width, picture.height);
  const scale = Math.min(WIDEST / long, Math.max(1, NARROWEST / long));
  const [wide, high] = [Math.round(picture.width * scale), Math.round(picture.height * scale)];
  const isUpright = turns % 2 === 0;
  const canvas = new OffscreenCanvas(isUpright ? wide : high, isUpright ? high : wide);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('no canvas');
  context.translate(canvas.width / 2, canvas.height / 2);
  context.rotate((turns * Math.PI) / 2);
  context.imageSmoothingQuality = 'high';
  context.drawImage(picture, -wide / 2, -high / 2, wide, high);
  picture.close();
  const data = context.getImageData(0, 0, canvas.width, canvas.height);
  stretch(data.data);
  context.putImageData(data, 0, 0);
  const photo = await canvas.convertToBlob({ type: 'image/png' });
  return { photo, width: canvas.width, height: canvas.height };
}

/** Greys from nearly the darkest to nearly the lightest, over the whole range. */
function stretch(rgba: Uint8ClampedArray): void {
  const counts = new Uint32Array(256);
  for (let at = 0; at < rgba.length; at += 4) {
    const grey = ((rgba[at] ?? 0) * 77 + (rgba[at + 1] ?? 0) * 150 + (rgba[at + 2] ?? 0) * 29) >> 8;
    rgba[at] = grey;
    counts[grey] = (counts[grey] ?? 0) + 1;
  }
  const lost = (rgba.length / 4) * LOST;
  const [dark, light] = [edge(counts, lost, 0, 1), edge(counts, lost, 255, -1)];
  const span = Math.max(1, light - dark);
  for (let at = 0; at < rgba.length; at += 4) {
    const value = (((rgba[at] ?? 0) - dark) * 255) / span;
    rgba[at] = value;
    rgba[at + 1] = value;
    rgba[at + 2] = value;
  }
}

function edge(counts: Uint32Array, lost: number, from: number, step: 1 | -1): number {
  let [seen, at] = [0, from];
  while (at >= 0 && at < 256 && seen + (counts[at] ?? 0) <= lost) {
    seen += counts[at] ?? 0;
    at += step;
  }
  return Math.min(255, Math.max(0, at));
}

answering((request: PrepareRequest | SettleRequest): Prepared | Settled | Promise<Prepared> =>
  'picture' in request ? prepare(request) : { labels: readPhotoText(request.lines, request.hints) },
);
