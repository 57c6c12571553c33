import { addressOn } from '@tallystick/core/contact';
import type { Season, Way } from '@tallystick/core/contact';
import { dateOfDay } from '@tallystick/core/dates';
import type { Calendar, IsoDate } from '@tallystick/core/dates';
import { Facts } from '@tallystick/core/facts';
import type { CreditFacts, GiftFacts, SplitFacts } from '@tallystick/core/facts';
import { GivingSum, METHOD_CODES } from '@tallystick/core/gifts';
import type { PaymentMethod } from '@tallystick/core/gifts';
import { ANY_GIFT, totalOf } from '@tallystick/core/totals';
import { facetsAsked, totalsAsked } from './totals.ts';
import type { FacetRows, FacetsQuestion, TotalsQuestion, TotalsRow } from './totals.ts';
import { countParts, evaluate, explain } from '@tallystick/core/segments';
import type { Explanation, Group, Explaining, PartCounts } from '@tallystick/core/segments';
import { WISHES } from '@tallystick/core/wishes';
import type { Wish } from '@tallystick/core/wishes';
import type { FollowerDb, Replica } from '../platform/follower.ts';
import { Listing } from './listing.ts';
import type { ListAnswer, ListQuestion } from './listing.ts';
import { kept } from '@tallystick/core/fields';
import type { SupporterKind } from '@tallystick/core/supporters';
import { SUPPORTER_KINDS } from '@tallystick/core/supporters';

/** Giving in cents and dates, as the contract has it. */
export interface GivingFigures {
  lifetime: number;
  thisYear: number;
  lastYear: number;
  count: number;
  largest: number;
  average: number;
  first: string | null;
  last: string | null;
  bestYear: { year: number; cents: number } | null;
}
/** A supporter's own giving, and what everyone who shares the home gave together, each gift once. */
export interface GivingView extends GivingFigures {
  household: GivingFigures;
  /** Recognition by soft credits, in cents. */
  recognised: number;
}

/** Giving with the bits of wishes and of the trash. */
export interface GivenView {
  giving: GivingView;
  flags: number;
}

export type FactsQuestion =
  | { ask: 'count'; group: Group; calendar: Calendar }
  | { ask: 'members'; group: Group; calendar: Calendar }
  | { ask: 'explain'; group: Group; supporterId: number; setting: Explaining }
  | { ask: 'giving'; ids: readonly number[]; calendar: Calendar }
  | TotalsQuestion
  | FacetsQuestion
  | ListQuestion
  | { ask: 'size' };

export interface FactsAnswers {
  /** `of` is how many supporters there are at all. */
  count: PartCounts & { of: number; milliseconds: number };
  /** Ids, ascending. */
  members: Uint32Array;
  explain: Explanation | null;
  giving: GivenView[];
  /** With the figures of the page's rows. */
  list: ListAnswer & { given: GivenView[] };
  totals: TotalsRow[];
  facets: FacetRows;
  size: { supporters: number; gifts: number };
}

const DAY = 'TO_DAYS(date) - 719528';
const kindOf = (cell: Cell): number => SUPPORTER_KINDS[cell as SupporterKind]?.code ?? 0;

// A household's own id stands in its own row, so that it is one of those who share the home.
export const SUPPORTERS_SQL = `SELECT id, kind, ELT(FIELD(state, 'active', 'trash', 'erased'), 0, 4, 12),
  COALESCE(household_id, IF(kind = 'household', id, 0)), sort_name FROM supporter`;
export const ADDRESSES_SQL = `SELECT supporter_id, region, city, preferred, valid_from, valid_to, bad_on, season_from, season_to FROM address`;
// gift_facts (supporter_id, date, cents, fund_id, campaign_id, appeal_id) holds every column in order.
export const GIFTS_SQL = `SELECT supporter_id, ${DAY}, cents, IF(split, 0, fund_id), IF(split, 0, COALESCE(campaign_id, 0)),
  IF(split, 0, COALESCE(appeal_id, 0)), method FROM gift FORCE INDEX (gift_facts)`;
export const SPLITS_SQL = `SELECT x.supporter_id, TO_DAYS(g.date) - 719528, x.cents, x.fund_id, COALESCE(x.campaign_id, 0), COALESCE(x.appeal_id, 0),
  g.method, x.gift_id FROM gift_split x JOIN gift g ON g.id = x.gift_id`;
export const CREDITS_SQL = `SELECT supporter_id, ${DAY}, cents, fund_id, COALESCE(campaign_id, 0), COALESCE(appeal_id, 0), method, gift_id,
  place, of_cents, donor_id FROM soft_credit`;
