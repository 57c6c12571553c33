import { addDays, addMonths, fiscalYearOf } from '@tallystick/core/dates';
import type { AccountsFor } from '@tallystick/core/ledger';
import type { GiftPart, PaymentMethod } from '@tallystick/core/gifts';
import { divide } from '@tallystick/core/money';
import { installmentsOf } from '@tallystick/core/pledges';
import { datesBetween } from '@tallystick/core/schedule';
import type { Frequency } from '@tallystick/core/schedule';
import { FIRST_SHEET } from './words.ts';
import { insertGifts, BatchTable, GiftTable } from '@tallystick/server/gifts/index';
import type { NewGift } from '@tallystick/server/gifts/index';
import { makePledge, payPledge, WriteOffTable } from '@tallystick/server/pledges/index';
import type { Services } from '@tallystick/server/app';
import type { Actor } from '@tallystick/server/platform/changes';
import type { Transaction } from '@tallystick/server/platform/transaction';
import { challengeSpan, FISCAL_YEAR_START } from './gifts.ts';
import type { DemoPlaces } from './coding.ts';
import { Chance } from './random.ts';
import { FUND_SPONSOR } from './supporters.ts';
import type { DemoSupporter } from './supporters.ts';
import { AccountTable, DepositTable, depositSums } from '@tallystick/server/deposits/index';
import {
  ChargeTable,
  RecurringAmountTable,
  RecurringPauseTable,
  RecurringTable,
} from '@tallystick/server/recurring/index';
import { SourceTable } from '@tallystick/server/settings/index';

interface Known {
  supporter: DemoSupporter;
  id: number;
}

type Some = readonly [Known, ...Known[]];
const some = ([first, ...others]: readonly Known[]): Some | null => (first ? [first, ...others] : null);

/** What is promised and what hangs together: pledges, grants, recurring gifts, split and credited gifts, batches, accounts. */
export async function putPromises(
  tx: Transaction,
  supporters: readonly DemoSupporter[],
  ids: readonly number[],
  places: DemoPlaces,
): Promise<void> {
  const chance = new Chance(23);
  const living = supporters
    .map((supporter, index): Known => ({ supporter, id: ids[index] ?? 0 }))
    .filter(({ supporter }) => supporter.diedDaysAgo === null);
  const people = some(living.filter(({ supporter }) => supporter.name.kind === 'person'));
  const foundations = living.filter(({ supporter }) => supporter.habit === 'foundation');
  const sponsor = living.find(({ supporter }) => supporter.name.organization === FUND_SPONSOR);
  if (!people) return;
  await putSetup(tx, places);
  await putPledges(tx, people, places, chance);
  await putGrants(tx, foundations, places);
  await putRecurring(tx, people, places, chance);
  await putJoined(tx, people, sponsor, places, chance);
  await putBatches(tx, places.today);
}

async function putSetup(tx: Transaction, places: DemoPlaces): Promise<void> {
  const appeals = await tx.sql.rows<{ id: number; code: string; name: string }>(
    'SELECT id, code, name FROM appeal WHERE closed = 0 ORDER BY id DESC LIMIT 5',
  );
  await tx.insertAll(
    SourceTable,
    appeals.flatMap((appeal) => [
      { code: `${appeal.code}-A`, name: `${appeal.name}, those who gave`, closed: 0, appeal_id: appeal.id },
      { code: `${appeal.code}-B`, name: `${appeal.name}, those who paused`, closed: 0, appeal_id: appeal.id },
    ]),
  );
  const account = (fund_id: number | null, method: PaymentMethod | null, debit: string, credit: string) => ({
    ...{ what: 'gift' as const, fund_id, method, debit, credit },
  });
  const other = (what: AccountsFor, debit: string, credit: string) => ({
    ...{ what, fund_id: null, method: null, debit, credit },
  });
  await tx.insertAll(AccountTable, [
    account(null, null, '1010 Bank', '4010 Gifts'),
    account(null, 'card', '1030 Cards on the way', ''),
    account(null, 'stock', '1200 Securities', ''),
    account(null, 'in_kind', '1300 Goods received', '4090 Gifts in kind'),
    account(places.fund('VAN'), null, '', '4120 Telescope Van'),
    account(places.fund('DOME'), null, '', '4130 Lantern Dome'),
    account(places.fund('LAND'), null, '', '4140 Dark Ground'),
    account(places.fund('LAMP'), null, '', '4150 Lamp Swap'),
    account(places.fund('YOUNG'), null, '', '4160 Young Observers'),
    other('pledge', '1100 Pledges receivable', ''),
    other('write_off', '6900 Pledges written off', ''),
    other('sale', '', '4800 Gain on securities'),
    other('fee', '6510 Card fees', ''),
  ]);
}

