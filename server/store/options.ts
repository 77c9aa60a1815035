import { join } from 'node:path';
import { packageRoot } from '../packageRoot.ts';
import * as schema from './schema/index.ts';

/** How every engine names tables and columns. */
export const storeOptions = { schema, casing: 'snake_case' } as const;

/** Where the changes of schema lie, oldest first. */
export const migrationsFolder = () => join(packageRoot(), 'server/store/migrations');
