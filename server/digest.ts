import { createHash } from 'node:crypto';

/** SHA-256 in hexadecimal: what tells one content from another. */
export const digestOf = (content: string | Uint8Array): string =>
  createHash('sha256').update(content).digest('hex');
