import { sql } from 'drizzle-orm';
import type { AnyColumn, SQL } from 'drizzle-orm';

/**
 * Names in the order people look for them: capitals and small letters alike, whatever order the engine
 * keeps them in by itself – the embedded one puts every small letter behind Z.
 */
export const byName = (name: AnyColumn): SQL => sql`lower(${name}), ${name}`;
