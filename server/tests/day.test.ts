import { expect, it } from 'vitest';
import { all, during, gave } from '@tallystick/core/segments';
import { addDays, dateInZone } from '@tallystick/core/dates';
import { addGift, addPerson, openTestApp } from './support.ts';
import type { TestApp } from './support.ts';

/* The organisation's day is its own zone's, whatever the machine's clock or UTC says. Nothing holds the day still here. */

async function isTheDay(test: TestApp, today: string): Promise<void> {
  expect((await test.call('GET', '/session')).body['organization']).toMatchObject({ today });
  const giver = await addPerson(test);
  const tomorrow = { supporterId: giver, cents: 100, date: addDays(today, 1), fundId: 1 };
  expect((await test.call('POST', '/gifts', tomorrow)).text).toContain('in the future');
  const gift = await addGift(test, giver, { date: today });
  const conditions = all(gave(during({ kind: 'last-days', days: 1 })));
  const count = await test.call('POST', '/segments/count', { conditions });
  expect(count.body['count']).toBe(1);
  const issued = await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [gift] });
  expect([issued.status, issued.text]).toEqual([200, expect.stringContaining(`${today.slice(0, 4)}-000001`)]);
  expect((await test.call('GET', `/gifts/${gift}`)).body['acknowledgedOn']).toBe(today);
}

it.each(['America/Los_Angeles', 'Pacific/Auckland', 'Asia/Kathmandu', 'UTC'])(
  'today in %s is what screens are told, gifts are held to, windows end with and receipts are numbered by',
  async (zone) => {
    for (;;) {
      const test = await openTestApp({ today: null });
      const today = dateInZone(new Date(), zone);
      try {
        // As an administrator sets it: what the server remembers of the organization goes.
        const { body: own } = await test.call('GET', '/organization');
        const set = await test.call('PUT', '/organization', { ...own, timeZone: zone }, { as: 'admin' });
        expect(set.status).toBe(200);
        await isTheDay(test, today);
        return;
      } catch (problem) {
        // Where midnight passed meanwhile, it is looked at again on the new day.
        if (dateInZone(new Date(), zone) === today) throw problem;
      } finally {
        await test.close();
      }
    }
  },
);
