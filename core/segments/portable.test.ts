import { describe, expect, it } from 'vitest';
import { fieldsWith } from '../catalogue/index.ts';
import { all, anyOf, during, fieldIs, FIRST_VIEW, gave, namedIn, renumbered, rows, tagged } from './index.ts';
import type { Definition, Group } from './index.ts';

const fields = fieldsWith([]);
const DEFINITION: Definition = {
  conditions: all(
    gave(anyOf('fund', 3, 4), anyOf('method', 'card')),
    { ...rows('gifts', []), after: { of: 'sendings', where: [anyOf('subject', 8)], days: 60 } },
    fieldIs('own:5', 'Refractor'),
    { ...rows('gifts', [during({ kind: 'kept', id: 14 })], 'change'), against: { kind: 'kept', id: 15 } },
    { kind: 'related', by: 'tie', where: [anyOf('role', 12)], match: all(tagged(7)) },
    {
      kind: 'group',
      join: 'any',
      parts: [
        { kind: 'people', list: 2 },
        { kind: 'segment', segment: 9 },
      ],
    },
  ),
  view: {
    ...FIRST_VIEW,
    ...{ rows: 'gifts', where: [anyOf('campaign', 6)] },
    columns: [
      { id: 'a', title: 'A', width: 100, shows: { kind: 'field', field: 'gift-own:5' } },
      {
        ...{ id: 'b', title: '', width: 100 },
        shows: {
          ...{ kind: 'measure', of: 'gifts', where: [anyOf('fund', 3)], measure: 'sum' },
          plus: [{ of: 'pledges', where: [anyOf('fund', 11)], measure: 'sum' }],
        },
      },
      {
        id: 'c',
        title: '',
        width: 100,
        shows: { kind: 'values', of: 'ties', where: [anyOf('role', 13)], part: 'who', pick: 'all' },
      },
      { id: 'd', title: '', width: 100, shows: { kind: 'part', part: 'fund' } },
    ],
  },
};

describe('a definition', () => {
  it('names everything that another database knows by another number, each once', () => {
    const named = namedIn(DEFINITION, fields).map(({ kind, id }) => `${kind} ${id}`);
    expect(named.toSorted()).toEqual(
      [
        ...[
          'fund 3',
          'fund 4',
          'fund 11',
          'mailing 8',
          'field 5',
          'role 12',
          'role 13',
          'tag 7',
          'list 2',
          'segment 9',
          'window 14',
          'window 15',
        ],
        'campaign 6',
      ].toSorted(),
    );
  });

  it('is the same under the same numbers', () => {
    expect(renumbered(DEFINITION, fields, (_kind, id) => id)).toEqual(DEFINITION);
  });

  it('has every number changed, and nothing else', () => {
    const far = renumbered(DEFINITION, fields, (_kind, id) => String(Number(id) + 1000));
    expect(namedIn(far, fields).every(({ id }) => Number(id) > 1000)).toBe(true);
    expect(renumbered(far, fields, (_kind, id) => String(Number(id) - 1000))).toEqual(DEFINITION);
    expect(JSON.stringify(far)).toContain('card');
  });

  it('leaves alone what is no longer known', () => {
    const odd: Group = all(rows('gifts', [anyOf('nothing', 3)]), fieldIs('gone', '3'));
    expect(namedIn({ conditions: odd, view: FIRST_VIEW }, fields)).toEqual([]);
  });
});
