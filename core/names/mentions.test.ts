import { expect, it } from 'vitest';
import { mentions, without } from './index.ts';

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

it.each<[string, string]>([
  ['Gift from Ana Cruz', 'Gift from a removed supporter'],
  ['ANA CRUZ, Dr. Ana Cruz and ana@example.org.', 'a removed supporter, a removed supporter and a removed supporter.'],
  ['Ana Cruzado', 'Ana Cruzado'],
  ['Mariana Cruz', 'Mariana Cruz'],
  ['{"text":"Ana Cruz"}', '{"text":"a removed supporter"}'],
  ['Nobody', 'Nobody'],
])('%j without her is %j', (text, expected) => expect(without([ana])(text)).toBe(expected));

it('signs that mean something in a pattern are taken as they are', () =>
  expect(without([{ texts: ['A+B (Trust)'], first: '', last: '' }])('to A+B (Trust) today')).toBe(
    'to a removed supporter today',
  ));

it('nobody, or a text as short as a word, takes nothing out', () => {
  expect(without([])('Ana')).toBe('Ana');
  expect(without([{ texts: ['An', ''], first: '', last: '' }])('An apple')).toBe('An apple');
});
