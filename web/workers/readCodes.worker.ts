import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import wasm from 'zxing-wasm/reader/zxing_reader.wasm?url';
import { answering } from './answering.ts';

// Served by this bench, like everything else.
prepareZXingModule({
  overrides: { locateFile: (path: string) => (path.endsWith('.wasm') ? wasm : path) },
});

/** Codes on bench tags, drawer labels and modules. */
const FORMATS = ['QRCode', 'DataMatrix', 'Code128'] as const;
/** A code of a photo stays readable at this width; a camera’s full size costs seconds. */
const WIDEST = 1600;

/** Bars are only seen by lines across all of them: a strip lying askew is turned until one does, degrees. */
const TURNS = [0, 45, 22.5, 67.5];

async function read(picture: ImageBitmap): Promise<readonly string[]> {
  const scale = Math.min(1, WIDEST / Math.max(picture.width, picture.height));
  try {
    for (const turn of TURNS) {
      const found = await readBarcodes(turned(picture, scale, (turn * Math.PI) / 180), {
        // Square codes are found however they lie.
        formats: turn === 0 ? [...FORMATS] : ['Code128'],
        ...{ tryHarder: true, tryRotate: true, tryInvert: turn === 0, maxNumberOfSymbols: 4 },
      });
      const texts = found.filter(({ isValid }) => isValid).map(({ text }) => text);
      if (texts.length > 0) return texts;
    }
    return [];
  } finally {
    picture.close();
  }
}

function turned(picture: ImageBitmap, scale: number, angle: number): ImageData {
  const [wide, high] = [picture.width * scale, picture.height * scale];
  const [along, across] = [Math.cos(angle), Math.sin(angle)];
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(wide * along + high * across)),
    Math.max(1, Math.round(wide * across + high * along)),
  );
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('no canvas');
  context.fillStyle = '#888';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.translate(canvas.width / 2, canvas.height / 2);
  context.rotate(angle);
  context.drawImage(picture, -wide / 2, -high / 2, wide, high);
  return context.getImageData(0, 0, canvas.width, canvas.height);
}

answering(read);
