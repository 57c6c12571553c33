import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { agreementOf, FIELDS, levelOf } from './levels.ts';
import type { Field } from './levels.ts';
import { chances, firstModel, fitted, SORTS, weightsOf } from './model.ts';
import { profileOf } from './profile.ts';
import type { Known } from './profile.ts';

/* How two records agree in each field, and how likely that makes them one. */

const person = (over: Partial<Known>): Known => ({
  ...{ id: 1, kind: 'person', first: '', middle: '', last: '', suffix: '', nickname: '', formerLast: '' },
  ...{ organization: '', emails: [], phones: [], addresses: [], birthday: '', outside: [] },
  ...over,
});
const level = (field: Field, one: Partial<Known>, other: Partial<Known>): string =>
  levelOf(agreementOf(profileOf(person(one)), profileOf(person(other))), field);

describe('the level', () => {
  it.each<[Field, Partial<Known>, Partial<Known>, string]>([
    ['first', { first: 'Ana' }, {}, 'nothing'],
    ['first', { first: 'Ana' }, { first: 'ANA' }, 'same'],
    ['first', { first: 'Robert' }, { first: 'Bob' }, 'short'],
    ['first', { first: 'Theodora', nickname: 'Dora' }, { first: 'Dora' }, 'short'],
    ['first', { first: 'Imogen' }, { first: 'Imogne' }, 'slip'],
    ['first', { first: 'Imogen' }, { first: 'I.' }, 'initial'],
    ['first', { first: 'Imogen' }, { first: 'R.' }, 'differs'],
    ['first', { first: 'Ann' }, { first: 'Bo' }, 'differs'],
    ['last', { last: 'Ibáñez' }, { last: 'ibanez' }, 'same'],
    ['last', { last: 'Webb', formerLast: 'Ruiz' }, { last: 'Ruiz' }, 'former'],
    ['last', { last: 'Ruiz-Webb' }, { last: 'Webb' }, 'part'],
    ['last', { last: 'Thackeray' }, { last: 'Thackery' }, 'slip'],
    ['last', { last: 'Smith' }, { last: 'Schmidt' }, 'sound'],
    ['last', { last: 'Smith' }, { last: 'Farr' }, 'differs'],
    ['middle', { middle: 'Jean' }, { middle: 'J.' }, 'initial'],
    ['middle', { middle: 'Jean' }, { middle: 'June' }, 'differs'],
    ['middle', { first: 'Ana María' }, { first: 'Ana', middle: 'María' }, 'same'],
    ['generation', {}, {}, 'neither'],
    ['generation', { suffix: 'Jr.' }, { suffix: 'junior' }, 'same'],
    ['generation', { suffix: 'Jr.' }, {}, 'one'],
    ['generation', { suffix: 'III' }, { suffix: 'II' }, 'differs'],
    ['generation', { suffix: 'M.D.' }, { suffix: 'Ph.D.' }, 'neither'],
    ['email', { emails: ['a@gmial.com'] }, { emails: ['A@gmail.com'] }, 'same'],
    ['email', { emails: ['a@x.org', 'b@x.org'] }, { emails: ['b+news@x.org'] }, 'same'],
    ['email', { emails: ['a.b@x.org'] }, { emails: ['ab@x.org'] }, 'differs'],
    ['phone', { phones: ['775-555-0142 ext. 7'] }, { phones: ['+1 775 555 0142'] }, 'same'],
    ['phone', { phones: ['555-0142'] }, { phones: ['(775) 555-0142'] }, 'seven'],
    ['phone', { phones: ['702-555-0142'] }, { phones: ['775-555-0142'] }, 'differs'],
    ['phone', { phones: ['12'] }, { phones: ['12'] }, 'nothing'],
    ['birthday', { birthday: '1961-03-14' }, { birthday: '--03-14' }, 'day'],
    ['birthday', { birthday: '1961-03-14' }, { birthday: '1961-14-03' }, 'near'],
    ['birthday', { birthday: '1961-03-14' }, { birthday: '1961-03-15' }, 'near'],
    ['birthday', { birthday: '1961-03-14' }, { birthday: '1916-03-14' }, 'near'],
    ['birthday', { birthday: '1961-03-14' }, { birthday: '1985-03-14' }, 'differs'],
    ['outside', { outside: ['portal|7'] }, { outside: ['list|7'] }, 'nothing'],
    ['outside', { outside: ['portal|7'] }, { outside: ['portal|8'] }, 'differs'],
  ])('of %s: %o and %o', (field, one, other, expected) => {
    expect(level(field, one, other)).toBe(expected);
    expect(level(field, other, one)).toBe(expected);
  });

  const at = (street: string, postal = '89801', city = 'Elko'): Partial<Known> => ({
    addresses: [{ street, postal, city }],
  });
  it.each([
    [at('4 Lyra Road'), at('4 lyra rd'), 'same'],
    [at('4 Lyra Rd #2'), at('4 Lyra Rd Apt 2'), 'same'],
    [at('4 Lyra Rd Apt 2'), at('4 Lyra Rd'), 'building'],
    [at('414 Lyra Rd'), at('414 Lyar Rd'), 'slip'],
    [at('4 Lyra Rd'), at('77 Vega St'), 'postal'],
    [at('4 Lyra Rd'), at('4 Lyra Rd', '11111', 'Far'), 'differs'],
    [at('4 Lyra Rd', '89081'), at('4 Lyra Rd', '89801'), 'same'],
    [at('4 Lyra Rd', '', ''), at('4 Lyra Rd'), 'same'],
    [{}, at('4 Lyra Rd'), 'nothing'],
  ])('of a street: %o and %o', (one, other, expected) => {
    expect(level('street', one, other)).toBe(expected);
    expect(level('street', other, one)).toBe(expected);
  });

  it('is the same whichever record comes first, whatever they hold', () => {
    const text = fc.constantFrom('', 'Ana', 'Anna', 'Ann', 'A.', 'Cruz', 'Cruz-Webb', 'Kruz');
    const any = fc.record({
      ...{ first: text, last: text, middle: text, formerLast: text, nickname: text },
      suffix: fc.constantFrom('', 'Jr.', 'Sr.'),
      birthday: fc.constantFrom('', '1961-03-14', '--03-14', '1962-03-14'),
    });
    fc.assert(
      fc.property(any, any, (one, other) => {
        const [a, b] = [profileOf(person(one)), profileOf(person(other))];
        expect(agreementOf(a, b)).toEqual(agreementOf(b, a));
      }),
    );
  });
});

