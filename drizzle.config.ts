import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'postgresql',
  casing: 'snake_case',
  schema: './server/store/schema/index.ts',
  out: './server/store/migrations',
});
