import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  FIELD_KINDS,
  kept,
  kindFor,
  offList,
  readField,
  showField,
  typed,
  typedField,
  listTyped,
  typeList,
} from './index.ts';
import type { CustomField, FieldKind } from './index.ts';

const US = { currency: 'USD', locale: 'en-US' };
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
  ])('%s %j is kept as %j', (kind, written, value, shown) => {
    expect(readField(field(kind), typed(written))).toEqual({ ok: true, value });
    expect(showField(field(kind), kept(value), US)).toBe(shown);
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
  ])('%s refuses %j', (kind, written, why) => {
    const read = readField(field(kind), typed(written));
    expect(read).toMatchObject({ ok: false, reason: expect.stringContaining(why) });
  });
  it('shows a value of another kind as it is', () => {
    expect(showField(field('date'), kept('soon'), US)).toBe('soon');
    expect(showField(field('money'), kept('lots'), US)).toBe('lots');
  });
});

describe('typedField', () => {
  const texts = fc.oneof(
    fc.string({ maxLength: 30 }),
    fc.integer({ min: -10_000_000, max: 10_000_000 }).map((cents) => (cents / 100).toFixed(2)),
    fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e6, max: 1e6 }).map(String),
    fc.constantFrom('yes', 'N', 'X', '3/14/2026', '2026-02-28', 'a, b', 'A', 'a', '["a","b, c"]', 'b, c'),
  );
  it('is read as the very value that it was made of, for every kind', () => {
    fc.assert(
      fc.property(fc.constantFrom(...(Object.keys(FIELD_KINDS) as FieldKind[])), texts, (kind, text) => {
        const own: CustomField = { id: 1, name: 'Thing', kind, choices: ['A', 'a', 'b, c', 'a b'] };
        const read = readField(own, typed(text));
        if (!read.ok) return;
        const again = readField(own, typedField(own, read.value));
        expect(again).toEqual(read);
      }),
      { numRuns: 2000 },
    );
  });
  it.each<[FieldKind, string, string]>([
    ['money', '500000', '5000.00'],
    ['money', '-5', '-0.05'],
    ['yesno', '0', 'no'],
    ['money', 'lots', 'lots'],
    ['date', '', ''],
  ])('%s %j is typed %j', (kind, value, written) => expect(typedField({ kind }, kept(value))).toBe(written));
});

describe('kindFor', () => {
  const each = (many: number, ...values: string[]) => values.map((value) => ({ value, many }));
  it.each([
    ['yesno', each(9, 'Yes', 'no', 'Y')],
    ['number', each(1, '3', '12.5', '1,200')],
    ['date', each(1, '3/14/2026', '2026-04-01')],
    ['money', each(1, '$12.50', '$1,000')],
    ['one', each(4, 'Vegan', 'Fish', 'No nuts')],
    ['text', each(1, 'Vegan', 'Fish', 'No nuts')],
    ['text', each(9, 'Vegan', 'vegan')],
    ['text', each(9, 'Vegan')],
    ['text', []],
    ['text', each(1, '00412', '00507', '12')],
  ] as const)('%s', (kind, values) => expect(kindFor(values).kind).toBe(kind));
  it('lists what comes most often first', () =>
    expect(kindFor([...each(2, 'Fish'), ...each(9, 'Vegan')]).choices).toEqual(['Vegan', 'Fish']));
});

describe('a typed list', () => {
  it.each([
    ['a, b; c', ['a', 'b', 'c']],
    ['"Stars, moons", comets', ['Stars, moons', 'comets']],
    [' ,, ', []],
    ['one', ['one']],
  ])('%j', (text, items) => expect(listTyped(text)).toEqual(items));
  it('is read back as it was', () => {
    for (const items of [['a', 'b, c', 'd; e'], []]) expect(listTyped(typeList(items))).toEqual(items);
  });
});

describe('values outside the list of their field', () => {
  it.each<[FieldKind, string, { near: string | null } | null]>([
    ['one', '', null],
    ['one', 'Pulsar', null],
    ['text', 'Quasar', null],
    ['one', 'pulsar', { near: 'Pulsar' }],
    ['one', 'White dwraf', { near: 'White dwarf' }],
    ['one', 'Quasar', { near: 'Pulsar' }],
    ['one', 'Nebula', { near: null }],
    ['one', 'Star', { near: null }],
    ['many', '["Pulsar","Red giant"]', null],
    ['many', '["pulsar","red gaint"]', { near: '["Red giant","Pulsar"]' }],
    ['many', '["Pulsar","Nebula"]', { near: null }],
  ])('%s: %s', (kind, value, wanted) => expect(offList(field(kind), kept(value))).toEqual(wanted));

  it('of two choices as near neither is proposed', () =>
    expect(offList({ kind: 'one', choices: ['Gold A', 'Gold B'] }, kept('Gold C'))).toEqual({ near: null }));

  it('what is proposed is in the list', () =>
    fc.assert(
      fc.property(fc.constantFrom<FieldKind>('one', 'many'), fc.array(fc.string(), { maxLength: 4 }), (kind, had) => {
        const value = kept(kind === 'one' ? (had[0] ?? '') : JSON.stringify(had));
        const near = offList(field(kind), value)?.near;
        if (near) expect(offList(field(kind), near)).toBeNull();
      }),
    ));
});
