import { Asked } from './asked.ts';

const worker = new Asked<ImageBitmap, readonly string[]>(
  () => new Worker(new URL('./readCodes.worker.ts', import.meta.url), { type: 'module' }),
);

/**
 * The texts of the codes in a picture (QR, DataMatrix, Code 128), the surest first, off the page's
 * thread; the picture is used up.
 *
 * @throws NoAnswer
 */
export const readCodes = (picture: ImageBitmap): Promise<readonly string[]> =>
  worker.ask(picture, [picture]);
