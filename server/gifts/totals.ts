import type { DataSource } from 'typeorm';
import { spanOf } from '@tallystick/core/dates';
import type { Calendar, Window } from '@tallystick/core/dates';
import { METHOD_CODES, PAYMENT_METHODS } from '@tallystick/core/gifts';
import type { PaymentMethod } from '@tallystick/core/gifts';
import { FACETS, TOTAL_BY, totalsKnown } from '@tallystick/core/totals';
import type { CreditChoice, GiftFilter, TotalBy } from '@tallystick/core/totals';
import type { FactsThread } from '../facts/index.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { Problem } from '../platform/problem.ts';
import type { Settings } from '../settings/index.ts';
import { giftsAsKnown } from './as-known.ts';
import type { GiftNarrowing } from './list-sql.ts';
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
    const by = await this.adding(asked);
    const rows = await by(asked.by);
    const [all] = asked.by === 'nothing' ? rows : await by('nothing');
    const named = namesAmong(await this.settings.choices(), asked.by);
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
    const [facets, choices] = await Promise.all([this.askFacets(query), this.settings.choices()]);
    if (!facets) return null;
    return FACETS.map((by) => {
      const nameOf = namesAmong(choices, by);
      const keyOf = (key: number): string => (by === 'method' ? (METHOD_CODES[key] ?? 'other') : String(key));
      const items = facets[by].slice(0, 50);
      return { by, items: items.map(({ key, ...sum }) => ({ key: keyOf(key), name: nameOf(keyOf(key)), ...sum })) };
    });
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

  /** What adds up by one key or another: from facts, or the gifts as they were known at the end of a day. */
  private async adding(asked: AskedTotals): Promise<(by: TotalBy) => Promise<Row[]> | Row[]> {
    const { asOf } = asked;
    if (asOf === null) return (by) => this.fromFacts(asked, by);
    if (asked.credit !== 'legal' || asked.segmentId !== null)
      throw new Problem(
        400,
        'invalid',
        'Totals as they were known on a day are of legal donors, of everyone or of one supporter.',
      );
    const calendar = await this.settings.calendar();
    const { supporterId, household } = asked;
    const donors =
      supporterId === null ? null : household ? ((await this.home(supporterId)) ?? [supporterId]) : [supporterId];
    const gifts = await giftsAsKnown(this.sql, asOf, await this.settings.days(), donors);
    const filter = {
      ...asked,
      span: spanOf(asked.window, calendar),
      donors: donors === null ? null : new Set(donors),
      fiscalYearStart: calendar.fiscalYearStart,
    };
    return (by) => totalsKnown(gifts, { ...filter, by });
  }

  private async home(supporterId: number): Promise<number[] | undefined> {
    const home = await householdOf(this.sql, supporterId);
    return home === null ? undefined : homeOf(this.sql, home);
  }
}

/** What the keys are called that totals are by. */
function namesAmong(
  { funds, campaigns, appeals }: Awaited<ReturnType<Settings['choices']>>,
  by: TotalBy,
): (key: string) => string {
  const list = { fund: funds, campaign: campaigns, appeal: appeals }[by as 'fund' | 'campaign' | 'appeal'];
  if (list) return (key) => list.find((one) => one.id === Number(key))?.name ?? `No ${by}`;
  if (by === 'method') return (key) => PAYMENT_METHODS[key as PaymentMethod] ?? key;
  if (by === 'year') return (key) => `FY${key}`;
  return (key) => (by === 'month' ? key : TOTAL_BY.nothing);
}

/** The gifts that a narrowing or totals ask for, in the terms of facts. */
const filterIn = (
  asked: Pick<AskedTotals, 'window' | 'fundId' | 'campaignId' | 'appealId' | 'method'>,
  calendar: Calendar,
): GiftFilter => ({
  ...{ span: spanOf(asked.window, calendar), fund: asked.fundId, campaign: asked.campaignId, appeal: asked.appealId },
  method: asked.method === null ? null : METHOD_CODES.indexOf(asked.method),
});