type Terms = readonly [every: Frequency, count: number, cents: number];
const TERMS: readonly [Terms, ...Terms[]] = [
  ['month', 12, 1_200_00],
  ['month', 24, 2_400_00],
  ['quarter', 8, 4_000_00],
  ['half', 6, 3_000_00],
  ['month', 7, 700_00],
];
/** What is promised to a capital campaign is paid over its three years. */
const CAPITAL: readonly [Terms, ...Terms[]] = [
  ['year', 3, 15_000_00],
  ['quarter', 12, 6_000_00],
  ['half', 6, 9_000_00],
  ['year', 3, 45_000_00],
  ['month', 36, 3_600_00],
];

/**
 * Forty-two pledges, every third to the Second Dome: most paid as they fall due, some late, a few written off in part.
 */
async function putPledges(tx: Transaction, people: Some, places: DemoPlaces, chance: Chance): Promise<void> {
  const { today } = places;
  for (let made = 0; made < 42; made++) {
    const { id: supporterId } = chance.pick(people);
    const capital = made % 3 === 0;
    const [every, count, cents] = chance.pick(capital ? CAPITAL : TERMS);
    const pledgedOn = addDays(today, -chance.whole(20, capital ? 250 : 700));
    const { fundId, campaignId } = places.part(capital ? 'DOME' : chance.pick(['VAN', 'LAND', 'YOUNG']), pledgedOn);
    const plan = {
      kind: 'count' as const,
      schedule: { start: addDays(pledgedOn, 14), every, lastDay: made % 9 === 0 },
      count,
    };
    const id = await makePledge(
      tx,
      {
        ...{ supporterId, kind: 'pledge', stage: 'promised', cents, pledgedOn, fundId, campaignId, appealId: null },
        ...{ plan, note: '', appliedOn: null, askedCents: null, forGiftId: null },
      },
      'USD',
    );
    const parts = installmentsOf(cents, plan);
    const due = parts.ok ? parts.rows.filter((row) => row.due <= addDays(today, -4)) : [];
    // Three in ten fall behind by one to three payments.
    const behind = chance.happens(0.3) ? chance.whole(1, 3) : 0;
    for (const row of due.slice(0, Math.max(0, due.length - behind)))
      await pay(tx, id, {
        ...one(
          supporterId,
          row.cents,
          addDays(row.due, chance.whole(-3, 3)),
          { fundId, campaignId, appealId: null },
          today,
        ),
        method: chance.happens(0.6) ? 'cheque' : 'bank',
        cheque: String(chance.whole(1000, 9999)),
      });
    if (made % 14 === 5) await writeOffLast(tx, id, supporterId, addDays(today, -30));
  }
}

/** A gift by check to one place, thanked three days later where that has come. */
const one = (
  supporterId: number,
  cents: number,
  date: string,
  to: Omit<GiftPart, 'cents'>,
  today: string,
): NewGift & { acknowledgedOn: string | null } => ({
  ...{ supporterId, cents, currency: 'USD', date, bookedOn: date, method: 'cheque' },
  parts: [{ cents, ...to }],
  acknowledgedOn: addDays(date, 3) <= today ? addDays(date, 3) : null,
});

async function pay(tx: Transaction, pledgeId: number, gift: NewGift): Promise<void> {
  const [id = 0] = await insertGifts(tx, [gift]);
  const { supporterId, cents, date } = gift;
  await payPledge(tx, { id, supporterId, cents, date }, { pledgeId, installments: [], over: 'beyond', byOther: false });
}

