import { spawnSync } from 'node:child_process';
import { readFileSync, readdirSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { operatingPoint } from '#core/operating-point';
import { act, beginWorld, measuredOn, playPar, sitting } from '#core/practice';
import type { Action, Exercise, World } from '#core/practice';
import { SHIPPED } from '../test/support/exercises.ts';
import { perSecond } from './table.ts';
import type { Row } from './table.ts';

const walk = (exercise: Exercise, actions: readonly Action[]): World =>
  actions.reduce((world, action) => act(world, action).world, beginWorld(exercise));

/** One act, our own way whole, the measuring page, and what the practice pages weigh. */
export function benchPractice(): Row[] {
  const pars = SHIPPED.map((exercise) => {
    const begun = performance.now();
    const par = playPar(exercise);
    return { exercise, par, ms: performance.now() - begun };
  });
  const acts = pars.map(
    ({ exercise, par }) =>
      1000 / perSecond(() => walk(exercise, par.actions), 60) / par.actions.length,
  );
  const [first] = pars;
  if (!first) throw new Error('expected an exercise');
  const { machine, setting } = first.exercise;
  const placement = sitting(beginWorld(first.exercise));
  const point = 1000 / perSecond(() => operatingPoint(machine, placement, setting), 200);
  const begun = performance.now();
  measuredOn({ ...first.par.world, over: undefined });
  const measured = performance.now() - begun;
  const act1 = Math.max(...acts);
  const par1 = Math.max(...pars.map(({ ms }) => ms));
  const weight = practiceWeight();
  return [
    row('one act, in the exercise where they are slowest', act1, 2, point, 3),
    row('our own way through the slowest exercise', par1, 1000, point, 0),
    row('a measuring page’s result of a simulated machine', measured, Infinity, point, 0),
    {
      what: 'the practice pages beyond the first load, gzip',
      ...{ measured: `${(weight / 1000).toFixed(1)} kB`, wanted: '≤ 60 kB', yardstick: '–' },
      holds: weight <= 60_000,
    },
  ];
}

function row(what: string, ms: number, most: number, point: number, digits: number): Row {
  return {
    ...{ what, measured: `${ms.toFixed(digits)} ms`, holds: ms < most },
    wanted: most === Infinity ? 'told' : `< ${most} ms`,
    yardstick: `${Math.round(ms / point)} operating points`,
  };
}

/** Scripts the exercise page pulls in that the first page does not, its worker aside. */
function practiceWeight(): number {
  spawnSync('npm', ['run', 'build'], { stdio: 'ignore' });
  const folder = 'dist/web/assets';
  const files = readdirSync(folder).filter((name) => name.endsWith('.js'));
  const textOf = (name: string) => readFileSync(`${folder}/${name}`, 'utf8');
  const page = readFileSync('dist/web/index.html', 'utf8');
  const first = new Set(files.filter((name) => page.includes(name)));
  const taken = new Set<string>();
  const take = (name: string) => {
    if (taken.has(name) || first.has(name)) return;
    taken.add(name);
    for (const [, next = ''] of textOf(name).matchAll(/from"\.\/([^"]+\.js)"/g)) take(next);
  };
  for (const name of files) if (/^ExercisePage-/.test(name)) take(name);
  return [...taken].reduce((sum, name) => sum + gzipSync(textOf(name)).length, 0);
}
