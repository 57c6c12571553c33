import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { METHOD_CODES } from '../gifts/index.ts';
import type { GiftPart, GiftState } from '../gifts/index.ts';
import { ENTRIES, giftSums, ledgerLines, notBooked, pledgeSums, toBook } from './index.ts';
import type { AccountRule, Entry, EntryKind, Sum } from './index.ts';

const part = (cents: number, fundId: number): GiftPart => ({ cents, fundId, campaignId: null, appealId: null });
const stock = (parts: GiftPart[]): GiftState => ({
  ...{ supporterId: 1, cents: parts.reduce((sum, one) => sum + one.cents, 0), date: '2026-03-01' },
  ...{ method: 'stock', parts },
});
const of = (sums: readonly Sum[], what: EntryKind) =>
  sums.filter((sum) => sum.what === what).map(({ fundId, cents }) => [fundId, cents]);

describe('what a pledge comes to', () => {
  const pledge = { fundId: 2, promised: true, pledged: 900, paid: 300, writtenOff: 100 };
  it('is what is pledged, paid and written off, for its fund', () =>
    expect(pledgeSums(pledge).map(({ what, fundId, cents }) => [what, fundId, cents])).toEqual([
      ['pledged', 2, 900],
      ['paid', 2, 300],
      ['written_off', 2, 100],
    ]));
  it('is nothing before it is promised', () => expect(pledgeSums({ ...pledge, promised: false })).toEqual([]));
});