async function writeOffLast(tx: Transaction, pledgeId: number, supporterId: number, date: string): Promise<void> {
  const [last] = await tx.sql.rows<{ id: number; cents: number }>(
    'SELECT id, cents FROM installment WHERE pledge_id = ? ORDER BY due DESC LIMIT 1',
    [pledgeId],
  );
  if (last)
    await tx.insert(WriteOffTable, {
      ...{ supporter_id: supporterId, pledge_id: pledgeId, installment_id: last.id, date, cents: last.cents },
      reason: 'Moved away; asked to be let off the last payment',
    });
}

/** Four grants: one asked for, one paid in halves with its reports, one declined, and the donor who matches a challenge. */
async function putGrants(tx: Transaction, foundations: readonly Known[], places: DemoPlaces): Promise<void> {
  const { today } = places;
  const grants = [
    ['asked', 40_000_00, 'DOME', 'A second dome for the winter sky'],
    ['promised', 30_000_00, 'LAMP', 'Lamps for three towns along the basin'],
    ['declined', 15_000_00, 'YOUNG', 'Eyepieces for the schools of the basin'],
    ['promised', 20_000_00, 'LAMP', 'Matches each gift to the Lamp Swap Challenge, up to $20,000'],
  ] as const;
  for (const [place, [stage, cents, fund, note]] of grants.entries()) {
    const who = foundations[place];
    if (!who) continue;
    const matching = place === 3;
    const pledgedOn = addDays(today, matching ? -100 : -150 + place * 20);
    const start = matching ? addDays(challengeSpan(today).to, 5) : addDays(pledgedOn, 60);
    const special = matching ? { campaignId: places.campaign('LAMPS') } : {};
    const to = { ...places.part(fund, pledgedOn), ...special };
    const id = await makePledge(
      tx,
      {
        ...{ supporterId: who.id, kind: 'grant', stage, cents, pledgedOn, ...to, note, forGiftId: null },
        plan: { kind: 'count', schedule: { start, every: 'half', lastDay: false }, count: 2 },
        ...{ appliedOn: addDays(pledgedOn, -70), askedCents: cents },
        reports:
          stage === 'promised' && !matching
            ? [
                { due: addDays(today, 18), title: 'First report on the lamp grant' },
                { due: addDays(today, 200), title: 'Last report on the lamp grant' },
              ]
            : [],
      },
      'USD',
    );
    if (stage === 'promised') await pay(tx, id, one(who.id, cents / 2, addDays(start, 2), to, today));
  }
}

