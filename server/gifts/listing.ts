import { kept, showField } from '@tallystick/core/fields';
import { PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { PaymentMethod } from '@tallystick/core/gifts';
import { byKeys, readSorts } from '@tallystick/core/lists';
import { typedMoney } from '@tallystick/core/money';
import { supporterNumber } from '@tallystick/core/supporters';
import { decodeCursor } from '../platform/cursor.ts';
import { one } from '../platform/db.ts';
import type { Param, Sql } from '../platform/db.ts';
import { inOrder, paged, past } from '../platform/page.ts';
import type { Key } from '../platform/page.ts';
import { fieldsIn } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { homeOf } from '../supporters/index.ts';
import { conditionsOf, giftView, placesOf, SELECT_GIFTS } from './list-sql.ts';
import type { GiftNarrowing, JoinedGift } from './list-sql.ts';

interface Sum {
  count: number;
  cents: number;
}

export interface GiftQuery extends GiftNarrowing {
  limit: number;
  cursor?: string | undefined;
  /** Columns of `COLUMNS`, as `date,-amount`. */
  sort: string;
}

const EXPORT_HEADINGS =
  'Number,Supporter,Name,Date,Amount,Currency,Fund,Campaign,Appeal,Source code,Paid by,Check,Reference,Note,Goods and services,Deductible,Processor fee,Net,State,Thanked,Receipt'.split(
    ',',
  );

/** A condition, and the values in it. */
interface Asked {
  where: string[];
  params: Param[];
}

type Sortable = Pick<JoinedGift, 'date' | 'cents' | 'id'>;
const COLUMNS: Record<string, Omit<Key, 'down'>> = {
  date: { sql: 'g.date', as: 'date' },
  amount: { sql: 'g.cents', as: 'cents' },
};
/** What gifts are sorted by; numbers settle what is equal, the way that the last column runs. */
function orderOf(sort: string): Key[] {
  const keys = readSorts(sort).flatMap(({ by, down }) => (COLUMNS[by] ? [{ ...COLUMNS[by], down }] : []));
  const once = keys.filter((key, place) => keys.findIndex((other) => other.as === key.as) === place);
  return [...once, { sql: 'g.id', as: 'id', down: once.at(-1)?.down ?? false }];
}

/** Gifts as lists: a page of them, what they come to, and the rows of a file. */
export class GiftLists {
  constructor(
    private readonly sql: Sql,
    private readonly settings: Settings,
    /** What facts know the gifts of a narrowing to come to, or null where they cannot tell. */
    private readonly summed: (query: GiftNarrowing) => Promise<Sum | null>,
  ) {}

  /** Every gift that a filter shows, as the rows of a file, page by page; amounts as `1234.50`. */
  async exported(
    query: GiftNarrowing,
  ): Promise<{ headings: string[]; pages: AsyncGenerator<(string | null)[][], void> }> {
    const [fields, formats] = await Promise.all([fieldsIn(this.sql, 'gift'), this.settings.formats()]);
    const row = (gift: ReturnType<typeof giftView>): (string | null)[] => [
      ...[gift.number, supporterNumber(gift.supporterId), gift.supporterName, gift.date, typedMoney(gift.cents)],
      ...[gift.currency, gift.fund, gift.campaign, gift.appeal, gift.source, gift.method],
      ...[gift.cheque, gift.reference, gift.note, typedMoney(gift.benefitCents), typedMoney(gift.deductibleCents)],
      ...[typedMoney(gift.feeCents), typedMoney(gift.cents - gift.feeCents), gift.state],
      ...[gift.acknowledgedOn, gift.receiptNumber],
      ...fields.map((field) => showField(field, gift.fields[field.id] ?? kept(''), formats)),
    ];
    const headings = [...EXPORT_HEADINGS, ...fields.map((field) => field.name)];
    return { headings, pages: this.pages(query, (gift) => row(giftView(gift))) };
  }

  private async *pages<T>(query: GiftNarrowing, make: (gift: JoinedGift) => T): AsyncGenerator<T[], void> {
    const asked = await this.asked(query);
    let cursor: string | undefined;
    do {
      const place = { sort: 'date', limit: 1000, ...(cursor ? { cursor } : {}) } as const;
      const { items, next } = await this.page({ ...query, ...place }, asked);
      yield items.map(make);
      cursor = next ?? undefined;
    } while (cursor !== undefined);
  }

  /**
   * A page of gifts with the number and sum of the whole list. Of a split gift, a list that is narrowed to a fund,
   * campaign or appeal sums just the parts that went there.
   */
  async list(query: GiftQuery) {
    const { where, params } = await this.asked(query);
    const [sum, { items, next }] = await Promise.all([
      this.sumOf(query, where, params),
      this.page(query, { where, params }),
    ]);
    return { items: items.map(giftView), next, total: sum.count, sum };
  }

  private async page(query: GiftQuery, { where, params }: Asked) {
    const order = orderOf(query.sort);
    const rest = past(order, query.cursor);
    const bounds = await this.boundsOf(
      order,
      { where: [...where, rest.sql], params: [...params, ...rest.params] },
      query,
    );
    // gift_date (date, id), gift_cents (cents, id), gift_unthanked (acknowledged_on, date, id) or gift_facts. The page is
    // found first, by its ids: joined at once, the optimizer would sort every gift. What is joined may come in any order.
    const items = await this.sql.rows<JoinedGift>(
      `${SELECT_GIFTS} WHERE g.id IN (SELECT page.id FROM (SELECT g.id FROM gift g WHERE ${bounds.where.join(' AND ')}
       ORDER BY ${inOrder(order)} LIMIT ?) page)`,
      [...bounds.params, query.limit + 1],
    );
    const keys = order.map(({ as, down = false }) => ({
      keyOf: (gift: JoinedGift) => gift[as as keyof Sortable],
      down,
    }));
    return paged(items.sort(byKeys(keys, () => 0)), order, query.limit);
  }

  /**
   * The conditions under which a page is looked for. Sorted by several columns it lies within the values of the first
   * one that its rows have: these are found by the index of that column, so that only gifts of those days, or of those
   * amounts, are sorted.
   */
  private async boundsOf(order: readonly Key[], asked: Asked, { limit, cursor }: GiftQuery): Promise<Asked> {
    const [first] = order;
    if (order.length < 3 || !first) return asked;
    const bounds: Asked = { where: [...asked.where], params: [...asked.params] };
    const bound = (beyond: boolean, value: string | number): void => {
      bounds.where.push(`${first.sql} ${(first.down === true) === beyond ? '<=' : '>='} ?`);
      bounds.params.push(value);
    };
    const [begun] = decodeCursor(cursor, order.length) ?? [];
    if (begun !== undefined) bound(true, begun);
    const [last] = await this.sql.rows<{ value: string | number }>(
      `SELECT ${first.sql} AS value FROM gift g WHERE ${bounds.where.join(' AND ')} ORDER BY ${inOrder([first])} LIMIT 1 OFFSET ?`,
      [...bounds.params, limit],
    );
    if (last) bound(false, last.value);
    return bounds;
  }

  /** What a narrowing asks of the database. The ids of a home come first: MariaDB would read every gift otherwise. */
  private async asked(query: GiftNarrowing) {
    const { householdId } = query;
    return conditionsOf(query, householdId === undefined ? undefined : await homeOf(this.sql, householdId));
  }

  private async sumOf(query: GiftQuery, where: readonly string[], params: readonly Param[]): Promise<Sum> {
    const { limit: _limit, cursor: _cursor, sort: _sort, ...narrowing } = query;
    const known = await this.summed(narrowing);
    if (known) {
      // gift_cents (cents, id): facts leave out gifts of which nothing is left; the list has them
      const none = await one<{ many: number }>(
        this.sql,
        `SELECT COUNT(*) AS many FROM gift g WHERE ${['g.cents = 0', ...where].join(' AND ')}`,
        [...params],
      );
      return { count: known.count + (none?.many ?? 0), cents: known.cents };
    }
    const places = placesOf(query);
    const sum = await one<{ many: number; total: number | null }>(
      this.sql,
      `SELECT COUNT(DISTINCT g.id) AS many, SUM(IF(g.split = 1, x.cents, g.cents)) AS total FROM gift g ${partsIn(places)}
       ${where.length > 0 ? `WHERE ${where.join(' AND ')}` : ''}`,
      [...places.params, ...params],
    );
    return { count: sum?.many ?? 0, cents: Number(sum?.total ?? 0) };
  }

  /** How the gifts of a narrowing fall to funds, campaigns, appeals and methods; parts of split gifts each to their own. */
  async facets(query: GiftNarrowing) {
    const { where, params } = await this.asked(query);
    const filter = where.length > 0 ? `WHERE ${where.join(' AND ')}` : '';
    const places = placesOf(query);
    const count = async (by: 'fund' | 'campaign' | 'appeal' | 'method') => {
      const column = by === 'method' ? 'g.method' : `IF(g.split = 1, x.${by}_id, g.${by}_id)`;
      const rows = await this.sql.rows<{ key: string | null; count: number; cents: number }>(
        `SELECT CONCAT(${column}, '') AS \`key\`, COUNT(DISTINCT g.id) AS count, SUM(IF(g.split = 1, x.cents, g.cents)) AS cents
         FROM gift g ${partsIn(places)} ${filter} GROUP BY 1 ORDER BY 3 DESC LIMIT 50`,
        [...places.params, ...params],
      );
      return rows.flatMap(({ key, ...row }) => (key === null ? [] : [{ key, ...row, cents: Number(row.cents) }]));
    };
    const { funds, campaigns, appeals } = await this.settings.choices();
    const named = (list: readonly { id: number; name: string }[], key: string): string =>
      list.find((one) => one.id === Number(key))?.name ?? key;
    const lists = { fund: funds, campaign: campaigns, appeal: appeals };
    return Promise.all(
      (['fund', 'campaign', 'appeal', 'method'] as const).map(async (by) => ({
        by,
        items: (await count(by)).map((row) => ({
          ...row,
          name: by === 'method' ? PAYMENT_METHODS[row.key as PaymentMethod] : named(lists[by], row.key),
        })),
      })),
    );
  }
}

/** Joins the parts of split gifts, those that a narrowing is about. */
const partsIn = (places: ReturnType<typeof placesOf>): string =>
  `LEFT JOIN gift_split x ON g.split = 1 AND x.gift_id = g.id AND ${places.on('x')}`;
