import { afterAll, beforeAll, expect, it } from 'vitest';
import { addGift, addPerson, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { BY_REFERENCE, giftsByReference } from './views.ts';

let test: TestApp;
const longest = 'x'.repeat(60);
const references = ['IN-1', 'a "b" \\ \' c', '№ 7 é 李 🌌', longest, 'IN-2'];
const gifts = new Map<string, number>();
beforeAll(async () => {
  test = await openTestApp();
  const ada = await addPerson(test, { first: 'Ada', last: 'Finch' });
  for (const [name, reference] of [...references.map((one) => [one, one]), ['again', 'IN-2']] as [string, string][]) {
    const id = await addGift(test, ada);
    // Only files bring references.
    await test.sql.run('UPDATE gift SET reference = ? WHERE id = ?', [reference, id]);
    gifts.set(name, id);
  }
  await addGift(test, ada);
});
afterAll(() => test.close());

const found = async (...asked: string[]): Promise<number[]> =>
  (await giftsByReference(test.sql, asked)).map(({ id }) => id).sort((a, b) => a - b);

it.each(references.slice(0, 4))('finds the gift of %s, and no other', async (reference) =>
  expect(await found(reference)).toEqual([gifts.get(reference)]),
);

it('tells each gift once, whatever its letters are asked for in, and all that have the same', async () => {
  expect(await found('in-1', 'IN-1', 'ín-1')).toEqual([gifts.get('IN-1')]);
  expect(await found('IN-2')).toEqual([gifts.get('IN-2'), gifts.get('again')]);
  expect(await giftsByReference(test.sql, ['in-1'])).toEqual([{ id: gifts.get('IN-1'), reference: 'IN-1' }]);
});

it('finds nothing for what no gift has, nor for one that a reference begins with', async () => {
  expect(await found()).toEqual([]);
  expect(await found('IN-', 'null', `${longest}x`, `${longest} `.repeat(9))).toEqual([]);
});

it('finds few among very many', async () => {
  const many = Array.from({ length: 12_000 }, (_, nth) => `M-${nth}`);
  expect(await found(...many, 'IN-1')).toEqual([gifts.get('IN-1')]);
});

it('looks each up, however many gifts there are', async () => {
  const plan = await test.sql.rows<{ table: string; type: string; key: string | null }>(`EXPLAIN ${BY_REFERENCE}`, [
    JSON.stringify(Array.from({ length: 5_000 }, (_, nth) => `M-${nth}`)),
  ]);
  expect(plan.map(({ table, type, key }) => [table, type, key])).toEqual([
    ['these', 'ALL', null],
    ['g', 'ref', 'gift_reference'],
  ]);
});
