import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import wasm from 'zxing-wasm/reader/zxing_reader.wasm?url';

/** A picture to look for codes in, with the number its answer carries. */
export interface CodesRequest {
  readonly ticket: number;
  readonly picture: ImageBitmap;
}
/** The codes found, the surest first. */
export interface CodesAnswer {
  readonly ticket: number;
  readonly texts: readonly string[];
}

// Served by this bench, like everything else.
prepareZXingModule({
  overrides: { locateFile: (path: string) => (path.endsWith('.wasm') ? wasm : path) },
});

/** Codes on bench tags, drawer labels and modules. */
const FORMATS = ['QRCode', 'DataMatrix', 'Code128'] as const;
/** A code of a photo stays readable at this width; a camera’s full size costs seconds. */
const WIDEST = 1600;

async function read({ ticket, picture }: CodesRequest): Promise<CodesAnswer> {
  const scale = Math.min(1, WIDEST / Math.max(picture.width, picture.height));
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(picture.width * scale)),
    Math.max(1, Math.round(picture.height * scale)),
  );
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) return { ticket, texts: [] };
  context.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  const data = context.getImageData(0, 0, canvas.width, canvas.height);
  const found = await readBarcodes(data, {
    formats: [...FORMATS],
    ...{ tryHarder: true, tryRotate: true, tryInvert: true, maxNumberOfSymbols: 4 },
  });
  return { ticket, texts: found.filter(({ isValid }) => isValid).map(({ text }) => text) };
}

self.addEventListener('message', ({ data }: MessageEvent<CodesRequest>) => {
  read(data)
    .catch((): CodesAnswer => ({ ticket: data.ticket, texts: [] }))
    .then((answer) => self.postMessage(answer), console.error);
});
