import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Facts, rowWith } from '../facts/index.ts';
import { creditParts, recognised } from '../gifts/index.ts';
import type { GiftPart } from '../gifts/index.ts';
import { ANY_GIFT, CREDIT_CHOICES, FACETS, facetsOf, totalOf, totalsBy } from './index.ts';
import type { CreditChoice, GiftFilter } from './index.ts';

const PEOPLE = [1, 2, 3, 4, 5, 6];
interface Given {
  donor: number;
  day: number;
  method: number;
  parts: GiftPart[];
  credits: { who: number; cents: number }[];
}

const part: fc.Arbitrary<GiftPart> = fc.record({
  cents: fc.integer({ min: 1, max: 5000 }),
  fundId: fc.integer({ min: 1, max: 3 }),
  campaignId: fc.option(fc.integer({ min: 1, max: 2 })),
  appealId: fc.option(fc.integer({ min: 1, max: 2 })),
});
const given: fc.Arbitrary<Given> = fc
  .record({
    donor: fc.constantFrom(...PEOPLE),
    day: fc.integer({ min: 20_000, max: 20_400 }),
    method: fc.integer({ min: 0, max: 3 }),
    parts: fc.array(part, { minLength: 1, maxLength: 3 }),
    credits: fc.array(fc.record({ who: fc.constantFrom(...PEOPLE), share: fc.integer({ min: 1, max: 100 }) }), {
      maxLength: 3,
    }),
  })
  .map(({ credits, ...gift }) => {
    const cents = gift.parts.reduce((sum, one) => sum + one.cents, 0);
    return {
      ...gift,
      credits: credits
        .filter((credit) => credit.who !== gift.donor)
        .map(({ who, share }) => ({ who, cents: Math.max(1, Math.floor((cents * share) / 100)) })),
    };
  });

/** Facts as the server would hold them for these gifts. */
function factsOf(gifts: readonly Given[]): Facts {
  const facts = new Facts();
  for (const id of PEOPLE) {
    const place = (one: GiftPart, gift: Given) => ({
      day: gift.day,
      method: gift.method,
      cents: one.cents,
      fund: one.fundId,
      campaign: one.campaignId ?? 0,
      appeal: one.appealId ?? 0,
    });
    const own = gifts.flatMap((gift, index) => (gift.donor === id ? [{ gift, index }] : []));
    const whole = ({ gift }: { gift: Given }) => {
      const cents = gift.parts.reduce((sum, one) => sum + one.cents, 0);
      const [first] = gift.parts;
      if (first && gift.parts.length === 1) return rowWith('gifts', place(first, gift));
      return rowWith('gifts', { day: gift.day, method: gift.method, cents });
    };
    const splits = own.flatMap(({ gift, index }) =>
      gift.parts.length > 1 ? gift.parts.map((one) => rowWith('splits', { ...place(one, gift), gift: index + 1 })) : [],
    );
    const credits = gifts.flatMap((gift, index) =>
      gift.credits
        .filter((credit) => credit.who === id)
        .flatMap((credit) =>
          creditParts(credit.cents, gift.parts).flatMap((cents, at) => {
            const one = gift.parts[at];
            if (!one || cents === 0) return [];
            const share = { gift: index + 1, part: at, of: one.cents, donor: gift.donor };
            return [rowWith('credits', { ...place({ ...one, cents }, gift), ...share })];
          }),
        ),
    );
    facts.replace({ id, lists: { gifts: own.map(whole), splits, credits } });
  }
  return facts;
}

const fits = (gift: Given, one: GiftPart, filter: GiftFilter): boolean =>
  gift.day >= filter.span.from &&
  gift.day <= filter.span.to &&
  (filter.fund === null || one.fundId === filter.fund) &&
  (filter.campaign === null || one.campaignId === filter.campaign) &&
  (filter.appeal === null || one.appealId === filter.appeal) &&
  (filter.method === null || gift.method === filter.method);

/** The same by going through the gifts one at a time. */
function plainly(gifts: readonly Given[], who: ReadonlySet<number>, filter: GiftFilter, choice: CreditChoice): number {
  let cents = 0;
  for (const gift of gifts)
    gift.parts.forEach((one, at) => {
      if (!fits(gift, one, filter)) return;
      const legal = who.has(gift.donor);
      const shares = gift.credits
        .filter((credit) => who.has(credit.who))
        .map((credit) => creditParts(credit.cents, gift.parts)[at] ?? 0);
      if (choice !== 'recognition' && legal) cents += one.cents;
      else if (choice !== 'legal') cents += recognised(shares, one.cents);
    });
  return cents;
}

/** Who gave or is credited, each once. */
function donorsPlainly(
  gifts: readonly Given[],
  who: ReadonlySet<number>,
  filter: GiftFilter,
  choice: CreditChoice,
): number {
  const donors = new Set<number>();
  for (const gift of gifts)
    gift.parts.forEach((one, at) => {
      if (!fits(gift, one, filter)) return;
      if (choice !== 'recognition' && who.has(gift.donor)) donors.add(gift.donor);
      else if (choice !== 'legal')
        for (const credit of gift.credits)
          if (who.has(credit.who) && (creditParts(credit.cents, gift.parts)[at] ?? 0) > 0) donors.add(credit.who);
    });
  return donors.size;
}

/** Mostly anything, so that what is asked often finds something. */
const seldom = (one: fc.Arbitrary<number>): fc.Arbitrary<number | null> =>
  fc.oneof({ weight: 3, arbitrary: fc.constant(null) }, { weight: 1, arbitrary: one });
