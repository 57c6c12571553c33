import type { DataSource } from 'typeorm';
import { postalLines, waysOn } from '@tallystick/core/contact';
import { showField, kept, typedField } from '@tallystick/core/fields';
import type { FieldKind } from '@tallystick/core/fields';
import { displayName, supporterParts } from '@tallystick/core/names';
import type { Form } from '@tallystick/core/names';
import type { Supporter, SupporterDraft } from '@tallystick/contract/supporters';
import type { FactsThread } from '../facts/index.ts';
import { pageOf } from '../platform/page.ts';
import type { Asked } from '../platform/page.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Actor, Changes, Committed, Reason } from '../platform/changes.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import { fieldsIn, readFields, syncFields } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { Addressing, loadParties, overridesIn } from './addressing.ts';
import { homeInTrash, mendPrimary, moveHome, syncMembers } from './households.ts';
import * as record from './record.ts';
import type { RecordParts } from './parts.ts';
import type { AddressRecord, SupporterRecord, WayRecord, WishRecord } from './supporter.entity.ts';
import { SupporterTable } from './supporter.entity.ts';
import { refusalsOf } from './refusals.ts';
import { wayRows } from './ways.ts';
import { supporterNumber } from '@tallystick/core/supporters';

const wayShown = (way: WayRecord) => ({
  id: way.id,
  label: way.label,
  preferred: way.preferred === 1,
  validFrom: way.valid_from,
  validTo: way.valid_to,
  badOn: way.bad_on,
  badReason: way.bad_reason,
});
/** As a record shows them: the preferred first, the former last. */
const inUse = (a: WayRecord, b: WayRecord): number =>
  b.preferred - a.preferred || Number(a.valid_to !== null) - Number(b.valid_to !== null) || a.id - b.id;
const addressShown = (way: AddressRecord) => {
  const { street, city, region, postal, country, season_from, season_to } = way;
  return { ...wayShown(way), street, city, region, postal, country, seasonFrom: season_from, seasonTo: season_to };
};

type MemberRow = { id: number; prefix: string; first: string; middle: string; last: string; suffix: string };
const someone = (row: MemberRow) => ({
  id: row.id,
  number: supporterNumber(row.id),
  name: displayName(supporterParts({ ...row, kind: 'person' })),
});

