import { z } from 'zod';
import { digestOf } from '../digest.ts';

/** Of the archive; see docs/formats.md. A reader takes its own and earlier ones. */
export const FORMAT_VERSION = 1;

const sha256 = z.string().regex(/^[0-9a-f]{64}$/);

/** Everything of a bench, or one job with what belongs to it. */
export type ArchiveFormat = Manifest['format'];

/** What an archive holds and how to tell that it is whole; its last entry. */
export const manifestSchema = z.strictObject({
  format: z.enum(['tembrix-backup', 'tembrix-job']),
  version: z.number().int().min(1),
  /** When the newest change of schema was made, ms; an older program does not take newer data. */
  schema: z.number(),
  writtenAt: z.iso.datetime(),
  tables: z.array(
    z.strictObject({
      name: z.string().regex(/^[a-z][a-z0-9_]{0,62}$/),
      rows: z.number().int().min(0),
      sha256,
    }),
  ),
  /** Files and photos, named by their digest. */
  files: z.array(z.strictObject({ sha256, bytes: z.number().int().min(0) })),
});
/** See {@link manifestSchema}. */
export type Manifest = z.infer<typeof manifestSchema>;

/** One table as it travels: a row a line, as JSON. */
export interface TableText {
  readonly name: string;
  readonly rows: number;
  readonly text: string;
}

/** Everything a bench holds, at one moment. */
export interface BenchContent {
  readonly schema: number;
  readonly tables: readonly TableText[];
  /** By digest. */
  readonly files: ReadonlyMap<string, Uint8Array>;
}

/** Stands in a row for bytes that travel as a file. */
export const FILE_MARK = 'file sha256:';

/** What an archive of such content says of itself. */
export function manifestOf(
  content: BenchContent,
  writtenAt: Date,
  format: Manifest['format'] = 'tembrix-backup',
): Manifest {
  return {
    ...{ format, version: FORMAT_VERSION, schema: content.schema },
    writtenAt: writtenAt.toISOString(),
    tables: content.tables.map(({ name, rows, text }) => ({ name, rows, sha256: digestOf(text) })),
    files: [...content.files].map(([sha256, { length: bytes }]) => ({ sha256, bytes })),
  };
}

/** An archive that cannot be used, with what would mend it. */
export class ArchiveError extends Error {
  constructor(
    message: string,
    readonly mend: string,
  ) {
    super(message);
    this.name = 'ArchiveError';
  }
}
