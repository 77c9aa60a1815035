import type { Page } from '@playwright/test';

/** What lies before the camera: lines of a sticker, or a picture on it. */
export interface Drawn {
  readonly lines?: readonly { readonly text: string; readonly font: string; readonly y: number }[];
  /** A PNG as a data address, and the width it takes on the sticker. */
  readonly picture?: { readonly source: string; readonly width: number };
  readonly sheet: { readonly width: number; readonly height: number };
  /** Degrees it lies turned in the picture. */
  readonly turned: number;
  /** Degrees the camera stands aside: a true perspective, the far end smaller. */
  readonly angle: number;
  /** Dots the middle of the sheet stands out, as a sticker round an edge does. */
  readonly bent?: number;
  readonly blur: number;
  readonly quality: number;
  readonly glare: boolean;
  /** Specks of wear. */
  readonly wear: number;
  /** Share of the sheet, from its right end, that something covers. */
  readonly hidden?: number;
  readonly seed: number;
  readonly size?: { readonly width: number; readonly height: number };
}

/** A JPEG of something flat as a camera sees it, drawn by the page. */
export async function drawnPhoto(page: Page, drawn: Drawn): Promise<Buffer> {
  const url = await page.evaluate(
    async ({ lines = [], picture, sheet, turned, angle, bent = 0, hidden = 0, ...rest }) => {
      const { blur, quality, glare, wear, seed, size = { width: 1400, height: 600 } } = rest;
      const flat = document.createElement('canvas');
      Object.assign(flat, sheet);
      const ink = flat.getContext('2d');
      const photo = document.createElement('canvas');
      Object.assign(photo, size);
      const context = photo.getContext('2d');
      if (!ink || !context) throw new Error('expected a canvas');
      ink.fillStyle = '#e6e2d6';
      ink.fillRect(0, 0, sheet.width, sheet.height);
      ink.fillStyle = '#2a2722';
      for (const { text, font, y } of lines) {
        ink.font = font;
        ink.fillText(text, 40, y);
      }
      if (picture) {
        const image = new Image();
        image.src = picture.source;
        await image.decode();
        const high = (image.height * picture.width) / image.width;
        ink.imageSmoothingEnabled = false;
        const [left, top] = [(sheet.width - picture.width) / 2, (sheet.height - high) / 2];
        ink.drawImage(image, left, top, picture.width, high);
      }
      // Specks from a seed; no function here: it would need a helper the page has not.
      ink.fillStyle = '#e6e2d6';
      for (let n = 0, state = seed + 1; n < wear; n++) {
        state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
        const x = (state / 2_147_483_648) * sheet.width;
        state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
        ink.fillRect(x, (state / 2_147_483_648) * sheet.height, 2, 2);
      }
      if (hidden > 0) {
        ink.fillStyle = '#1b1a18';
        ink.fillRect(sheet.width * (1 - hidden), 0, sheet.width, sheet.height);
      }
      context.fillStyle = '#1d4a33';
      context.fillRect(0, 0, size.width, size.height);
      context.translate(size.width / 2, size.height / 2);
      context.rotate((turned * Math.PI) / 180);
      context.imageSmoothingQuality = 'high';
      // Column by column: what is farther off is smaller, by the distance of an arm.
      const [aside, far] = [(angle * Math.PI) / 180, 1800];
      for (let column = 0; column < sheet.width; column++) {
        const x = column - sheet.width / 2;
        const depth = 1 + (x * Math.sin(aside)) / far;
        const nextDepth = 1 + ((x + 1) * Math.sin(aside)) / far;
        const at = (x * Math.cos(aside)) / depth;
        const wide = ((x + 1) * Math.cos(aside)) / nextDepth - at;
        const high = sheet.height / depth;
        const lift = bent * (1 - (2 * x) ** 2 / sheet.width ** 2);
        context.drawImage(
          ...([flat, column, 0, 1, sheet.height] as const),
          ...([at, -high / 2 - lift, wide + 0.6, high] as const),
        );
      }
      // Blurred as one: a filter on every column would take minutes.
      const lens = document.createElement('canvas');
      Object.assign(lens, size);
      const seen = lens.getContext('2d');
      if (!seen) throw new Error('expected a canvas');
      seen.filter = `blur(${blur}px)`;
      seen.drawImage(photo, 0, 0);
      seen.filter = 'none';
      if (glare) {
        const band = seen.createLinearGradient(300, 0, 700, 0);
        band.addColorStop(0, 'rgb(255 255 255 / 0)');
        band.addColorStop(0.5, 'rgb(255 255 255 / 0.45)');
        band.addColorStop(1, 'rgb(255 255 255 / 0)');
        seen.fillStyle = band;
        seen.fillRect(0, 0, size.width, size.height);
      }
      return lens.toDataURL('image/jpeg', quality);
    },
    drawn,
  );
  return Buffer.from(url.split(',')[1] ?? '', 'base64');
}
