import { fiscalYearOf, fiscalYearSpan } from '@tallystick/core/dates';
import type { Calendar } from '@tallystick/core/dates';
import type { Sql } from '../platform/db.ts';

/** What somebody gave in a fiscal year, in cents, and how many of its gifts nobody was thanked for yet. */
interface YearGiven {
  supporterId: number;
  year: number;
  cents: number;
  gifts: number;
  unthanked: number;
}

const YEARS = 5;

/** The last five fiscal years of each of some supporters; years without a gift are left out. */
export async function yearsGiven(sql: Sql, ids: readonly number[], calendar: Calendar): Promise<YearGiven[]> {
  if (ids.length === 0) return [];
  const { today, fiscalYearStart } = calendar;
  const { from } = fiscalYearSpan(fiscalYearOf(today, fiscalYearStart) - YEARS + 1, fiscalYearStart);
  // gift_facts (supporter_id, date, …)
  return sql.rows<YearGiven & Record<string, number>>(
    `SELECT supporter_id AS supporterId, YEAR(date) + IF(? > 1 AND MONTH(date) >= ?, 1, 0) AS year, SUM(cents) AS cents,
       COUNT(*) AS gifts, SUM(acknowledged_on IS NULL) AS unthanked
     FROM gift WHERE supporter_id IN (?) AND date >= ? AND cents > 0 GROUP BY supporter_id, year`,
    [fiscalYearStart, fiscalYearStart, [...ids], from],
  );
}