/** Records of supporters: read whole, added and changed. */
export class Supporters {
  private readonly sql: Sql;
  private readonly addressing: Addressing;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly facts: FactsThread,
    private readonly parts: RecordParts,
    private readonly changesSince: (supporterId: number, sets: number) => Promise<string[]>,
  ) {
    this.sql = sqlOn(source);
    this.addressing = new Addressing(this.sql, settings);
  }

  async get(id: number): Promise<Supporter> {
    const calendar = await this.settings.calendar();
    const row = await one<SupporterRecord>(this.sql, 'SELECT * FROM supporter WHERE id = ?', [id]);
    if (!row || row.state === 'erased') throw notFound(`Supporter ${supporterNumber(id)}`);
    // The number of who was merged leads to whom they are now.
    if (row.merged_into !== null) return this.get(row.merged_into);
    const wishing = this.sql.rows<WishRecord>('SELECT * FROM wish WHERE supporter_id = ? ORDER BY id', [id]);
    const [rows, wishes, refusals, belongs, parts, [given], addressing, home, tasks, organization] = await Promise.all([
      wayRows(this.sql, [id]),
      wishing,
      refusalsOf(this.sql, id),
      this.belongings(id),
      this.householdOf(row).then((household) => this.parts.read({ id, household, today: calendar.today })),
      this.facts.ask({ ask: 'giving', ids: [id], calendar }),
      wishing.then((all) =>
        this.addressing.ofRow(
          row,
          all.some(({ kind }) => kind === 'deceased'),
        ),
      ),
      this.home(row),
      // task_supporter (supporter_id, done_on, due)
      this.sql.rows<{ id: number; title: string; due: string }>(
        'SELECT id, title, due FROM task WHERE supporter_id = ? AND done_on IS NULL ORDER BY due, id LIMIT 5',
        [id],
      ),
      this.settings.organization(),
    ]);
    if (!given) throw notFound(`Supporter ${supporterNumber(id)}`);
    const ways = {
      emails: rows.email.sort(inUse).map((way) => ({ ...wayShown(way), address: way.address })),
      phones: rows.phone.sort(inUse).map((way) => ({ ...wayShown(way), number: way.number })),
      addresses: rows.address.sort(inUse).map(addressShown),
    };
    const { email, phone, address: best } = waysOn(ways, calendar.today);
    const { version, kind, prefix, first, middle, last, suffix, nickname, birthday } = row;
    return {
      ...{ id, version, kind, prefix, first, middle, last, suffix, nickname, birthday, ...ways },
      organization: row.organization,
      formerLast: row.former_last,
      orgKind: row.org_kind as Supporter['orgKind'],
      number: supporterNumber(id),
      name: displayName(row),
      trashed: row.state === 'trash',
      addressing: addressing.forms,
      wishes: wishes.map((wish) => ({
        kind: wish.kind,
        since: wish.since,
        source: wish.source,
        by: wish.set_by,
        happenedOn: wish.happened_on,
      })),
      refusals,
      reach: {
        addressId: best?.id ?? null,
        lines: best ? postalLines(best, organization.country) : [],
        email: email?.address ?? null,
        phone: phone?.number ?? null,
        deceased: addressing.deceased,
      },
      ...belongs,
      ...home,
      pending: {
        unthanked: parts.timeline.filter((notch) => notch.kind === 'gift' && notch.acknowledgedOn === null).length,
        tasks,
        overdue: parts.overdue,
        failing: parts.failing,
      },
      giving: given.giving,
      timeline: parts.timeline,
    };
  }

  /** Whose giving the stick of a record shows: a household's carries the notches of everyone in it. */
  private async householdOf(row: SupporterRecord): Promise<number[]> {
    if (row.kind !== 'household') return [row.id];
    // supporter_household (household_id)
    const people = await this.sql.rows<{ id: number }>('SELECT id FROM supporter WHERE household_id = ?', [row.id]);
    return [row.id, ...people.map((person) => person.id)];
  }

  /** Tags, groups, values of fields and numbers elsewhere, in one question. */
  private async belongings(id: number) {
    type Line = {
      what: 'tag' | 'group' | 'field' | 'elsewhere';
      id: number;
      name: string;
      more: string;
      kind: FieldKind;
      choices: string;
    };
    const lines = await this.sql.rows<Line>(
      `SELECT 'tag' AS what, t.id, t.name, x.source AS more, '' AS kind, '' AS choices FROM supporter_tag x JOIN tag t ON t.id = x.tag_id
         WHERE x.supporter_id = ?
       UNION ALL SELECT 'group', g.id, g.name, '', '', '' FROM group_member m JOIN people_group g ON g.id = m.group_id WHERE m.supporter_id = ?
       UNION ALL SELECT 'field', f.id, f.name, v.value, f.kind, f.choices FROM supporter_field v JOIN custom_field f ON f.id = v.field_id
         WHERE v.supporter_id = ?
       UNION ALL SELECT 'elsewhere', k.id, k.called, k.source, '', '' FROM known_as k
         WHERE k.supporter_id = ? AND k.called NOT LIKE '= %' ORDER BY name`,
      [id, id, id, id],
    );
    const formats = await this.settings.formats();
    const of = (what: Line['what']): Line[] => lines.filter((line) => line.what === what);
    return {
      tags: of('tag').map((line) => ({ id: line.id, name: line.name, source: line.more })),
      groups: of('group').map(({ id: group, name }) => ({ id: group, name })),
      elsewhere: of('elsewhere').map(({ name: number, more: source }) => ({ number, source })),
      fields: of('field').map(({ id: fieldId, kind, more }) => ({
        fieldId,
        typed: typedField({ kind }, kept(more)),
        shown: showField({ kind }, kept(more), formats),
      })),
    };
  }

  /** The household of a person with who else is in it, or the people of a household. */
  private async home(row: SupporterRecord): Promise<Pick<Supporter, 'household' | 'members'>> {
    const homeId = row.kind === 'household' ? row.id : row.household_id;
    if (homeId === null) return { household: null, members: [] };
    const [home, people] = await Promise.all([
      homeId === row.id
        ? row
        : one<SupporterRecord>(this.sql, `SELECT * FROM supporter WHERE id = ? AND state = 'active'`, [homeId]),
      // supporter_household (household_id)
      this.sql.rows<MemberRow>(`SELECT * FROM supporter WHERE household_id = ? AND state = 'active' ORDER BY id`, [
        homeId,
      ]),
    ]);
    if (!home) return { household: null, members: [] };
    const ids = people.map((person) => person.id);
    // While the primary is in the trash, the first of the others stands in for them.
    const primary = ids.find((one) => one === home.primary_id) ?? ids[0] ?? null;
    const given = await this.facts.ask({ ask: 'giving', ids, calendar: await this.settings.calendar() });
    const members = people.map((person, index) => ({
      ...someone(person),
      primary: primary === person.id,
      lifetime: given[index]?.giving.lifetime ?? 0,
    }));
    if (homeId === row.id) return { household: null, members };
    const household = {
      id: home.id,
      number: supporterNumber(home.id),
      name: displayName(home),
      primary: primary === row.id,
    };
    return { household, members: members.filter((member) => member.id !== row.id) };
  }

  /** Adds a supporter with contact details, tags, wishes and members. */
  async add(actor: Actor, draft: SupporterDraft, key: Reason['key']): Promise<Committed<{ id: number }>> {
    const { today } = await this.settings.calendar();
    const { country: home } = await this.settings.organization();
    return this.changes.write(
      actor,
      { kind: 'edit', summary: `Added ${displayName(draft)}`, key: key ?? null },
      async (tx) => {
        const id = await tx.insert(SupporterTable, record.supporterRow(draft));
        const ways = record.contactRows(draft, { today, home });
        for (const [kind, rows] of Object.entries(ways))
          await tx.insertRows(
            record.WAYS[kind as keyof typeof ways],
            rows.map(({ id: _new, ...row }) => ({ supporter_id: id, ...row })),
          );
        await record.syncTags(tx, id, draft.tags);
        await this.syncRest(tx, actor, id, draft, today);
        return { id };
      },
    );
  }

  /** Changes a supporter. Throws a 409 that says what changed, and how it is now, when `version` is not the newest. */
  async change(actor: Actor, id: number, version: number, draft: SupporterDraft): Promise<Committed<void>> {
    const { today } = await this.settings.calendar();
    const { country: home } = await this.settings.organization();
    try {
      return await this.changes.write(actor, { kind: 'edit', summary: `Changed ${displayName(draft)}` }, async (tx) => {
        const current = await record.lockSupporter(tx, id, `Supporter ${supporterNumber(id)}`);
        if (current['version'] !== version) throw new StaleRecord(Number(current['version']) - version);
        await this.refuseKind(tx, id, current['kind'], draft);
        await tx.update(SupporterTable, id, record.supporterRow(draft));
        await record.syncContact(tx, id, draft, { today, home });
        await record.syncTags(tx, id, draft.tags);
        await this.syncRest(tx, actor, id, draft, today);
      });
    } catch (error) {
      if (error instanceof StaleRecord) throw await this.stale(id, error.missed);
      throw error;
    }
  }

  private async stale(id: number, missed: number): Promise<Problem> {
    const [changed, current] = await Promise.all([this.changesSince(id, missed), this.get(id)]);
    return new Problem(
      409,
      'stale',
      `Someone changed this record while you were editing: ${changed.join('; ') || 'reload to see it'}.`,
      { details: { changed, version: current.version, current } },
    );
  }

  private async refuseKind(tx: Transaction, id: number, before: unknown, draft: SupporterDraft): Promise<void> {
    if (before === draft.kind) return;
    const members = await tx.sql.rows('SELECT id FROM supporter WHERE household_id = ? LIMIT 1', [id]);
    if (members.length > 0)
      throw record.refused('kind', 'This household has members; take them out before it becomes something else.');
    if (draft.kind !== 'person') await moveHome(tx, id, null);
  }

  private async syncRest(
    tx: Transaction,
    actor: Actor,
    id: number,
    draft: SupporterDraft,
    today: string,
  ): Promise<void> {
    if (draft.householdId !== undefined && draft.kind === 'person')
      if (draft.householdId !== null || !(await homeInTrash(tx, id))) await moveHome(tx, id, draft.householdId);
    if (draft.kind === 'household') {
      if (draft.members !== undefined) await syncMembers(tx, id, draft.members);
      else await mendPrimary(tx, id);
    }
    if (draft.wishes !== undefined) await record.syncWishes(tx, actor, id, draft.wishes, today);
    if (draft.fields !== undefined) {
      const values = readFields(await fieldsIn(tx.sql, 'supporter'), draft.fields);
      await syncFields(tx, 'supporter', { supporter_id: id }, values);
    }
    if (draft.addressing !== undefined) {
      const row = (await tx.lock(SupporterTable, [id])).get(id);
      const party = (await loadParties(tx.sql, [id], today)).get(id);
      if (!party) return;
      const before = overridesIn(typeof row?.['addressing'] === 'string' ? row['addressing'] : null);
      const addressing = record.overridesOf(draft.addressing, party, await this.settings.addressingRules(), before);
      await tx.update(SupporterTable, id, { addressing });
    }
  }

  /** How supporters are addressed in one form, for letters and lists. */
  async addressedAs(ids: readonly number[], form: Form = 'addresseeFormal'): Promise<Map<number, string>> {
    const all = await this.addressing.of(ids);
    return new Map([...all].map(([id, { forms }]) => [id, forms[form].text]));
  }

  /** What was sent to a supporter, newest first. */
  correspondence(id: number, asked: Asked) {
    return pageOf<{
      id: number;
      at: string;
      channel: 'email' | 'print';
      subject: string;
      state: string;
      detail: string;
      address: string;
      sourceKind: string;
      sourceId: number;
      receiptId: number | null;
      openedAt: string | null;
    }>(
      this.sql,
      {
        // delivery_supporter (supporter_id, at)
        select: `SELECT id, at, channel, subject, state, detail, address, source_kind AS sourceKind, source_id AS sourceId,
          receipt_id AS receiptId, opened_at AS openedAt FROM delivery WHERE supporter_id = ?`,
        params: [id],
        order: [
          { sql: 'at', as: 'at', down: true },
          { sql: 'id', as: 'id', down: true },
        ],
      },
      asked,
    );
  }
}

class StaleRecord extends Error {
  constructor(readonly missed: number) {
    super('stale');
  }
}
