import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chosenColumns, moved } from './columns.ts';
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
    const shown = chosenColumns(columns, { order: ['e', 'd', 'c', 'b', 'a'], hidden: ['c'], widths: { e: 240 } });
    expect(ids(shown)).toBe('edba');
    expect(shown[0]?.width).toBe(240);
  });
  it('shows a column that is newer than the choice', () =>
    expect(ids(chosenColumns(columns, { order: ['b', 'a'], hidden: [], widths: {} })).length).toBe(5));
  it('leaves things alone where nothing was chosen', () =>
    expect(ids(chosenColumns(columns, { order: [], hidden: [], widths: {} }))).toBe('abcde'));
});
