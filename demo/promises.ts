import { addDays, addMonths } from '@tallystick/core/dates';
import { divide } from '@tallystick/core/money';
import { installmentsOf } from '@tallystick/core/pledges';
import { datesBetween } from '@tallystick/core/schedule';
import type { Frequency } from '@tallystick/core/schedule';
import { FIRST_SHEET } from './words.ts';
import { insertGifts } from '@tallystick/server/gifts/index';
import type { NewGift } from '@tallystick/server/gifts/index';
import { makePledge, payPledge } from '@tallystick/server/pledges/index';
import type { Services } from '@tallystick/server/app';
import type { Actor } from '@tallystick/server/platform/changes';
import type { Transaction } from '@tallystick/server/platform/transaction';
import { Chance } from './random.ts';
import type { DemoSupporter } from './supporters.ts';

interface Setting {
  today: string;
  funds: ReadonlyMap<string, number>;
  /** The campaign of this fiscal year. */
  campaign: number | null;
}
interface Known {
  supporter: DemoSupporter;
  id: number;
}

/** What is promised and what hangs together: pledges, grants, recurring gifts, split and credited gifts, batches, accounts. */
export async function putPromises(
  tx: Transaction,
  supporters: readonly DemoSupporter[],
  ids: readonly number[],
  setting: Setting,
): Promise<void> {
  const chance = new Chance(23);
  const living = supporters
    .map((supporter, index): Known => ({ supporter, id: ids[index] ?? 0 }))
    .filter(({ supporter }) => !supporter.deceased);
  const people = living.filter(({ supporter }) => supporter.name.kind === 'person');
  const organizations = living.filter(({ supporter }) => supporter.name.kind === 'organization');
  await putSetup(tx, setting);
  await putPledges(tx, people, setting, chance);
  await putGrants(tx, organizations, setting);
  await putRecurring(tx, people, setting, chance);
  await putJoined(tx, people, organizations, setting, chance);
  await putBatches(tx, setting.today);
}

const fundOf = ({ funds }: Setting, code: string): number => funds.get(code) ?? 0;

async function putSetup(tx: Transaction, setting: Setting): Promise<void> {
  const { today } = setting;
  const goals: [string, number][] = [
    ['VAN', 180_000_00],
    ['DOME', 120_000_00],
    ['LAMP', 60_000_00],
  ];
  for (const [code, goal_cents] of goals)
    await tx.update('fund', fundOf(setting, code), { goal_cents, starts_on: addMonths(today, -24) });
  const [dome] = await tx.sql.rows<{ id: number }>(`SELECT id FROM campaign WHERE code = 'DOME2'`);
  if (dome)
    await tx.update('campaign', dome.id, {
      goal_cents: 750_000_00,
      starts_on: addMonths(today, -9),
      ends_on: addMonths(today, 27),
    });
  const appeals = await tx.sql.rows<{ id: number; code: string; name: string }>(
    'SELECT id, code, name FROM appeal WHERE closed = 0 ORDER BY id DESC LIMIT 5',
  );
  await tx.insertAll(
    'source_code',
    appeals.flatMap((appeal) => [
      { code: `${appeal.code}-A`, name: `${appeal.name}, those who gave`, closed: 0, appeal_id: appeal.id },
      { code: `${appeal.code}-B`, name: `${appeal.name}, those who paused`, closed: 0, appeal_id: appeal.id },
    ]),
  );
  const account = (fund_id: number | null, method: string | null, debit: string, credit: string) => ({
    ...{ fund_id, method, debit, credit },
  });
  await tx.insertAll('account', [
    account(null, null, '1010 Bank', '4010 Gifts'),
    account(null, 'card', '1030 Cards on the way', ''),
    account(null, 'stock', '1200 Securities', ''),
    account(null, 'in_kind', '1300 Goods received', '4090 Gifts in kind'),
    account(fundOf(setting, 'VAN'), null, '', '4120 Telescope Van'),
    account(fundOf(setting, 'DOME'), null, '', '4130 Lantern Dome'),
    account(fundOf(setting, 'LAND'), null, '', '4140 Dark Ground'),
    account(fundOf(setting, 'LAMP'), null, '', '4150 Lamp Swap'),
    account(fundOf(setting, 'YOUNG'), null, '', '4160 Young Observers'),
  ]);
}

