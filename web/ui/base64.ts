/** Bytes as base64, for the way to the server. */
export function base64FromBytes(bytes: Uint8Array): string {
  let text = '';
  // In pieces: a call takes only so many arguments.
  for (let at = 0; at < bytes.length; at += 0x8000)
    text += String.fromCharCode(...bytes.subarray(at, at + 0x8000));
  return btoa(text);
}

/** The bytes of base64. */
export function bytesFromBase64(text: string): Uint8Array {
  return Uint8Array.from(atob(text), (sign) => sign.charCodeAt(0));
}

/** Typed text as base64 of its UTF-8. */
export function base64FromText(text: string): string {
  return base64FromBytes(new TextEncoder().encode(text));
}
