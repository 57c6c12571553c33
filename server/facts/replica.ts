import { addressOn, wayOn } from '@tallystick/core/contact';
import type { PostalAddress, Season, Way } from '@tallystick/core/contact';
import { dateOfDay, Zone } from '@tallystick/core/dates';
import type { Calendar, IsoDate } from '@tallystick/core/dates';
import { differences, Facts, LIST_NAMES, NO_DAY } from '@tallystick/core/facts';
import type { Lists, Ragged, SupporterFacts } from '@tallystick/core/facts';
import { GivingSum } from '@tallystick/core/gifts';
import { ANY_GIFT, totalOf } from '@tallystick/core/totals';
import { facetsAsked, totalsAsked } from './totals.ts';
import type { FacetRows, FacetsQuestion, TotalsQuestion, TotalsRow } from './totals.ts';
import { all, countParts, evaluate, explain, Masks, readPasted } from '@tallystick/core/segments';
import type { Explanation, PartCounts, Pasted } from '@tallystick/core/segments';
import { kindOfCode } from '@tallystick/core/supporters';
import type { SupporterKind } from '@tallystick/core/supporters';
import { WISHES } from '@tallystick/core/wishes';
import type { Wish } from '@tallystick/core/wishes';
import type { Checked, FollowerDb, Replica } from '../platform/follower.ts';
import { Listing } from './listing.ts';
import type { ListAnswer, ListQuestion } from './listing.ts';
import {
  FIELDS_SQL,
  GIFT_FIELDS_SQL,
  MARKS_SQL,
  NEXT_SQL,
  partOf,
  personOf,
  SOURCES,
  SUPPORTERS_SQL,
  wholeOf,
  ZONE_SQL,
} from './sources.ts';
import type { Cells } from './sources.ts';
import type { Formats } from '@tallystick/core/money';
import type { AskedGroup } from './asked.ts';
import { kept } from '@tallystick/core/fields';

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

/** A supporter as a row of a list: what they are called, how they are reached on the day, their tags, what they gave. */
export interface ListedView extends GivenView {
  name: string;
  kind: SupporterKind;
  email: string | null;
  phone: string | null;
  address: PostalAddress | null;
  /** By their ids. */
  tags: number[];
}

export type FactsQuestion =
  | ({ ask: 'count' } & AskedGroup)
  | ({ ask: 'members' } & AskedGroup)
  | { ask: 'pasted'; text: string; led: ReadonlyMap<number, number> }
  | ({ ask: 'explain'; supporterId: number; formats: Formats } & AskedGroup)
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
  pasted: Pasted;
  explain: Explanation | null;
  giving: GivenView[];
  /** With whom the page's rows are about, where that is asked for. */
  list: ListAnswer & { given: ListedView[] };
  totals: TotalsRow[];
  facets: FacetRows;
  size: { supporters: number; gifts: number };
}

const NOWHERE = { region: '', city: '', postal: '' };

/** How many sums are kept, and how long a question may be to be kept with its answer. */
const [MOST_SUMS, MOST_KEY] = [500, 1000];
/** So many rows are kept as they were shown. */
const MOST_SHOWN = 5000;
/** Of so many conditions it is kept of whom they hold: a byte for each supporter. */
const MOST_MASKS = 40;

/** Keeps the facts of every supporter, and answers what lists, segments and records ask of them. */
export class FactsReplica implements Replica {
  readonly facts = new Facts();
  private readonly masks = new Masks(MOST_MASKS);
  private readonly listing = new Listing(this.facts, this.masks);
  /** The slots of those who may be somewhere else on another day, and the day that `facts` places everyone on. */
  private readonly movers = new Set<number>();
  /** The zone whose days things were sent and changed on. */
  private zone = new Zone('UTC');
  private placedOn: IsoDate | null = null;
  /** Sums that were asked for since the facts last changed: many people look at the same list. */
  private readonly summed = new Map<string, FactsAnswers['facets'] | FactsAnswers['totals']>();
  /** Rows that were shown since then, by supporter, and where the fiscal years begin that they go by. */
  private readonly shown = new Map<number, ListedView>();
  private shownFrom = 0;

