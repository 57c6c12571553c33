import { NOT_REACHED } from '@tallystick/contract/outreach';
import type { Receipt } from '@tallystick/contract/thanks';
import type { Deliveries } from '../outreach/index.ts';
import type { Param, Sql } from '../platform/db.ts';
import { pageOf } from '../platform/page.ts';
import type { Asked } from '../platform/page.ts';
import { thawed } from './freeze.ts';

interface ReceiptsAsked extends Asked {
  /** How the number begins: digits and dashes. */
  number: string;
  state?: 'valid' | 'void' | undefined;
  runId?: number | undefined;
}

/** Receipts by number, newest first. */
export async function receiptsIssued(sql: Sql, { number, state, runId, ...asked }: ReceiptsAsked) {
  const [where, params]: [string[], Param[]] = [['TRUE'], []];
  if (number !== '') {
    where.push('r.number LIKE ?');
    params.push(`${number}%`);
  }
  if (state !== undefined) where.push(`r.voided_on IS ${state === 'void' ? 'NOT NULL' : 'NULL'}`);
  if (runId !== undefined) {
    where.push('r.issue_run_id = ?');
    params.push(runId);
  }
  // receipt_series_place (year, sequence), or receipt_run (issue_run_id)
  const page = await pageOf<Omit<Receipt, 'from' | 'given'> & { year: number; sequence: number; content: string }>(
    sql,
    {
      select: `SELECT r.id, r.number, r.issued_on AS issuedOn, r.supporter_id AS supporterId, r.gift_id AS giftId,
        r.voided_on AS voidedOn, r.void_reason AS voidReason, r.year, r.sequence, r.content,
        COALESCE(d.channel, '') AS channel, COALESCE(d.state, '') AS delivery
        FROM receipt r LEFT JOIN delivery d ON d.receipt_id = r.id WHERE ${where.join(' AND ')}`,
      params,
      order: [
        { sql: 'r.year', as: 'year', down: true },
        { sql: 'r.sequence', as: 'sequence', down: true },
      ],
    },
    asked,
  );
  const items = page.items.map(({ year: _year, sequence: _sequence, content, ...receipt }): Receipt => {
    const said = new Map(thawed(content).receipt?.lines);
    return { ...receipt, from: said.get('Received from') ?? '', given: said.get('Amount') ?? said.get('Given') ?? '' };
  });
  return { ...page, items };
}

/** Issues of receipts, newest first. */
export async function issues(sql: Sql, deliveries: Deliveries, asked: Asked) {
  const page = await pageOf<{
    id: number;
    at: string;
    by: string;
    letter: string;
    first: string;
    last: string;
    count: number;
    printed: number;
    reached: number;
    waiting: number;
    notReached: number;
  }>(
    sql,
    {
      select: `SELECT * FROM (SELECT u.id, u.at, u.actor AS \`by\`, l.name AS letter, MIN(r.number) AS first, MAX(r.number) AS last, COUNT(*) AS count,
     SUM(d.state = 'print') AS printed, SUM(d.state = 'sent') AS reached, SUM(d.state IN ('queued', 'sending')) AS waiting,
     SUM(d.state IN (${NOT_REACHED.map(() => '?').join(', ')})) AS notReached
     FROM issue_run u JOIN letter l ON l.id = u.letter_id JOIN receipt r ON r.issue_run_id = u.id JOIN delivery d ON d.receipt_id = r.id
     GROUP BY u.id) u WHERE TRUE`,
      params: NOT_REACHED,
      order: [{ sql: 'u.id', as: 'id', down: true }],
    },
    asked,
  );
  const items = page.items.map(async (run) => ({
    ...run,
    stopped: run.waiting > 0 && (await deliveries.isStopped({ kind: 'receipt', id: run.id })),
  }));
  return { ...page, items: await Promise.all(items) };
}
