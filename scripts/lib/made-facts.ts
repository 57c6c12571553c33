import { dayNumber, spanOf } from '@tallystick/core/dates';
import type { Calendar } from '@tallystick/core/dates';
import { Facts, NO_DAY, rowWith } from '@tallystick/core/facts';
import { kept } from '@tallystick/core/fields';
import { METHOD_CODES } from '@tallystick/core/gifts';
import { SUPPORTER_KINDS } from '@tallystick/core/supporters';
import { Chance } from '@tallystick/demo/random';

/** What made facts are about, by the ids that questions name. */
export const MADE = {
  ...{ dark: 1, funds: 12, telescope: 1, matches: 2, volunteer: 1, tags: 9, board: 1, hosts: 2 },
  ...{ mailing: 7, employer: 6, friend: 8, list: 1 },
} as const;

const SEED = 11;
const REGIONS = ['NV', 'CA', 'UT', 'ID', 'OR'] as const;
const [GIFT, TAG, SENDING] = [rowWith('gifts', {}), rowWith('tags', {}), rowWith('sendings', {})];
const { person, household, organization } = SUPPORTER_KINDS;

/**
 * Facts of so many supporters, with so many gifts and some of everything else that is asked about, put straight into
 * memory: the same for a day whenever they are made. Every tenth is a household, every tenth an organization; of the
 * people every other shares the home of the household before.
 */
export function madeFacts(supporters: number, gifts: number, calendar: Calendar): Facts {
  const chance = new Chance(SEED);
  const facts = new Facts();
  const today = dayNumber(calendar.today);
  const [card, cheque] = [METHOD_CODES.indexOf('card'), METHOD_CODES.indexOf('cheque')];
  const month = spanOf({ kind: 'month', ago: 1 }, calendar);
  const organizations: number[] = [];
  let [given, gift] = [0, 0];
  for (let at = 0; at < supporters; at++) {
    const id = at + 1;
    const kind = at % 10 === 0 ? household : at % 10 === 9 ? organization : person;
    const home = at - (at % 10) + 1;
    const slot = facts.addSupporter(
      id,
      {
        ...{
          kind: kind.code,
          region: chance.pick(REGIONS),
          postal: `89${chance.whole(100, 999)}`,
          city: `T${id % 300}`,
        },
        ...{ first: `F${id % 900}`, last: `L${id % 5000}`, mailable: chance.happens(0.8) ? 1 : 0 },
        household: kind === household || (kind === person && at % 2 === 1) ? home : 0,
        birthday: kind === person && chance.happens(0.6) ? chance.whole(1, 12) * 32 + chance.whole(1, 28) : 0,
      },
      `l${id % 5000} f${id % 900} ${id}`,
    );
    if (kind === organization) organizations.push(id);
    if (kind === organization && chance.happens(0.1)) facts.setField(slot, MADE.matches, kept('1'));
    if (chance.happens(0.05)) facts.setField(slot, MADE.telescope, kept(chance.pick(['Refractor', 'Binoculars'])));
    const put = facts.lists;
    if (chance.happens(0.05)) put.wishes.push(slot, rowWith('wishes', { kind: 'deceased', day: today - 900 }));
    if (chance.happens(0.3)) put.tags.push(slot, { ...TAG, tag: chance.whole(1, MADE.tags), source: 'hand' });
    if (chance.happens(0.02)) put.groups.push(slot, { group: chance.happens(0.1) ? MADE.board : MADE.hosts });
    if (chance.happens(0.5))
      put.phones.push(slot, rowWith('phones', { number: '1', bad: chance.happens(0.1) ? today - 9 : NO_DAY }));
    if (kind === person && organizations.length > 0 && chance.happens(0.2))
      put.ties.push(slot, rowWith('ties', { role: MADE.employer, other: chance.pick(organizations as [number]) }));
    else if (at > 0 && chance.happens(0.1))
      put.ties.push(slot, rowWith('ties', { role: MADE.friend, other: chance.whole(1, at) }));
    for (let back = 1; back <= 3 && chance.happens(0.7); back++)
      put.sendings.push(slot, {
        ...{ ...SENDING, day: today - back * 70, kind: 'mailing', subject: MADE.mailing + 1 - back, outcome: 'sent' },
        ...{ channel: 'email', back, opened: chance.happens(0.3) ? today - back * 70 + 1 : NO_DAY },
      });
    if (chance.happens(0.02))
      for (const due of [today - 120, today - 20, today + 70])
        put.installments.push(slot, { day: due, cents: 5_000, open: chance.happens(0.5) ? 0 : 5_000 });
    if (chance.happens(0.03))
      put.recurring.push(slot, rowWith('recurring', { day: today - 800, failing: chance.happens(0.1) ? 1 : 0 }));
    if (chance.happens(0.01))
      put.credits.push(slot, rowWith('credits', { day: today - 90, kind: 'adviser', cents: 10_000, of: 10_000 }));
    const changed = chance.happens(0.1);
    put.changes.push(slot, {
      ...{ kind: changed ? 'intake' : 'load', day: changed ? chance.whole(month.from, month.to) : today - 900 },
      ...{ by: 0, intake: changed ? 1 : 0 },
    });
    // A few give much more often than most.
    const share = chance.next() ** 4 * 5 * (gifts / supporters);
    const many = at === supporters - 1 ? gifts - given : Math.min(gifts - given, Math.round(share));
    given += many;
    const days = Array.from({ length: many }, () => today - chance.whole(0, 2900)).sort((a, b) => a - b);
    const method = chance.happens(0.2) ? card : -1;
    for (const day of days)
      put.gifts.push(slot, {
        ...{ ...GIFT, day, cents: chance.whole(5, 100) * 100, fund: chance.whole(1, MADE.funds), gift: ++gift },
        method: method < 0 && chance.happens(0.3) ? card : Math.max(method, cheque),
      });
  }
  facts.trim();
  return facts;
}

/** A list of people that somebody brought: every fiftieth. */
export const madeList = (facts: Facts): Uint32Array => facts.ids.subarray(0, facts.size).filter((id) => id % 50 === 0);
