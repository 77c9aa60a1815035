import type { Worker as Reader } from 'tesseract.js';
import type { PhotoHints, PhotoLabel, SeenSign } from '#core/memory';
import { Asked } from './asked.ts';
import { readCodes } from './readCodes.ts';
import type { PrepareRequest, Prepared, SettleRequest, Settled } from './preparePhoto.worker.ts';

/** A box on the photo as it was read, in its dots. */
export interface Box {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** A photo read: the labels on it, each with where it stands, and the photo as it was read. */
export interface PhotoReading {
  readonly labels: readonly (PhotoLabel & { readonly box: Box })[];
  /** Texts of the codes on it. */
  readonly codes: readonly string[];
  readonly photo: Blob;
  readonly width: number;
  readonly height: number;
}

const FOLDER = '/assets/reading';

const helper = new Asked<PrepareRequest | SettleRequest, Prepared | Settled>(
  () => new Worker(new URL('./preparePhoto.worker.ts', import.meta.url), { type: 'module' }),
);

async function prepared(picture: ImageBitmap, turns: number): Promise<Prepared> {
  const answer = await helper.ask({ picture, turns }, [picture]);
  if (!('photo' in answer)) throw new Error('expected a photo made ready');
  return answer;
}

async function settled(request: SettleRequest): Promise<Settled['labels']> {
  const answer = await helper.ask(request);
  if (!('labels' in answer)) throw new Error('expected the labels among lines');
  return answer.labels;
}

let reader: Promise<Reader> | undefined;

/** The general reader: worker, engine and model come from this bench, about 6 MB, at the first photo. */
function generalReader(): Promise<Reader> {
  reader ??= import('tesseract.js')
    .then(({ createWorker, OEM }) =>
      createWorker('eng', OEM.LSTM_ONLY, {
        ...{ workerPath: `${FOLDER}/worker.min.js`, corePath: FOLDER, langPath: FOLDER },
        workerBlobURL: false,
      }),
    )
    .catch((error: unknown) => {
      // Tried again with the next photo: the bench may have been away.
      reader = undefined;
      throw error;
    });
  return reader;
}

interface Line {
  readonly signs: readonly SeenSign[];
  readonly box: Box;
}

async function linesOn(photo: Blob): Promise<Line[]> {
  const engine = await generalReader();
  const { data } = await engine.recognize(photo, { rotateAuto: true }, { blocks: true });
  const lines = (data.blocks ?? []).flatMap(({ paragraphs }) =>
    paragraphs.flatMap((paragraph) => paragraph.lines),
  );
  return lines.map(({ words, bbox }) => ({
    box: bbox,
    signs: words.flatMap(({ symbols }, at) => [
      ...(at > 0 ? [{ sign: ' ', confidence: 1 }] : []),
      ...symbols.map(({ text, confidence }) => ({ sign: text, confidence: confidence / 100 })),
    ]),
  }));
}

/** Upright first, then upside down, then on either side. */
const TURNS = [0, 2, 1, 3];

/**
 * Reads the labels on a photo: made ready, read by the general reader, and settled by what a label can
 * be. A photo without one is turned until it has one.
 *
 * @param picture - used up
 * @throws when a part of the reader cannot be fetched, or breaks off
 */
export async function readPhoto(picture: ImageBitmap, hints: PhotoHints): Promise<PhotoReading> {
  let upright: PhotoReading | undefined;
  // Codes say more of a label; one can be read without them.
  const codes = await readCodes(await createImageBitmap(picture)).catch(() => []);
  for (const turns of TURNS) {
    const { photo, width, height } = await prepared(await createImageBitmap(picture), turns);
    const lines = await linesOn(photo);
    const found = await settled({
      lines: lines.map(({ signs }) => signs),
      hints: { ...hints, codes },
    });
    const none: Box = { x0: 0, y0: 0, x1: width, y1: height };
    const labels = found.map((one) => ({ ...one, box: lines[one.line]?.box ?? none }));
    const reading = { labels, codes, photo, width, height };
    if (labels.length > 0) {
      picture.close();
      return reading;
    }
    upright ??= reading;
  }
  picture.close();
  if (!upright) throw new Error('expected a reading');
  return upright;
}

/**
 * The lines on a photo of anything printed or shown, top to bottom, as a general reader sees them.
 *
 * @param picture - used up
 * @throws when a part of the reader cannot be fetched, or breaks off
 */
export async function readLines(picture: ImageBitmap): Promise<string[]> {
  const { photo } = await prepared(picture, 0);
  return (await linesOn(photo)).map(({ signs }) => signs.map(({ sign }) => sign).join(''));
}
