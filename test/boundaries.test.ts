import { readFileSync, readdirSync, statSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { expect, test } from 'vitest';

/** One-way doors: the rooms each room may enter, its own aside. */
const DOORS: Readonly<Record<string, readonly string[]>> = {
  core: [],
  contract: ['core'],
  server: ['contract', 'core'],
  web: ['contract', 'core'],
  probe: ['contract', 'core'],
  demo: ['contract', 'core', 'server'],
};
/** Feature folders of the interface; what they share moves down to ui/ or visuals/. */
const FEATURES = ['access', 'bench', 'job', 'ledger', 'library', 'month', 'practice', 'stock'];
/** Packages that are functions alone, and run wherever the core runs. */
const PURE_PACKAGES = /^(fast-check|vitest|@noble\/hashes\/.+|fflate)$/;

const root = resolve(import.meta.dirname, '..');
const walk = (path: string): string[] =>
  statSync(path).isDirectory()
    ? readdirSync(path).flatMap((name) => walk(join(path, name)))
    : [path];

interface Import {
  readonly file: string;
  readonly from: string;
  /** Repository path for our own files, package name otherwise. */
  readonly to: string;
}

function importsOf(room: string): Import[] {
  const files = walk(join(root, room)).filter((file) => /\.tsx?$/.test(file));
  return files.flatMap((file) => {
    const found = readFileSync(file, 'utf8').matchAll(/(?:from|import)\s*\(?\s*'([^'\n]+)'/g);
    return [...found].map(([, target = '']): Import => {
      const own = target.startsWith('.')
        ? relative(root, resolve(dirname(file), target))
        : target.startsWith('#')
          ? target.slice(1)
          : target;
      return { file: relative(root, file), from: room, to: own };
    });
  });
}

const isTest = ({ file }: Import) => /\.test(-d)?\.ts$/.test(file);
const rooms = Object.keys(DOORS);

test.each(rooms)('%s enters only the rooms it may', (room) => {
  const trespasses = importsOf(room).filter((one) => {
    const target = one.to.split('/')[0] ?? '';
    return (
      rooms.includes(target) && target !== room && !DOORS[room]?.includes(target) && !isTest(one)
    );
  });
  expect(trespasses).toEqual([]);
});

test('core uses no package but pure functions, and nothing of Node', () => {
  const foreign = importsOf('core').filter((one) => !one.to.startsWith('core/') && !isTest(one));
  expect(foreign.filter(({ to }) => !PURE_PACKAGES.test(to))).toEqual([]);
});

test('rooms of the core are entered through their index', () => {
  const sneaking = importsOf('core').filter(({ file, to }) => {
    const [, room] = file.split('/');
    const [, target, inside] = to.split('/');
    return to.startsWith('core/') && room !== target && inside !== 'index.ts';
  });
  expect(sneaking).toEqual([]);
});

test('features of the interface never import one another', () => {
  const crossing = importsOf('web').filter(({ file, to }) => {
    const from = FEATURES.find((feature) => file.startsWith(`web/${feature}/`));
    const target = FEATURES.find((feature) => to.startsWith(`web/${feature}/`));
    return from && target && from !== target;
  });
  expect(crossing).toEqual([]);
});

test('a generation is one entry of one table: no rule of the core names one', () => {
  // Layouts of images are the standards' own, one reader each; everything else goes by the table.
  const MAY = /^core\/(memory\/generations\.ts|inventory\/spd\/)/;
  const named = walk(join(root, 'core'))
    .map((file) => relative(root, file))
    .filter((file) => /\.ts$/.test(file) && !/\.test(-d)?\.ts$/.test(file) && !MAY.test(file))
    .filter((file) => {
      const code = readFileSync(join(root, file), 'utf8')
        .replaceAll(/\/\*[\s\S]*?\*\//g, '')
        .replaceAll(/\/\/.*$/gm, '');
      return /(?:===|!==|case|includes\(|startsWith\()\s*'(?:LP)?DDR\d/.test(code);
    });
  expect(named).toEqual([]);
});