export const TAGS_SQL = 'SELECT supporter_id, tag_id FROM supporter_tag';
export const GROUPS_SQL = 'SELECT supporter_id, group_id FROM group_member';
/** Wishes, and the refusals of mailboxes, which weigh the same. */
export const WISHES_SQL = `SELECT supporter_id, kind FROM (SELECT supporter_id, kind FROM wish
  UNION ALL SELECT e.supporter_id, 'no_email' FROM email e JOIN refusal r ON r.mailbox = SHA2(LOWER(e.address), 256)
  AND r.lifted_on IS NULL WHERE e.valid_to IS NULL OR e.valid_to >= r.since) w`;
export const FIELDS_SQL = 'SELECT supporter_id, field_id, value FROM supporter_field';

export const GIFT_FIELDS_SQL = 'SELECT supporter_id, field_id, value FROM gift_field';

type Cell = string | number | null | undefined;
type Cells = readonly (string | number | null)[];
const bitOf = (row: Cells): number => WISHES[row[1] as Wish]?.bit ?? 0;
const giftOf = (row: Cells): GiftFacts => ({
  day: Number(row[1]),
  cents: Number(row[2]),
  fund: Number(row[3]),
  campaign: Number(row[4]),
  appeal: Number(row[5]),
  method: METHOD_CODES.indexOf(row[6] as PaymentMethod),
});
const splitOf = (row: Cells): SplitFacts => ({ ...giftOf(row), gift: Number(row[7]) });
const creditOf = (row: Cells): CreditFacts => ({
  ...splitOf(row),
  part: Number(row[8]),
  of: Number(row[9]),
  donor: Number(row[10]),
});
/** As much of an address as decides where somebody is on a day. */
type Place = Way & Season & { region: string; city: string };
const dayIn = (cell: Cell): string | null => (cell === null || cell === undefined ? null : String(cell));
const placeOf = (row: Cells): Place => ({
  region: String(row[1]),
  city: String(row[2]),
  preferred: row[3] === 1,
  validFrom: dayIn(row[4]),
  validTo: dayIn(row[5]),
  badOn: dayIn(row[6]),
  seasonFrom: dayIn(row[7]),
  seasonTo: dayIn(row[8]),
});
/** Whether a place is the same on every day, because there is just one and nothing limits it. */
const isConstant = ([place, ...others]: readonly Place[]): boolean =>
  place === undefined ||
  (others.length === 0 && [place.validFrom, place.validTo, place.badOn, place.seasonFrom].every((day) => day === null));

/** A gift of which nothing is left counts nowhere. */
const isGift = (row: Cells): boolean => Number(row[2]) > 0;

const NOWHERE = { region: '', city: '' };
const ORDERS = new Map([
  [SPLITS_SQL, 'x.supporter_id, x.gift_id'],
  [ADDRESSES_SQL, 'supporter_id, id'],
]);

/** How many sums are kept, and how long a question may be to be kept with its answer. */
const [MOST_SUMS, MOST_KEY] = [500, 1000];

/** Keeps the facts of every supporter, and answers what lists, segments and records ask of them. */
export class FactsReplica implements Replica {
  readonly facts = new Facts();
  private readonly listing = new Listing(this.facts);
  /** Where those are who are not at one place always, by slot, and the day that `facts` places them on. */
  private readonly places = new Map<number, readonly Place[]>();
  private placedOn: IsoDate | null = null;
  /** Sums that were asked for since the facts last changed: many people look at the same list. */
  private readonly summed = new Map<string, FactsAnswers['facets'] | FactsAnswers['totals']>();

