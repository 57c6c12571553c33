import { giftNumber } from '@tallystick/core/gifts';
import { parseAmount } from '@tallystick/core/money';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import type { Param, Sql } from '../platform/db.ts';
import { nameColumns, PEOPLE } from '../supporters/index.ts';

/** What a text may mean of gifts: which, by what, and whether an amount was meant. */
interface Meaning {
  by: string;
  where: string;
  params: Param[];
  cents?: number;
}

export interface GiftsFound {
  gifts: {
    id: number;
    number: string;
    supporterId: number;
    supporter: string;
    cents: number;
    date: string;
    by: string;
  }[];
  /** Where an amount was meant: how many gifts are of it, and their sum. */
  amount: { cents: number; gifts: number; sumCents: number } | null;
}

type Row = NameParts & { id: number; supporter_id: number; cents: number; date: string; by: string };

/** The newest gifts that a text names by number, receipt, check or amount; `of` narrows them to some supporters'. */
export async function giftsNamed(sql: Sql, text: string, limit: number, of?: readonly number[]): Promise<GiftsFound> {
  const meanings = meaningsOf(text.replace(/^(?:check|cheque|receipt|gift)\s*(?:no\.?|#)?\s*(?=[\dG])/i, ''));
  if (meanings.length === 0 || of?.length === 0) return { gifts: [], amount: null };
  // gift_facts (supporter_id, …)
  const narrow = of === undefined ? { where: '', params: [] } : { where: ' AND g.supporter_id IN (?)', params: [of] };
  const cents = of === undefined ? meanings.find((one) => one.cents !== undefined)?.cents : undefined;
  const asked = sql.rows<Row>(
    meanings
      .map(
        ({ by, where }) => `(SELECT g.id, g.supporter_id, g.cents, g.date, ${by} AS \`by\`, ${nameColumns('s')}
          FROM gift g JOIN ${PEOPLE} s ON s.id = g.supporter_id ${where}${narrow.where} ORDER BY g.date DESC, g.id DESC LIMIT ?)`,
      )
      .join(' UNION ALL '),
    meanings.flatMap(({ params }) => [...params, ...narrow.params, limit]),
  );
  // gift_amount (cents, date, id)
  const counted =
    cents === undefined
      ? []
      : sql.rows<{ gifts: number }>('SELECT COUNT(*) AS gifts FROM gift WHERE cents = ?', [cents]);
  const [rows, [count]] = await Promise.all([asked, counted]);
  const seen = new Set<number>();
  const gifts = rows
    .filter((row) => !seen.has(row.id) && seen.add(row.id))
    .slice(0, limit)
    .map((row) => ({
      ...{ id: row.id, number: giftNumber(row.id), supporterId: row.supporter_id, supporter: displayName(row) },
      ...{ cents: row.cents, date: row.date, by: row.by },
    }));
  const many = count?.gifts ?? 0;
  return { gifts, amount: cents === undefined || many === 0 ? null : { cents, gifts: many, sumCents: many * cents } };
}

/** What a text may mean, each as a part of one query; the index that each relies on is named. */
function meaningsOf(text: string): Meaning[] {
  const number = /^g-?(\d{1,9})$/i.exec(text)?.[1];
  // the primary key
  if (number !== undefined) return [{ by: `'number'`, where: 'WHERE g.id = ?', params: [Number(number)] }];
  // receipt number, unique
  if (/^\d{4}-\d{1,6}$/.test(text)) {
    const [year = '', place = ''] = text.split('-');
    return [
      {
        by: `CONCAT('receipt ', r.number)`,
        where: 'JOIN receipt r ON r.gift_id = g.id WHERE r.number = ?',
        params: [`${year}-${place.padStart(6, '0')}`],
      },
    ];
  }
  if (!/^[$€£]?[\d.,\s]+$/.test(text) || text.length > 20) return [];
  const meanings: Meaning[] = [];
  // gift_cheque (cheque)
  if (/^\d{2,}$/.test(text))
    meanings.push({ by: `CONCAT('check ', g.cheque)`, where: 'WHERE g.cheque = ?', params: [text] });
  const amount = parseAmount(text);
  // gift_amount (cents, date, id)
  if (amount.ok && amount.cents > 0)
    meanings.push({ by: `'amount'`, where: 'WHERE g.cents = ?', params: [amount.cents], cents: amount.cents });
  return meanings;
}
