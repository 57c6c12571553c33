import type { DataSource } from 'typeorm';
import { dayNumber, fiscalYearOf, spanOf } from '@tallystick/core/dates';
import type { Calendar, Window } from '@tallystick/core/dates';
import { METHOD_CODES, PAYMENT_METHODS, stateAt } from '@tallystick/core/gifts';
import type { Correction, GiftState, PaymentMethod } from '@tallystick/core/gifts';
import { FACETS, TOTAL_BY } from '@tallystick/core/totals';
import type { CreditChoice, GiftFilter, TotalBy } from '@tallystick/core/totals';
import type { FactsThread } from '../facts/index.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import type { Settings } from '../settings/index.ts';
import type { GiftRecord } from './gift.entity.ts';
import { conditionsOf } from './list-sql.ts';
import type { GiftNarrowing } from './list-sql.ts';
import { filterOf } from '@tallystick/core/segments';
import { homeOf, householdOf } from '../supporters/index.ts';

export interface AskedTotals {
  window: Window;
  fundId: number | null;
  campaignId: number | null;
  appealId: number | null;
  method: PaymentMethod | null;
  credit: CreditChoice;
  by: TotalBy;
  supporterId: number | null;
  household: boolean;
  segmentId: number | null;
  asOf: string | null;
}

interface Row {
  key: string;
  cents: number;
  gifts: number;
  donors: number;
}