  async load(db: FollowerDb): Promise<void> {
    const { facts } = this;
    const wishes = new Map<number, number>();
    await db.stream(WISHES_SQL, (row) => wishes.set(Number(row[0]), (wishes.get(Number(row[0])) ?? 0) | bitOf(row)));
    await db.stream(SUPPORTERS_SQL, (row) => {
      const id = Number(row[0]);
      const flags = Number(row[2]) | (wishes.get(id) ?? 0);
      facts.addSupporter(id, kindOf(row[1]), '', flags, '', Number(row[3]), String(row[4]));
    });
    /** Streams rows that belong to a supporter, in the order of supporters. */
    const each = (sql: string, take: (slot: number, row: Cells) => void): Promise<void> =>
      db.stream(`${sql} ORDER BY ${ORDERS.get(sql) ?? 'supporter_id'}`, (row) => {
        const slot = facts.slotOf(Number(row[0]));
        if (slot >= 0) take(slot, row);
      });
    // Addresses come in the order of supporters, so that those of one stand together.
    let [of, its]: [number, Place[]] = [-1, []];
    const place = (): void => (of < 0 ? undefined : this.place(of, its));
    await each(ADDRESSES_SQL, (slot, row) => {
      if (slot !== of) {
        place();
        [of, its] = [slot, []];
      }
      its.push(placeOf(row));
    });
    place();
    await each(GIFTS_SQL, (slot, row) => {
      if (isGift(row)) facts.gifts.push(slot, giftOf(row));
    });
    await each(SPLITS_SQL, (slot, row) => facts.splits.push(slot, splitOf(row)));
    await each(CREDITS_SQL, (slot, row) => facts.credits.push(slot, creditOf(row)));
    await each(TAGS_SQL, (slot, row) => facts.tags.push(slot, { tag: Number(row[1]) }));
    await each(GROUPS_SQL, (slot, row) => facts.groups.push(slot, { group: Number(row[1]) }));
    await each(GIFT_FIELDS_SQL, (slot, row) => facts.addGiftField(slot, Number(row[1]), kept(String(row[2]))));
    await each(FIELDS_SQL, (slot, row) => facts.setField(slot, Number(row[1]), kept(String(row[2]))));
  }

  async reload(db: FollowerDb, ids: readonly number[]): Promise<void> {
    const found = await this.read(db, ids);
    this.summed.clear();
    for (const id of ids)
      if (!found.has(id)) {
        this.facts.remove(id);
        this.listing.changed(this.facts.slotOf(id));
      }
  }

  /** Puts what the database has of supporters in the place of what was known; answers whom it has. */
  private async read(db: FollowerDb, ids: readonly number[]): Promise<Set<number>> {
    const of = (sql: string): Promise<Cells[]> =>
      db.rows(
        `${sql} WHERE ${sql === SPLITS_SQL ? 'x.' : ''}supporter_id IN (?) ORDER BY ${ORDERS.get(sql) ?? 'supporter_id'}`,
        [ids],
      );
    const [supporters, ...owned] = await Promise.all([
      db.rows(`${SUPPORTERS_SQL} WHERE id IN (?)`, [ids]),
      ...[
        GIFTS_SQL,
        TAGS_SQL,
        GROUPS_SQL,
        WISHES_SQL,
        FIELDS_SQL,
        GIFT_FIELDS_SQL,
        SPLITS_SQL,
        CREDITS_SQL,
        ADDRESSES_SQL,
      ].map(of),
    ]);
    const [gifts, tags, groups, wishes, fields, giftFields, splits, credits, addresses] = owned.map(bySupporter);
    const found = new Set<number>();
    for (const row of supporters) {
      const id = Number(row[0]);
      found.add(id);
      const slot = this.facts.replace({
        id,
        kind: kindOf(row[1]),
        region: '',
        city: '',
        sortName: String(row[4]),
        flags: (wishes?.get(id) ?? []).reduce((bits, wish) => bits | bitOf(wish), Number(row[2])),
        household: Number(row[3]),
        tags: (tags?.get(id) ?? []).map((tag) => Number(tag[1])),
        groups: (groups?.get(id) ?? []).map((group) => Number(group[1])),
        fields: (fields?.get(id) ?? []).map((field) => [Number(field[1]), kept(String(field[2]))]),
        giftFields: (giftFields?.get(id) ?? []).map((field) => [Number(field[1]), kept(String(field[2]))]),
        gifts: (gifts?.get(id) ?? []).filter(isGift).map(giftOf),
        splits: (splits?.get(id) ?? []).map(splitOf),
        credits: (credits?.get(id) ?? []).map(creditOf),
      });
      this.place(slot, (addresses?.get(id) ?? []).map(placeOf));
      this.listing.changed(slot);
    }
    return found;
  }

  /** Puts a supporter where the address of the day is, and remembers those that may move by themselves. */
  private place(slot: number, places: readonly Place[]): void {
    if (isConstant(places)) {
      this.places.delete(slot);
      this.facts.setPlace(slot, places[0]?.region ?? '', places[0]?.city ?? '');
      return;
    }
    this.places.set(slot, places);
    if (this.placedOn === null) return;
    const { region, city } = addressOn(places, this.placedOn) ?? NOWHERE;
    this.facts.setPlace(slot, region, city);
  }

