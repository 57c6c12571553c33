import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addDays } from '@tallystick/core/dates';
import { Chance } from '../../demo/random.ts';
import { addPerson, openTestApp, recordOf, snapshot, TODAY } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { moveTo } from './moving.ts';
import { waysOf } from './ways.ts';

/* Wherever people move, and whenever it is told: they are somewhere on every day, and where they said last. */

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

const placeOf = (house: number) => ({
  ...{ street: `${house} Fir St`, city: 'Elko', region: 'nevada', postal: '89801', country: '' },
});
const move = (id: number, house: number, from: string) =>
  test.services.changes.write({ userId: null, name: 'Mover' }, { kind: 'edit', summary: 'Moved' }, (tx) =>
    moveTo(tx, id, placeOf(house), { from, today: TODAY, home: 'US', label: 'home' }),
  );
const streetOn = async (id: number, day: string): Promise<string> =>
  (await waysOf(test.sql, [id], day)).get(id)?.address?.street ?? '';

describe('somebody who moves', () => {
  it('again and again, to days gone by and days to come, is always somewhere, and where they said last', async () => {
    const chance = new Chance(31);
    for (let person = 0; person < 6; person++) {
      const id = await addPerson(test, {
        addresses: [{ ...placeOf(0), region: 'NV', label: 'home', preferred: true }],
      });
      for (let turn = 1; turn <= 8; turn++) {
        const from = addDays(TODAY, chance.whole(-40, 40));
        const before = await snapshot(test.sql);
        const { revision, result } = await move(id, turn, from);
        expect(result.same).toBe(false);
        const told = `${turn} Fir St`;
        expect([turn, from, await streetOn(id, from <= TODAY ? TODAY : from)]).toEqual([turn, from, told]);
        for (const day of [0, 1, 10, 41, 400])
          expect([turn, day, (await streetOn(id, addDays(TODAY, day))) !== '']).toEqual([turn, day, true]);
        const { addresses } = await recordOf(test, id);
        for (const { validFrom, validTo } of addresses)
          if (validFrom !== null && validTo !== null) expect(validFrom <= validTo).toBe(true);
        expect(addresses.filter(({ preferred }) => preferred)).toHaveLength(1);
        // Some are taken back, and noted anew.
        if (chance.happens(0.3)) {
          expect((await test.call('POST', `/changes/${revision ?? 0}/undo`, {}, { as: 'admin' })).status).toBe(200);
          expect(await snapshot(test.sql)).toEqual(before);
          await move(id, turn, from);
        }
      }
    }
  });

  it('has a move that was told of before still to come, and none that was to come on the very day', async () => {
    const id = await addPerson(test, { addresses: [{ ...placeOf(0), region: 'NV', label: 'home', preferred: true }] });
    // Where they work is not where they live.
    const work = { ...placeOf(50), region: 'NV', label: 'work', preferred: false };
    const other = await addPerson(test, { addresses: [work, { ...placeOf(0), label: 'home', preferred: true }] });
    for (const one of [id, other]) {
      await move(one, 1, addDays(TODAY, 30));
      const { result } = await move(one, 2, addDays(TODAY, -5));
      expect(result.next).toMatchObject({ street: '1 Fir St', on: addDays(TODAY, 30) });
      await move(one, 3, addDays(TODAY, 30));
      const days: string[] = [];
      for (const day of [0, 29, 30, 400]) days.push(await streetOn(one, addDays(TODAY, day)));
      expect(days).toEqual(['2 Fir St', '2 Fir St', '3 Fir St', '3 Fir St']);
      expect((await recordOf(test, one)).addresses.map(({ street }) => street)).not.toContain('1 Fir St');
    }
  });

  it('has the state by its code, and no address twice', async () => {
    const id = await addPerson(test);
    expect((await move(id, 1, TODAY)).result).toEqual({ ended: null, next: null, same: false });
    expect((await recordOf(test, id)).addresses[0]).toMatchObject({ region: 'NV', validFrom: TODAY, preferred: true });
    expect(await move(id, 1, addDays(TODAY, -3))).toMatchObject({ revision: null, result: { same: true } });
  });
});
