import { describe, expect, it } from 'vitest';
import { madeFault, madeOf, questionsOf, readRow, usedIn, withMade, withoutMade } from './index.ts';
import type { IntakeColumn, MadeColumn } from './index.ts';
import { PLAIN_SETTING } from './setting.test-support.ts';

const CELLS = ['12', 'Main St', 'Elko, NV 89801', ''];
const part = (from: number, sign: string, nth: MadeColumn['part']): MadeColumn => ({
  ...{ name: 'Made', from: [from], sign, part: nth },
});

describe('a made column', () => {
  it.each<[MadeColumn['part'], string, string]>([
    [1, ',', 'Elko'],
    [2, ',', 'NV 89801'],
    [3, ',', ''],
    [-1, ' ', '89801'],
    [-2, ' ', 'NV'],
    [-9, ' ', ''],
    ['rest', ',', 'NV 89801'],
    ['rest', ' ', 'NV 89801'],
    [1, ';', 'Elko, NV 89801'],
  ])('is part %s at “%s”: %s', (nth, sign, found) => expect(madeOf(part(2, sign, nth), CELLS)).toBe(found));
  it('joins several with what stands between, without a gap for an empty one', () => {
    expect(madeOf({ from: [0, 3, 1], sign: ' ', part: null }, CELLS)).toBe('12 Main St');
    expect(madeOf({ from: [0, 1], sign: '', part: null }, CELLS)).toBe('12Main St');
  });
  it('stands after those of the file, and may be made of those made before it', () => {
    const made = [part(2, ',', 2), part(4, ' ', 1)];
    expect(withMade(made, CELLS, 4, [])).toEqual([...CELLS, 'NV 89801', 'NV']);
    expect(withMade(made, ['12'], 4, [])).toEqual(['12', '', '', '', '', '']);
  });
  it('says what it cannot be made of', () => {
    expect(madeFault([part(4, ',', 1)], 4)).toContain('does not stand before it');
    expect(madeFault([part(0, ',', 0)], 4)).toContain('counted from 1');
    expect(madeFault([{ ...part(0, ',', 1), from: [0, 1] }], 4)).toContain('2 are named');
    expect(madeFault([part(0, ',', 1), part(4, ',', 1)], 4)).toBeNull();
  });
  it('takes those made of it away with it, and what stands after them moves up', () => {
    const made = [part(0, ',', 1), part(4, ' ', 1), part(1, ',', 1), part(6, ' ', 1)];
    const columns: (IntakeColumn | null)[] = [null, null, 'amount', null, 'last', 'first', 'street', 'city'];
    const care = { 2: 'two', 4: 'four', 7: 'seven' };
    expect(withoutMade({ made, columns, care }, 0, 4)).toEqual({
      made: [part(1, ',', 1), part(4, ' ', 1)],
      columns: [null, null, 'amount', null, 'street', 'city'],
      care: { 2: 'two', 5: 'seven' },
    });
  });
});

describe('rows with made columns', () => {
  const made = [part(0, ',', 1)];
  const columns: (IntakeColumn | null)[] = [null, 'amount', 'last'];
  const reasons = (cells: string[]): string[] =>
    readRow(columns, withMade(made, cells, 2, columns), PLAIN_SETTING, 2).problems.map(({ reason }) => reason);
  it('are still too long where the file has more cells than headings', () => {
    expect(reasons(['Cruz, Ana', '5', 'x'])).toEqual([expect.stringContaining('has 3 cells where the heading has 2')]);
    expect(reasons(['Cruz, Ana', '5', ''])).toEqual([]);
  });
  it('are still cut off where the amount is missing, or what it is made of', () => {
    expect(reasons(['Cruz, Ana'])).toContainEqual(expect.stringContaining('amount is cut off'));
    const sums = [part(1, ' ', 2)];
    const to: (IntakeColumn | null)[] = ['last', null, 'amount'];
    expect(withMade(sums, ['Cruz'], 2, to)).toEqual(['Cruz']);
    expect(withMade(sums, ['Cruz', 'USD 5'], 2, to)).toEqual(['Cruz', 'USD 5', '5']);
  });
  it('leave nothing out that a made column with a place is made of', () => {
    const chain = [part(0, ',', 2), part(2, ' ', 1)];
    expect(usedIn(chain, [null, null, null, 'region'], 2)).toEqual(new Set([0, 2]));
    expect(usedIn(chain, [null, null, null, null], 2)).toEqual(new Set());
    const open = { dateOrder: null, leaveRest: false, headed: true, encoding: null, readings: [] };
    const ask = (to: (IntakeColumn | null)[]) =>
      questionsOf(['Whole', 'Paid', 'Last'], [['Cruz, Ana', '5', 'Cruz']], { ...open, columns: to, made }).map(
        ({ says }) => says,
      );
    expect(ask([null, 'amount', 'last'])).toEqual([]);
    expect(ask([null, 'amount', null])).toEqual([expect.stringContaining('“Whole”, “Last”')]);
  });
});