/** Totals of giving, each worked out when it is asked for. */
export class GiftTotals {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly settings: Settings,
    private readonly facts: FactsThread,
    private readonly membersOf: (segmentId: number) => Promise<Uint32Array>,
  ) {
    this.sql = sqlOn(source);
  }

  async totals(asked: AskedTotals) {
    const rows = asked.asOf === null ? await this.fromFacts(asked, asked.by) : await this.asKnownOn(asked, asked.asOf);
    const [all] =
      asked.by === 'nothing'
        ? rows
        : asked.asOf === null
          ? await this.fromFacts(asked, 'nothing')
          : await this.asKnownOn({ ...asked, by: 'nothing' }, asked.asOf);
    const named = await this.namesOf(asked.by);
    return {
      rows: rows
        .map((row) => ({ ...row, name: named(row.key) }))
        .sort((a, b) => (asked.by === 'year' || asked.by === 'month' ? (a.key < b.key ? -1 : 1) : b.cents - a.cents)),
      total: { cents: all?.cents ?? 0, gifts: all?.gifts ?? 0, donors: all?.donors ?? 0 },
    };
  }

  /**
   * How gifts fall to funds, campaigns, appeals and methods, from facts; null for a narrowing that facts know nothing
   * of, which the database answers.
   */
  async facets(query: GiftNarrowing) {
    const facets = await this.askFacets(query);
    if (!facets) return null;
    return Promise.all(
      FACETS.map(async (by) => {
        const nameOf = await this.namesOf(by);
        const keyOf = (key: number): string => (by === 'method' ? (METHOD_CODES[key] ?? 'other') : String(key));
        return {
          by,
          items: facets[by]
            .slice(0, 50)
            .map(({ key, ...sum }) => ({ key: keyOf(key), name: nameOf(keyOf(key)), ...sum })),
        };
      }),
    );
  }

  /** What the gifts of a narrowing come to, or null as with `facets`; gifts of which nothing is left do not count. */
  async sumOf(query: GiftNarrowing): Promise<{ count: number; cents: number } | null> {
    const facets = await this.askFacets(query);
    if (!facets) return null;
    // Every gift came by one method.
    return facets.method.reduce((sum, one) => ({ count: sum.count + one.count, cents: sum.cents + one.cents }), {
      count: 0,
      cents: 0,
    });
  }

  private async askFacets(query: GiftNarrowing) {
    const { fundId, campaignId, appealId, method, supporterId, from, to, ...others } = query;
    if (Object.values(others).some((value) => value !== undefined)) return null;
    const window: Window =
      from === undefined && to === undefined
        ? { kind: 'ever' }
        : { kind: 'between', from: from ?? '1000-01-01', to: to ?? '9999-12-31' };
    const filter = filterIn(
      {
        ...{ window, fundId: fundId ?? null, campaignId: campaignId ?? null, appealId: appealId ?? null },
        method: (method as PaymentMethod | undefined) ?? null,
      },
      await this.settings.calendar(),
    );
    const ids = supporterId === undefined ? null : [supporterId];
    return this.facts.ask({ ask: 'facets', ids, filter });
  }

  private async fromFacts(asked: AskedTotals, by: TotalBy): Promise<Row[]> {
    const calendar = await this.settings.calendar();
    const filter = filterIn(asked, calendar);
    const who = await this.who(asked);
    return this.facts.ask({ ask: 'totals', ...who, filter, credit: asked.credit, by, calendar });
  }

  private async who(asked: AskedTotals): Promise<{ ids: readonly number[] | null; household: boolean }> {
    if (asked.supporterId !== null) return { ids: [asked.supporterId], household: asked.household };
    if (asked.segmentId !== null)
      return { ids: [...(await this.membersOf(asked.segmentId))], household: asked.household };
    return { ids: null, household: false };
  }

  /**
   * Totals as they were known at the end of a day: what is booked by then, with every correction booked later taken
   * out again. The few gifts corrected since are worked out one by one.
   */
  private async asKnownOn(asked: AskedTotals, asOf: string): Promise<Row[]> {
    if (asked.credit !== 'legal' || asked.segmentId !== null)
      throw new Problem(
        400,
        'invalid',
        'Totals as they were known on a day are of legal donors, of everyone or of one supporter.',
      );
    const corrected = await this.sql.rows<{
      gift_id: number;
      kind: Correction['kind'];
      booked_on: string;
      was: string;
      became: string;
    }>(
      // correction_booked (booked_on)
      'SELECT gift_id, kind, booked_on, was, became FROM correction WHERE gift_id IN (SELECT gift_id FROM correction WHERE booked_on > ?) ORDER BY id',
      [asOf],
    );
    const calendar = await this.settings.calendar();
    const span = spanOf(asked.window, calendar);
    const home = asked.household && asked.supporterId !== null ? await this.home(asked.supporterId) : undefined;
    const narrowing: GiftNarrowing = home || asked.supporterId === null ? {} : { supporterId: asked.supporterId };
    const { where, params } = conditionsOf(narrowing, home);
    const since = new Set(corrected.map((row) => row.gift_id));
    // gift_booked (booked_on); parts of split gifts stand in their own table
    const gifts = await this.sql.rows<GiftRecord>(
      `SELECT g.* FROM gift g WHERE ${[...where, 'g.booked_on <= ?', '(g.cents > 0 OR g.id IN (?))'].join(' AND ')}`,
      [...params, asOf, since.size > 0 ? [...since] : [0]],
    );
    const split = gifts.filter((gift) => gift.split === 1 && !since.has(gift.id)).map((gift) => gift.id);
    const parts = await this.sql.rows<{ gift_id: number } & GiftState['parts'][number]>(
      'SELECT gift_id, cents, fund_id AS fundId, campaign_id AS campaignId, appeal_id AS appealId FROM gift_split WHERE gift_id IN (?)',
      [split.length > 0 ? split : [0]],
    );
    const totals = new Map<string, { cents: number; gifts: Set<number>; donors: Set<number> }>();
    for (const gift of gifts) {
      const changes = corrected
        .filter((row) => row.gift_id === gift.id)
        .map((row): Correction => ({
          kind: row.kind,
          bookedOn: row.booked_on,
          before: JSON.parse(row.was),
          after: JSON.parse(row.became),
        }));
      const ownParts = parts.filter((part) => part.gift_id === gift.id);
      const whole = { cents: gift.cents, fundId: gift.fund_id, campaignId: gift.campaign_id, appealId: gift.appeal_id };
      const now: GiftState = {
        supporterId: gift.supporter_id,
        cents: gift.cents,
        date: gift.date,
        method: gift.method,
        parts: ownParts.length > 0 ? ownParts : [whole],
      };
      const state = stateAt(now, gift.booked_on, changes, asOf);
      const day = state === null ? 0 : dayNumber(state.date);
      if (state === null || state.cents === 0 || day < span.from || day > span.to) continue;
      if (asked.method !== null && state.method !== asked.method) continue;
      for (const part of state.parts) {
        if (asked.fundId !== null && part.fundId !== asked.fundId) continue;
        if (asked.campaignId !== null && part.campaignId !== asked.campaignId) continue;
        if (asked.appealId !== null && part.appealId !== asked.appealId) continue;
        const key = keyOf(asked.by, state, part, calendar.fiscalYearStart);
        const total = totals.get(key) ?? { cents: 0, gifts: new Set(), donors: new Set() };
        total.cents += part.cents;
        total.gifts.add(gift.id);
        total.donors.add(state.supporterId);
        totals.set(key, total);
      }
    }
    return [...totals].map(([key, one]) => ({ key, cents: one.cents, gifts: one.gifts.size, donors: one.donors.size }));
  }

  private async home(supporterId: number): Promise<number[] | undefined> {
    const home = await householdOf(this.sql, supporterId);
    return home === null ? undefined : homeOf(this.sql, home);
  }

  private async namesOf(by: TotalBy): Promise<(key: string) => string> {
    const { funds, campaigns, appeals } = await this.settings.choices();
    const list = { fund: funds, campaign: campaigns, appeal: appeals }[by as 'fund' | 'campaign' | 'appeal'];
    if (list) return (key) => list.find((one) => one.id === Number(key))?.name ?? `No ${by}`;
    if (by === 'method') return (key) => PAYMENT_METHODS[key as PaymentMethod] ?? key;
    if (by === 'year') return (key) => `FY${key}`;
    return (key) => (by === 'month' ? key : TOTAL_BY.nothing);
  }
}

function keyOf(by: TotalBy, state: GiftState, part: GiftState['parts'][number], fiscalYearStart: number): string {
  switch (by) {
    case 'nothing':
      return '';
    case 'fund':
      return String(part.fundId);
    case 'campaign':
      return String(part.campaignId ?? 0);
    case 'appeal':
      return String(part.appealId ?? 0);
    case 'method':
      return state.method;
    case 'year':
      return String(fiscalYearOf(state.date, fiscalYearStart));
    case 'month':
      return state.date.slice(0, 7);
  }
}

/** The gifts that a narrowing or totals ask for, in the terms of facts. */
const filterIn = (
  asked: Pick<AskedTotals, 'window' | 'fundId' | 'campaignId' | 'appealId' | 'method'>,
  calendar: Calendar,
): GiftFilter =>
  filterOf({ ...asked, fund: asked.fundId, campaign: asked.campaignId, appeal: asked.appealId }, calendar);
