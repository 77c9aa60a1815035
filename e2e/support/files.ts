import type { Locator } from '@playwright/test';

/** A file as it is chosen in a dialog or dropped. */
export const file = (name: string, buffer: Buffer) => ({
  ...{ name, mimeType: 'application/octet-stream', buffer },
});

/** Files as they are dropped from a folder, not chosen in a dialog. */
export async function drop(target: Locator, files: readonly { name: string; buffer: Buffer }[]) {
  const transfer = await target.page().evaluateHandle(
    (list) => {
      const all = new DataTransfer();
      for (const { name, text } of list)
        all.items.add(new File([Uint8Array.from(atob(text), (sign) => sign.charCodeAt(0))], name));
      return all;
    },
    files.map(({ name, buffer }) => ({ name, text: buffer.toString('base64') })),
  );
  await target.dispatchEvent('drop', { dataTransfer: transfer });
}
