import type { DataSource } from 'typeorm';
import { giftNumber } from '@tallystick/core/gifts';
import { parseAmount } from '@tallystick/core/money';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import * as contract from '@tallystick/contract/find';
import { sqlOn } from '../platform/db.ts';
import type { Param, Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import type { FindThread } from './index.ts';
import { supporterNumber } from '@tallystick/core/supporters';

interface GiftFound extends NameParts {
  id: number;
  supporter_id: number;
  cents: number;
  date: string;
  by: string;
}

/** Finds whatever is typed: supporters in memory, gifts by their numbers and amounts in the database. */
export class Anything {
  private readonly sql: Sql;

  constructor(
    source: DataSource,
    private readonly finder: FindThread,
  ) {
    this.sql = sqlOn(source);
  }

  async find(text: string, limit: number) {
    const [found, gifts] = await Promise.all([
      this.finder.ask({ ask: 'find', text, from: 0, limit }),
      this.gifts(text.trim(), Math.min(limit, 6)),
    ]);
    return { supporters: await this.supporters(found.ids), total: found.total, alike: found.alike, gifts };
  }

  private async supporters(ids: readonly number[]) {
    if (ids.length === 0) return [];
    const rows = await this.sql.rows<
      NameParts & { id: number; email: string | null; city: string | null; region: string | null }
    >(
      `SELECT s.*, e.address AS email, a.city, a.region FROM supporter s
       LEFT JOIN email e FORCE INDEX (email_supporter) ON e.supporter_id = s.id AND e.preferred = 1
       LEFT JOIN address a FORCE INDEX (address_facts) ON a.supporter_id = s.id AND a.preferred = 1 WHERE s.id IN (?)`,
      [ids],
    );
    return ids.flatMap((id) => {
      const row = rows.find((one) => one.id === id);
      if (!row) return [];
      const about = [[row.city, row.region].filter(Boolean).join(', '), row.email].filter(Boolean).join(' · ');
      return [{ id, number: supporterNumber(id), name: displayName(row), kind: row.kind, about }];
    });
  }

  private async gifts(text: string, limit: number) {
    const asked = questions(text);
    if (asked.length === 0) return [];
    const rows = await this.sql.rows<GiftFound>(
      asked
        .map(
          ({
            by,
            where,
          }) => `(SELECT g.id, g.supporter_id, g.cents, g.date, ${by} AS \`by\`, s.kind, s.prefix, s.first, s.middle, s.last, s.suffix,
            s.organization FROM ${where} ORDER BY g.date DESC, g.id DESC LIMIT ?)`,
        )
        .join(' UNION ALL '),
      asked.flatMap(({ params }) => [...params, limit]),
    );
    const seen = new Set<number>();
    return rows
      .filter((row) => !seen.has(row.id) && seen.add(row.id))
      .slice(0, limit)
      .map((row) => ({
        id: row.id,
        number: giftNumber(row.id),
        supporterId: row.supporter_id,
        supporter: displayName(row),
        cents: row.cents,
        date: row.date,
        by: row.by,
      }));
  }
}

/** What a text may mean of gifts, each as a part of the one query; the index that each relies on is named. */
function questions(text: string): { by: string; where: string; params: Param[] }[] {
  const of = (rest: string): string => `gift g JOIN supporter s ON s.id = g.supporter_id ${rest}`;
  const number = /^g-?(\d{1,9})$/i.exec(text)?.[1];
  // the primary key
  if (number !== undefined) return [{ by: `'number'`, where: of('WHERE g.id = ?'), params: [Number(number)] }];
  // receipt number, unique
  if (/^\d{4}-\d{1,6}$/.test(text)) {
    const [year = '', place = ''] = text.split('-');
    return [
      {
        by: `CONCAT('receipt ', r.number)`,
        where: of('JOIN receipt r ON r.gift_id = g.id WHERE r.number = ?'),
        params: [`${year}-${place.padStart(6, '0')}`],
      },
    ];
  }
  if (!/^[$€£]?[\d.,\s]+$/.test(text) || text.length > 20) return [];
  const asked: { by: string; where: string; params: Param[] }[] = [];
  // gift_cheque (cheque)
  if (/^\d{2,}$/.test(text))
    asked.push({ by: `CONCAT('check ', g.cheque)`, where: of('WHERE g.cheque = ?'), params: [text] });
  const amount = parseAmount(text);
  // gift_cents (cents, id)
  if (amount.ok && amount.cents > 0)
    asked.push({ by: `'amount'`, where: of('WHERE g.cents = ?'), params: [amount.cents] });
  return asked;
}

export function serveFind(http: Http, anything: Anything): void {
  http.on(contract.findAnything, ({ query }) => anything.find(query.q, query.limit));
}
