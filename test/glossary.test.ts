import { readFileSync, readdirSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';
import { describe, expect, test } from 'vitest';

const ROOT = join(import.meta.dirname, '..');
/** Rooms whose texts people read; elsewhere words are codes. */
const ROOMS = ['core', 'contract', 'web', 'server', 'probe'];

/** Words that are codes: kept in rows and addresses, never shown as they are. */
const CODES = new Set([
  ...['one channel wide', 'one wide', 'paired', 'partly paired', 'set the cover on'],
]);

interface Said {
  readonly where: string;
  readonly text: string;
}

function filesIn(folder: string): string[] {
  return readdirSync(join(ROOT, folder), { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /(?<!\.test)\.(?:tsx?|html)$/.test(entry.name))
    .map((entry) => join(entry.parentPath, entry.name));
}

/** Every text a file holds, comments left out. */
function saidIn(path: string): Said[] {
  const source = readFileSync(path, 'utf8');
  const where = relative(ROOT, path);
  if (path.endsWith('.html')) return [{ where, text: source.replaceAll(/<!--.*?-->/gs, '') }];
  const said: Said[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isLiteralTypeNode(node)) return;
    if (
      ts.isStringLiteralLike(node) ||
      ts.isJsxText(node) ||
      ts.isTemplateHead(node) ||
      ts.isTemplateMiddleOrTemplateTail(node)
    )
      said.push({ where, text: node.text.replaceAll(/\s+/g, ' ') });
    ts.forEachChild(node, visit);
  };
  visit(ts.createSourceFile(path, source, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX));
  return said;
}

/** Rows of the glossary: the term, and the words it took the place of. */
export function glossary(): { readonly term: string; readonly retired: readonly string[] }[] {
  const lines = readFileSync(join(ROOT, 'docs/glossary.md'), 'utf8').split('\n');
  return lines
    .filter((line) => line.startsWith('|') && !/^\|\s*-/.test(line))
    .slice(1)
    .map((line) => line.split('|').map((cell) => cell.trim()))
    .map(([, term = '', , , not = '']) => ({
      term,
      retired: not.split(';').map((one) => one.trim()),
    }));
}

const finds = (word: string, text: string) =>
  new RegExp(
    `(?<![\\p{L}-])${word.replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\p{L}-])`,
    'iu',
  ).test(text);

describe('words that were retired', () => {
  const said = ROOMS.flatMap(filesIn).flatMap(saidIn);
  const shown = said.filter(({ text }) => !CODES.has(text));

  test('are found where they stand, and not inside other words', () => {
    expect(finds('stood', 'It stood 3 days')).toBe(true);
    expect(finds('stood', 'understood')).toBe(false);
    expect(finds('first word ×', 'first word × 1.1')).toBe(true);
  });

  test('the texts of the product are read: thousands, from every room', () => {
    expect(shown.length).toBeGreaterThan(3000);
    for (const room of ROOMS)
      expect(shown.some(({ where, text }) => where.startsWith(`${room}/`) && / /.test(text))).toBe(
        true,
      );
  });

  test.each(glossary())('$term', ({ retired }) => {
    const left = retired.flatMap((word) =>
      shown.filter(({ text }) => finds(word, text)).map(({ where, text }) => `${where}: ${text}`),
    );
    expect(left).toEqual([]);
  });

  test('are not in the manuals either', () => {
    const manuals = ['README.md', 'docs/fitting.md', 'docs/measuring.md', 'docs/planning.md'];
    const left = manuals.flatMap((path) =>
      glossary()
        .flatMap(({ retired }) => retired)
        .filter((word) => finds(word, readFileSync(join(ROOT, path), 'utf8')))
        .map((word) => `${path}: ${word}`),
    );
    expect(left).toEqual([]);
  });
});
