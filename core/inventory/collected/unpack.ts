import { decodeText, looksLikeText } from '../decodeText.ts';
import { COLLECTED_LIMIT } from '../limits.ts';
import { isCollected, readCollected } from './readCollected.ts';

/** A file by name, whatever it holds. */
export interface NamedBytes {
  readonly name: string;
  readonly bytes: Uint8Array;
}

const PART_NAMES = {
  'memory-instances': 'memory list',
  'smbios-table': 'SMBIOS table',
  'spd-image': 'SPD image',
  'hardware-report': 'hardware report',
} as const;

/**
 * A collected file with its parts as files of their own behind it, so that each is stored, placed and
 * believed like any other; any other file alone.
 *
 * @example unpackCollected({ name: 'collected.json', bytes }).map(({ name }) => name)
 */
export function unpackCollected(file: NamedBytes): readonly NamedBytes[] {
  const { name, bytes } = file;
  if (bytes.length > COLLECTED_LIMIT || !looksLikeText(bytes)) return [file];
  const text = decodeText(bytes);
  if (!isCollected(text)) return [file];
  const { collected } = readCollected(text);
  const parts = (collected?.parts ?? []).map((part) => ({
    name: `${name.slice(0, 80)}: ${PART_NAMES[part.kind]}, ${part.from}`.slice(0, 200),
    bytes: part.bytes,
  }));
  return [file, ...parts];
}
