import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chosenColumns, linesOf, moved, NO_CHOICE } from './columns.ts';
import type { Column } from './columns.ts';

const column = (id: string): Column<null> => ({ id, title: id, width: 100, cell: () => id });
const IDS = ['a', 'b', 'c', 'd', 'e'];
const ids = (columns: readonly Column<null>[]): string => columns.map((one) => one.id).join('');

describe('moved', () => {
  it.each([
    ['a', 'c', 'bcade'],
    ['e', 'a', 'eabcd'],
    ['b', 'c', 'acbde'],
    ['c', 'b', 'acbde'],
    ['a', 'e', 'bcdea'],
  ])('%s dropped on %s gives %s', (from, to, expected) => expect(moved(IDS, from, to).join('')).toBe(expected));

  it('loses no column', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...IDS),
        fc.constantFrom(...IDS),
        (from, to) => from === to || [...moved(IDS, from, to)].sort().join('') === 'abcde',
      ),
    );
  });
});

describe('chosenColumns', () => {
  const columns = IDS.map(column);
  it('takes order, widths and hidden ones as chosen', () => {
    const shown = chosenColumns(columns, {
      order: ['e', 'd', 'c', 'b', 'a'],
      hidden: ['c'],
      widths: { e: 240 },
      names: { e: 'Last' },
    });
    expect(ids(shown)).toBe('edba');
    expect(shown[0]).toMatchObject({ width: 240, title: 'Last' });
  });
  it('shows a column that is newer than the choice', () =>
    expect(ids(chosenColumns(columns, { ...NO_CHOICE, order: ['b', 'a'] })).length).toBe(5));
  it('leaves things alone where nothing was chosen', () =>
    expect(ids(chosenColumns(columns, NO_CHOICE))).toBe('abcde'));
});

describe('linesOf', () => {
  const group = (key: string, count: number) => ({ key, title: key, count, sum: '' });
  const shown = (rows: number, ...groups: ReturnType<typeof group>[]) =>
    linesOf(rows, groups).map((line) => (line.kind === 'group' ? line.group.key : line.index));
  it('puts each heading before the rows of its group, as far as they are loaded', () => {
    expect(shown(5, group('CA', 2), group('NV', 3))).toEqual(['CA', 0, 1, 'NV', 2, 3, 4]);
    expect(shown(3, group('CA', 2), group('NV', 3))).toEqual(['CA', 0, 1, 'NV', 2]);
    expect(shown(2, group('CA', 2), group('NV', 3))).toEqual(['CA', 0, 1]);
    expect(shown(2)).toEqual([0, 1]);
  });
});
