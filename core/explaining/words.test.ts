import { describe, expect, test } from 'vitest';
import { plural } from './words.ts';
import { count } from './index.ts';

describe('numbers with their nouns', () => {
  test.each([
    [0, 'module', '0 modules'],
    [1, 'module', '1 module'],
    [2, 'entry', '2 entries'],
    [2, 'day', '2 days'],
    [3, 'batch', '3 batches'],
    [1, 'batch', '1 batch'],
    [2, 'SODIMM slot', '2 SODIMM slots'],
  ])('%i %s: %s', (n, noun, text) => {
    expect(count(n, noun)).toBe(text);
  });

  test('a plural never doubles its ending', () => {
    for (const noun of ['reason', 'pass', 'box', 'flash', 'key', 'query'])
      expect(plural(noun)).toMatch(/[^s]s$|sses$|xes$|shes$/);
  });
});
