import { join } from 'node:path';
import { afterAll, describe, expect, test } from 'vitest';
import { Aside } from './aside.ts';

const aside = new Aside<string, string>(
  join(import.meta.dirname, '../../test/support/spin.mjs'),
  4000,
);
afterAll(() => aside.close());

describe('a reader of strangers’ bytes', () => {
  test.each([
    ['hang', /over 4 s/],
    ['eat', /too much memory|over 4 s/],
  ])(
    'that would %s is ended and refused; others go on meanwhile, and after it',
    async (how, why) => {
      let turns = 0;
      const ticking = setInterval(() => turns++, 20);
      const refused = await aside.run(how).catch((error: unknown) => error);
      clearInterval(ticking);
      expect(refused).toHaveProperty('issues');
      const [issue] = (refused as { issues: { path: string[]; message: string }[] }).issues;
      expect(issue?.path).toEqual(['files']);
      expect(issue?.message).toMatch(why);
      expect(issue?.message).toContain('one by one');
      expect(turns).toBeGreaterThan(10);
      expect(await aside.run('this')).toBe('read this');
    },
  );

  test('what fails in a way of its own is told as it is', async () => {
    await expect(aside.run('fail')).rejects.toThrow('a fault of its own');
  });
});
