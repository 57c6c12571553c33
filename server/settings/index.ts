import type { z } from 'zod';
import type { Calendar, KeptWindow } from '@tallystick/core/dates';
import { DEFAULT_RULES } from '@tallystick/core/names';
import type { AddressingRules } from '@tallystick/core/names';
import * as contract from '@tallystick/contract/setup';
import type { DataSource } from 'typeorm';
import type { Http } from '../platform/http.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Days } from '../platform/known.ts';
import type { Clock } from '../platform/clock.ts';
import { lastRevision } from '../platform/changes.ts';
import type { Actor, Changes } from '../platform/changes.ts';
import { AppealTable, CampaignTable, choiceView, FundTable, SourceTable } from './gift-codes.ts';
import { GiftCodes } from './gift-codes.ts';
import type { Formats } from '@tallystick/core/money';
import type { Sql } from '../platform/db.ts';
import { area } from '../area.ts';
import { Fields, serveFields } from './fields.ts';
import { DEFAULT_ORGANIZATION, OrganizationTable } from './organization.entity.ts';
import type { OrganizationRow } from './organization.entity.ts';
import { OwnOrganization, serveOrganization } from './organization.ts';
import { Views, serveViews } from './views.ts';
import { Windows, windowsIn } from './windows.ts';

export type Choices = z.infer<typeof contract.listChoices.response>;

const FRESH_MS = 2000;

/** What an organisation is and chooses from. */
export class Settings {
  private known: { row: OrganizationRow; windows: readonly KeptWindow[]; at: number } | null = null;

  /** What was offered last, for as long as nothing is written. */
  private offered: { revision: number; choices: Choices } | null = null;
  private readonly offers: (() => Promise<Partial<Choices>>)[] = [];

  constructor(
    private readonly source: DataSource,
    private readonly clock: Clock,
  ) {}

  /** The organization; read again after a moment, since another process may have changed it. */
  async organization(): Promise<OrganizationRow> {
    return (await this.fresh()).row;
  }

  private async fresh() {
    const now = this.clock.now().getTime();
    if (this.known && now - this.known.at < FRESH_MS) return this.known;
    const sql = sqlOn(this.source);
    const [row, windows] = await Promise.all([
      one<OrganizationRow>(sql, 'SELECT * FROM organization WHERE id = 1'),
      windowsIn(sql),
    ]);
    if (!row) throw new Error('The organization was never set up.');
    this.known = { row, windows, at: now };
    return this.known;
  }

  /** How amounts and days are written. */
  formats(): Promise<Formats> {
    return this.organization();
  }

  /** Today in the organisation's time zone, when its fiscal year begins, and the windows that it keeps by name. */
  async calendar(): Promise<Calendar> {
    const { row, windows } = await this.fresh();
    return { today: this.clock.today(row.time_zone), fiscalYearStart: row.fiscal_year_start, windows };
  }

  /** What today is, and the zone in which a day ends. */
  async days(): Promise<Days> {
    const { time_zone: timeZone } = await this.organization();
    return { today: this.clock.today(timeZone), timeZone };
  }

  async choices() {
    const [windows, funds, campaigns, appeals, sources] = await Promise.all([
      windowsIn(sqlOn(this.source)),
      this.source.getRepository(FundTable).find({ order: { name: 'ASC' } }),
      this.source.getRepository(CampaignTable).find({ order: { name: 'ASC' } }),
      this.source.getRepository(AppealTable).find({ order: { name: 'ASC' } }),
      this.source.getRepository(SourceTable).find({ order: { code: 'ASC' } }),
    ]);
    return {
      windows,
      funds: funds.map(choiceView),
      campaigns: campaigns.map(choiceView),
      appeals: appeals.map((row) => ({ ...choiceView(row), campaignId: row.campaign_id })),
      sources: sources.map((row) => ({ ...choiceView(row), appealId: row.appeal_id })),
    };
  }

  /** Adds lists that another area keeps to what forms and conditions choose from. */
  offer(lists: () => Promise<Partial<Choices>>): void {
    this.offers.push(lists);
  }

  /** Everything that forms and conditions choose from; the contract refuses what lacks a list. */
  async everyChoice(): Promise<Choices> {
    return (await this.choicesAsOf()).choices;
  }

  /** The same with the revision that it is as of. */
  async choicesAsOf(): Promise<{ revision: number; choices: Choices }> {
    const revision = await lastRevision(sqlOn(this.source));
    if (this.offered?.revision !== revision) this.offered = { revision, choices: await this.choicesNow() };
    return this.offered;
  }

  private async choicesNow(): Promise<Choices> {
    const lists = await Promise.all([this.choices(), ...this.offers.map((list) => list())]);
    return contract.listChoices.response.parse(Object.assign({}, ...lists));
  }

