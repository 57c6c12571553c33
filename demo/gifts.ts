import { addDays, addMonths, dayNumber, dateOfDay, fiscalYearOf, fiscalYearSpan } from '@tallystick/core/dates';
import type { PaymentMethod } from '@tallystick/core/gifts';
import type { Chance } from './random.ts';
import type { DemoSupporter } from './supporters.ts';

export const FISCAL_YEAR_START = 7;
export const YEARS = 8;

export const FUNDS = [
  { code: 'GEN', name: 'General Operating', closed: false },
  { code: 'VAN', name: 'Telescope Van', closed: false },
  { code: 'DOME', name: 'Lantern Dome Upkeep', closed: false },
  { code: 'LAND', name: 'Dark Ground', closed: false },
  { code: 'LAMP', name: 'Lamp Swap', closed: false },
  { code: 'YOUNG', name: 'Young Observers Bursary', closed: false },
  { code: 'COMET', name: 'Comet Year Exhibit', closed: true },
] as const;
export type FundCode = (typeof FUNDS)[number]['code'];

export interface DemoGift {
  date: string;
  cents: number;
  fund: FundCode;
  /** Code of an appeal; its campaign follows from it. */
  appeal: string | null;
  method: PaymentMethod;
  cheque: string;
  acknowledgedOn: string | null;
}

/** Appeals of one fiscal year, with the month of the fiscal year (0: July) in which answers come in. */
export const SEASONS = [
  { code: 'FALL', name: 'Fall letter', month: 3, weight: 4 },
  { code: 'YEL', name: 'Year-end letter', month: 5, weight: 5 },
  { code: 'YEM', name: 'Year-end e-mail series', month: 5, weight: 3 },
  { code: 'CALL', name: 'Spring calls', month: 9, weight: 2 },
  { code: 'SUPPER', name: 'Meteor Night Supper', month: 1, weight: 2 },
] as const;

/** The appeal of one winter, when the telescope van broke down. */
export const EMERGENCY = { code: 'VANHELP', name: 'Van breakdown emergency' } as const;

interface Span {
  firstYear: number;
  thisYear: number;
  today: string;
}

const AMOUNTS = [
  [15_00, 4],
  [25_00, 10],
  [36_00, 4],
  [50_00, 14],
  [75_00, 6],
  [100_00, 14],
  [150_00, 5],
  [250_00, 6],
  [500_00, 3],
  [1_000_00, 1.5],
] as const;

function oneGift(date: string, cents: number, appeal: string | null, chance: Chance): DemoGift {
  const fund = chance.weighted<FundCode>([
    ['GEN', 58],
    ['VAN', 13],
    ['DOME', 8],
    ['LAND', 8],
    ['LAMP', 7],
    ['YOUNG', 6],
  ]);
  const method = chance.weighted<PaymentMethod>([
    ['cheque', 45],
    ['card', 40],
    ['cash', 6],
    ['bank', 8],
    ['other', 1],
  ]);
  return {
    date,
    cents,
    fund,
    appeal,
    method,
    cheque: method === 'cheque' ? String(chance.whole(101, 9899)) : '',
    acknowledgedOn: null,
  };
}

function inSeason(year: number, chance: Chance): { date: string; appeal: string } {
  const season = chance.weighted(
    SEASONS.map((one) => [one, one.weight] as const) as [readonly [(typeof SEASONS)[number], number]],
  );
  const start = addMonths(fiscalYearSpan(year, FISCAL_YEAR_START).from, season.month);
  return { date: addDays(start, chance.whole(0, 40)), appeal: `${season.code}${year}` };
}

function monthly(span: Span, chance: Chance): DemoGift[] {
  const begin = addDays(
    fiscalYearSpan(chance.whole(span.firstYear, span.thisYear - 1), FISCAL_YEAR_START).from,
    chance.whole(0, 90),
  );
  const cents = chance.pick([10_00, 15_00, 25_00, 40_00]);
  const until = chance.happens(0.7) ? span.today : addMonths(begin, chance.whole(6, 30));
  const gifts: DemoGift[] = [];
  for (let month = 0; addMonths(begin, month) <= until; month++)
    gifts.push({ ...oneGift(addMonths(begin, month), cents, null, chance), fund: 'GEN', method: 'card', cheque: '' });
  return gifts;
}

