import { addDays, fiscalYearOf, fiscalYearSpan } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import { CAME_COLUMNS } from '@tallystick/core/feeds';
import { IntakeRecipe } from '@tallystick/contract/intake';
import type { Services } from '@tallystick/server/app';
import type { Actor } from '@tallystick/server/platform/changes';
import { FISCAL_YEAR_START } from './gifts.ts';
import { Chance } from './random.ts';
import { makeSupporters } from './supporters.ts';

/* What the giving portal of the demo holds when it first starts, and how the demo's feed reads it. */

const SEED = 20_260_701;
/** The portal's campaigns: its own names, and our funds that they are for; the last is told of in no recipe. */
const CAMPAIGNS = [
  { id: 'basin-dark', name: 'Keep the Basin Dark', goalCents: 4_000_000, fund: 'Dark Ground' },
  { id: 'van-rolling', name: 'Get the Van Rolling', goalCents: 1_500_000, fund: 'Telescope Van' },
  { id: 'needed-most', name: 'Where It Is Needed', goalCents: 2_500_000, fund: 'General Operating' },
  { id: 'dome-roof', name: 'A Roof for the Dome', goalCents: 900_000, fund: null },
] as const;
const [DARK, VAN, NEEDED, ROOF] = CAMPAIGNS;
const AMOUNTS = [1_500, 2_500, 3_600, 5_000, 7_500, 10_000, 25_000] as const;
const STRANGERS = [
  'Ottoline Marsh',
  'Casimir Thorne',
  'Delphine Aldaba',
  'Ruben Starling',
  'Imke Vossberg',
  'Pell Ashdown',
];
const COMMENTS = ['For the stars over our roof', 'In memory of long summer nights', 'Keep going!'] as const;

const fee = (cents: number): number => Math.round(cents * 0.022) + 30;

/**
 * The lines of the portal's file: its campaigns, some 50 gifts of the last forty days, most of them by supporters of the
 * demo, and two refunds. Some are for a person to look at: an e-mail that two share, a campaign that no recipe knows,
 * another currency.
 */
export function portalLines(today: IsoDate) {
  const chance = new Chance(SEED + 9);
  const people = makeSupporters(2400, new Chance(SEED)).filter(
    ({ name, email, emailBounced, diedDaysAgo }) =>
      name.kind === 'person' && email !== null && !emailBounced && diedDaysAgo === null,
  );
  const gift = (nth: number, over: object = {}) => {
    const one = people[chance.whole(0, people.length - 1)];
    const cents = chance.pick(AMOUNTS);
    const campaign = chance.weighted<string>([
      [NEEDED.name, 4],
      [DARK.name, 3],
      [VAN.name, 3],
    ]);
    return {
      ...{ id: `GP-${81_000 + nth}`, at: `${addDays(today, -40 + Math.floor(nth * 0.75))}T19:${10 + (nth % 50)}:00Z` },
      ...{ campaign, cents, feeCents: fee(cents), currency: 'USD' },
      paidBy: chance.happens(0.8) ? ('card' as const) : ('bank' as const),
      ...(chance.happens(0.1) ? { comment: chance.pick(COMMENTS) } : {}),
      donor: {
        ...{
          number: `D-${4_000 + nth}`,
          first: one?.name.first ?? '',
          last: one?.name.last ?? '',
          email: one?.email ?? '',
        },
        ...(one?.phone ? { phone: one.phone } : {}),
        ...(one?.address
          ? { street: one.address.street, city: one.address.city, state: one.address.region, zip: one.address.postal }
          : {}),
      },
      ...over,
    };
  };
  const gifts = Array.from({ length: 52 }, (_, nth) => gift(nth));
  const put = (nth: number, over: (one: (typeof gifts)[number]) => object): void => {
    const one = gifts[nth];
    if (one) gifts[nth] = { ...one, ...over(one) };
  };
  for (const [at, name] of STRANGERS.entries()) {
    const [first = '', last = ''] = name.split(' ');
    const email = `${first}.${last}@example.net`.toLowerCase();
    put(4 + at * 7, ({ donor }) => ({
      donor: {
        ...donor,
        first,
        last,
        email,
        phone: '',
        street: `${12 + at} Zodiac Lane`,
        city: 'Tansy Creek',
        state: 'NV',
        zip: '89901',
      },
    }));
  }
  // Somebody else gives under an e-mail that is known.
  for (const nth of [15, 33]) put(nth, ({ donor }) => ({ donor: { ...donor, first: 'Wilhelmina', last: 'Oxley' } }));
  for (const nth of [20, 41]) put(nth, () => ({ campaign: ROOF.name }));
  put(28, () => ({ currency: 'CAD' }));
  const refund = (id: string, nth: number, reason: string) => ({
    refund: {
      ...{ id, gift: gifts[nth]?.id ?? '', cents: gifts[nth]?.cents ?? 0 },
      at: `${addDays(today, -3)}T18:00:00Z`,
      reason,
    },
  });
  return [
    ...CAMPAIGNS.map(({ id, name, goalCents }) => ({ campaign: { id, name, goalCents } })),
    ...gifts.map((one) => ({ gift: one })),
    refund('RF-501', 2, 'Given twice by a slip'),
    refund('RF-502', 37, 'Asked for by the donor'),
  ];
}

/** How the demo reads what comes from the portal, and what it tells the portal; it runs when somebody begins it. */
export async function putFeed(services: Services, actor: Actor, today: IsoDate): Promise<void> {
  const funds = new Map((await services.settings.choices()).funds.map(({ id, name }) => [name, id]));
  const translate = Object.fromEntries(CAMPAIGNS.flatMap(({ name, fund }) => (fund === null ? [] : [[name, fund]])));
  const { id: recipeId } = await services.intakeRecipes.save(
    actor,
    'Giving portal, as it comes',
    IntakeRecipe.parse({
      columns: CAME_COLUMNS.map(([heading, to]) => ({ heading, to, care: to === 'fund' ? { translate } : {} })),
      ...{ decimal: '.', dateOrder: null, fundId: funds.get('General Operating') ?? 1, source: 'Giving portal' },
    }),
  );
  await services.feeds.ensure();
  const [feed] = await services.feeds.list();
  if (!feed) return;
  const tells = [DARK, VAN].map(({ id, fund }) => ({ campaign: id, fundId: funds.get(fund) ?? 0 }));
  await services.feeds.change(actor, feed.id, {
    ...{ version: feed.version, recipeId, often: 'never', atHour: 5, tells },
    tellsSince: fiscalYearSpan(fiscalYearOf(today, FISCAL_YEAR_START), FISCAL_YEAR_START).from,
  });
}
