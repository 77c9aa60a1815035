import { sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { digestOf } from '../digest.ts';
import { NEWEST_CHANGE } from '../store/migrate.ts';
import type { Database } from '../store/openStore.ts';
import { noteNothing } from '../store/who.ts';
import { ArchiveError, FILE_MARK } from './format.ts';
import type { BenchContent, TableText } from './format.ts';

export type Row = Record<string, unknown>;

export async function query<T extends Row>(db: Database, text: SQL): Promise<T[]> {
  const result: unknown = await db.execute(text);
  return (result as { rows: T[] }).rows;
}

export interface Column extends Row {
  readonly table: string;
  readonly name: string;
  readonly type: string;
  readonly sequence: string | null;
}

/** Tables of the bench with their columns; those others refer to come first. */
export async function tablesOf(db: Database): Promise<Map<string, Column[]>> {
  const columns = await query<Column>(
    db,
    sql`select c.table_name as "table", c.column_name as name, c.data_type as type,
          pg_get_serial_sequence(quote_ident(c.table_name), c.column_name) as sequence
        from information_schema.columns c
        join information_schema.tables t using (table_schema, table_name)
        where c.table_schema = 'public' and t.table_type = 'BASE TABLE'
        order by c.table_name, c.ordinal_position`,
  );
  const links = await query<{ from: string; to: string }>(
    db,
    sql`select conrelid::regclass::text as "from", confrelid::regclass::text as "to"
        from pg_constraint where contype = 'f' and conrelid <> confrelid`,
  );
  const names = [...new Set(columns.map(({ table }) => table))];
  const sorted: string[] = [];
  const place = (name: string) => {
    if (sorted.includes(name)) return;
    for (const { from, to } of links) if (from === name) place(to);
    sorted.push(name);
  };
  names.forEach(place);
  return new Map(sorted.map((name) => [name, columns.filter(({ table }) => table === name)]));
}

/** Answers kept for lost connections, and who is signed in where, are of no use elsewhere. */
const LEFT_OUT = new Set(['deeds', 'sessions', 'tablet_links', 'failed_sign_ins', 'certificates']);

/** Everything a bench holds, at one moment: nobody's save falls between two tables. */
export const readContent = (db: Database): Promise<BenchContent> =>
  readRows(db, (name) => (LEFT_OUT.has(name) ? undefined : sql`true`));

/** Rows of some tables, all of one moment; a table without a condition is left out. */
export async function readRows(
  db: Database,
  conditionOf: (table: string, columns: readonly string[]) => SQL | undefined,
): Promise<BenchContent> {
  return db.transaction(
    async (tx) => {
      await tx.execute(sql`set local timezone = 'UTC'`);
      const [change] = await query<{ newest: number }>(tx, sql.raw(NEWEST_CHANGE));
      const files = new Map<string, Uint8Array>();
      const tables: TableText[] = [];
      for (const [name, columns] of await tablesOf(tx)) {
        const condition = conditionOf(
          name,
          columns.map((one) => one.name),
        );
        if (!condition) continue;
        const table = sql.identifier(name);
        const raw = columns.filter(({ type }) => type === 'bytea');
        const rest = raw.reduce((json, one) => sql`${json} - ${one.name}::text`, sql`to_jsonb(t)`);
        const bytes = raw.map((one) => sql`, t.${sql.identifier(one.name)}`);
        // As text, and put in order here: the embedded engine would write each row out twice to sort it.
        const rows = await query<{ row: string } & Row>(
          tx,
          sql`select (${rest})::text as row${sql.join(bytes)} from ${table} t where ${condition}`,
        );
        const lines = rows.map(({ row, ...own }) => {
          if (raw.length === 0) return row;
          const filled = JSON.parse(row) as Row;
          for (const one of raw) {
            const content = own[one.name];
            if (content === null) continue;
            const digest = digestOf(content as Uint8Array);
            files.set(digest, content as Uint8Array);
            filled[one.name] = `${FILE_MARK}${digest}`;
          }
          return JSON.stringify(filled);
        });
        lines.sort();
        tables.push({ name, rows: lines.length, text: lines.join('\n') });
      }
      return { schema: Number(change?.newest ?? 0), tables, files };
    },
    { isolationLevel: 'repeatable read' },
  );
}

const ROWS_AT_ONCE = 500;

/**
 * Puts content into a bench that holds nothing yet: all of it or none.
 *
 * @throws ArchiveError where something is there already, or a table is not known here
 */
export async function putContent(db: Database, { tables, files }: BenchContent): Promise<void> {
  await db.transaction(async (tx) => {
    await noteNothing(tx);
    const known = await tablesOf(tx);
    const stranger = tables.find(({ name }) => !known.has(name));
    if (stranger)
      throw new ArchiveError(
        `The archive holds a table “${stranger.name}” that no bench has.`,
        'It is foreign, or was changed. Use another backup.',
      );
    for (const name of ['jobs', 'customers', 'machines', 'modules', 'accounts']) {
      const [row] = await query<{ count: number }>(
        tx,
        sql`select count(*)::int as count from ${sql.identifier(name)}`,
      );
      if ((row?.count ?? 0) > 0)
        throw new ArchiveError(
          'There is a bench already where this would go.',
          'Restore into an empty place: set TEMBRIX_DATA to a new directory.',
        );
    }
    const order = [...known.keys()];
    const sorted = [...tables].sort((a, b) => order.indexOf(a.name) - order.indexOf(b.name));
    for (const { name, text } of sorted) {
      const columns = known.get(name) ?? [];
      const lines = text === '' ? [] : text.split('\n');
      for (let at = 0; at < lines.length; at += ROWS_AT_ONCE)
        await putRows(
          tx,
          name,
          columns,
          rowsOf(lines.slice(at, at + ROWS_AT_ONCE), columns, files),
        );
      for (const { name: column, sequence } of columns)
        if (sequence !== null)
          await tx.execute(
            sql`select setval(${sequence}, coalesce(max(${sql.identifier(column)}), 1), max(${sql.identifier(column)}) is not null) from ${sql.identifier(name)}`,
          );
    }
    // Backups from before there were suppliers name them in their offers alone.
    await tx.execute(sql`select know_suppliers()`);
  });
}

export function rowsOf(
  lines: readonly string[],
  columns: readonly Column[],
  files: BenchContent['files'],
): Row[] {
  const raw = columns.filter(({ type }) => type === 'bytea');
  return lines.map((line) => {
    const row = JSON.parse(line) as Row;
    for (const { name } of raw) {
      const mark = row[name];
      if (typeof mark !== 'string') continue;
      const content = files.get(mark.slice(FILE_MARK.length));
      if (!content)
        throw new ArchiveError('A file of the archive is missing.', 'Use another backup.');
      row[name] = `\\x${Buffer.from(content).toString('hex')}`;
    }
    return row;
  });
}

export async function putRows(
  tx: Database,
  name: string,
  columns: readonly Column[],
  rows: readonly Row[],
): Promise<void> {
  // Columns an earlier version did not have yet take their defaults.
  const given = columns.filter((column) => rows.some((row) => column.name in row));
  const list = sql.join(
    given.map((column) => sql.identifier(column.name)),
    sql`, `,
  );
  await tx.execute(
    sql`insert into ${sql.identifier(name)} (${list}) select ${list}
        from jsonb_populate_recordset(null::${sql.identifier(name)}, ${JSON.stringify(rows)}::jsonb)`,
  );
}