  async load(db: FollowerDb): Promise<void> {
    const { facts } = this;
    this.zone = await zoneIn(db);
    await db.stream(wholeOf(SUPPORTERS_SQL), (row) =>
      facts.addSupporter(Number(row[0]), personOf(row), String(row[1])),
    );
    const marks = new Map<number, number>();
    await db.stream(wholeOf(MARKS_SQL), (row) => mark(marks, row));
    /** Streams rows that belong to a supporter. */
    const each = (sql: string, take: (slot: number, row: Cells) => void): Promise<void> =>
      db.stream(sql, (row) => {
        const slot = facts.slotOf(Number(row[0]));
        if (slot >= 0) take(slot, row);
      });
    for (const name of LIST_NAMES) {
      const [list, { sql, read }] = [facts.listOf(name), SOURCES[name]];
      await each(wholeOf(sql), (slot, row) => {
        const known = read(row, this.zone);
        if (known) list.push(slot, marked(known, marks));
      });
    }
    await each(wholeOf(GIFT_FIELDS_SQL), (slot, row) => facts.addGiftField(slot, Number(row[1]), kept(String(row[2]))));
    await each(wholeOf(FIELDS_SQL), (slot, row) => facts.setField(slot, Number(row[1]), kept(String(row[2]))));
    facts.trim();
    for (let slot = 0; slot < facts.size; slot++) this.settle(slot);
  }

  async isWhole(db: FollowerDb): Promise<boolean> {
    return (await zoneIn(db)).name === this.zone.name;
  }

  async reload(db: FollowerDb, ids: readonly number[]): Promise<void> {
    const found = await this.read(db, ids);
    this.forget();
    for (const id of ids)
      if (!found.has(id)) {
        this.facts.remove(id);
        this.listing.changed(this.facts.slotOf(id));
      }
  }

  async check(db: FollowerDb, after: number, many: number): Promise<Checked> {
    const rows = await db.rows(NEXT_SQL, [after, many]);
    const ids = rows.map(([id]) => Number(id));
    const upTo = ids.length < many ? null : (ids.at(-1) ?? null);
    // Whoever is kept here, and not there any more, is looked at, too.
    for (const id of this.facts.ids.subarray(0, this.facts.size))
      if (id > after && (upTo === null || id <= upTo)) ids.push(id);
    const all = [...new Set(ids)];
    if (all.length === 0) return { upTo, differs: [] };
    const fresh = new FactsReplica();
    fresh.zone = this.zone;
    await fresh.read(db, all);
    if (this.placedOn !== null) fresh.moveTo(this.placedOn);
    const differs = all.flatMap((id) => {
      const what = differences(this.facts, fresh.facts, id);
      return what.length === 0 ? [] : [{ id, what }];
    });
    if (differs.length > 0)
      await this.reload(
        db,
        differs.map(({ id }) => id),
      );
    return { upTo, differs };
  }

  /** Puts what the database has of supporters in the place of what was known; answers whom it has. */
  private async read(db: FollowerDb, ids: readonly number[]): Promise<Set<number>> {
    const of = (sql: Parameters<typeof partOf>[0]): Promise<Cells[]> => db.rows(...partOf(sql, ids));
    const [supporters, marking, fields, giftFields, ...owned] = await Promise.all(
      [SUPPORTERS_SQL, MARKS_SQL, FIELDS_SQL, GIFT_FIELDS_SQL, ...LIST_NAMES.map((name) => SOURCES[name].sql)].map(of),
    );
    const marks = new Map<number, number>();
    for (const row of marking ?? []) mark(marks, row);
    const rowsOf = new Map(LIST_NAMES.map((name, at) => [name, bySupporter(owned[at] ?? [])]));
    const [fieldsOf, giftFieldsOf] = [fields, giftFields].map((rows) => bySupporter(rows ?? []));
    const valuesOf = (rows: Cells[] | undefined) =>
      (rows ?? []).map((row) => [Number(row[1]), kept(String(row[2]))] as const);
    const found = new Set<number>();
    for (const row of supporters ?? []) {
      const id = Number(row[0]);
      found.add(id);
      const lists = LIST_NAMES.map((name) => [
        name,
        (rowsOf.get(name)?.get(id) ?? []).flatMap((cells) => {
          const known = SOURCES[name].read(cells, this.zone);
          return known ? [marked(known, marks)] : [];
        }),
      ]);
      const slot = this.facts.replace({
        ...{ id, sortName: String(row[1]), ...personOf(row) },
        lists: Object.fromEntries(lists) as SupporterFacts['lists'],
        fields: valuesOf(fieldsOf?.get(id)),
        giftFields: valuesOf(giftFieldsOf?.get(id)),
      });
      this.settle(slot);
      this.listing.changed(slot);
    }
    return found;
  }

