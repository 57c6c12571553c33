import type { DataSource } from 'typeorm';
import { waysOn } from '@tallystick/core/contact';
import { BY_LIKENESS, foundBy } from '@tallystick/core/find';
import type { Findable } from '@tallystick/core/find';
import { supporterNumber } from '@tallystick/core/supporters';
import * as contract from '@tallystick/contract/find';
import { area } from '../area.ts';
import { findablesOf, findArea } from '../find/index.ts';
import type { FindThread } from '../find/index.ts';
import { giftsNamed } from '../gifts/index.ts';
import type { GiftsFound } from '../gifts/index.ts';
import { sqlOn } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import { settingsArea } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import { storedOf } from '../supporters/index.ts';
import type { StoredWays } from '../supporters/index.ts';

/** Of so many supporters a name may be said beside an amount. */
const MOST_NAMED = 300;
const NO_GIFTS: GiftsFound = { gifts: [], amount: null };

/** Finds whatever is typed: supporters in memory, gifts by their numbers and amounts in the database. */
class Anything {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly finder: FindThread,
    private readonly settings: Settings,
  ) {
    this.sql = sqlOn(source);
  }

  async find(typed: string, limit: number) {
    const text = typed.trim();
    const [found, gifts] = await Promise.all([
      this.finder.ask({ ask: 'find', text, from: 0, limit }),
      this.gifts(text, Math.min(limit, 6)),
    ]);
    return { supporters: await this.supporters(found.ids, text), total: found.total, alike: found.alike, ...gifts };
  }

  private async supporters(ids: readonly number[], text: string) {
    if (ids.length === 0) return [];
    const { today } = await this.settings.calendar();
    const ways = await storedOf(this.sql, ids);
    const of = (each: (ways: StoredWays) => readonly string[]): Map<number, string[]> =>
      new Map([...ways].map(([id, all]) => [id, [...each(all)]]));
    const reached = {
      emails: of(({ emails }) => emails.map(({ address }) => address)),
      phones: of(({ phones }) => phones.map(({ number }) => number)),
      streets: of(({ addresses }) => addresses.map(({ street }) => street)),
    };
    const none = { contacts: new Map<number, string[]>(), merged: new Map<number, string[]>() };
    const entries = new Map((await findablesOf(this.sql, ids, { ...reached, ...none })).map((one) => [one.id, one]));
    // Few are found by who stands for them, or by a record that was merged: of those it is looked up.
    const unsure = ids.filter((id) => isUnsure(entries.get(id), text));
    if (unsure.length > 0)
      for (const entry of await findablesOf(this.sql, unsure, reached)) entries.set(entry.id, entry);
    return ids.flatMap((id) => {
      const entry = entries.get(id);
      if (!entry) return [];
      const { address, email } = waysOn(ways.get(id) ?? NO_STORED, today);
      const place = [address?.city, address?.region].filter(Boolean).join(', ');
      const about = [place, email?.address].filter(Boolean).join(' · ');
      const { name, kind } = entry;
      return [{ id, number: supporterNumber(id), name, kind, about, by: foundBy(entry, text) }];
    });
  }

  /** Gifts by what is typed alone, or by a name and what is typed beside it: `Espinoza 50.00`. */
  private async gifts(text: string, limit: number): Promise<GiftsFound> {
    const named = beside(text);
    if (named === null) return giftsNamed(this.sql, text, limit);
    const { ids } = await this.finder.ask({ ask: 'find', text: named.name, from: 0, limit: MOST_NAMED });
    return ids.length === 0 ? NO_GIFTS : giftsNamed(this.sql, named.said, limit, ids);
  }
}

const NO_STORED: StoredWays = { emails: [], phones: [], addresses: [] };

/** Whether nothing that is known of somebody tells by what a part of the text found them. */
const isUnsure = (entry: Findable | undefined, text: string): boolean =>
  entry !== undefined && (foundBy(entry, text)?.includes(BY_LIKENESS) ?? false);

/**
 * A name with an amount or a check number after it, or an amount that is written as one before it; null where there is
 * none. `12 Lyra` is a street.
 */
function beside(text: string): { name: string; said: string } | null {
  if (/^(?:check|cheque|receipt|gift)\b/i.test(text)) return null;
  const after = /^(.*\p{L}.*?)\s+(?:#|no\.?\s*|check\s*#?)?([$€£]?\d[\d.,]*)$/iu.exec(text);
  if (after) return { name: after[1] ?? '', said: after[2] ?? '' };
  const before = /^([$€£]\d[\d.,]*|\d[\d,]*\.\d{2})\s+(.*\p{L}.*)$/u.exec(text);
  return before ? { name: before[2] ?? '', said: before[1] ?? '' } : null;
}

/** Finding anything as one types: supporters, and gifts by what is on them. */
export const searchArea = area('search', ({ source, http }, of) => {
  const anything = new Anything(source, of(findArea).finder, of(settingsArea).settings);
  http.on(contract.findAnything, ({ query }) => anything.find(query.q, query.limit));
  return {};
});
