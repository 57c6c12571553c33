import { describe, expect, it } from 'vitest';
import { giftKindOf, keptBy, readDetails, readRow } from './index.ts';
import type { DraftGift, IntakeColumn, OpenPledge } from './index.ts';
import { PLAIN_SETTING } from './setting.test-support.ts';

const DARK = { id: 2, name: 'Dark Ground', code: 'DARK', closed: false };
const SETTING = {
  ...PLAIN_SETTING,
  funds: [...PLAIN_SETTING.funds, DARK, { ...DARK, id: 3, name: 'Old', code: 'OLD', closed: true }],
};
const read = (cells: Partial<Record<IntakeColumn, string>>) => {
  const columns = Object.keys(cells) as IntakeColumn[];
  const texts = Object.values(cells) as string[];
  const { draft, problems } = readRow(columns, texts, SETTING);
  const more = readDetails(draft, columns, texts, SETTING);
  return { draft, ...more.details, faults: [...problems, ...more.problems].map(({ field }) => field) };
};
const who = { last: 'Cruz' };

describe('giftKindOf', () => {
  it.each<readonly [string, unknown]>([
    ...['', 'One-time', 'one time', 'SINGLE', 'Gift', 'once'].map((text) => [text, null] as const),
    ...['recurring', 'Monthly', 'every quarter', 'Bi-weekly', 'Sustainer'].map(
      (text) => [text, { is: 'recurring' }] as const,
    ),
    ...['Pledge payment', 'installment', 'PLEDGE'].map((text) => [text, { is: 'payment', pledge: null }] as const),
    ['P-312', { is: 'payment', pledge: 312 }],
    ['auction lot', undefined],
    ['P-', undefined],
  ])('%s', (text, kind) => expect(giftKindOf(text)).toEqual(kind));
});

describe('what a row promises', () => {
  it('is a pledge in installments, or one that is due on its day', () => {
    const told = {
      pledge: '$600',
      pledgedOn: '11/2/2026',
      pledgeFund: 'dark',
      installments: '12',
      pledgeFirst: '12/1/2026',
    };
    expect(read({ ...who, ...told, pledgeEvery: 'Quarterly' })).toMatchObject({
      pledge: { cents: 60_000, pledgedOn: '2026-11-02', fundId: 2, count: 12, every: 'quarter', first: '2026-12-01' },
      faults: [],
    });
    expect(read({ ...who, pledge: '50' }).pledge).toMatchObject({
      count: 1,
      pledgedOn: '2026-11-30',
      first: '2026-11-30',
    });
    expect(read({ ...who, pledge: '' }).pledge).toBeNull();
  });
  it('is a recurring gift, which no card is charged for here', () => {
    const told = { recurs: '25', recursEvery: 'monthly', recursFrom: '1/5/2026', method: 'Visa' };
    expect(read({ ...who, ...told })).toMatchObject({
      recurring: { cents: 2_500, every: 'month', from: '2026-01-05', method: 'other', fundId: 1 },
      faults: [],
    });
  });
  it.each<[Partial<Record<IntakeColumn, string>>, IntakeColumn]>([
    [{ pledge: 'lots' }, 'pledge'],
    [{ pledge: '600', pledgedOn: '12/24/2026' }, 'pledgedOn'],
    [{ pledge: '600', pledgedOn: '31/31/2026' }, 'pledgedOn'],
    [{ pledge: '600', installments: 'a few' }, 'installments'],
    [{ pledge: '600', installments: '0' }, 'installments'],
    [{ pledge: '0.05', installments: '12' }, 'installments'],
    [{ pledge: '600', installments: '2', pledgeEvery: 'now and then' }, 'pledgeEvery'],
    [{ pledge: '600', pledgeFund: 'Moon' }, 'pledgeFund'],
    [{ pledge: '600', pledgeFund: 'Old' }, 'pledgeFund'],
    [{ recurs: '-5' }, 'recurs'],
    [{ recurs: '25', recursEvery: 'often' }, 'recursEvery'],
    [{ amount: '5', giftKind: 'lot 7' }, 'giftKind'],
  ])('is refused where it cannot be read: %o', (cells, field) =>
    expect(read({ ...who, ...cells }).faults).toEqual([field]),
  );
});

describe('what gifts keep', () => {
  const pledge = (id: number, pledgedOn: string, open: number, fundId = 1): OpenPledge => ({
    ...{ id, made: null, cents: 10_000, open, pledgedOn, fundId },
  });
  const gift = (cents: number, date: string, kind: DraftGift['kind'], fundId = 1): DraftGift => ({
    ...{ cents, date, fundId, campaignId: null, appealId: null, method: 'card', cheque: '', reference: '', note: '' },
    ...{ benefitCents: 0, feeCents: 0, own: [], kind: kind ?? null },
  });
  const payment = { is: 'payment', pledge: null } as const;
  const keeps = (gifts: DraftGift[], pledges: OpenPledge[], recurring: number[] = []) => {
    const { keeps: found, fault, remark } = keptBy(gifts, { pledges, recurring });
    return fault ?? remark ?? found.map((one) => ('pledge' in one ? one.pledge.id : `r${String(one.recurring)}`));
  };
  it('is the pledge of their fund, else the oldest that is open, which each takes from', () => {
    const all = () => [pledge(1, '2026-01-01', 100), pledge(2, '2026-02-01', 5_000, 2), pledge(3, '2026-03-01', 900)];
    expect(
      keeps([gift(50, '2026-04-01', payment), gift(50, '2026-04-01', payment), gift(50, '2026-04-01', payment)], all()),
    ).toEqual([1, 1, 3]);
    expect(keeps([gift(60, '2026-04-01', payment, 2)], all())).toEqual([2]);
    expect(keeps([gift(60, '2026-02-15', { is: 'payment', pledge: 2 })], all())).toEqual([2]);
  });
  it('is said where it is more than is open', () =>
    expect(keeps([gift(60, '2026-04-01', payment)], [pledge(1, '2026-01-01', 50)])).toContain('more than the 0.50'));
  it('is said where there is none that it could be', () => {
    expect(keeps([gift(60, '2026-04-01', payment)], [])).toContain('no pledge');
    expect(keeps([gift(60, '2026-04-01', { is: 'payment', pledge: 9 })], [pledge(1, '2026-01-01', 1)])).toContain(
      'P-9 is no open pledge',
    );
    expect(keeps([gift(60, '2025-12-31', payment)], [pledge(1, '2026-01-01', 1)])).toContain('before the pledge');
    expect(keeps([gift(60, '2026-04-01', payment)], [pledge(1, '2026-01-01', 0)])).toContain('are paid');
  });
  it('is the one recurring gift that they have; otherwise it is by itself, which is said', () => {
    expect(keeps([gift(60, '2026-04-01', { is: 'recurring' }), gift(5, '2026-04-01', null)], [], [7])).toEqual(['r7']);
    expect(keeps([gift(60, '2026-04-01', { is: 'recurring' })], [])).toContain('no recurring');
    expect(keeps([gift(60, '2026-04-01', { is: 'recurring' })], [], [7, 8])).toContain('several recurring');
  });
});
