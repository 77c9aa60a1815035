/** Why a file is no picture here, in words. */
export interface NoPicture {
  readonly title: string;
  readonly why: string;
  readonly mend: string;
}

/** Largest picture that is opened, in bytes: any camera's, not a scanner's poster. */
const LARGEST = 40 * 2 ** 20;

/** Brands of the container that some telephones put photos into (ISO/IEC 23008-12). */
const HEIF = /^ftyp(?:hei[cfmsx]|hev[cmx]|mif1|msf1)/;

/** Opens a picture; one the browser cannot read is refused with what would mend it. */
export async function readPicture(file: Blob): Promise<ImageBitmap | NoPicture> {
  if (file.size > LARGEST)
    return {
      title: 'This picture is too large',
      why: `It has ${Math.round(file.size / 2 ** 20)} MB; ${LARGEST / 2 ** 20} MB is the most.`,
      mend: 'Take it with fewer megapixels, or cut it to what matters.',
    };
  try {
    return await createImageBitmap(file);
  } catch {
    const head = new TextDecoder('latin1').decode(await file.slice(4, 12).arrayBuffer());
    return HEIF.test(head)
      ? {
          title: 'This browser cannot open HEIC photos',
          why: 'The telephone saves them in a format few programs read.',
          mend: 'Set its camera to JPEG (often called “most compatible”), or send a screenshot of the photo.',
        }
      : {
          title: 'This is not a picture the browser can read',
          why: 'It may be another kind of file, damaged, or a camera’s raw format.',
          mend: 'Take a JPEG or PNG.',
        };
  }
}
