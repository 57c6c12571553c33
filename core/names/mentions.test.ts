import { expect, it } from 'vitest';
import { mentions } from './index.ts';

const ana = { texts: ['Dr. Ana Cruz', 'Ana Cruz', 'ana@example.org'], first: 'Ana', last: 'Cruz' };

it.each<[string, string[], boolean]>([
  ['a whole name', ['x', ' ana CRUZ '], true],
  ['an e-mail address in capitals', ['ANA@example.org'], true],
  ['first and last name in cells of their own', ['12', 'Cruz', 'Aná'], true],
  ['a last name alone', ['Cruz', '12'], false],
  ['a part of a cell', ['Ana Cruz-Lind'], false],
  ['nobody', ['', ' '], false],
])('%s', (_title, cells, expected) => expect(mentions(cells, ana)).toBe(expected));

it('an organization has no first and last name that empty cells could be', () =>
  expect(mentions(['', 'Bakery'], { texts: ['Cruz Bakery'], first: '', last: '' })).toBe(false));
