import { afterAll, beforeAll, expect, it } from 'vitest';
import { addGift, addPerson, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

it('the last five fiscal years are added up for each supporter, with what waits for thanks', async () => {
  const [giver, older, nobody] = [await addPerson(test), await addPerson(test), await addPerson(test)];
  for (const [date, cents] of [
    ['2026-07-01', 1_000],
    ['2026-11-20', 2_000],
    ['2026-06-30', 4_000],
    ['2022-07-01', 8_000],
  ] as const)
    await addGift(test, giver, { date, cents });
  const thanked = await addGift(test, older, { date: '2026-06-29', cents: 500 });
  await addGift(test, older, { date: '2022-06-30', cents: 99_000 });
  await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [thanked] });
  const asked = async (supporterIds: number[]) =>
    (await test.call('POST', '/gifts/years', { supporterIds })).body['items'] as {
      year: number;
      supporterId: number;
    }[];
  const given = await asked([giver, older, nobody]);
  // FY2022, which ended on June 30, lies six years back.
  expect([...given].sort((a, b) => a.supporterId - b.supporterId || a.year - b.year)).toEqual([
    { supporterId: giver, year: 2023, cents: 8_000, gifts: 1, unthanked: 1 },
    { supporterId: giver, year: 2026, cents: 4_000, gifts: 1, unthanked: 1 },
    { supporterId: giver, year: 2027, cents: 3_000, gifts: 2, unthanked: 2 },
    { supporterId: older, year: 2026, cents: 500, gifts: 1, unthanked: 0 },
  ]);
  expect(await asked([])).toEqual([]);
  expect((await test.call('POST', '/gifts/years', { supporterIds: Array(1001).fill(giver) })).status).toBe(400);
});
