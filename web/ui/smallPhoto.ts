import { PHOTO_LIMIT } from '#contract/bench';
import { base64FromBytes } from './base64.ts';
import { readPicture } from './readPicture.ts';
import type { NoPicture } from './readPicture.ts';

/** Wide enough to find a screw on, or to read a label by eye. */
const WIDEST = 1400;

/**
 * A photo as JPEG, small enough to be kept. A file of any size is taken; one that is no picture is
 * refused in words.
 *
 * @returns base64, or what is wrong and what would mend it
 */
export async function smallPhoto(file: Blob): Promise<{ base64: string } | NoPicture> {
  const bitmap = await readPicture(file);
  if ('title' in bitmap) return bitmap;
  const scale = Math.min(1, WIDEST / Math.max(bitmap.width, bitmap.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(bitmap.width * scale);
  canvas.height = Math.round(bitmap.height * scale);
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  for (const quality of [0.85, 0.6, 0.4]) {
    const blob = await new Promise<Blob | null>((done) =>
      canvas.toBlob(done, 'image/jpeg', quality),
    );
    if (blob && blob.size <= PHOTO_LIMIT)
      return { base64: base64FromBytes(new Uint8Array(await blob.arrayBuffer())) };
  }
  return {
    title: 'The photo stays too large',
    why: 'Even made small it takes more than 700 kB.',
    mend: 'Cut it to what matters.',
  };
}
