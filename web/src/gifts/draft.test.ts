import { describe, expect, it } from 'vitest';
import { GiftDraft } from '@tallystick/contract/gifts';
import type { GiftWhole } from '@tallystick/contract/gifts';
import { asksFee, creditKindOf, draftOf, freshGift, typedGift } from './draft.ts';
import type { TypedGift } from './draft.ts';
import { kept, typed as asTyped } from '@tallystick/core/fields';

const ana = { id: 10_482, name: 'Ana Cruz' };
const bo = { id: 10_483, name: 'Bo Marsh' };
const typed = (over: Partial<TypedGift> = {}): TypedGift => ({
  ...freshGift('2026-11-23'),
  ...{ who: ana, amount: '100', fundId: '1' },
  ...over,
});
const draft = (over: Partial<TypedGift> = {}): GiftDraft => {
  const read = draftOf(typed(over));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.draft;
};
const problems = (over: Partial<TypedGift>): Record<string, string> => {
  const read = draftOf(typed(over));
  return read.ok ? {} : read.problems;
};
const places = { campaignId: '', appealId: '' };

describe('a gift as it is typed', () => {
  it('is read as people write amounts and dates, and the contract takes it', () => {
    const read = draft({ amount: ' $1,250.50 ', date: '11/2/2026', campaignId: '4', cheque: '77' });
    expect(read).toMatchObject({
      ...{ supporterId: 10_482, cents: 1_250_50, date: '2026-11-02', fundId: 1, campaignId: 4, appealId: null },
      ...{ method: 'cheque', cheque: '77', parts: [], credits: [], details: null, tribute: null, pays: null },
    });
    expect(GiftDraft.parse(read)).toEqual(read);
  });

  it.each<[string, Partial<TypedGift>, string]>([
    ['nobody', { who: null }, 'supporterId'],
    ['no amount', { amount: '' }, 'cents'],
    ['an amount that is none', { amount: '12o' }, 'cents'],
    ['an amount of nothing', { amount: '0.00' }, 'cents'],
    ['a date that is none', { date: '2026-02-30' }, 'date'],
    ['shares of stock that are none', { method: 'stock', shares: 'ten', meanPrice: '5' }, 'shares'],
    ['a value of goods that is none', { benefit: { amount: 'much', what: '' } }, 'benefitCents'],
    ['a credit to nobody', { credits: [{ who: null, kind: 'spouse', amount: '' }] }, 'credits'],
    ['a part that is none', { parts: [{ ...places, fundId: '1', amount: 'x' }] }, 'parts'],
    ['goods without a value', { benefit: { amount: '', what: 'Supper' } }, 'benefitCents'],
    ['a match that is none', { match: { by: bo, amount: 'x' } }, 'match'],
    ['a match by nobody', { match: { by: null, amount: '' } }, 'match'],
    [
      'a tribute to nobody',
      { tribute: { kind: 'honour', name: ' ', of: null, notifyWho: bo, notify: '', withAmount: false } },
      'tribute',
    ],
  ])('says what is wrong with %s, at its field', (_name, over, field) =>
    expect(Object.keys(problems(over))).toEqual([field]),
  );

  it('says everything that is wrong at once', () =>
    expect(Object.keys(problems({ who: null, amount: '', date: 'x' })).sort()).toEqual([
      'cents',
      'date',
      'supporterId',
    ]));

  it('takes shares and the rest for the parts', () =>
    expect(
      draft({
        amount: '100.01',
        parts: [
          { ...places, fundId: '1', amount: '60%' },
          { ...places, fundId: '2', amount: '' },
        ],
      }).parts.map((part) => [part.fundId, part.cents]),
    ).toEqual([
      [1, 60_01],
      [2, 40_00],
    ]));

  it('credits all of it where no amount is said', () =>
    expect(
      draft({
        credits: [
          { who: bo, kind: 'adviser', amount: '' },
          { who: { id: 5, name: 'Cy' }, kind: 'peer', amount: '25' },
        ],
      }).credits,
    ).toEqual([
      { supporterId: 10_483, kind: 'adviser', cents: 100_00 },
      { supporterId: 5, kind: 'peer', cents: 25_00 },
    ]));

  it('is worth its shares times the price when it is stock', () =>
    expect(
      draft({ method: 'stock', amount: 'ignored', symbol: 'LMPS', shares: '1,000', meanPrice: '41.25', fee: '12.95' }),
    ).toMatchObject({
      cents: 41_250_00,
      details: {
        kind: 'stock',
        shares: '1000',
        meanPrice: '41.25',
        feeCents: 1_295,
        soldOn: null,
        proceedsCents: null,
      },
    }));

  it('has what was given in kind, and no check number without a check', () =>
    expect(draft({ method: 'in_kind', cheque: '77', description: 'Lamps', estimateBy: 'us' })).toMatchObject({
      cheque: '',
      details: { kind: 'in_kind', description: 'Lamps', estimateBy: 'us' },
    }));

  it('pays a pledge with the installments chosen, and expects a match of the same', () =>
    expect(
      draft({ pledgeId: '312', installments: [4, 5], over: 'raise', match: { by: bo, amount: '' } }),
    ).toMatchObject({
      pays: { pledgeId: 312, installments: [4, 5], over: 'raise', byOther: false },
      match: { supporterId: 10_483, cents: 100_00 },
    }));

  it('honours someone with whom to notify', () =>
    expect(
      draft({ tribute: { kind: 'memory', name: 'Ada', of: null, notifyWho: bo, notify: '1 Main', withAmount: true } })
        .tribute,
    ).toEqual({ kind: 'memory', name: 'Ada', ofId: null, notifyId: 10_483, notify: '1 Main', withAmount: true }));
});