const filter: fc.Arbitrary<GiftFilter> = fc.record({
  span: fc.oneof(
    fc.constant(ANY_GIFT.span),
    fc.tuple(fc.integer({ min: 20_000, max: 20_400 }), fc.nat(200)).map(([from, days]) => ({ from, to: from + days })),
  ),
  fund: seldom(fc.integer({ min: 1, max: 3 })),
  campaign: seldom(fc.integer({ min: 1, max: 2 })),
  appeal: seldom(fc.integer({ min: 1, max: 2 })),
  method: seldom(fc.integer({ min: 0, max: 3 })),
});
const choice = fc.constantFrom(...(Object.keys(CREDIT_CHOICES) as CreditChoice[]));
const gifts = fc.array(given, { maxLength: 25 });
const some = fc.subarray(PEOPLE);
const slots = (facts: Facts, who: readonly number[]): number[] => who.map((id) => facts.slotOf(id));

describe('totalOf', () => {
  it('agrees with going through the gifts one at a time, for any filter and choice', () => {
    fc.assert(
      fc.property(gifts, some, filter, choice, (list, who, narrow, whose) => {
        const facts = factsOf(list);
        const total = totalOf(facts, slots(facts, who), narrow, whose);
        expect(total.cents).toBe(plainly(list, new Set(who), narrow, whose));
        expect(total.donors).toBe(donorsPlainly(list, new Set(who), narrow, whose));
      }),
      { numRuns: 300 },
    );
  });

  it('never counts a cent twice: no choice brings more than was given', () => {
    fc.assert(
      fc.property(gifts, some, filter, choice, (list, who, narrow, whose) => {
        const facts = factsOf(list);
        const given_ = totalOf(facts, slots(facts, PEOPLE), narrow, 'legal').cents;
        expect(totalOf(facts, slots(facts, who), narrow, whose).cents).toBeLessThanOrEqual(given_);
        expect(totalOf(facts, slots(facts, [...who, ...who]), narrow, whose).cents).toBe(
          totalOf(facts, slots(facts, who), narrow, whose).cents,
        );
      }),
      { numRuns: 200 },
    );
  });

  it('of everyone by both is what they gave', () => {
    fc.assert(
      fc.property(gifts, filter, (list, narrow) => {
        const facts = factsOf(list);
        const everyone = slots(facts, PEOPLE);
        expect(totalOf(facts, everyone, narrow, 'both').cents).toBe(totalOf(facts, everyone, narrow, 'legal').cents);
      }),
      { numRuns: 100 },
    );
  });

  it('counts gifts and supporters, a split gift once', () => {
    const place = { fundId: 1, campaignId: null, appealId: null };
    const facts = factsOf([
      {
        ...{ donor: 1, day: 20_010, method: 0, credits: [{ who: 2, cents: 300 }] },
        parts: [
          { ...place, cents: 200 },
          { ...place, fundId: 2, cents: 100 },
        ],
      },
      { donor: 1, day: 20_011, method: 1, parts: [{ ...place, cents: 50 }], credits: [] },
    ]);
    const total = (who: number[], whose: CreditChoice) => totalOf(facts, slots(facts, who), ANY_GIFT, whose);
    expect(total([1], 'legal')).toEqual({ cents: 350, gifts: 2, donors: 1 });
    expect(total([2], 'legal')).toEqual({ cents: 0, gifts: 0, donors: 0 });
    expect(total([2], 'recognition')).toEqual({ cents: 300, gifts: 1, donors: 1 });
    expect(total([1, 2], 'both')).toEqual({ cents: 350, gifts: 2, donors: 1 });
  });
});

describe('totalsBy', () => {
  it('laid out by fund comes to the total', () => {
    fc.assert(
      fc.property(gifts, some, filter, choice, (list, who, narrow, whose) => {
        const facts = factsOf(list);
        const rows = totalsBy(facts, slots(facts, who), narrow, whose, true, (row) => row.fund);
        const sum = [...rows.values()].reduce((total, row) => total + row.cents, 0);
        expect(sum).toBe(totalOf(facts, slots(facts, who), narrow, whose).cents);
        for (const fund of rows.keys())
          expect(rows.get(fund)?.cents).toBe(
            narrow.fund !== null && narrow.fund !== fund ? 0 : plainly(list, new Set(who), { ...narrow, fund }, whose),
          );
      }),
      { numRuns: 150 },
    );
  });

  it('laid out by method comes to the total, though nobody asked for parts', () => {
    fc.assert(
      fc.property(gifts, some, choice, (list, who, whose) => {
        const facts = factsOf(list);
        const rows = totalsBy(facts, slots(facts, who), ANY_GIFT, whose, false, (row) => row.method);
        for (const [method, row] of rows)
          expect(row.cents).toBe(plainly(list, new Set(who), { ...ANY_GIFT, method }, whose));
      }),
      { numRuns: 100 },
    );
  });
});

describe('facetsOf', () => {
  it('says in one pass what totals by each key say', () => {
    fc.assert(
      fc.property(gifts, fc.option(some), filter, (list, who, narrow) => {
        const facts = factsOf(list);
        const chosen = slots(facts, who ?? PEOPLE);
        const sums = facetsOf(facts, who === null ? null : chosen, narrow);
        for (const facet of FACETS) {
          const rows = totalsBy(facts, chosen, narrow, 'legal', true, (row) => row[facet]);
          const wanted = [...rows]
            .filter(([key]) => facet === 'method' || key !== 0)
            .map(([key, { gifts: count, cents }]) => [key, count, cents]);
          const said = [...sums[facet]].map(([key, { count, cents }]) => [key, count, cents]);
          expect(said.sort()).toEqual(wanted.sort());
        }
      }),
      { numRuns: 200 },
    );
  });
});
