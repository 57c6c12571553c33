import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  decimalMarkOfColumn,
  divide,
  formatMoney,
  typedMoney,
  LARGEST_AMOUNT,
  parseAmount,
  parseGiftAmount,
  sumCents,
} from './index.ts';

const US = { currency: 'USD', locale: 'en-US' };

const cents = (text: string, decimal?: '.' | ','): number | string => {
  const parsed = parseAmount(text, decimal);
  return parsed.ok ? parsed.cents : 'refused';
};

describe('parseAmount', () => {
  it.each([
    ['1250', 125_000],
    ['1250.5', 125_050],
    ['1,250.00', 125_000],
    ['$1,250.00', 125_000],
    ['1.250,00', 125_000],
    ['€ 1.250,00', 125_000],
    ['1.250,00 €', 125_000],
    ['USD 40', 4_000],
    ['40 USD', 4_000],
    ['1 250,50', 125_050],
    ['1\u00a0250,50', 125_050],
    ["1'250.50", 125_050],
    ['1,250', 125_000],
    ['1,234,567', 123_456_700],
    ['1.234.567', 123_456_700],
    ['12,5', 1_250],
    ['.50', 50],
    ['5.', 500],
    ['-12', -1_200],
    ['−12', -1_200],
    ['($12.00)', -1_200],
    ['-$12.00', -1_200],
    ['$-12.00', -1_200],
    ['+3', 300],
    ['0', 0],
    ['-0.00', 0],
    ['０１２', 1_200],
    ['12.-', 1_200],
    ['1.250,--', 125_000],
  ])('reads %s', (text, expected) => expect(cents(text)).toBe(expected));

  it.each([
    '',
    '  ',
    'twenty',
    '1,2,3',
    '12,34,567',
    '1.2.3',
    '0,125.5,0',
    '1e5',
    '12 34',
    'NaN',
    '$',
    '12.345',
    '10.000',
    '1,250.005',
    '12-3',
    '12-',
    '12.00-',
    '25 usd',
    '--3',
    '99999999999999999',
  ])('refuses %j with a reason', (text) => {
    const parsed = parseAmount(text);
    expect(parsed.ok).toBe(false);
    expect(!parsed.ok && parsed.reason.length).toBeGreaterThan(10);
  });

  it('takes one mark and three digits for thousands only where that mark is not the decimal one', () => {
    expect(cents('1.250', ',')).toBe(125_000);
    expect(cents('1.250', '.')).toBe('refused');
    expect(cents('1,250', ',')).toBe('refused');
    expect(cents('0,125', '.')).toBe('refused');
  });

  it('reads back every amount that it writes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -LARGEST_AMOUNT, max: LARGEST_AMOUNT }),
        (amount) => cents(formatMoney(amount, US)) === (amount === 0 ? 0 : amount),
      ),
    );
  });

  it('never answers with a fraction of a cent, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'0123456789.,$€ -()'), maxLength: 14 }), (text) => {
        const parsed = parseAmount(text);
        return !parsed.ok || (Number.isSafeInteger(parsed.cents) && Math.abs(parsed.cents) <= LARGEST_AMOUNT);
      }),
    );
  });
});

