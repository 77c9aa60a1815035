import type { Worker as Reader } from 'tesseract.js';
import type { PhotoHints, PhotoLabel, SeenSign } from '#core/memory';
import { readCodes } from './readCodes.ts';
import type {
  PrepareAnswer,
  PrepareRequest,
  SettleAnswer,
  SettleRequest,
} from './preparePhoto.worker.ts';

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

let helper: Worker | undefined;
let tickets = 0;
const waiting = new Map<number, (answer: never) => void>();

type Without<T> = Omit<T, 'ticket'>;

function ask(request: Without<PrepareRequest>): Promise<PrepareAnswer>;
function ask(request: Without<SettleRequest>): Promise<SettleAnswer>;
function ask(request: Without<PrepareRequest> | Without<SettleRequest>): Promise<unknown> {
  if (!helper) {
    helper = new Worker(new URL('./preparePhoto.worker.ts', import.meta.url), { type: 'module' });
    helper.addEventListener('message', ({ data }: MessageEvent<PrepareAnswer | SettleAnswer>) => {
      waiting.get(data.ticket)?.(data as never);
      waiting.delete(data.ticket);
    });
  }
  return new Promise((settle) => {
    const ticket = ++tickets;
    waiting.set(ticket, settle);
    helper?.postMessage({ ...request, ticket }, 'picture' in request ? [request.picture] : []);
  });
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
 * @throws when the reader's own files cannot be fetched
 */
export async function readPhoto(picture: ImageBitmap, hints: PhotoHints): Promise<PhotoReading> {
  let upright: PhotoReading | undefined;
  const codes = await readCodes(await createImageBitmap(picture));
  for (const turns of TURNS) {
    const { photo, width, height } = await ask({
      picture: await createImageBitmap(picture),
      turns,
    });
    const lines = await linesOn(photo);
    const { labels: found } = await ask({
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
 * @throws when the reader's own files cannot be fetched
 */
export async function readLines(picture: ImageBitmap): Promise<string[]> {
  const { photo } = await ask({ picture, turns: 0 });
  return (await linesOn(photo)).map(({ signs }) => signs.map(({ sign }) => sign).join(''));
}
