import { describe, expect, test } from 'vitest';
import { KINDS_OF_WORK } from '../promising/index.ts';
import { desktop } from '../../test/support/builders.ts';
import { gib } from '../units/index.ts';
import { USUAL_ACTIVITIES, kindsOfWork } from './index.ts';

const card = desktop();
const shared = desktop({ graphicsCarveOut: { low: gib(0.5), high: gib(2) } });
const doing = (...names: string[]) => ({
  activities: names.map((name) => ({ name, low: 1, high: 2 })),
});

describe('the kinds of work that matter to a customer', () => {
  test('are known to the promise, for every activity that can be picked', () => {
    const known = KINDS_OF_WORK.map(({ id }) => id);
    for (const { name } of USUAL_ACTIVITIES)
      for (const machine of [card, shared]) {
        const kinds = [...(kindsOfWork(machine, doing(name)) ?? [])];
        expect(kinds.length, name).toBeGreaterThan(0);
        for (const kind of kinds) expect(known).toContain(kind);
      }
  });

  test.each([
    [card, ['Office and mail'], ['office']],
    [card, ['Games'], ['games', 'games-low', 'graphics']],
    [shared, ['Games'], ['games', 'games-low', 'integrated']],
    [shared, ['Browser, fifty tabs', 'Video editing'], ['office', 'film']],
    [shared, ['Large drawings and assemblies'], ['rendering', 'integrated']],
    [card, ['compiling at night', 'two virtual machines'], ['compiling', 'virtual']],
    // In the customer's own words.
    [card, ['our bookkeeping'], ['office']],
  ])('%#: %j', (machine, names, kinds) => {
    expect([...(kindsOfWork(machine, doing(...names)) ?? [])].sort()).toEqual([...kinds].sort());
  });

  test('are all of them where nothing was said, or nothing that is known', () => {
    expect(kindsOfWork(card, undefined)).toBeUndefined();
    expect(kindsOfWork(card, doing())).toBeUndefined();
    expect(kindsOfWork(card, doing('knotting nets'))).toBeUndefined();
  });
});
