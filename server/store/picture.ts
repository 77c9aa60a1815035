import { PHOTO_LIMIT } from '#contract/bench';
import { StateError } from './operations/errors.ts';

/** Kinds of picture by their first bytes; a name or a stated type says nothing. */
const SIGNS = [
  { type: 'image/jpeg', is: (b: Uint8Array) => b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff },
  { type: 'image/png', is: (b: Uint8Array) => b[0] === 0x89 && b[1] === 0x50 && b[2] === 0x4e },
  {
    type: 'image/webp',
    is: (b: Uint8Array) => Buffer.from(b.subarray(8, 12)).toString('latin1') === 'WEBP',
  },
] as const;

type PictureType = (typeof SIGNS)[number]['type'];

/** The media type of a picture a browser shows; undefined for anything else. */
export function pictureType(bytes: Uint8Array): PictureType | undefined {
  return SIGNS.find(({ is }) => is(bytes))?.type;
}

/**
 * A picture as it came over the wire.
 *
 * @param field - what the fault is reported at
 * @throws StateError where it is none that can be shown, or too large to keep
 */
export function pictureFrom(
  base64: string,
  field: string,
): { type: PictureType; content: Uint8Array } {
  const content = new Uint8Array(Buffer.from(base64, 'base64'));
  const type = pictureType(content);
  if (type === undefined)
    throw new StateError(
      'This is not a picture that can be shown.',
      'Take a JPEG, PNG or WebP file.',
      field,
    );
  if (content.length > PHOTO_LIMIT)
    throw new StateError(
      'The photo is too large.',
      'Make it smaller: 1400 pixels wide is plenty.',
      field,
    );
  return { type, content };
}