  /** Works out of a supporter's lists what is known once: wishes as bits, and where they are. */
  private settle(slot: number): void {
    const { wishes } = this.facts.lists;
    let flags = this.facts.people.flags.values[slot] as number;
    for (const at of rowsAt(wishes, slot)) flags |= WISHES[wishes.columns.kind.at(at) as Wish]?.bit ?? 0;
    this.facts.people.flags.values[slot] = flags;
    const places = this.placesOf(slot);
    if (isConstant(places)) this.movers.delete(slot);
    else this.movers.add(slot);
    this.place(slot, places);
  }

  private placesOf(slot: number): Place[] {
    const { addresses } = this.facts.lists;
    return [...rowsAt(addresses, slot)].map((at) => placeOf(addresses.columns, at));
  }

  /** Puts a supporter where the address of the day is. */
  private place(slot: number, places: readonly Place[]): void {
    const here = isConstant(places) ? places[0] : this.placedOn === null ? null : addressOn(places, this.placedOn);
    const { region, city, postal } = here ?? NOWHERE;
    this.facts.update(slot, { region, city, postal, mailable: here ? 1 : 0 });
  }

  /** Goes on to a day: whoever is elsewhere on it is put there. */
  private moveTo(today: IsoDate): void {
    if (today === this.placedOn) return;
    this.placedOn = today;
    this.forget();
    const { region, city } = this.facts.people;
    for (const slot of this.movers) {
      const before = [region.values[slot], city.values[slot]];
      this.place(slot, this.placesOf(slot));
      if (before[0] !== region.values[slot] || before[1] !== city.values[slot]) this.listing.changed(slot);
    }
  }

  /** What was worked out for one question and kept for the next holds no longer. */
  private forget(): void {
    this.summed.clear();
    this.masks.clear();
    this.shown.clear();
  }