  async addressingRules(): Promise<AddressingRules> {
    const { addressing } = await this.organization();
    if (addressing === null) return DEFAULT_RULES;
    const rules: Partial<AddressingRules> = JSON.parse(addressing);
    return { ...DEFAULT_RULES, ...rules };
  }

  async setAddressingRules(changes: Changes, actor: Actor, rules: AddressingRules) {
    const committed = await changes.write(
      actor,
      { kind: 'edit', summary: 'Changed how supporters are addressed' },
      (tx) => tx.update(OrganizationTable, 1, { addressing: JSON.stringify(rules) }),
    );
    this.forget();
    return committed;
  }

  /** Has the organization read anew at the next question. */
  forget(): void {
    this.known = null;
  }
}

/** The day through which the books are closed, or null. */
export async function closedThrough(sql: Sql): Promise<string | null> {
  const row = await one<{ closed_through: string | null }>(sql, 'SELECT closed_through FROM organization WHERE id = 1');
  return row?.closed_through ?? null;
}

/** The day through which the books are closed with what each fund came to then, as `sumsThrough` wrote it. */
export const closedBooks = (sql: Sql): Promise<{ through: string | null; sums: string | null } | null> =>
  one(sql, 'SELECT closed_through AS through, closed_sums AS sums FROM organization WHERE id = 1');

/** The same, locked so that no gift slips in while they are being closed. */
export async function lockClosedThrough(sql: Sql): Promise<string | null> {
  const row = await one<{ closed_through: string | null }>(
    sql,
    'SELECT closed_through FROM organization WHERE id = 1 LOCK IN SHARE MODE',
  );
  return row?.closed_through ?? null;
}

/** What today is where the organization is, inside a transaction. */
export async function todayIn(sql: Sql, clock: Clock): Promise<string> {
  const here = await one<{ zone: string }>(sql, 'SELECT time_zone AS zone FROM organization WHERE id = 1');
  return clock.today(here?.zone ?? DEFAULT_ORGANIZATION.time_zone);
}

/** How amounts and days are written, inside a transaction. */
export async function formatsIn(sql: Sql): Promise<Formats> {
  const found = await one<Formats>(sql, 'SELECT currency, locale FROM organization WHERE id = 1');
  return found ?? DEFAULT_ORGANIZATION;
}

export function serveGiftCodes(http: Http, codes: GiftCodes): void {
  http.on(contract.listGiftCodes, async ({ params }) => ({ items: await codes.list(params.kind) }));
  http.on(contract.addGiftCode, async ({ actor, params, body }) => {
    const { revision, result } = await codes.add(actor, params.kind, body);
    return { revision, ...result };
  });
  http.on(contract.changeGiftCode, async ({ actor, params, body }) => {
    const { revision } = await codes.change(actor, params.kind, params.id, body);
    return { revision };
  });
  http.on(contract.deleteGiftCode, async ({ actor, params }) => {
    const { revision } = await codes.remove(actor, params.kind, params.id);
    return { revision };
  });
}

export function serveSettings(http: Http, settings: Settings, changes: Changes): void {
  http.on(contract.listChoices, () => settings.everyChoice());
  http.on(contract.getAddressingRules, async () => ({ rules: await settings.addressingRules() }));
  http.on(contract.setAddressingRules, async ({ actor, body }) => {
    const { revision } = await settings.setAddressingRules(changes, actor, body.rules as AddressingRules);
    return { revision };
  });
}

export {
  CustomFieldTable,
  Fields,
  fieldsIn,
  valuesOffList,
  GiftFieldTable,
  readFields,
  serveFields,
  SupporterFieldTable,
  syncFields,
  fieldKinds,
  fieldValuesOf,
  joinFields,
} from './fields.ts';
export { serveViews, Views } from './views.ts';
export { WindowTable } from './windows.ts';
export { DEFAULT_ORGANIZATION, OrganizationTable } from './organization.entity.ts';
export type { OrganizationRow } from './organization.entity.ts';
export type { OwnOrganization } from './organization.ts';
export { APPEALS, CAMPAIGNS, FUNDS, SOURCES } from './gift-codes.ts';
export { AppealTable, CampaignTable, FundTable, GiftCodes, refuseClosed, SourceTable } from './gift-codes.ts';

/** What the organisation is, chooses from and sets up. */
export const settingsArea = area('settings', ({ source, clock, changes, http, config }) => {
  const settings = new Settings(source, clock);
  const fields = new Fields(source, changes);
  serveSettings(http, settings, changes);
  serveFields(http, fields);
  serveViews(http, new Views(source, changes));
  new Windows(source, changes, () => settings.forget()).serve(http);
  serveGiftCodes(http, new GiftCodes(source, changes));
  const own = new OwnOrganization(source, settings, changes);
  serveOrganization(http, own, config);
  return { settings, fields, own };
});
