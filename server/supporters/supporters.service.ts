import type { DataSource } from 'typeorm';
import { displayName } from '@tallystick/core/names';
import type { SupporterKind } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/gifts';
import type { Supporter, SupporterDraft, SupporterRow } from '@tallystick/contract/supporters';
import type { FactsThread } from '../facts/index.ts';
import type { FindThread } from '../find/index.ts';
import type { Settings } from '../settings/index.ts';
import type { Actor, Changes, Committed, Reason } from '../platform/changes.ts';
import { chunks, one, sqlOn } from '../platform/db.ts';
import type { Param, Sql } from '../platform/db.ts';
import { decodeCursor, encodeCursor } from '../platform/cursor.ts';
import { notFound, Problem } from '../platform/problem.ts';
import { contactRows, supporterRow, syncContact, tagIds } from './record.ts';
import type { AddressRecord, EmailRecord, PhoneRecord, SupporterRecord } from './supporter.entity.ts';

interface ListQuery {
  q?: string | undefined;
  kind?: SupporterKind | undefined;
  sort: 'name' | '-name' | 'number' | '-number';
  limit: number;
  cursor?: string | undefined;
}

export class Supporters {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly facts: FactsThread,
    private readonly finder: FindThread,
    private readonly changesSince: (supporterId: number, sets: number) => Promise<string[]>,
  ) {
    this.sql = sqlOn(source);
  }

  async get(id: number): Promise<Supporter> {
    const row = await one<SupporterRecord>(this.sql, 'SELECT * FROM supporter WHERE id = ?', [id]);
    if (!row) throw notFound(`Supporter ${supporterNumber(id)}`);
    const of = <T>(table: string): Promise<T[]> =>
      this.sql.rows<T>(`SELECT * FROM ${table} WHERE supporter_id = ? ORDER BY preferred DESC, id`, [id]);
    const [emails, phones, addresses, tags, tally, [giving]] = await Promise.all([
      of<EmailRecord>('email'),
      of<PhoneRecord>('phone'),
      of<AddressRecord>('address'),
      this.sql.rows<{ name: string }>(
        'SELECT t.name FROM supporter_tag x JOIN tag t ON t.id = x.tag_id WHERE x.supporter_id = ? ORDER BY t.name',
        [id],
      ),
      // gift_facts (supporter_id, date, …)
      this.sql.rows<{ id: number; date: string; cents: number; answeredOn: string | null }>(
        'SELECT id, date, cents, acknowledged_on AS answeredOn FROM gift WHERE supporter_id = ? ORDER BY date, id',
        [id],
      ),
      this.givingOf([id]),
    ]);
    const { version, kind, prefix, first, middle, last, suffix, organization } = row;
    return {
      id,
      version,
      kind,
      prefix,
      first,
      middle,
      last,
      suffix,
      organization,
      number: supporterNumber(id),
      name: displayName(row),
      noEmail: row.no_email === 1,
      deceased: row.deceased === 1,
      trashed: row.trashed === 1,
      emails: emails.map((way) => ({
        id: way.id,
        address: way.address,
        label: way.label,
        preferred: way.preferred === 1,
        bouncedOn: way.bounced_on,
      })),
      phones: phones.map((way) => ({
        id: way.id,
        number: way.number,
        label: way.label,
        preferred: way.preferred === 1,
      })),
      addresses: addresses.map(({ id: wayId, street, city, region, postal, country, label, preferred }) => ({
        id: wayId,
        street,
        city,
        region,
        postal,
        country,
        label,
        preferred: preferred === 1,
      })),
      tags: tags.map((tag) => tag.name),
      giving: giving ?? NOTHING_GIVEN,
      tally,
    };
  }

  async list(query: ListQuery): Promise<{ items: SupporterRow[]; next: string | null; total: number }> {
    if (query.q?.trim()) return this.listFound(query, query.q);
    const [column, down] = [query.sort.endsWith('name') ? 'sort_name' : 'id', query.sort.startsWith('-')];
    const where = ['trashed = 0'];
    const params: Param[] = [];
    if (query.kind) {
      where.push('kind = ?');
      params.push(query.kind);
    }
    const counted = this.facts.ask({ ask: 'present', kind: query.kind ?? null });
    const after = decodeCursor(query.cursor);
    if (after) {
      const sign = down ? '<' : '>';
      where.push(column === 'id' ? `id ${sign} ?` : `(sort_name, id) ${sign} (?, ?)`);
      if (column !== 'id') params.push(after.value);
      params.push(after.id);
    }
    const direction = down ? 'DESC' : 'ASC';
    // Named, because nearly every row is out of the trash, which leads the optimizer to sort them all instead.
    const index = column === 'id' ? 'PRIMARY' : query.kind ? 'supporter_kind' : 'supporter_name';
    const rows = await this.sql.rows<{ id: number; sort_name: string }>(
      `SELECT id, sort_name FROM supporter FORCE INDEX (${index}) WHERE ${where.join(' AND ')}
       ORDER BY ${column === 'id' ? '' : `sort_name ${direction}, `}id ${direction} LIMIT ?`,
      [...params, query.limit + 1],
    );
    const page = rows.slice(0, query.limit);
    const last = page.at(-1);
    return {
      items: await this.rowsFor(page.map((row) => row.id)),
      next: rows.length > query.limit && last ? encodeCursor({ value: last.sort_name, id: last.id }) : null,
      total: await counted,
    };
  }

  private async listFound(query: ListQuery, text: string) {
    const from = decodeCursor(query.cursor)?.id ?? 0;
    const { ids, total } = await this.finder.ask({ ask: 'find', text, kind: query.kind, from, limit: query.limit });
    const end = from + ids.length;
    return { items: await this.rowsFor(ids), next: end < total ? encodeCursor({ value: '', id: end }) : null, total };
  }

  /** Rows for lists, in the order of the ids; ids that are gone are left out. */
  async rowsFor(ids: readonly number[]): Promise<SupporterRow[]> {
    if (ids.length === 0) return [];
    const [rows, giving] = await Promise.all([
      this.sql.rows<
        SupporterRecord & { email: string | null; phone: string | null; city: string | null; region: string | null }
      >(
        `SELECT s.*, e.address AS email, p.number AS phone, a.city, a.region FROM supporter s
         LEFT JOIN email e FORCE INDEX (email_supporter) ON e.supporter_id = s.id AND e.preferred = 1
         LEFT JOIN phone p FORCE INDEX (phone_supporter) ON p.supporter_id = s.id AND p.preferred = 1
         LEFT JOIN address a FORCE INDEX (address_facts) ON a.supporter_id = s.id AND a.preferred = 1 WHERE s.id IN (?)`,
        [ids],
      ),
      this.givingOf(ids),
    ]);
    const byId = new Map(rows.map((row) => [row.id, row]));
    return ids.flatMap((id, index) => {
      const row = byId.get(id);
      if (!row) return [];
      return {
        id,
        number: supporterNumber(id),
        name: displayName(row),
        kind: row.kind,
        email: row.email,
        phone: row.phone,
        city: row.city ?? '',
        region: row.region ?? '',
        noEmail: row.no_email === 1,
        deceased: row.deceased === 1,
        giving: giving[index] ?? NOTHING_GIVEN,
      };
    });
  }

  /** The columns of an export for each id, amounts as `1234.50`. */
  async exportRows(ids: Iterable<number>): Promise<(string | number | null)[][]> {
    const out: (string | number | null)[][] = [];
    const money = (cents: number): string => (cents / 100).toFixed(2);
    for (const slice of chunks([...ids])) {
      const details = await this.sql.rows<Record<'id', number> & Record<string, string | null>>(
        `SELECT s.id, s.prefix, s.first, s.last, s.organization, a.street, a.postal FROM supporter s
         LEFT JOIN address a ON a.supporter_id = s.id AND a.preferred = 1 WHERE s.id IN (?)`,
        [slice],
      );
      const byId = new Map(details.map((row) => [row.id, row]));
      for (const row of await this.rowsFor(slice)) {
        const more = byId.get(row.id);
        out.push([
          row.number,
          row.name,
          more?.['prefix'] ?? '',
          more?.['first'] ?? '',
          more?.['last'] ?? '',
          more?.['organization'] ?? '',
          row.email,
          row.phone,
          more?.['street'] ?? '',
          row.city,
          row.region,
          more?.['postal'] ?? '',
          row.noEmail ? 'yes' : '',
          row.deceased ? 'yes' : '',
          money(row.giving.lifetime),
          money(row.giving.thisYear),
          money(row.giving.lastYear),
          row.giving.count,
          row.giving.last,
        ]);
      }
    }
    return out;
  }

  private async givingOf(ids: readonly number[]) {
    return this.facts.ask({ ask: 'giving', ids, calendar: await this.settings.calendar() });
  }

  /** Adds a supporter with contact details and tags. */
  async add(actor: Actor, draft: SupporterDraft, key: Reason['key']): Promise<Committed<{ id: number }>> {
    return this.changes.write(
      actor,
      { kind: 'edit', summary: `Added ${displayName(draft)}`, key: key ?? null },
      async (tx) => {
        const id = await tx.insert('supporter', supporterRow(draft));
        for (const [table, rows] of Object.entries(contactRows(draft)))
          await tx.insertAll(
            table,
            rows.map(({ id: _new, ...row }) => ({ supporter_id: id, ...row })),
          );
        const tags = await tagIds(tx, draft.tags);
        await tx.insertAll(
          'supporter_tag',
          [...new Set(tags.values())].map((tag) => ({ supporter_id: id, tag_id: tag, source: 'hand' })),
        );
        return { id };
      },
    );
  }

  /** Changes a supporter. Throws a 409 that says what changed when `version` is no longer the newest. */
  async change(actor: Actor, id: number, version: number, draft: SupporterDraft): Promise<Committed<void>> {
    return this.changes.write(actor, { kind: 'edit', summary: `Changed ${displayName(draft)}` }, async (tx) => {
      const current = (await tx.lock('supporter', [id])).get(id);
      if (!current) throw notFound(`Supporter ${supporterNumber(id)}`);
      if (current['version'] !== version) {
        const changed = await this.changesSince(id, Number(current['version']) - version);
        throw new Problem(
          409,
          'stale',
          `Someone changed this record while you were editing: ${changed.join('; ') || 'reload to see it'}.`,
          { details: { changed, version: current['version'] } },
        );
      }
      await tx.update('supporter', id, supporterRow(draft));
      const wanted = contactRows(draft);
      for (const table of ['email', 'phone', 'address'] as const) {
        const existing = await tx.sql.rows<{ id: number }>(
          `SELECT id FROM ${table} WHERE supporter_id = ? ORDER BY id FOR UPDATE`,
          [id],
        );
        await syncContact(tx, table, id, existing, wanted[table]);
      }
      const tags = new Set((await tagIds(tx, draft.tags)).values());
      const had = await tx.sql.rows<{ id: number; tag_id: number }>(
        'SELECT id, tag_id FROM supporter_tag WHERE supporter_id = ? FOR UPDATE',
        [id],
      );
      await tx.removeAll(
        'supporter_tag',
        had.filter((tag) => !tags.has(tag.tag_id)).map((tag) => tag.id),
      );
      const has = new Set(had.map((tag) => tag.tag_id));
      await tx.insertAll(
        'supporter_tag',
        [...tags].filter((tag) => !has.has(tag)).map((tag) => ({ supporter_id: id, tag_id: tag, source: 'hand' })),
      );
    });
  }

  /** What was sent to a supporter, newest first. */
  async correspondence(id: number) {
    return this.sql.rows<{
      id: number;
      at: string;
      channel: 'email' | 'print';
      subject: string;
      state: string;
      detail: string;
      address: string;
      mailingId: number | null;
      receiptId: number | null;
    }>(
      // delivery_supporter (supporter_id, at)
      `SELECT id, at, channel, subject, state, detail, address, mailing_id AS mailingId, receipt_id AS receiptId
       FROM delivery WHERE supporter_id = ? ORDER BY at DESC, id DESC LIMIT 200`,
      [id],
    );
  }
}

const NOTHING_GIVEN = { lifetime: 0, thisYear: 0, lastYear: 0, count: 0, largest: 0, first: null, last: null };
