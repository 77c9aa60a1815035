// What takes too long for every change: `npm run night`, or `npm run night -- power 5 soak` for some of them,
// each with how often or how long.
// Prints one table; ends with an error where something does not hold.
import { spawnSync } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { checkCommands } from './commands.ts';
import { crash } from './crashes.ts';
import { double } from './doubling.ts';
import { cutPower } from './power.ts';
import { soak } from './soak.ts';
import type { NightRow } from './writers.ts';

/** A script of its own; what it prints last is what it found. */
function script(what: string, command: string, ...args: string[]): NightRow {
  const { status, stdout } = spawnSync(command, args, { encoding: 'utf8', maxBuffer: 1e9 });
  return { what, found: stdout.trim().split('\n').at(-1) ?? '', holds: status === 0 };
}

/** Runs every property on worlds nobody drew before; what broke comes again with the number it is told by. */
function drawAnew(rounds: number): NightRow {
  const what = 'properties, drawn anew';
  for (let round = 0; round < rounds; round++) {
    const draws = String(randomInt(2 ** 31 - 1));
    const { status } = spawnSync('npx', ['vitest', 'run', '--project=rooms', '--project=pages'], {
      stdio: 'inherit',
      env: { ...process.env, TEMBRIX_DRAWS: draws },
    });
    if (status !== 0) return { what, found: `broken with TEMBRIX_DRAWS=${draws}`, holds: false };
  }
  return { what, found: `${rounds} times all of them`, holds: true };
}

/** Every journey, those that are left to the night among them, with colours looked at in both themes. */
function journeys(): NightRow {
  const { status } = spawnSync('npx', ['playwright', 'test'], {
    stdio: 'inherit',
    env: { ...process.env, TEMBRIX_DRAWS: '1' },
  });
  return { what: 'journeys, all there are', found: '', holds: status === 0 };
}

/** All that a shop's server does, on a PostgreSQL server; by day only where it may differ from the embedded engine. */
function onServer(): NightRow {
  const { status } = spawnSync('npx', ['vitest', 'run', '--project=on a server'], {
    stdio: 'inherit',
    env: { ...process.env, TEMBRIX_DRAWS: '1' },
  });
  return { what: 'the shop on a server', found: '', holds: status === 0 };
}

const WATCHES: Readonly<Record<string, (rounds?: number) => Promise<NightRow> | NightRow>> = {
  power: (rounds = 20) => cutPower(rounds),
  crashes: (rounds = 200) => crash(rounds),
  doubling: () => double(),
  soak: (minutes = 10) => soak(minutes),
  commands: (millions = 10) => checkCommands(millions),
  draws: (rounds = 3) => drawAnew(rounds),
  server: () => onServer(),
  journeys: () => journeys(),
  fuzz: () => script('readers, random files', 'npm', 'run', '--silent', 'fuzz'),
  mutation: (lines = 60) =>
    script('rules broken', process.execPath, 'scripts/mutate.mjs', '--lines', String(lines)),
};

const asked = new Map<string, number | undefined>();
for (const word of process.argv.slice(2)) {
  const before = [...asked.keys()].at(-1);
  if (/^\d+$/.test(word) && before !== undefined) asked.set(before, Number(word));
  else if (word in WATCHES) asked.set(word, undefined);
  else throw new Error(`No watch is called ${word}: ${Object.keys(WATCHES).join(', ')}.`);
}
const line = ({ what, found, holds }: NightRow) =>
  `${what.padEnd(26)} ${(holds ? 'holds' : 'FAILED').padEnd(7)} ${found}`;
const rows: NightRow[] = [];
for (const [name, watch] of Object.entries(WATCHES)) {
  if (asked.size > 0 && !asked.has(name)) continue;
  console.log(`… ${name}, ${new Date().toTimeString().slice(0, 5)}`);
  const row = await watch(asked.get(name));
  rows.push(row);
  // A night that is cut off keeps what it found.
  console.log(line(row));
}
console.log(`\n${rows.map(line).join('\n')}`);
if (rows.some(({ holds }) => !holds)) process.exitCode = 1;
