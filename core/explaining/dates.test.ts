import { describe, expect, test, vi } from 'vitest';
import { inAnyZone } from '../../test/support/zone.ts';
import type * as dates from './dates.ts';

const moveTo = inAnyZone();

/** The helpers as a machine in another part of the world has them. */
async function datesIn(place: string): Promise<typeof dates> {
  moveTo(place);
  vi.resetModules();
  return import('./dates.ts');
}

describe('days and moments', () => {
  test.each(['Etc/GMT+10', 'UTC', 'Etc/GMT-13'])(
    'a day without a time is that day in %s',
    async (place) => {
      const { longDay, shortDay, nearDay } = await datesIn(place);
      expect(longDay('2026-11-25')).toBe('25 November 2026');
      expect(shortDay('2026-01-01')).toBe('1 Jan 2026');
      expect(nearDay('2026-12-31')).toBe('31 Dec');
    },
  );

  test('a moment goes by the clock on the wall', async () => {
    const late = '2026-11-25T23:30:00.000Z';
    const there = await datesIn('Etc/GMT-13');
    expect([there.shortDay(late), there.clockText(late)]).toEqual(['26 Nov 2026', '12:30']);
    const here = await datesIn('UTC');
    expect(here.momentText(late)).toBe('25 Nov 2026, 23:30');
  });
});