describe('a gift that is to be changed', () => {
  const whole: GiftWhole = {
    ...{
      id: 7,
      number: 'G-7',
      version: 3,
      supporterId: 10_482,
      supporterName: 'Ana Cruz',
      cents: 100_01,
      currency: 'USD',
    },
    ...{ date: '2026-10-01', fundId: 1, fund: 'General', campaignId: null, campaign: '', appealId: 2, appeal: 'Fall' },
    ...{ split: true, sourceId: 6, source: 'FALL-A', method: 'cheque', cheque: '88', reference: '', note: 'Nice' },
    ...{ benefitCents: 65_00, benefit: 'Supper', details: null, deductibleCents: 35_01, state: 'kept' },
    ...{
      bookedOn: '2026-10-01',
      batchId: null,
      recurringId: null,
      fields: { 4: kept('500000') },
      acknowledgedOn: null,
    },
    ...{ receiptId: null, receiptNumber: null, receiptNeeds: '' },
    parts: [
      { cents: 60_01, fundId: 1, campaignId: null, appealId: 2, fund: 'General', campaign: '', appeal: 'Fall' },
      { cents: 40_00, fundId: 2, campaignId: 3, appealId: null, fund: 'Van', campaign: 'Dome', appeal: '' },
    ],
    credits: [{ supporterId: 10_483, name: 'Bo Marsh', kind: 'spouse', cents: 50_00 }],
    tribute: {
      ...{
        kind: 'honour',
        name: '',
        ofId: 9,
        ofName: 'Di',
        notifyId: null,
        notifyName: '',
        notify: '',
        withAmount: false,
      },
    },
    ...{
      pays: [],
      matchedBy: null,
      matches: null,
      corrections: [],
      history: [],
      settled: '',
      deposited: false,
      refundingCents: 0,
      feeCents: 0,
      batch: '',
    },
    typedFields: { 4: asTyped('5000.00') },
  };

  it('comes back as it was when nothing is touched', () => {
    const read = draftOf(typedGift(whole));
    expect(read.ok && read.draft).toMatchObject({
      ...{ supporterId: 10_482, cents: 100_01, date: '2026-10-01', fundId: 1, campaignId: null, appealId: 2 },
      ...{ sourceId: 6, method: 'cheque', cheque: '88', note: 'Nice', benefitCents: 65_00, benefit: 'Supper' },
      parts: whole.parts.map(({ cents, fundId, campaignId, appealId }) => ({ cents, fundId, campaignId, appealId })),
      credits: [{ supporterId: 10_483, kind: 'spouse', cents: 50_00 }],
      tribute: { kind: 'honour', ofId: 9, notifyId: null },
      // As typed, not as kept: read by the server it is what it was.
      fields: { 4: '5000.00' },
    });
  });

  it.each([
    ['cheque', true],
    ['cash', true],
    ['card', true],
    ['in_kind', false],
  ] as const)('keeps the fee that a gift by %s came with: %s', (method, keeps) => {
    const typed = typedGift({ ...whole, method, feeCents: 98 });
    expect(asksFee(typed)).toBe(keeps);
    const read = draftOf(typed);
    expect(read.ok && read.draft.feeCents).toBe(keeps ? 98 : 0);
    expect(asksFee({ method, fee: '' })).toBe(method === 'card');
  });

  it('lets a credit of all of it grow with the gift, and leaves another as it is', () => {
    const { kind, ...credit } = { kind: 'spouse' as const, supporterId: 10_483, name: 'Bo Marsh' };
    const credits = [
      { ...credit, kind, cents: 100_01 },
      { ...credit, supporterId: 5, kind: 'peer' as const, cents: 25_00 },
    ];
    const read = draftOf({ ...typedGift({ ...whole, split: false, credits }), amount: '150' });
    expect(read.ok && read.draft.credits.map((one) => one.cents)).toEqual([150_00, 25_00]);
  });

  it.each<[string, NonNullable<GiftWhole['details']>, GiftWhole['method'], number]>([
    [
      'stock that was sold',
      {
        ...{ kind: 'stock', symbol: 'LMPS', shares: '150', meanPrice: '41.25', feeCents: 1_295 },
        ...{ soldOn: '2026-10-05', proceedsCents: 6_200_00 },
      },
      'stock',
      6_187_50,
    ],
    ['goods', { kind: 'in_kind', description: 'Lamps', estimateBy: 'donor' }, 'in_kind', 100_01],
  ])('keeps the details of %s', (_name, details, method, cents) => {
    const read = draftOf(typedGift({ ...whole, split: false, parts: [], details, method, cents, credits: [] }));
    expect(read.ok && read.draft).toMatchObject({ details, method, cents, parts: [] });
  });
});

it.each([
  ['spouse', 'spouse'],
  ['household', 'household'],
  ['adviser', 'adviser'],
  ['anyone', 'solicitor'],
])('credits a %s as %s', (as, kind) => expect(creditKindOf(as)).toBe(kind));
