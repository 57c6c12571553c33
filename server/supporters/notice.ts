import type { DataSource } from 'typeorm';
import { readPhone, standardAddress } from '@tallystick/core/contact';
import { likeness, reasonsOf } from '@tallystick/core/duplicates';
import type { Known } from '@tallystick/core/duplicates';
import { firmWords } from '@tallystick/core/fullnames';
import type { noticeDraft } from '@tallystick/contract/acts';
import type { BodyOf } from '@tallystick/contract/endpoint';
import type { FindThread } from '../find/index.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Settings } from '../settings/index.ts';
import type { Alike } from './alike.ts';
import { knownOfMany } from './comparables.ts';
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
    private readonly likeness: Alike,
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
    const asked: Known = {
      ...{ ...draft, id: draft.id ?? 0, formerLast: '', middle: '', suffix: '', birthday: '' },
      outside: [],
    };
    const [found, like] = await Promise.all([this.candidates(draft), this.likeness.soon([asked], LEAST_SCORE / 100)]);
    const chances = new Map((like?.[0] ?? []).map(({ id, chance }) => [id, chance]));
    const ids = [...new Set([...found, ...chances.keys()])].filter((id) => id !== draft.id);
    if (ids.length === 0) return [];
    const known = await knownOfMany(this.sql, ids);
    return [...known.values()]
      .filter(({ state }) => state === 'active')
      .map((one) => {
        const chance = chances.get(one.id) ?? 0;
        const plain = likeness(asked, one);
        // The words are the same whether the chance is known by now or not.
        const reasons = plain.reasons.length > 0 ? plain.reasons : reasonsOf(asked, one);
        return { one, score: Math.max(plain.score, Math.round(chance * 100)), reasons };
      })
      .filter(({ score }) => score >= LEAST_SCORE)
      .sort((a, b) => b.score - a.score || a.one.id - b.one.id)
      .slice(0, MOST_SHOWN)
      .map(({ one: { id, name, addresses, emails }, score, reasons }) => {
        const about = [addresses[0]?.street, addresses[0]?.city, emails[0]].filter(Boolean).join(', ');
        return { id, number: supporterNumber(id), name, about, score, reasons };
      });
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
}