const SCHEDULES: readonly (readonly [Frequency, number, number])[] = [
  ['month', 12, 1_200_00],
  ['month', 24, 2_400_00],
  ['quarter', 8, 4_000_00],
  ['half', 6, 3_000_00],
  ['year', 5, 25_000_00],
  ['month', 7, 700_00],
];

/** Forty-two pledges: most paid as they fall due, some late, a few written off in part. */
async function putPledges(tx: Transaction, people: readonly Known[], setting: Setting, chance: Chance): Promise<void> {
  const { today } = setting;
  for (let made = 0; made < 42; made++) {
    const who = people[chance.whole(0, people.length - 1)];
    const [every, count, cents] = SCHEDULES[made % SCHEDULES.length] ?? (['month', 12, 1_200_00] as const);
    if (!who) continue;
    const pledgedOn = addDays(today, -chance.whole(20, 700));
    const fundId = fundOf(setting, chance.pick(['GEN', 'VAN', 'DOME', 'LAND']));
    const plan = {
      kind: 'count' as const,
      schedule: { start: addDays(pledgedOn, 14), every, lastDay: made % 9 === 0 },
      count,
    };
    const id = await makePledge(
      tx,
      {
        ...{ supporterId: who.id, kind: 'pledge', stage: 'promised', cents, pledgedOn, fundId },
        ...{ campaignId: setting.campaign, appealId: null, plan, note: '', appliedOn: null, askedCents: null },
        forGiftId: null,
      },
      'USD',
    );
    const parts = installmentsOf(cents, plan);
    const due = parts.ok ? parts.rows.filter((row) => row.due <= addDays(today, -4)) : [];
    // Three in ten fall behind by one to three payments.
    const behind = chance.happens(0.3) ? chance.whole(1, 3) : 0;
    for (const row of due.slice(0, Math.max(0, due.length - behind)))
      await pay(tx, id, {
        ...one(who.id, row.cents, addDays(row.due, chance.whole(-3, 3)), fundId, setting.campaign),
        method: chance.happens(0.6) ? 'cheque' : 'bank',
        cheque: String(chance.whole(1000, 9999)),
      });
    if (made % 14 === 5) await writeOffLast(tx, id, who.id, addDays(today, -30));
  }
}

const one = (
  supporterId: number,
  cents: number,
  date: string,
  fundId: number,
  campaignId: number | null,
): NewGift & { acknowledgedOn: string } => ({
  ...{ supporterId, cents, currency: 'USD', date, bookedOn: date, method: 'cheque' },
  parts: [{ cents, fundId, campaignId, appealId: null }],
  acknowledgedOn: addDays(date, 3),
});

async function pay(tx: Transaction, pledgeId: number, gift: NewGift): Promise<void> {
  const [id = 0] = await insertGifts(tx, [gift]);
  await payPledge(tx, { id, cents: gift.cents, date: gift.date }, { pledgeId, installments: [], over: 'beyond' });
}

async function writeOffLast(tx: Transaction, pledgeId: number, supporterId: number, date: string): Promise<void> {
  const [last] = await tx.sql.rows<{ id: number; cents: number }>(
    'SELECT id, cents FROM installment WHERE pledge_id = ? ORDER BY due DESC LIMIT 1',
    [pledgeId],
  );
  if (last)
    await tx.insert('write_off', {
      ...{ supporter_id: supporterId, pledge_id: pledgeId, installment_id: last.id, date, cents: last.cents },
      reason: 'Moved away; asked to be let off the last payment',
    });
}

/** Three grants: one asked for, one paid in halves with its reports, one declined. */
async function putGrants(tx: Transaction, organizations: readonly Known[], setting: Setting): Promise<void> {
  const { today } = setting;
  const stages = ['asked', 'promised', 'declined'] as const;
  for (const [place, stage] of stages.entries()) {
    const who = organizations[place * 3];
    if (!who) continue;
    const pledgedOn = addDays(today, -150 + place * 20);
    const cents = [40_000_00, 30_000_00, 15_000_00][place] ?? 0;
    const fundId = fundOf(setting, place === 1 ? 'LAMP' : 'DOME');
    const id = await makePledge(
      tx,
      {
        ...{ supporterId: who.id, kind: 'grant', stage, cents, pledgedOn, fundId, campaignId: null, appealId: null },
        plan: { kind: 'count', schedule: { start: addDays(pledgedOn, 60), every: 'half', lastDay: false }, count: 2 },
        ...{ note: 'Lamps for three towns along the basin', appliedOn: addDays(pledgedOn, -70), askedCents: cents },
        ...{ forGiftId: null },
        reports:
          stage === 'promised'
            ? [
                { due: addDays(today, 18), title: 'First report on the lamp grant' },
                { due: addDays(today, 200), title: 'Last report on the lamp grant' },
              ]
            : [],
      },
      'USD',
    );
    if (stage === 'promised') await pay(tx, id, one(who.id, cents / 2, addDays(pledgedOn, 62), fundId, null));
  }
}

