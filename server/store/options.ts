import { join } from 'node:path';
import { pg_trgm } from '@electric-sql/pglite/contrib/pg_trgm';
import { packageRoot } from '../packageRoot.ts';
import * as relations from './relations.ts';
import * as schema from './schema/index.ts';

/** How every engine names tables and columns. */
export const storeOptions = { schema: { ...schema, ...relations }, casing: 'snake_case' } as const;

/** Where the changes of schema lie, oldest first. */
export const migrationsFolder = () => join(packageRoot(), 'server/store/migrations');

/** What the embedded engine is given besides: a database server brings it along. */
export const engineOptions = { extensions: { pg_trgm } } as const;