describe('what else a gift comes to', () => {
  const base = { fundId: 1, isVoid: false, fee: 0 };
  it('is the value of stock that was sold, and the gain or loss, each by its parts', () => {
    const sums = giftSums({ ...base, state: stock([part(600, 1), part(300, 2)]), soldFor: 840 });
    expect(of(sums, 'sold')).toEqual([
      [1, 600],
      [2, 300],
    ]);
    expect(of(sums, 'gain')).toEqual([
      [1, -40],
      [2, -20],
    ]);
  });
  it('is nothing of stock before it is sold, or that was taken back', () => {
    expect(giftSums({ ...base, state: stock([part(600, 1)]), soldFor: null })).toEqual([]);
    expect(giftSums({ ...base, state: { ...stock([]), cents: 0 }, soldFor: 500 })).toEqual([]);
  });
  it('is the fee of a gift, refunded or not, unless it should never have been recorded', () => {
    const state = { ...stock([part(600, 1), part(300, 2)]), method: 'card' as const };
    expect(of(giftSums({ ...base, state, soldFor: null, fee: 30 }), 'fee')).toEqual([
      [1, 20],
      [2, 10],
    ]);
    const gone = { ...state, cents: 0, parts: [] };
    expect(of(giftSums({ ...base, fundId: 7, state: gone, soldFor: null, fee: 30 }), 'fee')).toEqual([[7, 30]]);
    expect(giftSums({ ...base, isVoid: true, state: gone, soldFor: null, fee: 30 })).toEqual([]);
  });
  it('adds up to what came in, and to the fee, however it is split', () => {
    const amounts = fc.array(fc.integer({ min: 1, max: 90_000 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(amounts, fc.nat(500_000), fc.nat(900), (cents, soldFor, fee) => {
        const state = stock(cents.map((one, at) => part(one, at % 3)));
        const sums = giftSums({ ...base, state, soldFor, fee });
        const total = (...what: EntryKind[]): number =>
          sums.filter((sum) => what.includes(sum.what)).reduce((sum, one) => sum + one.cents, 0);
        expect([total('sold'), total('sold', 'gain'), total('fee')]).toEqual([state.cents, soldFor, fee]);
      }),
    );
  });
});

const sum: fc.Arbitrary<Sum> = fc.record({
  what: fc.constantFrom(...(Object.keys(ENTRIES) as EntryKind[])),
  fundId: fc.constantFrom(1, 2),
  method: fc.constantFrom(null, ...METHOD_CODES),
  cents: fc.integer({ min: -9_000, max: 9_000 }),
});

describe('toBook', () => {
  it('is what makes of what is there what is wanted, and nothing the second time', () => {
    fc.assert(
      fc.property(fc.array(sum), fc.array(sum), (wanted, had) => {
        const missing = toBook(wanted, had);
        expect(missing.every((one) => one.cents !== 0)).toBe(true);
        expect(toBook(wanted, [...had, ...missing])).toEqual([]);
      }),
    );
  });
});

describe('the lines of the journal', () => {
  const rule = (what: AccountRule['what'], debit: string, credit: string): AccountRule => ({
    ...{ what, fundId: null, method: null, debit, credit },
  });
  const rules: AccountRule[] = [
    rule('gift', 'bank', 'gifts'),
    { ...rule('gift', 'securities', ''), method: 'stock' },
    { ...rule('gift', 'cards', ''), method: 'card' },
    rule('pledge', 'receivable', 'promises'),
    rule('write_off', 'lost', ''),
    rule('sale', 'bank', 'gain'),
    rule('fee', 'fees', ''),
  ];
  const entry = (what: EntryKind, cents: number, method: Sum['method'] = null): Entry => ({
    ...{ what, cents, method, fundId: 1, date: '2026-03-01' },
  });
  const linesOf = (...entries: Entry[]) =>
    ledgerLines([], rules, entries).map(({ account, debit, credit }) => [account, debit, credit]);

  it.each<[string, Entry, [string, string]]>([
    ['a pledge is receivable and income', entry('pledged', 100), ['receivable', 'promises']],
    ['a payment takes both back, as the gift is income', entry('paid', 100), ['promises', 'receivable']],
    ['what is written off is an expense', entry('written_off', 100), ['lost', 'receivable']],
    ['stock that was sold is money', entry('sold', 100), ['bank', 'securities']],
    ['more than it was worth is a gain', entry('gain', 100), ['bank', 'gain']],
    ['less is a loss', entry('gain', -100), ['gain', 'bank']],
    ['a fee comes off where the money is', entry('fee', 100, 'card'), ['fees', 'cards']],
  ])('%s', (_name, one, [debit, credit]) =>
    expect(linesOf(one)).toEqual(
      [
        [debit, 100, 0],
        [credit, 0, 100],
      ].sort((a, b) => (String(a[0]) < String(b[0]) ? -1 : 1)),
    ),
  );

  it('have the income of the fund, and the money of gifts, where no other is set', () => {
    const fund = { ...rule('gift', '', 'dome'), fundId: 1 };
    const bare = [rule('gift', 'bank', 'gifts'), fund, rule('pledge', 'receivable', ''), rule('sale', '', 'gain')];
    const accounts = (...entries: Entry[]) => ledgerLines([], bare, entries).map((line) => line.account);
    expect(accounts(entry('pledged', 100))).toEqual(['dome', 'receivable']);
    expect(accounts(entry('gain', 100))).toEqual(['bank', 'gain']);
  });

  it('leave out what no account is set for, and name it', () => {
    const cash = rules.filter((one) => one.what === 'gift' || one.what === 'fee');
    const entries = [entry('pledged', 100), entry('fee', 5, 'card'), entry('sold', 10)];
    expect(notBooked(entries, cash)).toEqual(['pledge', 'sale']);
    expect(ledgerLines([], cash, entries).map((line) => line.account)).toEqual(['cards', 'fees']);
  });

  it('balance on every day, whatever is booked by whatever rules', () => {
    const dated = sum.chain((one) =>
      fc.constantFrom('2026-03-01', '2026-03-02').map((date): Entry => ({ ...one, date })),
    );
    fc.assert(
      fc.property(fc.array(dated, { maxLength: 40 }), fc.subarray(rules), (entries, some) => {
        const lines = ledgerLines([], some, entries);
        const total = (side: 'debit' | 'credit', date: string): number =>
          lines.filter((line) => line.date === date).reduce((all, line) => all + line[side], 0);
        for (const date of ['2026-03-01', '2026-03-02']) expect(total('debit', date)).toBe(total('credit', date));
      }),
    );
  });
});
