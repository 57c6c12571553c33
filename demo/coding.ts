import { addMonths, fiscalYearOf, fiscalYearSpan } from '@tallystick/core/dates';
import type { IsoDate } from '@tallystick/core/dates';
import type { Transaction } from '@tallystick/server/platform/transaction';
import { challengeSpan, EMERGENCY, FISCAL_YEAR_START, FUNDS, SEASONS, YEARS } from './gifts.ts';
import type { FundCode } from './gifts.ts';
import { AppealTable, CampaignTable, FundTable } from '@tallystick/server/settings/index';

/** The capital campaign runs for three years and is in its first. */
const domeSpan = (today: IsoDate) => ({ from: addMonths(today, -9), to: addMonths(today, 27) });

/** Where the demo's gifts go. */
export class DemoPlaces {
  private constructor(
    readonly today: IsoDate,
    private readonly funds: ReadonlyMap<string, number>,
    private readonly campaigns: ReadonlyMap<string, number>,
    private readonly appeals: ReadonlyMap<string, { id: number; campaignId: number }>,
  ) {}

  /** Writes the funds, the campaigns and the appeals of all fiscal years. */
  static async put(tx: Transaction, today: IsoDate): Promise<DemoPlaces> {
    const thisYear = fiscalYearOf(today, FISCAL_YEAR_START);
    const years = Array.from({ length: YEARS }, (_, ago) => thisYear - YEARS + 1 + ago);
    const closed = (year: number): number => (year < thisYear - 1 ? 1 : 0);
    const funds = FUNDS.map(({ code, name, closed: over }) => ({ code, name, closed: over ? 1 : 0 }));
    const span = ({ from, to }: { from: IsoDate; to: IsoDate }) => ({ starts_on: from, ends_on: to });
    const campaigns = [
      ...years.map((year) => ({
        ...{ code: `AF${year}`, name: `Annual Fund FY${year}`, closed: closed(year) },
        ...span(fiscalYearSpan(year, FISCAL_YEAR_START)),
      })),
      { code: 'DOME2', name: 'Second Dome', closed: 0, ...span(domeSpan(today)) },
      { code: 'LAMPS', name: 'Lamp Swap Challenge', closed: 0, ...span(challengeSpan(today)) },
    ];
    const campaignIds = byCode(campaigns, await tx.insertAll(CampaignTable, campaigns));
    const appeals = [
      ...years.flatMap((year) => SEASONS.map((season) => ({ ...season, year }))),
      { ...EMERGENCY, year: thisYear - 1 },
    ].map(({ code, name, year }) => ({
      ...{ code: `${code}${year}`, name: `${name} FY${year}`, closed: closed(year) },
      campaign_id: campaignIds.get(`AF${year}`) ?? 0,
    }));
    const appealIds = await tx.insertAll(AppealTable, appeals);
    return new DemoPlaces(
      today,
      byCode(funds, await tx.insertAll(FundTable, funds)),
      campaignIds,
      new Map(
        appeals.map((appeal, index) => [appeal.code, { id: appealIds[index] ?? 0, campaignId: appeal.campaign_id }]),
      ),
    );
  }

  fund(code: FundCode): number {
    return this.funds.get(code) ?? 0;
  }

  campaign(code: 'DOME2' | 'LAMPS'): number {
    return this.campaigns.get(code) ?? 0;
  }

  /** Where a gift of a day goes: special campaigns take their fund's gifts, the Annual Fund of its year the others. */
  part(fund: FundCode, date: IsoDate, appealCode: string | null = null) {
    const special = this.special(fund, date);
    const appeal = special === null && appealCode !== null ? this.appeals.get(appealCode) : undefined;
    const annual = fund === 'GEN' ? this.campaigns.get(`AF${fiscalYearOf(date, FISCAL_YEAR_START)}`) : undefined;
    return {
      fundId: this.fund(fund),
      campaignId: special ?? appeal?.campaignId ?? annual ?? null,
      appealId: appeal?.id ?? null,
    };
  }

  private special(fund: FundCode, date: IsoDate): number | null {
    const within = ({ from, to }: { from: IsoDate; to: IsoDate }): boolean => date >= from && date <= to;
    if (fund === 'DOME' && within(domeSpan(this.today))) return this.campaign('DOME2');
    if (fund === 'LAMP' && within(challengeSpan(this.today))) return this.campaign('LAMPS');
    return null;
  }
}

const byCode = (rows: readonly { code: string }[], ids: readonly number[]): Map<string, number> =>
  new Map(rows.map((row, index) => [row.code, ids[index] ?? 0]));

/** How much of its goal each has raised, as such efforts do: the year's is on its way, past ones came close or passed. */
const REACHED: Record<string, number> = { DOME2: 0.16, LAMPS: 0.78, VAN: 0.71, LAND: 0.46, YOUNG: 0.88 };

/**
 * Gives funds and campaigns goals that fit what came in. The present Annual Fund is to raise a little more than the
 * last one did.
 */
export async function putGoals(tx: Transaction, today: IsoDate): Promise<void> {
  const thisYear = fiscalYearOf(today, FISCAL_YEAR_START);
  const open = Object.keys(REACHED).filter((code) => FUNDS.some((fund) => fund.code === code));
  const funds = await tx.sql.rows<{ id: number; code: string }>('SELECT id, code FROM fund WHERE code IN (?)', [open]);
  await tx.updateAll(
    FundTable,
    funds.map((fund) => fund.id),
    { starts_on: fiscalYearSpan(thisYear - 1, FISCAL_YEAR_START).from },
  );
  for (const table of [FundTable, CampaignTable]) {
    const { name } = table;
    const rows = await tx.sql.rows<{ id: number; code: string; cents: number }>(
      `SELECT p.id, p.code, COALESCE(SUM(COALESCE(x.cents, g.cents)), 0) AS cents FROM ${name} p
       LEFT JOIN (gift g LEFT JOIN gift_split x ON x.gift_id = g.id)
         ON COALESCE(x.${name}_id, g.${name}_id) = p.id AND g.date >= p.starts_on AND g.date <= COALESCE(p.ends_on, g.date)
       WHERE p.starts_on IS NOT NULL GROUP BY p.id`,
    );
    const raised = new Map(rows.map(({ code, cents }) => [code, Number(cents)]));
    for (const { id, code } of rows) {
      const lastYear = code === `AF${thisYear}` ? raised.get(`AF${thisYear - 1}`) : undefined;
      // Past years came to between 93 and 106 percent of what was hoped for.
      const share = REACHED[code] ?? 0.93 + ((Number(/\d+$/.exec(code)?.[0] ?? 0) * 5) % 14) / 100;
      const goal = lastYear === undefined ? (raised.get(code) ?? 0) / share : lastYear * 1.06;
      await tx.update(table, id, { goal_cents: roundGoal(goal) });
    }
  }
}

/** Goals are round: thousands, or five thousands above a hundred thousand. */
function roundGoal(cents: number): number {
  const step = cents >= 100_000_00 ? 5_000_00 : 1_000_00;
  return Math.max(1, Math.round(cents / step)) * step;
}
