// A build, types, lint, unit and API tests, then the journeys in a real browser. Everything is run
// even after a failure, so that one run shows all that is wrong; the last line counts the tests.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const results = join(root, 'test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
let isBroken = false;

const shell = process.platform === 'win32';

/** One step, its words as they come; whether it went well. */
const run = (title, command, args, env = {}) =>
  new Promise((ended) => {
    console.log(`\n── ${title}`);
    const child = spawn(command, args, {
      ...{ cwd: root, stdio: ['ignore', 'inherit', 'inherit'], shell },
      env: { ...process.env, ...env },
    });
    child.once('error', ({ message }) => console.error(message));
    child.once('close', (status) => {
      if (status !== 0) isBroken = true;
      ended(status === 0);
    });
  });

/** One step beside others, told as a whole once it is through; whether it went well. */
const runBeside = (title, command, args) =>
  new Promise((ended) => {
    const child = spawn(command, args, { cwd: root, shell });
    let said = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (chunk) => (said += chunk));
    child.once('error', ({ message }) => (said += message));
    child.once('close', (status) => {
      console.log(`\n── ${title}\n${said.trim()}`);
      if (status !== 0) isBroken = true;
      ended(status === 0);
    });
  });

const read = (name) => {
  const file = join(results, name);
  return existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : undefined;
};

const [isBuilt] = await Promise.all([
  runBeside('Build', process.execPath, ['scripts/bootstrap.mjs', '--build']),
  runBeside('Types', process.execPath, ['node_modules/typescript-native/bin/tsc', '--noEmit']),
  runBeside('Lint', 'npx', ['oxlint', '.']),
  runBeside('Format', 'npx', ['oxfmt', '--check']),
]);
await run(
  'Unit and API',
  'npx',
  [
    ...['vitest', 'run', '--reporter=default', '--reporter=json'],
    `--outputFile.json=${join(results, 'unit.json')}`,
  ],
  isBuilt ? { TEMBRIX_BUILT: 'yes' } : {},
);
if (isBuilt)
  await run('Journeys', 'npx', ['playwright', 'test'], {
    PLAYWRIGHT_JSON_OUTPUT_FILE: join(results, 'journeys.json'),
  });

const unit = read('unit.json');
const journeys = read('journeys.json');
const passed =
  (unit?.numPassedTests ?? 0) + (journeys ? journeys.stats.expected + journeys.stats.flaky : 0);
const failed = (unit?.numFailedTests ?? 0) + (journeys?.stats.unexpected ?? 0);
/** Every journey of a suite and the suites inside it, each with where it stands. */
const journeysIn = ({ suites = [], specs = [] }) => [...specs, ...suites.flatMap(journeysIn)];
// What failed is said again at the end, where whoever sees only the last lines finds it.
const failures = [
  ...(unit?.testResults ?? []).flatMap(({ name, message, assertionResults }) => [
    ...(assertionResults.length === 0 && message ? [{ name, message }] : []),
    ...assertionResults
      .filter(({ status }) => status === 'failed')
      .map((one) => ({ name: `${name} › ${one.fullName}`, message: one.failureMessages[0] })),
  ]),
  ...journeysIn(journeys ?? {})
    .filter(({ ok }) => !ok)
    .map(({ file, line, title, tests }) => ({
      name: `e2e/${file}:${line} › ${title}`,
      message: tests.flatMap(({ results }) => results).find(({ error }) => error)?.error.message,
    })),
];
if (failures.length > 0) console.error('\n── Failed');
for (const { name, message } of failures)
  console.error(`${name.replace(`${root}/`, '')}\n  ${String(message).slice(0, 600)}\n`);
const shaky = journeysIn(journeys ?? {}).filter(({ tests }) =>
  tests.some(({ status }) => status === 'flaky'),
);
for (const { file, line, title } of shaky)
  console.log(`Passed only at the second try: e2e/${file}:${line} › ${title}`);
// A step that breaks before counting anything must not read as success.
const counted = unit && journeys && failed + passed > 0;
const total = failed === 0 && (isBroken || !counted) ? 1 : failed;
if (total !== failed) console.error('\nA step above failed before its tests could be counted.');
console.log(`\n${passed} passed, ${total} failed`);
process.exit(total === 0 ? 0 : 1);