  /** Goes on to a day: whoever is elsewhere on it is put there. */
  private moveTo(today: IsoDate): void {
    if (today === this.placedOn) return;
    this.placedOn = today;
    for (const [slot, places] of this.places) {
      const [region, city] = [this.facts.region[slot], this.facts.city[slot]];
      this.place(slot, places);
      if (this.facts.region[slot] !== region || this.facts.city[slot] !== city) this.listing.changed(slot);
    }
    this.summed.clear();
  }

  answer(given: unknown): FactsAnswers[keyof FactsAnswers] {
    const question = given as FactsQuestion;
    const calendar =
      'calendar' in question ? question.calendar : 'setting' in question ? question.setting.calendar : null;
    if (calendar) this.moveTo(calendar.today);
    switch (question.ask) {
      case 'count':
        return this.count(question.group, question.calendar);
      case 'members':
        return this.members(question.group, question.calendar);
      case 'explain': {
        const slot = this.facts.slotOf(question.supporterId);
        return slot < 0 ? null : explain(question.group, this.facts, slot, question.setting);
      }
      case 'giving':
        return question.ids.map((id) => this.giving(id, question.calendar));
      case 'facets':
        return this.once(question, () => facetsAsked(this.facts, question));
      case 'totals':
        return this.once(question, () => totalsAsked(this.facts, question));
      case 'list': {
        const list = this.listing.answer(question);
        const shown = question.limit === null ? [] : [...list.ids];
        return { ...list, given: shown.map((id) => this.giving(id, question.calendar)) };
      }
      case 'size':
        return { supporters: this.facts.size, gifts: this.facts.gifts.length };
    }
  }

  private once<T extends FactsAnswers['facets'] | FactsAnswers['totals']>(question: object, work: () => T): T {
    const key = JSON.stringify(question);
    const known = this.summed.get(key);
    if (known) return known as T;
    const answer = work();
    if (this.summed.size >= MOST_SUMS) this.summed.clear();
    if (key.length < MOST_KEY) this.summed.set(key, answer);
    return answer;
  }

  private count(group: Group, calendar: Calendar): FactsAnswers['count'] {
    const begun = performance.now();
    const everyone: Group = { kind: 'group', join: 'all', parts: [] };
    const counted = countParts(group, this.facts, calendar);
    const milliseconds = performance.now() - begun;
    return { ...counted, of: evaluate(everyone, this.facts, calendar).count(), milliseconds };
  }

  private members(group: Group, calendar: Calendar): Uint32Array {
    const ids: number[] = [];
    for (const slot of evaluate(group, this.facts, calendar)) ids.push(this.facts.ids[slot] ?? 0);
    return Uint32Array.from(ids).sort();
  }

  private giving(id: number, calendar: Calendar): GivenView {
    const slot = this.facts.slotOf(id);
    const nothing = this.figures([], calendar);
    if (slot < 0) return { giving: { ...nothing, household: nothing, recognised: 0 }, flags: 0 };
    const figures = this.figures([slot], calendar);
    const home = this.facts.sharersOf(slot);
    const household = home.length === 1 ? figures : this.figures(home, calendar);
    const credits = this.facts.credits.count[slot] ?? 0;
    const recognised = credits === 0 ? 0 : totalOf(this.facts, [slot], ANY_GIFT, 'recognition').cents;
    return { giving: { ...figures, household, recognised }, flags: this.facts.flags[slot] ?? 0 };
  }

  private figures(slots: readonly number[], calendar: Calendar): GivingFigures {
    const { start, count, columns } = this.facts.gifts;
    const [days, amounts] = [columns.day.values, columns.cents.values];
    const sum = new GivingSum(calendar);
    for (const slot of slots) {
      const from = start[slot] as number;
      const end = from + (count[slot] as number);
      for (let row = from; row < end; row++) sum.add(days[row] as number, amounts[row] as number);
    }
    const { firstDay, lastDay, ...totals } = sum.totals();
    return {
      ...totals,
      average: totals.count === 0 ? 0 : Math.round(totals.lifetime / totals.count),
      first: firstDay === null ? null : dateOfDay(firstDay),
      last: lastDay === null ? null : dateOfDay(lastDay),
    };
  }
}

function bySupporter(rows: readonly Cells[]): Map<number, Cells[]> {
  const groups = new Map<number, Cells[]>();
  for (const row of rows) {
    const owner = Number(row[0]);
    const group = groups.get(owner);
    if (group) group.push(row);
    else groups.set(owner, [row]);
  }
  return groups;
}
