import { describe, expect, it } from 'vitest';
import type { RowChange } from '../changes/index.ts';
import { describeChange } from './index.ts';

const NAMES: Record<string, string> = {
  'fund:1': 'General Operating',
  'fund:2': 'Telescope Van',
  'tag:3': 'Volunteer',
};
const names = { of: (table: string, id: number) => NAMES[`${table}:${id}`] ?? null };
const change = (table: string, before: RowChange['before'], after: RowChange['after'], id = 20_931): RowChange => ({
  table,
  id,
  before,
  after,
});

describe('describeChange', () => {
  it.each<[string, RowChange, string[]]>([
    [
      'a changed e-mail',
      change('email', { address: 'a@example.org' }, { address: 'b@example.org' }),
      ['E-mail changed from a@example.org to b@example.org'],
    ],
    ['a new e-mail', change('email', null, { address: 'a@example.org' }), ['E-mail a@example.org added']],
    ['a removed telephone', change('phone', { number: '555-0100' }, null), ['Telephone 555-0100 removed']],
    [
      'an address',
      change('address', null, { street: '1 Main', city: 'Tansy Creek', region: 'NV', postal: '' }),
      ['Address 1 Main, Tansy Creek, NV added'],
    ],
    [
      'a nickname',
      change('supporter', { nickname: '' }, { nickname: 'Nan' }),
      ['Nickname changed from nothing to Nan'],
    ],
    [
      'names, without the column they are sorted by',
      change('supporter', { last: '', sort_name: 'a' }, { last: 'Cruz', sort_name: 'b' }),
      ['Last name changed from nothing to Cruz'],
    ],
    [
      'a gift',
      change('gift', null, { cents: 2_500, fund_id: 1, date: '2026-11-02' }),
      ['Gift G-20931 of $25.00 to General Operating on Nov 2, 2026 added'],
    ],
    [
      'a gift that moved',
      change(
        'gift',
        { cents: 2_500, fund_id: 1, acknowledged_on: null },
        { cents: 3_000, fund_id: 2, acknowledged_on: '2026-11-05' },
      ),
      [
        'Gift G-20931: Amount changed from $25.00 to $30.00',
        'Gift G-20931: Fund changed from General Operating to Telescope Van',
        'Gift G-20931: Acknowledged changed from nothing to Nov 5, 2026',
      ],
    ],
    [
      'a fund that is gone',
      change('gift', { fund_id: 1 }, { fund_id: 9 }),
      ['Gift G-20931: Fund changed from General Operating to fund 9'],
    ],
    [
      'a payment method',
      change('gift', { method: 'cheque' }, { method: 'card' }),
      ['Gift G-20931: Payment method changed from Check to Card'],
    ],
    ['a tag', change('supporter_tag', null, { tag_id: 3 }), ['Tag Volunteer added']],
    ['a receipt', change('receipt', null, { number: '2026-000001' }), ['Receipt 2026-000001 added']],
    [
      'a letter in the post',
      change('delivery', null, { channel: 'print', subject: 'Thank you' }),
      ['Letter “Thank you” added'],
    ],
    [
      'a record',
      change('supporter', null, {
        kind: 'person',
        prefix: 'Dr.',
        first: 'Ana',
        middle: '',
        last: 'Cruz',
        suffix: '',
        organization: '',
      }),
      ['Record of Dr. Ana Cruz added'],
    ],
    ['a table without words of its own', change('issue_run', null, { letter_id: 1 }), ['Issue run added']],
    ['what nobody reads', change('supporter', { sort_name: 'a' }, { sort_name: 'b' }), []],
  ])('speaks of %s', (_title, given, expected) => expect(describeChange(given, names)).toEqual(expected));
});