/** Fifty-five recurring gifts by card, half a year of charges behind them; two to try again, two to call. */
async function putRecurring(tx: Transaction, people: Some, places: DemoPlaces, chance: Chance): Promise<void> {
  const { today } = places;
  for (let made = 0; made < 55; made++) {
    const who = chance.pick(people);
    const cents = chance.pick([10_00, 15_00, 20_00, 25_00, 40_00, 60_00]);
    const start = addDays(today, -chance.whole(5, 190));
    const funds = [
      chance.pick(['GEN', 'GEN', 'YOUNG', 'VAN'] as const),
      ...(made % 11 === 3 ? (['LAND'] as const) : []),
    ];
    const failing = made < 4 ? (made < 2 ? 'failed' : 'call') : null;
    const byCard = made % 8 !== 7;
    const kind = failing === 'call' ? 'expired' : failing ? 'declined' : 'good';
    const digits = String(chance.whole(1000, 9999));
    const recurring = await tx.insert(RecurringTable, {
      ...{ supporter_id: who.id, start_on: start, every: made % 10 === 9 ? 'quarter' : 'month', last_day: 0 },
      ...{ until_on: made % 13 === 12 ? addDays(today, 90) : null, currency: 'USD', method: byCard ? 'card' : 'bank' },
      parts: JSON.stringify(
        funds.map((fund) => ({ weight: 1, fundId: places.fund(fund), campaignId: null, appealId: null })),
      ),
      ...{ card: byCard ? `${kind}-${digits}` : '', card_label: byCard ? `Card ${digits}` : '', note: '' },
    });
    const owner = { supporter_id: who.id, recurring_id: recurring };
    await tx.insert(RecurringAmountTable, { ...owner, from_on: start, cents });
    if (made % 9 === 4)
      await tx.insert(RecurringAmountTable, { ...owner, from_on: addMonths(today, 1), cents: cents * 2 });
    if (made % 15 === 6)
      await tx.insert(RecurringPauseTable, { ...owner, from_on: addDays(today, -3), until_on: null });
    const every = made % 10 === 9 ? 'quarter' : 'month';
    const dates = datesBetween({ start, every, lastDay: false }, start, addDays(today, -1));
    for (const [place, due] of dates.entries()) {
      const failed = failing !== null && place === dates.length - 1;
      const parts = divide(
        cents,
        funds.map(() => 1),
      ).map((part, index) => ({ cents: part, ...places.part(funds[index] ?? 'GEN', due) }));
      const [giftId = null] = failed
        ? []
        : await insertGifts(tx, [
            {
              ...{ ...one(who.id, cents, due, places.part('GEN', due), today), parts, recurringId: recurring },
              ...{ method: byCard ? ('card' as const) : ('bank' as const) },
            },
          ]);
      if (byCard)
        await tx.insert(ChargeTable, {
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
  people: Some,
  sponsor: Known | undefined,
  places: DemoPlaces,
  chance: Chance,
): Promise<void> {
  const { today } = places;
  const partners = await tx.sql.rows<{ a: number; b: number }>(
    `SELECT r.supporter_id AS a, r.other_id AS b FROM relation r JOIN relation_kind k ON k.id = r.kind_id WHERE k.code = 'spouse' LIMIT 40`,
  );
  const gifts: NewGift[] = partners.map(({ a, b }, index) => {
    const cents = chance.pick([120_00, 250_00, 500_00, 1_000_00]);
    const date = addDays(today, -chance.whole(3, 500));
    const gift = one(a, cents, date, places.part('GEN', date), today);
    const halves = divide(cents, [3, 2]);
    const split = (['GEN', 'LAND'] as const).map((fund, at) => ({
      cents: halves[at] ?? 0,
      ...places.part(fund, date),
    }));
    return {
      ...gift,
      ...(index % 3 === 0 ? { parts: split } : {}),
      credits: [{ supporterId: b, kind: 'spouse' as const, cents }],
    };
  });
  for (let made = 0; made < 12; made++) {
    const [giver, other] = [chance.pick(people), chance.pick(people)];
    if (giver.id === other.id) continue;
    const date = addDays(today, -chance.whole(1, 60));
    if (made % 3 === 0 && sponsor)
      gifts.push({
        ...one(sponsor.id, 2_500_00, date, places.part('DOME', date), today),
        ...{ method: 'bank', credits: [{ supporterId: giver.id, kind: 'adviser', cents: 2_500_00 }] },
      });
    else if (made % 3 === 1)
      gifts.push({
        ...one(
          giver.id,
          180_00,
          date,
          places.part('GEN', date, `SUPPER${fiscalYearOf(date, FISCAL_YEAR_START)}`),
          today,
        ),
        ...{ method: 'card', benefitCents: 65_00, benefit: 'Seat at the Meteor Night Supper' },
      });
    else
      gifts.push({
        ...one(giver.id, 6_187_50, date, places.part('VAN', date), today),
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
  const deposit = await tx.insert(DepositTable, {
    ...{ date: addDays(today, -8), name: 'Checks and transfers', actor: 'Desmond Kettleworth', sums: '' },
  });
  for (const key of keys) {
    const [date = today, source = 'hand'] = key.split('|');
    const own = gifts.filter((gift) => `${gift.date}|${gift.source}` === key);
    const posted = old.includes(key);
    const batch = await tx.insert(BatchTable, {
      ...{ name: names[source] ?? '', source, opened_on: date, state: posted ? 'posted' : 'balanced' },
      ...{ expected_count: own.length, expected_cents: null, reason: '', deposit_id: posted ? deposit : null },
    });
    if (date >= addDays(today, -3)) await tx.update(BatchTable, batch, { state: 'open', expected_count: null });
    await tx.updateAll(
      GiftTable,
      own.map((gift) => gift.id),
      { batch_id: batch },
    );
  }
  const [made] = await depositSums(tx.sql, [deposit]);
  await tx.update(DepositTable, deposit, { sums: made?.now ?? '' });
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
  await sheets.type(actor, result.id, lines, []);
}
