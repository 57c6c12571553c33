import { describe, expect, it } from 'vitest';
import { readField, showField } from './index.ts';
import type { CustomField, FieldKind } from './index.ts';

const field = (kind: FieldKind): CustomField => ({
  id: 1,
  name: 'Thing',
  kind,
  choices: ['Red giant', 'White dwarf', 'Pulsar'],
});

describe('readField and showField', () => {
  it.each<[FieldKind, string, string, string]>([
    ['text', '  Likes <b>tea</b> ', 'Likes <b>tea</b>', 'Likes <b>tea</b>'],
    ['number', '1,234.50', '1234.5', '1,234.5'],
    ['number', '-3', '-3', '-3'],
    ['money', '$1,250.00', '125000', '$1,250.00'],
    ['money', '-12.5', '-1250', '-$12.50'],
    ['date', '3/14/2026', '2026-03-14', 'Mar 14, 2026'],
    ['yesno', 'Yes', '1', 'yes'],
    ['yesno', 'n', '0', 'no'],
    ['one', 'pulsar', 'Pulsar', 'Pulsar'],
    ['many', 'pulsar; red giant', '["Red giant","Pulsar"]', 'Red giant, Pulsar'],
    ['many', '["Pulsar"]', '["Pulsar"]', 'Pulsar'],
    ['date', '', '', ''],
  ])('%s %j is kept as %j', (kind, typed, value, shown) => {
    expect(readField(field(kind), typed)).toEqual({ ok: true, value });
    expect(showField(field(kind), value)).toBe(shown);
  });
  it.each<[FieldKind, string, string]>([
    ['number', 'seven', 'not a number'],
    ['number', '1.2.3', 'not a number'],
    ['money', '1.234', ''],
    ['date', '2026-02-30', 'not a day'],
    ['yesno', 'perhaps', 'neither yes nor no'],
    ['one', 'Quasar', 'not one of Red giant'],
    ['many', 'Pulsar, Quasar', '“Quasar” is not one of'],
    ['text', 'x'.repeat(1001), 'more than 1000'],
  ])('%s refuses %j', (kind, typed, why) => {
    const read = readField(field(kind), typed);
    expect(read).toMatchObject({ ok: false, reason: expect.stringContaining(why) });
  });
  it('shows a value of another kind as it is', () => {
    expect(showField(field('date'), 'soon')).toBe('soon');
    expect(showField(field('money'), 'lots')).toBe('lots');
  });
});
