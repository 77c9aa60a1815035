import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { inAnyZone } from '../../test/support/zone.ts';
import { dayOf, daysFrom, daysLater } from './index.ts';

const moveTo = inAnyZone();

// Named by how far they are from Greenwich, with the sign of old: GMT+11 is eleven hours behind.
const ZONES = ['UTC', 'Etc/GMT+11', 'Etc/GMT-14', 'CET', 'EST5EDT'];
const moments = fc.date({
  ...{ min: new Date('1990-01-02T00:00:00Z'), max: new Date('2090-01-01T00:00:00Z') },
  noInvalidDate: true,
});

describe('days of the calendar', () => {
  test.each([
    ['Etc/GMT-14', '2026-11-25T09:59:59Z', '2026-11-25'],
    ['Etc/GMT-14', '2026-11-25T10:00:00Z', '2026-11-26'],
    ['Etc/GMT+11', '2027-01-01T10:59:59Z', '2026-12-31'],
    ['Etc/GMT+11', '2027-01-01T11:00:00Z', '2027-01-01'],
    ['UTC', '2028-02-29T23:59:59Z', '2028-02-29'],
  ])('begin at the shop’s own midnight: %s, %s', (place, at, day) => {
    moveTo(place);
    expect(dayOf(new Date(at))).toBe(day);
    expect(dayOf(Date.parse(at))).toBe(day);
  });

  test.each(ZONES)('in %s the day of a moment is the one its clock shows', (place) => {
    moveTo(place);
    const shown = new Intl.DateTimeFormat('sv-SE', { timeZone: place });
    fc.assert(
      fc.property(moments, (at) => {
        expect(dayOf(at)).toBe(shown.format(at));
      }),
    );
  });

  test.each(ZONES)('in %s counting days goes there and back, whatever the clocks do', (place) => {
    moveTo(place);
    fc.assert(
      fc.property(moments, fc.integer({ min: -400, max: 400 }), (at, days) => {
        const day = dayOf(at);
        expect(daysFrom(day, daysLater(day, days))).toBe(days);
        // By the calendar itself, at noon, when no clock is ever changed.
        const noon = new Date(at.getFullYear(), at.getMonth(), at.getDate() + days, 12);
        expect(daysLater(day, days)).toBe(dayOf(noon));
        expect(daysLater(day, 1) > day).toBe(true);
      }),
    );
  });
});
