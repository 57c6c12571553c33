import { describe, expect, it } from 'vitest';
import type { Row, RowChange } from '@tallystick/core/changes';
import '../app.ts';
import { tableNamed } from '../platform/tables.ts';
import { describeChange as describeWith } from '@tallystick/core/history';
import type { Telling } from '@tallystick/core/history';

const describeChange = (given: RowChange, telling: Telling): string[] =>
  describeWith(given, tableNamed(given.table).words, telling);
const NAMES: Record<string, string> = {
  'fund:1': 'General Operating',
  'fund:2': 'Telescope Van',
  'tag:3': 'Volunteer',
  'custom_field:9': 'Pledge goal',
  'custom_field.kind:9': 'money',
};
const US = { currency: 'USD', locale: 'en-US' };
const names = { formats: US, of: (table: string, id: number) => NAMES[`${table}:${id}`] ?? null };
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
    [
      'a custom field, by its name and kind',
      change('supporter_field', { field_id: 9, value: '50000' as never }, { field_id: 9, value: '60000' as never }),
      ['Pledge goal changed from $500.00 to $600.00'],
    ],
    ['what nobody reads', change('supporter', { sort_name: 'a' }, { sort_name: 'b' }), []],
  ])('speaks of %s', (_title, given, expected) => expect(describeChange(given, names)).toEqual(expected));
});

describe('records in full', () => {
  const known: Telling = { formats: US, of: (table, id) => `${table} ${id}` };
  const added = (table: string, after: Row): RowChange => ({ table, id: 1, before: null, after });
  it.each<[string, RowChange, string]>([
    ['a wish', added('wish', { kind: 'no_calls', source: 'reply card' }), 'Wish “No calls”, reply card, added'],
    ['a field', added('supporter_field', { field_id: 3, value: 'Pulsar' }), 'custom_field 3 (Pulsar) added'],
    ['a group', added('group_member', { group_id: 4 }), 'Group people_group 4 added'],
    [
      'a tie',
      added('relation', { kind_id: 5, supporter_id: 6, other_id: 7 }),
      'Tie (relation_kind 5) of supporter 6 and supporter 7 added',
    ],
    ['a note', added('note', { kind: 'visit', body: '{"text":"Came \\"twice\\""}' }), 'Visit “Came "twice"” added'],
    ['an empty note', added('note', { kind: 'call', body: '{}' }), 'Call “nothing” added'],
    [
      'a long note',
      added('note', { kind: 'note', body: JSON.stringify({ text: 'x'.repeat(200) }) }),
      `Note “${'x'.repeat(79)}…” added`,
    ],
    ['a mention', added('note_person', { note_id: 1 }), 'Mention in a note added'],
    ['a task', added('task', { title: 'Call', due: '2026-12-01' }), 'Task “Call”, due Dec 1, 2026, added'],
    ['a document', added('document', { name: 'Form.pdf' }), 'Document Form.pdf added'],
  ])('%s', (_what, change, line) => expect(describeChange(change, known)).toEqual([line]));

  it.each<[string, string, Row, Row, string]>([
    [
      'moving house',
      'supporter',
      { household_id: 1 },
      { household_id: null },
      'Household changed from supporter 1 to nothing',
    ],
    ['a birthday', 'supporter', { birthday: '' }, { birthday: '--02-29' }, 'Birthday changed from nothing to --02-29'],
    [
      'a text by hand',
      'supporter',
      { addressing: null },
      { addressing: '{"salutationInformal":{"text":"Anita","instead":"Ana"}}' },
      'Addressee or salutation changed from by the rules to “Anita”',
    ],
    [
      'an end',
      'address',
      { valid_to: null },
      { valid_to: '2026-11-22' },
      'Valid to changed from nothing to Nov 22, 2026',
    ],
    [
      'a season',
      'address',
      { season_from: null },
      { season_from: '11-15' },
      'First day of the season changed from nothing to 11-15',
    ],
    ['a bounce', 'email', { bad_reason: '' }, { bad_reason: 'bounced' }, 'Reason changed from nothing to bounced'],
    [
      'the end of a tie',
      'relation',
      { until: null },
      { until: '2026-01-01' },
      'Tied until changed from nothing to Jan 1, 2026',
    ],
    ['a task done', 'task', { done_on: null }, { done_on: '2026-11-23' }, 'Done changed from nothing to Nov 23, 2026'],
    ['a tag merged', 'supporter_tag', { tag_id: 1 }, { tag_id: 2 }, 'Tag changed from tag 1 to tag 2'],
    ['a pin', 'note', { pinned: 0 }, { pinned: 1 }, 'Pinned changed from no to yes'],
  ])('%s', (_what, table, before, after, line) =>
    expect(describeChange({ table, id: 1, before, after }, known)).toEqual([line]),
  );
});

