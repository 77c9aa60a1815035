// Makes a fresh clone ready: packages from the lockfile, a browser for tests, a build.
// Plain Node without packages, since it runs before there are any.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { LIGHT, findBrowser } from './browser.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const flags = new Set(process.argv.slice(2));
const say = (text) => console.log(`· ${text}`);

function fail(what, mend) {
  console.error(`\n${what}\n${mend}`);
  process.exit(1);
}

const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19))
  fail(`Node ${process.versions.node} is too old.`, 'Install Node 20.19 or newer.');

const hashOf = (text) => createHash('sha256').update(text).digest('hex');
const stampOf = (name) => join(root, 'node_modules', `.tembrix-${name}`);
const isStamped = (name, hash) =>
  existsSync(stampOf(name)) && readFileSync(stampOf(name), 'utf8') === hash;

function run(command, args, mend) {
  // npm is a script on Windows, which needs a shell to start it.
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    shell: process.platform === 'win32',
  });
  if (status !== 0) fail(`“${command} ${args.join(' ')}” failed.`, mend);
}

function installPackages() {
  const hash = hashOf(readFileSync(join(root, 'package-lock.json')));
  if (isStamped('installed', hash)) return;
  say('Installing packages from package-lock.json …');
  run(
    'npm',
    ['ci', '--no-audit', '--no-fund', '--loglevel=error'],
    'Check the connection to the npm registry.',
  );
  writeFileSync(stampOf('installed'), hash);
}

/** Installs Debian packages; whether that came about. */
function installDebian(...names) {
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  // Without a network it is soon given up.
  const patience = ['-o', 'Acquire::Retries=1', '-o', 'Acquire::http::Timeout=20'];
  try {
    execFileSync('apt-get', ['update', '-qq', ...patience], {
      stdio: ['ignore', 'ignore', 'ignore'],
      env,
    });
    execFileSync(
      'apt-get',
      ['install', '-y', '-qq', '--no-install-recommends', ...patience, ...names],
      { stdio: ['ignore', 'ignore', 'inherit'], env },
    );
    return true;
  } catch {
    return false;
  }
}

function installBrowser() {
  if (findBrowser([LIGHT])) return;
  const isDebianRoot = existsSync('/etc/debian_version') && process.getuid?.() === 0;
  if (findBrowser()) {
    // Any does; the light one is tried for once.
    if (!isDebianRoot || isStamped('browser', LIGHT)) return;
    say('Installing a lighter Chromium from Debian packages …');
    if (!installDebian(LIGHT)) say('That did not work; the Chromium there is does as well.');
    writeFileSync(stampOf('browser'), LIGHT);
    return;
  }
  if (!isDebianRoot)
    fail(
      'The end-to-end tests need Chromium, and it is not on the PATH.',
      'Install it from your system’s packages (on Debian: sudo apt-get install chromium), then run this again.',
    );
  say('Installing Chromium from Debian packages …');
  if (!installDebian(LIGHT) && !installDebian('chromium'))
    fail('Chromium could not be installed.', 'Check the Debian mirrors, or install it by hand.');
}

/** A digest of every file the build is made from. */
function sourceHash() {
  const walk = (path) =>
    statSync(path).isDirectory()
      ? readdirSync(path)
          .sort()
          .flatMap((name) => walk(join(path, name)))
      : [path];
  const rooms = [
    'core',
    'contract',
    'server',
    'web',
    'probe',
    'look',
    'package-lock.json',
    'vite.config.ts',
  ];
  const files = rooms
    .flatMap((room) => walk(join(root, room)))
    .filter((file) => !/\.test(-d)?\.ts$/.test(file));
  return hashOf(files.map((file) => file + hashOf(readFileSync(file))).join('\n'));
}

function build() {
  const hash = sourceHash();
  if (isStamped('built', hash) && existsSync(join(root, 'dist/web/index.html'))) return;
  say('Building …');
  run('npm', ['run', '--silent', 'build'], 'The messages above say what is wrong.');
  writeFileSync(stampOf('built'), hash);
}

installPackages();
mkdirSync(join(root, 'node_modules'), { recursive: true });
if (flags.has('--browser')) installBrowser();
if (flags.has('--build')) build();
