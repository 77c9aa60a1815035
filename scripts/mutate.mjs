// Mutation testing of one room of the core: `npm run mutate -- operating-point`. Each rule is broken in turn,
// and the tests that can see it have to notice. Prints the score; docs/quality.md keeps it. A whole room
// takes up to an hour, so nights break a part: `npm run mutate -- --lines 60` draws so many lines of each.
import { spawnSync } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');

/** Rooms and single files, with the tests that hold them beside their own. */
const ROOMS = {
  'operating-point': ['test/rules.test.ts'],
  matching: ['test/rules.test.ts'],
  memory: ['test/rules.test.ts', 'core/operating-point'],
  'planning/assess': ['core/planning/assess.test.ts', 'test/rules.test.ts'],
  quoting: ['test/storedRows.test.ts'],
  proving: [
    'core/explaining/proofs.test.ts',
    'core/explaining/refusedInput.test.ts',
    'test/rules.test.ts',
  ],
  // Asked millions of times in every simulation: broken, it is only worth asking what tests it directly.
  'proving/statistics': ['core/proving/statistics.test.ts'],
};

/** Simulations and properties, which take seconds each: most broken rules are noticed before them. */
const SLOW = ['properties', 'frames', 'proofs', 'worlds'];
/** Verdicts over thousands of made-up worlds: asked for every broken rule, a room would take days. */
const WORLDS = ['**/worlds.test.ts'];

/** Lines drawn together: enough for a condition and what hangs on it. */
const BLOCK = 12;

const {
  values: { lines: linesText },
  positionals: asked,
} = parseArgs({ options: { lines: { type: 'string' } }, allowPositionals: true });
const lines = Number(linesText ?? 0);
if (!Number.isInteger(lines) || lines < 0) {
  console.error('--lines is a number of lines drawn of each room.');
  process.exit(1);
}
const rooms = asked.length > 0 ? asked : Object.keys(ROOMS);
/** A room, or the room of a single file: `operating-point/flags`. */
const roomOf = (asked) => (asked in ROOMS ? asked : dirname(asked));
const unknown = rooms.filter((room) => !(roomOf(room) in ROOMS));
if (unknown.length > 0) {
  console.error(`No room is called ${unknown.join(', ')}: ${Object.keys(ROOMS).join(', ')}.`);
  process.exit(1);
}

/** Blocks of lines of a room, drawn anew each time: over the nights every rule has its turn. */
function drawBlocks(files) {
  const blocks = files.flatMap((file) => {
    const { length } = readFileSync(join(root, file), 'utf8').split('\n');
    return Array.from(
      { length: Math.ceil(length / BLOCK) },
      (_, n) => `${file}:${n * BLOCK + 1}-${Math.min(length, (n + 1) * BLOCK)}`,
    );
  });
  const drawn = [];
  while (drawn.length * BLOCK < lines && blocks.length > 0)
    drawn.push(...blocks.splice(randomInt(blocks.length), 1));
  return drawn;
}

const reports = join(root, 'test-results', 'mutation');
mkdirSync(reports, { recursive: true });
let isShort = false;
const scores = [];
// Of a few lines a room's own score says little; all of them together are held against the same.
const all = { killed: 0, tried: 0 };
for (const room of rooms) {
  const file = existsSync(join(root, 'core', `${room}.ts`));
  const own = file ? dirname(`core/${room}`) : `core/${room}`;
  const report = join(reports, `${room.replaceAll('/', '-')}.json`);
  const settings = join(reports, `${room.replaceAll('/', '-')}.config.json`);
  const vitest = join(reports, `${room.replaceAll('/', '-')}.vitest.mjs`);
  const include = [
    ...(room in ROOMS && file ? [] : [`${own}/**/*.test.ts`]),
    ...ROOMS[roomOf(room)],
  ].map((one) => (one.endsWith('.ts') ? one : `${one}/**/*.test.ts`));
  const files = file
    ? [`core/${room}.ts`]
    : readdirSync(join(root, own), { recursive: true })
        .filter((name) => /^(?!.*\.test(-d)?\.ts$).*\.ts$/.test(name))
        .map((name) => `${own}/${name}`)
        .filter((name) => !(name.slice('core/'.length, -'.ts'.length) in ROOMS));
  writeFileSync(
    vitest,
    `import { watPlugin } from '${join(root, 'probe/watPlugin.ts')}';
const rank = ({ moduleId }) => ${JSON.stringify(SLOW)}.findIndex((one) => moduleId.includes(one));
class QuickFirst {
  shard = (files) => files;
  sort = (files) => [...files].sort((a, b) => rank(a) - rank(b));
}
export default {
  plugins: [watPlugin()],
  test: {
    include: ${JSON.stringify(include)},
    exclude: ${JSON.stringify(WORLDS)},
    setupFiles: ${JSON.stringify(['draws', 'briefly'].map((one) => join(root, `test/support/${one}.ts`)))},
    sequence: { sequencer: QuickFirst },
    fileParallelism: false,
    // One load of the core for all files of tests, not one for each.
    isolate: false,
    testTimeout: 600000,
    hookTimeout: 600000,
  },
};
`,
  );
  writeFileSync(
    settings,
    JSON.stringify({
      testRunner: 'vitest',
      plugins: ['@stryker-mutator/vitest-runner'],
      vitest: { configFile: vitest, related: false },
      mutate: lines > 0 ? drawBlocks(files) : files,
      coverageAnalysis: 'perTest',
      // What runs when a file is loaded – tables of constants – would need every test each time.
      ignoreStatic: true,
      concurrency: Number(process.env.MUTATE_JOBS ?? 2),
      timeoutMS: 60_000,
      // On a machine that does other work too, the first run of all tests takes a while.
      dryRunTimeoutMinutes: 30,
      reporters: ['clear-text', 'json', 'progress-append-only'],
      clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
      jsonReporter: { fileName: report },
      tempDirName: 'test-results/stryker',
      ignorePatterns: ['dist', 'data', 'docs', 'e2e', 'test-results'],
    }),
  );
  // An earlier report must not be taken for this one's.
  rmSync(report, { force: true });
  console.log(`\n── ${room}`);
  spawnSync('npx', ['stryker', 'run', settings], { cwd: root, stdio: 'inherit' });
  if (!existsSync(report)) {
    console.error(`${room}: no report was written.`);
    scores.push(`${room} without a report`);
    process.exitCode = 1;
    continue;
  }
  const mutants = Object.values(JSON.parse(readFileSync(report, 'utf8')).files).flatMap(
    (one) => one.mutants,
  );
  const count = (...states) => mutants.filter(({ status }) => states.includes(status)).length;
  const killed = count('Killed', 'Timeout');
  const tried = killed + count('Survived', 'NoCoverage');
  const score = tried === 0 ? 100 : (100 * killed) / tried;
  if (lines === 0 && score < 80) isShort = true;
  all.killed += killed;
  all.tried += tried;
  scores.push(
    tried === 0 ? `${room} nothing to break` : `${room} ${score.toFixed(1)} % of ${tried}`,
  );
  console.log(
    `${room}: ${score.toFixed(1)} % of ${tried} mutants noticed, ${count('Survived')} survived, ${count('NoCoverage')} reached by no test`,
  );
}
console.log(`\n${scores.join(', ')}`);
if (isShort || all.killed < 0.8 * all.tried) process.exitCode = 1;