  answer(given: unknown): FactsAnswers[keyof FactsAnswers] {
    const question = given as FactsQuestion;
    const calendar =
      'calendar' in question ? question.calendar : 'setting' in question ? question.setting.calendar : null;
    if (calendar) this.moveTo(calendar.today);
    switch (question.ask) {
      case 'count':
        return this.count(question);
      case 'members':
        return this.members(question);
      case 'pasted':
        return readPasted(question.text, this.facts, question.led);
      case 'explain': {
        const slot = this.facts.slotOf(question.supporterId);
        if (slot < 0) return null;
        const { group, setting, formats } = question;
        // Nothing that is told here is the name of another record.
        const telling = { calendar: setting.calendar, formats, nameOf: (_to: unknown, id: number) => String(id) };
        return explain(group, this.facts, slot, { ...setting, telling });
      }
      case 'giving':
        return question.ids.map((id) => this.giving(id, question.calendar));
      case 'facets':
        return this.once(question, () => facetsAsked(this.facts, question));
      case 'totals':
        return this.once(question, () => totalsAsked(this.facts, question));
      case 'list': {
        const list = this.listing.answer(question);
        const shown = question.figures ? [...list.ids] : [];
        return { ...list, given: shown.map((id) => this.listedOnce(id, question.setting.calendar)) };
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

  private count({ group, setting }: AskedGroup): FactsAnswers['count'] {
    const begun = performance.now();
    const counted = countParts(group, this.facts, setting, this.masks);
    const milliseconds = performance.now() - begun;
    return { ...counted, of: evaluate(all(), this.facts, setting).count(), milliseconds };
  }

  private members({ group, setting }: AskedGroup): Uint32Array {
    const ids: number[] = [];
    for (const slot of evaluate(group, this.facts, setting, this.masks)) ids.push(this.facts.ids[slot] ?? 0);
    return Uint32Array.from(ids).sort();
  }

  private listedOnce(id: number, calendar: Calendar): ListedView {
    if (calendar.fiscalYearStart !== this.shownFrom || this.shown.size >= MOST_SHOWN) this.shown.clear();
    this.shownFrom = calendar.fiscalYearStart;
    const known = this.shown.get(id) ?? this.listed(id, calendar);
    this.shown.set(id, known);
    return known;
  }

  private listed(id: number, calendar: Calendar): ListedView {
    const slot = this.facts.slotOf(id);
    const { tags, emails, phones, addresses } = this.facts.lists;
    const { today } = calendar;
    const ways = <C extends WayColumns>(list: Ragged & { columns: C }) =>
      [...rowsAt(list, slot)].map((at) => ({ at, ...wayOf(list.columns, at) }));
    const email = wayOn(ways(emails), today);
    const phone = wayOn(ways(phones), today);
    const { street, city, region, postal, country } = addresses.columns;
    const place = addressOn(
      [...rowsAt(addresses, slot)].map((at) => ({ at, ...placeOf(addresses.columns, at) })),
      today,
    );
    return {
      ...this.giving(id, calendar),
      name: this.facts.nameOf(slot),
      kind: kindOfCode(this.facts.people.kind.values[slot] ?? 0),
      email: email && emails.columns.address.at(email.at),
      phone: phone && phones.columns.number.at(phone.at),
      address: place && {
        ...{ street: street.at(place.at), city: city.at(place.at), region: region.at(place.at) },
        ...{ postal: postal.at(place.at), country: country.at(place.at) },
      },
      tags: [...rowsAt(tags, slot)].map((at) => tags.columns.tag.values[at] ?? 0),
    };
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
    return { giving: { ...figures, household, recognised }, flags: this.facts.people.flags.values[slot] ?? 0 };
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

/** As much of an address as decides where somebody is on a day. */
type Place = Way & Season & { region: string; city: string; postal: string };

type WayColumns = Pick<Lists['emails']['columns'], 'preferred' | 'from' | 'to' | 'bad'>;

function wayOf({ preferred, from, to, bad }: WayColumns, at: number): Way {
  const dayIn = (day: number): IsoDate | null => (day === NO_DAY ? null : dateOfDay(day));
  return {
    preferred: preferred.values[at] === 1,
    validFrom: dayIn(from.values[at] as number),
    validTo: dayIn(to.values[at] as number),
    badOn: dayIn(bad.values[at] as number),
  };
}

function placeOf(columns: Lists['addresses']['columns'], at: number): Place {
  const { region, city, postal, seasonFrom, seasonTo } = columns;
  return {
    ...wayOf(columns, at),
    ...{ region: region.at(at), city: city.at(at), postal: postal.at(at) },
    ...{ seasonFrom: seasonFrom.at(at) || null, seasonTo: seasonTo.at(at) || null },
  };
}

/** Whether a place is the same on every day, because there is just one and nothing limits it. */
const isConstant = ([place, ...others]: readonly Place[]): boolean =>
  place === undefined ||
  (others.length === 0 && [place.validFrom, place.validTo, place.badOn, place.seasonFrom].every((day) => day === null));

/** The places of a supporter's rows in a list. */
function* rowsAt({ start, count }: Pick<Ragged, 'start' | 'count'>, slot: number): Generator<number> {
  const from = start[slot] ?? 0;
  for (let at = from; at < from + (count[slot] ?? 0); at++) yield at;
}

async function zoneIn(db: FollowerDb): Promise<Zone> {
  const [row] = await db.rows(ZONE_SQL, []);
  return new Zone(String(row?.[0] ?? 'UTC'));
}

const mark = (marks: Map<number, number>, [gift, bit]: Cells): void => {
  marks.set(Number(gift), (marks.get(Number(gift)) ?? 0) | Number(bit));
};

/** Puts what other records say of a gift into its row, where it is one. */
function marked<R extends object>(row: R, marks: ReadonlyMap<number, number>): R {
  if (!('marks' in row) || !('gift' in row)) return row;
  const more = marks.get(row.gift as number);
  if (more !== undefined) (row as { marks: number }).marks |= more;
  return row;
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
