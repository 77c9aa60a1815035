import { rmSync } from 'node:fs';
import { defineConfig } from 'vitest/config';
import { watPlugin } from './probe/watPlugin.ts';
import { inMemory } from './test/support/inMemory.ts';
import { hasPostgres } from './test/support/postgres.ts';

// Two cores can be slow for minutes; what hangs is still found.
const LIMITS = { testTimeout: 400_000, hookTimeout: 400_000 };
// What a shop's server does, on a PostgreSQL server too; the rest is the same on either engine.
const API = [
  ...[
    'access',
    'api',
    'audit',
    'bench',
    'buying',
    'coverMaps',
    'days',
    'devices',
    'evidence',
    'ledger',
    'live',
  ],
  ...['measuring', 'month', 'plans', 'returns', 'settings', 'sittings', 'stock', 'storedRows'],
  'findJobs',
];
// Long, and the same on either engine: by day on a server where one can be had, by night embedded.
const LONG = ['anyStock', 'goingBack'].map((name) => `test/${name}.test.ts`);
const isOnServer = hasPostgres() && process.env['TEMBRIX_DRAWS'] === undefined;

// Where tests make their directories, and all they start.
const temporary = inMemory('tests');
if (temporary !== undefined) {
  process.env['TMPDIR'] = temporary;
  process.once('exit', () => rmSync(temporary, { recursive: true, force: true }));
}

export default defineConfig({
  plugins: [watPlugin()],
  test: {
    setupFiles: ['test/support/draws.ts', 'test/support/putBack.ts'],
    maxWorkers: 3, // left to itself, one core of two would idle
    projects: [
      {
        extends: true,
        test: {
          name: 'rooms',
          ...LIMITS,
          // One process for many files: loading the core and the engine anew for each took a third of the
          // time. What a file changes of its process it must put back.
          isolate: false,
          include: ['{core,contract,probe,server,demo,test}/**/*.test.ts'],
          exclude: isOnServer ? LONG : [],
          // Only the room with types to test; the whole house is checked by the step before.
          typecheck: {
            enabled: true,
            include: ['core/units/*.test-d.ts'],
            tsconfig: 'core/units/tsconfig.types.json',
          },
        },
      },
      {
        extends: true,
        test: {
          name: 'pages',
          ...LIMITS,
          isolate: false,
          environment: 'happy-dom',
          setupFiles: 'test/support/window.ts',
          include: ['web/**/*.test.{ts,tsx}'],
        },
      },
      ...(hasPostgres()
        ? [
            {
              extends: true as const,
              test: {
                name: 'on a server',
                isolate: false,
                ...LIMITS,
                globalSetup: 'test/support/onPostgres.ts',
                include: [
                  ...[...API, 'twice', 'guard'].map((name) => `test/${name}.test.ts`),
                  ...(isOnServer ? LONG : []),
                ],
              },
            },
          ]
        : []),
    ],
  },
});
