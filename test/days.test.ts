import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import type { MonthAnswer } from '#contract/month';
import type { PlacedAnswer, PlacedOrder } from '#contract/suppliers';
import { shortDay } from '#core/explaining';
import { dayOf, daysLater } from '#core/units';
import { Api } from './support/api.ts';
import { onAClock } from './support/clock.ts';
import { ANSWER, acceptedJob, offer, quotedJob, toOrder, wanted } from './support/ordered.ts';
import { inAnyZone } from './support/zone.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());
onAClock();
const moveTo = inAnyZone();

let suppliers = 0;
const anOffer = () => offer(api, { supplier: `Quay ${String(suppliers++)}`, article: 'Q' });

const today = dayOf(Date.now());
/** The shop's clock is set to a time of its own day, so many days from now. */
function clockTo(days: number, hour: number, minute = 0): string {
  const day = daysLater(today, days);
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number);
  vi.setSystemTime(new Date(year, month - 1, date, hour, minute));
  return day;
}

// Zones have the sign of old: GMT+11 is eleven hours behind, where it is still yesterday.
describe.each(['Etc/GMT+11', 'UTC', 'Etc/GMT-14'])('a shop at %s', (zone) => {
  test.each([1, 23])('a quote issued at %d o’clock holds until its own midnight', async (hour) => {
    moveTo(zone);
    const { id } = await anOffer();
    clockTo(2, hour, 30);
    const { job, quote } = await quotedJob(api, id);
    const address = `/jobs/${job.id}/quotes/${quote.id}/answer`;
    clockTo(17, 0, 5);
    const refused = await api.problem('POST', address, ANSWER);
    const last = clockTo(16, 23, 55);
    expect(quote.validUntil).toBe(last);
    expect([refused.status, refused.detail]).toEqual([
      409,
      `Quote 1 held until ${shortDay(last)}.`,
    ]);
    await api.ok('POST', address, ANSWER);
  });

  test.each([0, 23])(
    'what is ordered at %d o’clock is expected days from that day',
    async (hour) => {
      moveTo(zone);
      const { id, supplier, leadDays } = await anOffer();
      const day = clockTo(3, hour, 30);
      await acceptedJob(api, id);
      const order = await api.ok<PlacedAnswer>('POST', '/orders', {
        ...{ id: `order ${zone} ${String(hour)}`, supplier, reference: '', send: false },
        lines: wanted(await toOrder(api, supplier)),
      });
      const placed = await api.ok<PlacedOrder[]>('GET', '/orders/placed');
      const expected = placed.find((one) => one.id === order.order?.id)?.expectedOn;
      expect(expected).toBe(daysLater(day, leadDays ?? Number.NaN));
    },
  );

  test('the month calls a quote expired when its answer would be refused', async () => {
    moveTo(zone);
    const { id } = await anOffer();
    const month = clockTo(4, 12).slice(0, 7);
    const { job } = await quotedJob(api, id);
    const standsAs = async (stand: string) =>
      (await api.ok<MonthAnswer>('GET', `/month/${month}`)).quotes.stands
        .find((one) => one.stand === stand)
        ?.jobs.some((one) => one.id === job.id);
    clockTo(18, 23, 59);
    expect([await standsAs('open'), await standsAs('expired')]).toEqual([true, false]);
    clockTo(19, 0, 1);
    expect([await standsAs('open'), await standsAs('expired')]).toEqual([false, true]);
  });
});
