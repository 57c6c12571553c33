import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  figures,
  isShown,
  linesOf,
  moved,
  NO_CHOICE,
  orderOf,
  readSort,
  stepped,
  withShown,
  writeSort,
} from './columns.ts';
import type { Column } from './columns.ts';

const column = (id: string): Column<null> => ({ id, title: id, width: 100, cell: () => id });
const IDS = ['a', 'b', 'c', 'd', 'e'];

describe('a sort in an address', () => {
  const columns = [{ ...column('a'), sort: 'state' }, { ...column('b'), sort: 'lifetime' }, column('c')];
  it('is of several columns, each its own way, and read as it was written', () => {
    const sorts = [
      { id: 'a', desc: false },
      { id: 'b', desc: true },
    ];
    expect(writeSort(columns, sorts)).toBe('state,-lifetime');
    expect(readSort(columns, 'state,-lifetime')).toEqual(sorts);
  });
  it('leaves out what no column sorts by', () => {
    expect(readSort(columns, 'shoes,-state,')).toEqual([{ id: 'a', desc: true }]);
    expect(writeSort(columns, [{ id: 'c', desc: true }])).toBe('');
  });
});

describe('figures', () => {
  it('shows nothing where there is none, and nought where it is nought', () => {
    const { cell } = figures<number | null>('n', 'N', 80, (value) => value, String);
    expect([cell(null), cell(0), cell(12)]).toEqual(['', '0', '12']);
  });
});

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

describe('orderOf', () => {
  const columns = IDS.map(column);
  const order = (chosen: string[]): string => orderOf(columns, { ...NO_CHOICE, order: chosen }).join('');
  it('takes the order as chosen', () => expect(order(['e', 'd', 'c', 'b', 'a'])).toBe('edcba'));
  it('keeps a column that is newer than the choice', () =>
    expect([...order(['b', 'a'])].sort().join('')).toBe('abcde'));
  it('leaves things alone where nothing was chosen', () => expect(order([])).toBe('abcde'));
  it('forgets a column that is no more', () => expect(order(['x', 'b', 'a', 'c', 'd', 'e'])).toHaveLength(5));
});

describe('stepped', () => {
  it.each([
    ['b', 1, [], 'acbde'],
    ['b', -1, [], 'bacde'],
    ['a', -1, [], 'abcde'],
    ['e', 1, [], 'abcde'],
    // A hidden neighbour is stepped over.
    ['b', 1, ['c'], 'acdbe'],
    ['c', 1, ['c'], 'abcde'],
  ] as const)('%s by %i with %j hidden gives %s', (id, by, hidden, expected) =>
    expect(stepped(IDS, hidden, id, by).join('')).toBe(expected),
  );
});

describe('linesOf', () => {
  const group = (key: string, count: number) => ({ key, title: key, count, subtotals: {} });
  const shown = (rows: number, ...groups: ReturnType<typeof group>[]) =>
    linesOf(rows, groups).map((line) => (line.kind === 'group' ? line.group.key : line.index));
  it('puts each heading before the rows of its group, as far as they are loaded', () => {
    expect(shown(5, group('CA', 2), group('NV', 3))).toEqual(['CA', 0, 1, 'NV', 2, 3, 4]);
    expect(shown(3, group('CA', 2), group('NV', 3))).toEqual(['CA', 0, 1, 'NV', 2]);
    expect(shown(2, group('CA', 2), group('NV', 3))).toEqual(['CA', 0, 1]);
    expect(shown(2)).toEqual([0, 1]);
  });
});

describe('what is shown', () => {
  const [usual, extra] = [column('a'), { ...column('b'), hidden: true }];
  it('is what begins so, until it is chosen otherwise', () => {
    expect([usual, extra].map((one) => isShown(one, NO_CHOICE))).toEqual([true, false]);
    const turned = withShown(extra, true, withShown(usual, false, NO_CHOICE));
    expect([usual, extra].map((one) => isShown(one, turned))).toEqual([false, true]);
    expect(withShown(extra, false, withShown(usual, true, turned))).toEqual(NO_CHOICE);
  });
  it('is told once, however often it is chosen', () => {
    const twice = withShown(extra, true, withShown(extra, true, NO_CHOICE));
    expect(twice.shown).toEqual(['b']);
  });
});
