import type { DataSource } from 'typeorm';
import { readPhone, standardAddress } from '@tallystick/core/contact';
import { likeness } from '@tallystick/core/duplicates';
import type { Comparable } from '@tallystick/core/duplicates';
import { firmWords } from '@tallystick/core/fullnames';
import { displayName } from '@tallystick/core/names';
import type { noticeDraft } from '@tallystick/contract/acts';
import type { BodyOf } from '@tallystick/contract/endpoint';
import type { FindThread } from '../find/index.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Settings } from '../settings/index.ts';
import type { SupporterRecord } from './supporter.entity.ts';
import { supporterNumber } from '@tallystick/core/supporters';

const LEAST_SCORE = 30;
const MOST_SHOWN = 6;
type Draft = BodyOf<typeof noticeDraft>;

/** What is noticed about a draft while it is typed: who it looks like, and what could be written better. */
export class Notice {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly settings: Settings,
    private readonly finder: FindThread,
  ) {
    this.sql = sqlOn(source);
  }

  async of(draft: Draft) {
    const [alike, { country }] = await Promise.all([this.alike(draft), this.settings.organization()]);
    return {
      alike,
      phones: draft.phones.flatMap((text, index) => {
        const read = readPhone(text, country);
        return text.trim() !== '' && (read.text !== text || read.remark !== '')
          ? [{ index, text: read.text, remark: read.remark }]
          : [];
      }),
      addresses: draft.addresses.flatMap((address, index) => {
        const better = standardAddress(address, country);
        return better ? [{ index, ...better }] : [];
      }),
    };
  }

  private async alike(draft: Draft) {
    const asked: Comparable = { ...draft, formerLast: '' };
    const ids = (await this.candidates(draft)).filter((id) => id !== draft.id);
    if (ids.length === 0) return [];
    const known = await this.load(ids);
    return known
      .map((one) => ({ ...one, ...likeness(asked, one.comparable) }))
      .filter((one) => one.score >= LEAST_SCORE)
      .sort((a, b) => b.score - a.score || a.id - b.id)
      .slice(0, MOST_SHOWN)
      .map(({ comparable: _comparable, ...one }) => one);
  }

  private async candidates(draft: Draft): Promise<number[]> {
    const [given] = draft.first.split(' ');
    // Of a double last name each part may be the one on record.
    const lasts = [
      draft.last,
      ...(/[-\s]/.test(draft.last) ? draft.last.split(/[-\s]+/).filter((part) => part.length > 2) : []),
    ];
    const names =
      draft.kind === 'person'
        ? lasts.map((last) => (last && given ? `${given} ${last}` : ''))
        : [firmWords(draft.organization).join(' ')];
    const texts = [
      ...names,
      ...draft.emails.filter((email) => /@.+\./.test(email)),
      ...draft.phones.filter((phone) => phone.replace(/\D/g, '').length >= 7),
      ...draft.addresses
        .map((address) => address.street.split('\n')[0] ?? '')
        .filter((street) => /\d+\s+\S{3,}/.test(street)),
    ].filter((text) => text.trim().length >= 3);
    const found = await Promise.all(texts.map((text) => this.finder.ask({ ask: 'find', text, from: 0, limit: 30 })));
    return [...new Set(found.flatMap((one) => one.ids))];
  }

  private async load(ids: readonly number[]) {
    const of = <T>(columns: string, table: string) =>
      this.sql.rows<T & { id: number }>(
        `SELECT supporter_id AS id, ${columns} FROM ${table} WHERE supporter_id IN (?)`,
        [ids],
      );
    const [rows, emails, phones, addresses] = await Promise.all([
      this.sql.rows<SupporterRecord>(`SELECT * FROM supporter WHERE id IN (?) AND state = 'active'`, [ids]),
      of<{ address: string }>('address', 'email'),
      of<{ number: string }>('number', 'phone'),
      of<{ street: string; postal: string; city: string }>('street, postal, city', 'address'),
    ]);
    const mine = <T extends { id: number }>(list: readonly T[], id: number): T[] => list.filter((one) => one.id === id);
    return rows.map((row) => {
      const ways = { emails: mine(emails, row.id), phones: mine(phones, row.id), addresses: mine(addresses, row.id) };
      const comparable: Comparable = {
        kind: row.kind,
        first: row.first,
        last: row.last,
        formerLast: row.former_last,
        nickname: row.nickname,
        organization: row.organization,
        emails: ways.emails.map((way) => way.address),
        phones: ways.phones.map((way) => way.number),
        addresses: ways.addresses,
      };
      const about = [ways.addresses[0]?.street, ways.addresses[0]?.city, ways.emails[0]?.address]
        .filter(Boolean)
        .join(', ');
      return { id: row.id, number: supporterNumber(row.id), name: displayName(row), about, comparable };
    });
  }
}