describe('money in history', () => {
  const gift = { gift_id: 20_931, cents: 2_500 };
  it.each<[string, RowChange, string]>([
    [
      'a part',
      change('gift_split', null, { ...gift, fund_id: 1 }),
      'Part of G-20931: $25.00 to General Operating added',
    ],
    ['a credit', change('soft_credit', null, gift), 'Soft credit of $25.00 for G-20931 added'],
    ['a credit that went', change('soft_credit', gift, null), 'Soft credit of $25.00 for G-20931 removed'],
    [
      'a correction',
      change('correction', null, { gift_id: 20_931, reason: 'wrong fund' }),
      'Correction of G-20931 (wrong fund) added',
    ],
    ['a tribute', change('tribute', null, { kind: 'memory', name: 'Ada' }), 'Tribute in memory of Ada added'],
    ['an honour', change('tribute', null, { kind: 'honour', name: 'Ada' }), 'Tribute in honor of Ada added'],
    ['a pledge', change('pledge', null, { kind: 'pledge', cents: 70_000 }, 312), 'Pledge P-312 of $700.00 added'],
    ['a grant', change('pledge', null, { kind: 'grant', cents: 70_000 }, 313), 'Grant P-313 of $700.00 added'],
    ['a match', change('pledge', null, { kind: 'match', cents: 500 }, 314), 'Matching gift P-314 of $5.00 added'],
    [
      'a pledge that was raised',
      change('pledge', { cents: 70_000 }, { cents: 75_000 }, 312),
      'Pledged changed from $700.00 to $750.00',
    ],
    [
      'an installment',
      change('installment', null, { cents: 1_429, due: '2026-12-31' }),
      'Installment of $14.29 due Dec 31, 2026 added',
    ],
    [
      'a payment',
      change('pledge_payment', null, { ...gift, pledge_id: 312 }),
      'Payment of $25.00 on P-312 by G-20931 added',
    ],
    [
      'a write-off',
      change('write_off', null, { cents: 500, pledge_id: 312, reason: 'moved' }),
      'Write-off of $5.00 on P-312 (moved) added',
    ],
    ['a recurring gift', change('recurring', null, { card_label: 'x' }, 77), 'Recurring gift R-77 added'],
    [
      'its end',
      change('recurring', { until_on: null }, { until_on: '2026-12-31' }, 77),
      'Until changed from nothing to Dec 31, 2026',
    ],
    [
      'its amount',
      change('recurring_amount', null, { recurring_id: 77, cents: 2_000, from_on: '2027-01-01' }),
      'R-77 at $20.00 from Jan 1, 2027 added',
    ],
    [
      'its pause',
      change('recurring_pause', null, { recurring_id: 77, from_on: '2027-01-01' }),
      'Pause of R-77 from Jan 1, 2027 added',
    ],
    [
      'a charge',
      change('charge', null, { recurring_id: 77, cents: 2_000, due: '2027-01-01' }),
      'Charge of $20.00 due Jan 1, 2027 for R-77 added',
    ],
    [
      'a charge that failed',
      change('charge', { state: 'asking' }, { state: 'failed' }),
      'Charge changed from asking to failed',
    ],
    [
      'a receipt that is void',
      change('receipt', { voided_on: null }, { voided_on: '2026-11-23' }),
      'Voided changed from nothing to Nov 23, 2026',
    ],
  ])('%s', (_name, given, words) => expect(describeChange(given, names)).toEqual([words]));
});