/** Fifty-five recurring gifts by card, half a year of charges behind them; two to try again, two to call. */
async function putRecurring(
  tx: Transaction,
  people: readonly Known[],
  setting: Setting,
  chance: Chance,
): Promise<void> {
  const { today } = setting;
  for (let made = 0; made < 55; made++) {
    const who = people[chance.whole(0, people.length - 1)];
    if (!who) continue;
    const cents = chance.pick([10_00, 15_00, 20_00, 25_00, 40_00, 60_00]);
    const start = addDays(today, -chance.whole(5, 190));
    const fundId = fundOf(setting, chance.pick(['GEN', 'GEN', 'YOUNG', 'VAN']));
    const shared = made % 11 === 3;
    const failing = made < 4 ? (made < 2 ? 'failed' : 'call') : null;
    const byCard = made % 8 !== 7;
    const kind = failing === 'call' ? 'expired' : failing ? 'declined' : 'good';
    const digits = String(chance.whole(1000, 9999));
    const recurring = await tx.insert('recurring', {
      ...{ supporter_id: who.id, start_on: start, every: made % 10 === 9 ? 'quarter' : 'month', last_day: 0 },
      ...{ until_on: made % 13 === 12 ? addDays(today, 90) : null, currency: 'USD', method: byCard ? 'card' : 'bank' },
      parts: JSON.stringify([
        { weight: 1, fundId, campaignId: null, appealId: null },
        ...(shared ? [{ weight: 1, fundId: fundOf(setting, 'LAND'), campaignId: null, appealId: null }] : []),
      ]),
      ...{ card: byCard ? `${kind}-${digits}` : '', card_label: byCard ? `Card ${digits}` : '', note: '' },
    });
    const owner = { supporter_id: who.id, recurring_id: recurring };
    await tx.insert('recurring_amount', { ...owner, from_on: start, cents });
    if (made % 9 === 4)
      await tx.insert('recurring_amount', { ...owner, from_on: addMonths(today, 1), cents: cents * 2 });
    if (made % 15 === 6) await tx.insert('recurring_pause', { ...owner, from_on: addDays(today, -3), until_on: null });
    const every = made % 10 === 9 ? 'quarter' : 'month';
    const dates = datesBetween({ start, every, lastDay: false }, start, addDays(today, -1));
    for (const [place, due] of dates.entries()) {
      const failed = failing !== null && place === dates.length - 1;
      const parts = divide(cents, shared ? [1, 1] : [1]).map((part, index) => ({
        ...{ cents: part, fundId: index === 0 ? fundId : fundOf(setting, 'LAND'), campaignId: null, appealId: null },
      }));
      const [giftId = null] = failed
        ? []
        : await insertGifts(tx, [
            {
              ...{ ...one(who.id, cents, due, fundId, null), parts, recurringId: recurring },
              ...{ method: byCard ? ('card' as const) : ('bank' as const) },
            },
          ]);
      if (byCard)
        await tx.insert('charge', {
          ...{ ...owner, due, cents, state: failed ? failing : 'paid', attempts: failed ? 2 : 1 },
          ...{ next_on: failed && failing === 'failed' ? addDays(today, 2) : null, till_id: '', gift_id: giftId },
          reason: failed ? (failing === 'call' ? 'The card has expired.' : 'The bank declined the card.') : '',
        });
    }
  }
}

