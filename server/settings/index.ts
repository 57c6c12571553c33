import type { Calendar } from '@tallystick/core/dates';
import type { DataSource } from 'typeorm';
import { one, sqlOn } from '../platform/db.ts';
import type { Clock } from '../platform/clock.ts';
import { flag, ref, table, text, maybe } from '../platform/tables.ts';

export interface ChoiceRow {
  id: number;
  version: number;
  code: string;
  name: string;
  closed: number;
}
export interface AppealRow extends ChoiceRow {
  campaign_id: number | null;
}
const choice = { code: text(30), name: text(120), closed: flag };
export const FundTable = table<ChoiceRow>('fund', {}, choice);
export const CampaignTable = table<ChoiceRow>('campaign', {}, choice);
export const AppealTable = table<AppealRow>('appeal', {}, { ...choice, campaign_id: maybe(ref) });

export interface OrganizationRow {
  name: string;
  town: string;
  tax_id: string;
  currency: string;
  locale: string;
  time_zone: string;
  fiscal_year_start: number;
  mail_from: string;
  secret: string;
}

const FRESH_MS = 2000;

/** What an organisation is and chooses from. */
export class Settings {
  private known: { row: OrganizationRow; at: number } | null = null;

  constructor(
    private readonly source: DataSource,
    private readonly clock: Clock,
  ) {}

  /** The organization; read again after a moment, since another process may have changed it. */
  async organization(): Promise<OrganizationRow> {
    const now = this.clock.now().getTime();
    if (this.known && now - this.known.at < FRESH_MS) return this.known.row;
    const row = await one<OrganizationRow>(sqlOn(this.source), 'SELECT * FROM organization WHERE id = 1');
    if (!row) throw new Error('The organization was never set up.');
    this.known = { row, at: now };
    return row;
  }

  /** Today in the organisation's time zone, and when its fiscal year begins. */
  async calendar(): Promise<Calendar> {
    const { time_zone, fiscal_year_start } = await this.organization();
    return { today: this.clock.today(time_zone), fiscalYearStart: fiscal_year_start };
  }

  async choices() {
    const [funds, campaigns, appeals] = await Promise.all([
      this.source.getRepository(FundTable).find({ order: { name: 'ASC' } }),
      this.source.getRepository(CampaignTable).find({ order: { name: 'ASC' } }),
      this.source.getRepository(AppealTable).find({ order: { name: 'ASC' } }),
    ]);
    const view = (row: ChoiceRow) => ({ id: row.id, code: row.code, name: row.name, closed: row.closed === 1 });
    return {
      funds: funds.map(view),
      campaigns: campaigns.map(view),
      appeals: appeals.map((row) => ({ ...view(row), campaignId: row.campaign_id })),
    };
  }

  async tags() {
    return sqlOn(this.source).rows<{ id: number; name: string; count: number }>(
      `SELECT t.id, t.name, COUNT(s.id) AS count FROM tag t LEFT JOIN supporter_tag x ON x.tag_id = t.id
       LEFT JOIN supporter s ON s.id = x.supporter_id AND s.trashed = 0 GROUP BY t.id ORDER BY t.name`,
    );
  }

  async regions(): Promise<string[]> {
    const rows = await sqlOn(this.source).rows<{ region: string }>(
      `SELECT DISTINCT region FROM address WHERE preferred = 1 AND region <> '' ORDER BY region`,
    );
    return rows.map((row) => row.region);
  }
}

export const DEFAULT_ORGANIZATION: OrganizationRow = {
  name: 'Our organization',
  town: '',
  tax_id: '',
  currency: 'USD',
  locale: 'en-US',
  time_zone: 'America/New_York',
  fiscal_year_start: 1,
  mail_from: 'office@example.org',
  secret: '',
};
