import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { BEGINNINGS, PAGE_GROUPS, groupOf } from './pages.ts';

const routes = [
  ...readFileSync(join(import.meta.dirname, 'router.tsx'), 'utf8').matchAll(/path: '([^'*]+)'/g),
].map(([, path = '']) => `/${path.replace(/^\//, '')}`);

describe('the pages of the bar and the palette', () => {
  test('are all there are: every route without a parameter can be gone to by name, and no other', () => {
    const named = [...BEGINNINGS, ...PAGE_GROUPS.flatMap(({ pages }) => pages)].map(({ to }) => to);
    const plain = routes.filter((path) => !path.includes(':'));
    // Describing a machine is the machine page without a machine.
    expect(new Set(named)).toEqual(new Set([...plain, '/machines/new']));
  });

  test('every route belongs to one group, which stands out in the bar', () => {
    for (const path of routes) expect(groupOf(path.replace(/:\w+/g, 'x')), path).toBeDefined();
    expect(groupOf('/jobs/x/plan')?.label).toBe('Bench');
    expect(groupOf('/machines/x/cover')?.label).toBe('Library');
    expect(groupOf('/returns')?.label).toBe('Stock');
    expect(groupOf('/machinery')).toBeUndefined();
  });
});