/** Gifts that go to several places, that others are credited for, that honour someone, or came with something. */
async function putJoined(
  tx: Transaction,
  people: readonly Known[],
  organizations: readonly Known[],
  setting: Setting,
  chance: Chance,
): Promise<void> {
  const { today } = setting;
  const partners = await tx.sql.rows<{ a: number; b: number }>(
    `SELECT r.supporter_id AS a, r.other_id AS b FROM relation r JOIN relation_kind k ON k.id = r.kind_id WHERE k.code = 'spouse' LIMIT 40`,
  );
  const gifts: NewGift[] = partners.map(({ a, b }, index) => {
    const cents = chance.pick([120_00, 250_00, 500_00, 1_000_00]);
    const gift = one(a, cents, addDays(today, -chance.whole(3, 500)), fundOf(setting, 'GEN'), setting.campaign);
    const halves = divide(cents, [3, 2]);
    return {
      ...gift,
      ...(index % 3 === 0
        ? {
            parts: ['GEN', 'LAND'].map((code, place) => ({
              ...{ cents: halves[place] ?? 0, fundId: fundOf(setting, code), campaignId: null, appealId: null },
            })),
          }
        : {}),
      credits: [{ supporterId: b, kind: 'spouse' as const, cents }],
    };
  });
  const sponsor = organizations[1];
  for (let made = 0; made < 12; made++) {
    const [giver, other] = [people[chance.whole(0, people.length - 1)], people[chance.whole(0, people.length - 1)]];
    if (!giver || !other || giver.id === other.id) continue;
    const day = addDays(today, -chance.whole(1, 60));
    if (made % 3 === 0 && sponsor)
      gifts.push({
        ...one(sponsor.id, 2_500_00, day, fundOf(setting, 'DOME'), null),
        ...{ method: 'bank', credits: [{ supporterId: giver.id, kind: 'adviser', cents: 2_500_00 }] },
      });
    else if (made % 3 === 1)
      gifts.push({
        ...one(giver.id, 180_00, day, fundOf(setting, 'GEN'), null),
        ...{ method: 'card', benefitCents: 65_00, benefit: 'Seat at the Meteor Night Supper' },
      });
    else
      gifts.push({
        ...one(giver.id, 6_187_50, day, fundOf(setting, 'VAN'), null),
        method: 'stock',
        details: {
          ...{ kind: 'stock', symbol: 'LMPS', shares: '150', meanPrice: '41.25', feeCents: 12_95 },
          ...{ soldOn: null, proceedsCents: null },
        },
        acknowledgedOn: null,
      });
  }
  await insertGifts(tx, gifts);
}

/** The gifts of the last weeks in batches by day; those of a week ago are deposited. */
async function putBatches(tx: Transaction, today: string): Promise<void> {
  const from = addDays(today, -21);
  const gifts = await tx.sql.rows<{ id: number; date: string; source: string }>(
    `SELECT id, date, IF(recurring_id IS NULL, 'hand', 'till') AS source FROM gift WHERE date >= ? ORDER BY date, id`,
    [from],
  );
  const names: Record<string, string> = { hand: 'Recorded by Fern Dovecote', till: 'Recurring gifts charged' };
  const keys = [...new Set(gifts.map((gift) => `${gift.date}|${gift.source}`))];
  const old = keys.filter((key) => key < addDays(today, -9));
  const deposit = await tx.insert('deposit', {
    ...{ date: addDays(today, -8), name: 'Checks and transfers', actor: 'Desmond Kettleworth' },
  });
  for (const key of keys) {
    const [date = today, source = 'hand'] = key.split('|');
    const own = gifts.filter((gift) => `${gift.date}|${gift.source}` === key);
    const posted = old.includes(key);
    const batch = await tx.insert('batch', {
      ...{ name: names[source] ?? '', source, opened_on: date, state: posted ? 'posted' : 'balanced' },
      ...{ expected_count: own.length, expected_cents: null, reason: '', deposit_id: posted ? deposit : null },
    });
    if (date >= addDays(today, -3)) await tx.update('batch', batch, { state: 'open', expected_count: null });
    await tx.updateAll(
      'gift',
      own.map((gift) => gift.id),
      { batch_id: batch },
    );
  }
}

/** A sheet that is being filled, as it was left. */
export async function putSheet(services: Services, actor: Actor): Promise<void> {
  const { sheets, lists } = services;
  const { columns, rows, name } = FIRST_SHEET;
  await sheets.saveLayout(actor, 'Supper table', { columns });
  const { result } = await sheets.open(actor, { name, columns, expectedCount: 18, expectedCents: 2_310_00 });
  const known = await lists.list({ limit: 9, sort: '-lifetime', trashed: 'no', kind: 'person' } as never);
  const lines = rows.map((cells, place) => {
    const person = place % 2 === 0 ? known.items[place / 2] : undefined;
    const { wholeName, ...others } = cells;
    return {
      key: `00000000-0000-4000-8000-${String(place).padStart(12, '0')}`,
      supporterId: person?.id ?? null,
      cells: person ? others : { wholeName: wholeName ?? '', ...others },
      ...{ change: [], place },
    };
  });
  await sheets.type(result.id, lines, []);
}
