import { afterAll, beforeAll, expect, it } from 'vitest';
import { displayName, fold } from '@tallystick/core/names';
import { addPerson, openTestApp } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { namesBySorting } from './views.ts';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
  for (const last of ['Li', 'Lin', 'Li Wei', 'Li-Marr', "O'Li", 'Li2', 'Éclair', '李'])
    await addPerson(test, { first: 'Ada', last });
  await addPerson(test, { first: 'Bo', last: '' });
  for (const organization of ['Li', 'Li & Sons', 'Linden Trust'])
    await addPerson(test, { kind: 'organization', first: '', last: '', organization });
});
afterAll(() => test.close());

const found = async (...words: string[]): Promise<string[]> =>
  (await namesBySorting(test.sql, words.map(fold))).map(displayName).sort();

it.each([
  ['Li', ['Ada Li', 'Ada Li Wei', 'Ada Li-Marr', 'Li', 'Li & Sons']],
  ['Li Wei', ['Ada Li Wei']],
  ['Li-Marr', ['Ada Li-Marr']],
  ["O'Li", ["Ada O'Li"]],
  ['éclair', ['Ada Éclair']],
  ['李', ['Ada 李']],
  ['Bo', ['Bo']],
  ['Linden', ['Linden Trust']],
  ['Wei', []],
  ['%', []],
])('%s is looked for as whole words at the beginning', async (word, names) => expect(await found(word)).toEqual(names));

it('finds the same among many words as by each alone', async () => {
  const many = Array.from({ length: 1_500 }, (_, nth) => `Nobody${nth}`);
  expect(await found(...many, 'Li Wei', 'Linden')).toEqual(['Ada Li Wei', 'Linden Trust']);
});
