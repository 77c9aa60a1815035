import fc from 'fast-check';
import { expect, test } from 'vitest';
import { anySmallQuery } from '../../test/support/anyQuery.ts';
import { expectSound, SLIPS } from '../../test/support/soundWords.ts';
import { gainOfLimit, KINDS_OF_WORK, LEVERS, limitsOf } from '../promising/index.ts';
import type { Limit } from '../promising/index.ts';
import type { Profile } from '../timing-simulation/index.ts';
import { explainLimit, limitLine, limitName, limitText, profileAloneText } from './index.ts';

const side = (bandwidth: number): Profile => ({
  bandwidth: {
    ...{ stream: bandwidth, triad: bandwidth, random: bandwidth },
    ...{ graphics: bandwidth, desktop: bandwidth },
  },
  reply: { idle: 80, loaded: 95 },
});

test('limits of any machine are told in whole sentences, gained or not, on offer or not', () => {
  const told = new Set<string>();
  fc.assert(
    fc.property(
      anySmallQuery,
      fc.double({ min: 0.6, max: 2.2, noNaN: true }),
      fc.constantFrom(...KINDS_OF_WORK),
      (query, ratio, kind) => {
        const found = limitsOf(query, { placement: query.fitted, setting: 'standard' });
        if (!found) return;
        const profiles = { before: side(20), after: side(20 * ratio) };
        for (const limit of found.limits) {
          const gain = limit.compared && gainOfLimit(found.point, kind, profiles);
          expectSound(explainLimit(limit, gain));
          const cost = limit.means && '€43.00';
          for (const text of [limitName(limit), limitText(limit), limitLine(limit, gain, cost)])
            expect(text).not.toMatch(SLIPS);
          told.add(`${limit.lever} ${limit.state}`);
        }
      },
    ),
    { numRuns: 200, seed: 6 },
  );
  for (const lever of LEVERS) expect(told).toContain(`${lever} to gain`);
});

test('a line of a quote names change, gain and price, or that nothing on offer brings it', () => {
  const limit: Limit = { lever: 'channels', state: 'to gain', from: 1, to: 2 };
  const kind = KINDS_OF_WORK.find(({ id }) => id === 'compression');
  if (!kind) throw new Error('expected packing');
  expect(limitLine(limit, { kind, low: 15, high: 39 }, '€43.00')).toBe(
    'Second channel, 1 → 2 side by side: +15 to +39 % in packing; €43.00',
  );
  expect(limitLine({ ...limit, to: 4 }, undefined, undefined)).toBe(
    'All 4 channels, 1 → 4 side by side; nothing on offer brings it',
  );
});

test('what the profile alone brings is said only where it is less than the best', () => {
  const limit: Limit = { lever: 'rate', state: 'to gain', from: 2133, to: 3600 };
  expect(profileAloneText(limit)).toBeUndefined();
  const byProfile = { to: 3200, plan: {} as never };
  expect(limitLine({ ...limit, byProfile }, undefined, '€74.50')).toBe(
    'Rate, 2133 → 3600 MT/s, same nanoseconds; €74.50. The profile alone brings 3200 MT/s.',
  );
});