describe('the model', () => {
  const anyAgreement = fc
    .tuple(...FIELDS.map((field) => fc.nat(field === 'email' || field === 'outside' ? 2 : 3)))
    .map((levels) => Uint8Array.from(levels));

  it('gives chances that add up to one, whatever agrees', () =>
    fc.assert(
      fc.property(anyAgreement, fc.integer({ min: 2, max: 1e6 }), (agreement, records) => {
        const likely = chances(firstModel(records), agreement, { first: null, last: null });
        expect(SORTS.reduce((sum, sort) => sum + likely[sort], 0)).toBeCloseTo(1, 9);
      }),
    ));

  it('stays as supposed for few pairs, and learns from many how often levels are seen', () => {
    const agreement = (first: number, email: number) => Uint8Array.from([first, 0, 1, 0, 1, email, 0, 1, 0, 0]);
    const setting = { records: 2_000, part: 2, usual: { first: 0.01, last: 0.001 } };
    expect(fitted([{ agreement: agreement(1, 1), many: 20 }], setting)).toEqual(firstModel(2_000));
    // Here those who are one never have the same e-mail.
    const learned = fitted([{ agreement: agreement(1, 2), many: 4_000 }], setting);
    const first = firstModel(2_000);
    expect(learned.rates.one.email[2]).toBeGreaterThan(first.rates.one.email[2] ?? 1);
    expect(learned.rates.strangers).toEqual(first.rates.strangers);
    expect(learned.pairs.one).toBeGreaterThan(first.pairs.one);
  });

  it('weighs what agrees for, and what differs against', () => {
    for (const [field, levels] of Object.entries(weightsOf(firstModel(10_000)))) {
      if (field === 'generation') continue;
      expect([field, (levels[0]?.bits ?? 0) > 0]).toEqual([field, true]);
      expect([field, (levels.at(-1)?.bits ?? 0) < 0]).toEqual([field, true]);
    }
  });
});