const GIVES: Record<DemoSupporter['habit'], (year: number, chance: Chance) => number> = {
  never: () => 0,
  once: () => 0,
  monthly: () => 0,
  sometimes: (_year, chance) => (chance.happens(0.5) ? 1 : 0),
  yearly: (_year, chance) =>
    chance.happens(0.88)
      ? chance.weighted([
          [1, 6],
          [2, 3],
        ])
      : 0,
  twice: (_year, chance) => chance.whole(2, 5),
  major: (_year, chance) => chance.whole(1, 3),
  business: (_year, chance) => (chance.happens(0.55) ? 1 : 0),
  foundation: (_year, chance) => (chance.happens(0.5) ? 1 : 0),
};

function giftsInYears(habit: DemoSupporter['habit'], span: Span, chance: Chance): DemoGift[] {
  const begin = Math.min(chance.whole(span.firstYear, span.thisYear), chance.whole(span.firstYear, span.thisYear));
  const usual = chance.weighted(AMOUNTS);
  const scale = { major: 40, foundation: 60, business: 4 }[habit as string] ?? 1;
  const gifts: DemoGift[] = [];
  for (let year = Math.min(begin, span.thisYear - 1); year <= span.thisYear; year++)
    for (let many = GIVES[habit](year, chance); many > 0; many--) {
      const { date, appeal } = inSeason(year, chance);
      gifts.push(
        oneGift(
          date,
          usual *
            scale *
            chance.weighted([
              [1, 8],
              [2, 1],
            ]),
          chance.happens(0.85) ? appeal : null,
          chance,
        ),
      );
    }
  return gifts;
}

/**
 * What one supporter gave in their life up to today. Gifts of the last two weeks, and a few forgotten ones, are not
 * thanked yet.
 */
export function makeGifts(
  { habit, diedDaysAgo }: Pick<DemoSupporter, 'habit' | 'diedDaysAgo'>,
  today: string,
  chance: Chance,
): DemoGift[] {
  const thisYear = fiscalYearOf(today, FISCAL_YEAR_START);
  const span: Span = { firstYear: thisYear - YEARS + 1, thisYear, today };
  let gifts: DemoGift[];
  if (habit === 'monthly') gifts = monthly(span, chance);
  else if (habit === 'once') {
    const { date, appeal } = inSeason(chance.whole(span.firstYear, span.thisYear), chance);
    gifts = [oneGift(date, chance.weighted(AMOUNTS), appeal, chance)];
  } else gifts = giftsInYears(habit, span, chance);
  const due = addDays(today, -13);
  const end = diedDaysAgo === null ? today : addDays(today, -diedDaysAgo - 1);
  return gifts
    .filter((gift) => gift.date <= end)
    .map((gift) => {
      const thanked = gift.date < due && !chance.happens(0.002);
      const on = dateOfDay(Math.min(dayNumber(gift.date) + chance.whole(1, 9), dayNumber(today)));
      return { ...gift, ...divertedBy(gift, span, chance), acknowledgedOn: thanked ? on : null };
    });
}

/** What a time's events make of a gift: an exhibit that is over, the van's breakdown, the challenge to swap lamps. */
function divertedBy(gift: DemoGift, { today, thisYear }: Span, chance: Chance): Partial<DemoGift> {
  const { date, method } = gift;
  if (date < addMonths(today, -60) && chance.happens(0.05)) return { fund: 'COMET' };
  const lastYear = fiscalYearSpan(thisYear - 1, FISCAL_YEAR_START).from;
  const breakdown = addMonths(lastYear, 7);
  if (date >= breakdown && date < addDays(breakdown, 75) && method !== 'cash' && chance.happens(0.45))
    return { fund: 'VAN', appeal: `${EMERGENCY.code}${thisYear - 1}` };
  const challenge = challengeSpan(today);
  if (date >= challenge.from && date <= challenge.to && chance.happens(0.35)) return { fund: 'LAMP' };
  return {};
}

/** The challenge ran for ten weeks and ended some weeks ago. */
export const challengeSpan = (today: string): { from: string; to: string } => ({
  from: addDays(today, -96),
  to: addDays(today, -26),
});
