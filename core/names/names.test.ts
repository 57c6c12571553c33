import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { digitsOf, displayName, emailRemark, fold, normalEmail, sortName, wordsOf } from './index.ts';
import type { NameParts } from './index.ts';

const name = (parts: Partial<NameParts>): NameParts => ({
  kind: 'person',
  prefix: '',
  first: '',
  middle: '',
  last: '',
  suffix: '',
  organization: '',
  ...parts,
});

describe('names', () => {
  it.each([
    [name({ first: 'Ana-María', last: 'de la Cruz' }), 'Ana-María de la Cruz', 'de la cruz ana-maria'],
    [
      name({ prefix: 'Dr.', first: 'Oren', middle: 'T.', last: 'Farrow', suffix: 'Jr.' }),
      'Dr. Oren T. Farrow, Jr.',
      'farrow oren t.',
    ],
    [name({ prefix: 'Mrs.', last: 'Yarrow' }), 'Mrs. Yarrow', 'yarrow'],
    [name({ kind: 'household', organization: 'The Yarrow Family' }), 'The Yarrow Family', 'the yarrow family'],
    [name({ kind: 'organization', organization: 'Yarrow Diner' }), 'Yarrow Diner', 'yarrow diner'],
    [name({ first: '小龍', last: '李' }), '李小龍', '李 小龍'],
    [name({ prefix: 'Dr.', first: '영희', last: '김' }), 'Dr. 김영희', fold('김 영희')],
    [name({ first: '花子', last: '渡辺' }), '渡辺花子', '渡辺 花子'],
    [name({ first: '小龍', last: 'Li' }), '小龍 Li', 'li 小龍'],
    [name({ first: '小龍' }), '小龍', '小龍'],
    // A foreign name in Japanese signs keeps its own order.
    [name({ first: 'マイケル', last: 'ジョーダン' }), 'マイケル ジョーダン', fold('ジョーダン マイケル')],
  ])('shows and sorts %#', (parts, shown, sorted) => {
    expect(displayName(parts)).toBe(shown);
    expect(sortName(parts)).toBe(sorted);
  });

  it('folds what people leave out when they type', () => {
    expect(fold('  Ana-MARÍA   O’Halloran ')).toBe('ana-maria ohalloran');
    expect(fold('Bjørn Łukasz Straße')).toBe('bjorn lukasz strasse');
    fc.assert(fc.property(fc.string(), (text) => fold(fold(text)) === fold(text)));
  });

  it('cuts texts into words', () => {
    expect(wordsOf("de la Cruz-Smith, O'Hara & Co. 2")).toEqual(['de', 'la', 'cruz', 'smith', 'ohara', 'co', '2']);
    expect(wordsOf('  –  ')).toEqual([]);
  });

  it('keeps long names within the sorted column', () =>
    expect(sortName(name({ last: 'N'.repeat(300) })).length).toBe(190));
});

it.each([
  ['Fern@Example.org ', null],
  ['fern@example.org>', 'Kept as fern@example.org.'],
  ['f\u200Bern@example.org', 'Kept as fern@example.org.'],
  ['nothing', null],
])('what is taken off %j is said: %j', (text, words) => expect(emailRemark(text)).toBe(words));

describe('normalEmail', () => {
  it.each([
    [' Fern@Example.ORG ', 'fern@example.org'],
    ['a.b+c@sub.example.net', 'a.b+c@sub.example.net'],
    ['fern@example', null],
    ['not an address', null],
    ['two@at@example.org', null],
    ['.fern@example.org', null],
    ['fe..rn@example.org', null],
    ['fern.@example.org', null],
    [`${'x'.repeat(65)}@example.org`, null],
    ['', null],
    ['fern@example.org>', 'fern@example.org'],
    ['Fern Lowell <fern@example.org>', 'fern@example.org'],
    ['mailto:fern@example.org;', 'fern@example.org'],
    ['f\u200Bern@exam\u00ADple.org\u00A0', 'fern@example.org'],
    ['"fern@example.org",', 'fern@example.org'],
    ['fern@example.org, oren@example.org', null],
    ['fern@-example.org', null],
    ['müller@exämple.org', 'müller@exämple.org'],
  ])('%j becomes %j', (text, expected) => expect(normalEmail(text)).toBe(expected));
});

it('digitsOf keeps digits of any script', () => expect(digitsOf('(775) 555-01９9 x2')).toBe('775555019' + '92'));
