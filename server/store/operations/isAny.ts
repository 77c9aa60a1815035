import { sql } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';

/** One parameter however many there are: a long list of them takes longer to take apart than to look up. */
export const isAny = (column: PgColumn, ids: readonly string[]) =>
  sql`${column} = any(${sql.param(ids)}::text[])`;
