import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defineConfig } from 'vitest/config';
import { watPlugin } from './probe/watPlugin.ts';
import { inMemory } from './test/support/inMemory.ts';
import { hasPostgres } from './test/support/postgres.ts';

// Two cores can be slow for minutes; what hangs is still found.
const LIMITS = { testTimeout: 400_000, hookTimeout: 400_000 };
const isNight = process.env['TEMBRIX_DRAWS'] !== undefined;
// What a shop's server does, on a PostgreSQL server too. By day where two engines may differ: what is stored and
// read back, order, days, what screens hear, saves at one moment. By night all of it (`npm run night -- server`).
const BY_DAY = ['audit', 'days', 'findJobs', 'guard', 'live', 'storedRows', 'twice'];
const BY_NIGHT = [
  ...['access', 'anyStock', 'api', 'bench', 'buying', 'coverMaps', 'devices', 'evidence'],
  ...['goingBack', 'ledger', 'measuring', 'month', 'plans', 'returns', 'settings'],
  ...['sittings', 'stock'],
];

// Where tests make their directories, and all they start.
const temporary = inMemory('tests') ?? mkdtempSync(join(tmpdir(), 'tembrix-tests-'));
process.env['TMPDIR'] = temporary;
process.once('exit', () => rmSync(temporary, { recursive: true, force: true }));

export default defineConfig({
  plugins: [watPlugin()],
  test: {
    setupFiles: ['test/support/draws.ts', 'test/support/putBack.ts'],
    // Worlds by the hundred thousand live shortly; collected less often, all of it takes a twentieth less.
    execArgv: ['--max-semi-space-size=64'],
    // What a file is made into serves all projects; of this run alone, so that nothing old is ever run.
    experimental: { fsModuleCache: true, fsModuleCachePath: join(temporary, 'modules') },
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
                include: [...BY_DAY, ...(isNight ? BY_NIGHT : [])].map(
                  (name) => `test/${name}.test.ts`,
                ),
              },
            },
          ]
        : []),
    ],
  },
});