describe('an amount that names its currency', () => {
  const read = (text: string, currency: string) => parseAmount(text, '.', currency);
  it.each([
    ['$25', 'USD'],
    ['US$ 25', 'USD'],
    ['25 USD', 'USD'],
    ['USD25.00', 'USD'],
    ['25 usd', 'USD'],
    ['25usd', 'USD'],
    ['25.- Usd', 'USD'],
    ['25', 'USD'],
    ['$25', 'CAD'],
    ['CA$25', 'CAD'],
    ['C$25', 'CAD'],
    ['₹25', 'INR'],
    ['£25', 'GBP'],
    ['25 €', 'EUR'],
  ])('%s is taken where money is kept in %s', (text, currency) =>
    expect(read(text, currency)).toEqual({ ok: true, cents: 2_500 }),
  );
  it.each(['TBD', '#REF!', 'USD', 'CAD'])('%s without a number is no amount, of whatever currency', (text) =>
    expect(parseAmount(text, '.', 'USD')).toMatchObject({
      ok: false,
      reason: expect.stringContaining('is not an amount'),
    }),
  );
  it('is not taken where nobody asks which it is, when its sign says whose', () =>
    expect(['CA$25', 'A$25'].map((text) => parseAmount(text).ok)).toEqual([false, false]));
  it.each([
    ['25 CAD', 'USD', 'CAD'],
    ['£25', 'USD', '£'],
    ['CA$25', 'USD', 'CA$'],
    ['($25 AUD)', 'USD', 'AUD'],
    ['25€', 'GBP', '€'],
    ['US$25', 'CAD', 'US$'],
    ['₹25', 'USD', '₹'],
  ])('%s is refused where it is kept in %s', (text, currency, named) =>
    expect(read(text, currency)).toMatchObject({ ok: false, reason: expect.stringContaining(`is in ${named}`) }),
  );
});

describe('parseGiftAmount', () => {
  it.each([
    ['0', 'zero'],
    ['0,00', 'zero'],
    ['-50,00', 'negative'],
    ['10.001', 'decimals'],
    ['100000000000.01', 'larger'],
  ])('refuses %s because it is %s', (text, word) => {
    const parsed = parseGiftAmount(text);
    expect(parsed).toMatchObject({ ok: false, reason: expect.stringContaining(word) });
  });

  it('takes what is above zero', () => expect(parseGiftAmount('$0.01')).toEqual({ ok: true, cents: 1 }));
});

describe('decimalMarkOfColumn', () => {
  it('goes by the values that leave no doubt', () => {
    expect(decimalMarkOfColumn(['25,00', '1.250,00', '75', '$40.00'], '.')).toBe(',');
    expect(decimalMarkOfColumn(['25.00', '1,250.00'], ',')).toBe('.');
  });
  it('keeps the given mark where none does', () => expect(decimalMarkOfColumn(['75', '1,250'], '.')).toBe('.'));
});

describe('divide', () => {
  it('spreads the odd cents from the largest remainder on', () => {
    expect(divide(100_00, [1, 1, 1, 1, 1, 1, 1])).toEqual([1429, 1429, 1429, 1429, 1428, 1428, 1428]);
    expect(divide(1, [1, 1, 1, 1, 1])).toEqual([1, 0, 0, 0, 0]);
    expect(divide(100, [0.5, 0.25, 0.25])).toEqual([50, 25, 25]);
  });
  it('adds up to the total for any shares', () => {
    const weights = fc
      .array(fc.integer({ min: 0, max: 1000 }), { minLength: 1, maxLength: 30 })
      .filter((list) => list.some((weight) => weight > 0));
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 10_000_000 }),
        weights,
        (total, shares) => sumCents(divide(total, shares)) === total,
      ),
    );
  });
  it('refuses shares that divide nothing', () => {
    expect(() => divide(100, [0, 0])).toThrow(RangeError);
    expect(() => divide(100, [])).toThrow(RangeError);
    expect(() => divide(100, [2, -1])).toThrow(RangeError);
  });
});

describe('writing money', () => {
  it('as one would type it is read as the same cents, whatever the decimal mark', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -LARGEST_AMOUNT, max: LARGEST_AMOUNT }),
        fc.constantFrom('.' as const, ',' as const),
        (amount, mark) => {
          expect(parseAmount(typedMoney(amount), mark)).toEqual({ ok: true, cents: amount });
        },
      ),
    );
  });

  it('writes as the locale does', () => {
    expect(formatMoney(123_456, US)).toBe('$1,234.56');
    expect(formatMoney(-1, US)).toBe('-$0.01');
    expect(formatMoney(123_456, { currency: 'EUR', locale: 'en-US' })).toBe('€1,234.56');
  });
  it('says so when a sum cannot be exact', () =>
    expect(() => sumCents([Number.MAX_SAFE_INTEGER, 1])).toThrow(RangeError));
});
