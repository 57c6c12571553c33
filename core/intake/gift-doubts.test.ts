import { describe, expect, it } from 'vitest';
import { readDetails, readRow } from './index.ts';
import type { IntakeColumn, RowSetting } from './index.ts';
import { PLAIN_SETTING } from './setting.test-support.ts';

/* What a row says of a gift is asked about where it may be meant otherwise. */

const COLUMNS: IntakeColumn[] = ['last', 'amount', 'date', 'benefit', 'amount:2'];
function asks(cells: Partial<Record<IntakeColumn, string>>, setting: Partial<RowSetting> = {}): string[] {
  const all = { ...PLAIN_SETTING, ...setting };
  const given = { last: 'Finch', amount: '50', date: '2026-03-04', ...cells };
  const row = COLUMNS.map((column) => given[column as keyof typeof given] ?? '');
  const { draft } = readRow(COLUMNS, row, all);
  return readDetails(draft, COLUMNS, row, all)
    .warnings.map(({ field, reason }) => `${field ?? ''}: ${reason}`)
    .filter((asked) => !asked.includes('has no date'));
}

describe('the sign before decimals', () => {
  it.each(['1,234', '1,00', '40,00 USD', '1,234.50', '1.234,50', '50.25', '$50', '12,345'])(
    'leaves no doubt in %s',
    (amount) => expect(asks({ amount })).toEqual([]),
  );
  it.each(['1,23', '12,34', '$1,50', '1,05 USD'])('is asked about in %s', (amount) =>
    expect(asks({ amount })).toEqual([`amount: “${amount}” has a “,” where decimals here have a “.”.`]),
  );
  it('is the other one where decimals have a comma', () => {
    expect(asks({ amount: '1,23' }, { decimal: ',' })).toEqual([]);
    expect(asks({ 'amount:2': '1.23' }, { decimal: ',' })).toEqual([
      'amount:2: “1.23” has a “.” where decimals here have a “,”.',
    ]);
  });
});

describe('what was received for a gift', () => {
  it('is asked about where it is worth more than the gift', () => {
    expect([asks({ benefit: '20' }), asks({ benefit: '50' })]).toEqual([[], []]);
    expect(asks({ benefit: '50.01' })).toEqual([
      'benefit: What was received for the gift is worth more than the gift.',
    ]);
  });
});

describe('a day with its time', () => {
  const zone = 'America/Los_Angeles';
  it.each<[string, string]>([
    ['2026-03-05T02:30:00Z', '2026-03-04'],
    ['2026-03-05 07:59 UTC', '2026-03-04'],
    ['2026-03-05T10:00:00+09:00', '2026-03-04'],
    ['2026-03-04T23:30:00.000-02:00', '2026-03-04'],
  ])('%s is asked about where it was another day here', (date, here) => {
    const taken = date.slice(0, 10);
    expect(asks({ date }, { zone })).toEqual(
      taken === here ? [] : [`date: “${date}” was ${here} where you are; it is taken for ${taken}.`],
    );
  });
  it.each(['2026-03-05T08:00:00Z', '2026-03-05T02:30:00', '2026-03-05', '3/5/2026 2:30 AM'])('%s is that day', (date) =>
    expect(asks({ date }, { zone })).toEqual([]),
  );
  it('is taken as written where nobody said where here is', () =>
    expect(asks({ date: '2026-03-05T02:30:00Z' })).toEqual([]));
});
