import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { METHOD_CODES } from '../gifts/index.ts';
import { accountsFor, ledgerLines, NO_ACCOUNT } from './index.ts';
import type { AccountRule, Booking } from './index.ts';

const rules: AccountRule[] = [
  { what: 'gift', fundId: null, method: null, debit: 'bank', credit: 'gifts' },
  { what: 'gift', fundId: null, method: 'card', debit: 'cards', credit: '' },
  { what: 'gift', fundId: 2, method: null, debit: '', credit: 'van' },
  { what: 'gift', fundId: 2, method: 'stock', debit: 'securities', credit: 'van stock' },
];

describe('accountsFor', () => {
  it.each([
    [1, 'cheque', 'bank', 'gifts'],
    [1, 'card', 'cards', 'gifts'],
    [2, 'cheque', 'bank', 'van'],
    [2, 'card', 'cards', 'van'],
    [2, 'stock', 'securities', 'van stock'],
    [1, 'stock', 'bank', 'gifts'],
  ] as const)('fund %i by %s', (fundId, method, debit, credit) =>
    expect(accountsFor(rules, fundId, method)).toEqual({ debit, credit }),
  );

  it('does not hang on the order of the rules', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(rules, { minLength: rules.length }), fc.constantFrom(1, 2), (mixed, fundId) => {
        for (const method of METHOD_CODES)
          expect(accountsFor(mixed, fundId, method)).toEqual(accountsFor(rules, fundId, method));
      }),
    );
  });

  it('shows that an account is missing', () => expect(accountsFor([], 1, 'cash')).toEqual(NO_ACCOUNT));
});

const booking: fc.Arbitrary<Booking> = fc.record({
  date: fc.constantFrom('2026-11-01', '2026-11-02', '2026-11-03'),
  fundId: fc.constantFrom(1, 2, 3),
  method: fc.constantFrom(...METHOD_CODES),
  cents: fc.integer({ min: -100_000, max: 100_000 }).filter((cents) => cents !== 0),
});

describe('ledgerLines', () => {
  it('balances on every day, whatever is booked by whatever rules', () => {
    fc.assert(
      fc.property(fc.array(booking, { maxLength: 60 }), fc.subarray(rules), (bookings, some) => {
        const lines = ledgerLines(bookings, some);
        for (const date of new Set(lines.map((line) => line.date))) {
          const own = lines.filter((line) => line.date === date);
          const sum = (side: 'debit' | 'credit'): number => own.reduce((total, line) => total + line[side], 0);
          expect(sum('debit')).toBe(sum('credit'));
        }
        expect(lines.every((line) => line.debit >= 0 && line.credit >= 0)).toBe(true);
        expect(lines.every((line) => (line.debit === 0) !== (line.credit === 0))).toBe(true);
      }),
    );
  });

  it('raises income of each fund by just what was booked to it', () => {
    fc.assert(
      fc.property(fc.array(booking, { maxLength: 60 }), (bookings) => {
        const lines = ledgerLines(bookings, [
          { what: 'gift', fundId: null, method: null, debit: 'bank', credit: 'gifts' },
        ]);
        for (const fundId of [1, 2, 3]) {
          const booked = bookings.filter((one) => one.fundId === fundId).reduce((sum, one) => sum + one.cents, 0);
          const income = lines.filter((line) => line.fundId === fundId && line.account === 'gifts');
          expect(income.reduce((sum, line) => sum + line.credit - line.debit, 0)).toBe(booked);
        }
      }),
    );
  });

  it('books what is taken back the other way round, on a line of its own', () =>
    expect(
      ledgerLines(
        [
          { date: '2026-11-02', fundId: 1, method: 'cash', cents: 500 },
          { date: '2026-11-01', fundId: 1, method: 'cash', cents: 300 },
          { date: '2026-11-02', fundId: 1, method: 'cash', cents: -200 },
          { date: '2026-11-02', fundId: 1, method: 'cheque', cents: 100 },
        ],
        rules,
      ),
    ).toEqual([
      { date: '2026-11-01', account: 'bank', fundId: 1, debit: 300, credit: 0 },
      { date: '2026-11-01', account: 'gifts', fundId: 1, debit: 0, credit: 300 },
      { date: '2026-11-02', account: 'bank', fundId: 1, debit: 600, credit: 0 },
      { date: '2026-11-02', account: 'bank', fundId: 1, debit: 0, credit: 200 },
      { date: '2026-11-02', account: 'gifts', fundId: 1, debit: 200, credit: 0 },
      { date: '2026-11-02', account: 'gifts', fundId: 1, debit: 0, credit: 600 },
    ]));
});
