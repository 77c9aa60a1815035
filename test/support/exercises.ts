import { readFileSync, readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { exerciseFile, exerciseOf } from '#contract/practice';
import type { Exercise } from '#core/practice';

const folder = resolve(import.meta.dirname, '../../exercises');

/** The exercises that come with Tembrix, read as any other file would be. */
export const SHIPPED: readonly Exercise[] = readdirSync(folder)
  .filter((name) => name.endsWith('.json'))
  .sort()
  .map((name) =>
    exerciseOf(exerciseFile.parse(JSON.parse(readFileSync(join(folder, name), 'utf8')))),
  );

/** One of them by its id. */
export function shipped(id: string): Exercise {
  const found = SHIPPED.find((one) => one.id === id);
  if (!found) throw new Error(`expected an exercise ${id}`);
  return found;
}
