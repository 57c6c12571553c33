import type { Transaction } from '../platform/transaction.ts';
import { one } from '../platform/db.ts';
import { ref, table, text, whole, day, long, maybe, stamp } from '../platform/tables.ts';

export interface ReceiptRecord {
  id: number;
  version: number;
  year: number;
  sequence: number;
  number: string;
  gift_id: number;
  supporter_id: number;
  issue_run_id: number | null;
  issued_on: string;
  content: string;
  voided_on: string | null;
  void_reason: string;
}
export const ReceiptTable = table<ReceiptRecord>(
  'receipt',
  { supporter: 'supporter_id' },
  {
    year: whole,
    sequence: whole,
    number: text(20),
    gift_id: ref,
    supporter_id: ref,
    issue_run_id: maybe(ref),
    issued_on: day,
    content: long,
    voided_on: maybe(day),
    void_reason: text(300),
  },
);
export const IssueRunTable = table<{ id: number; version: number; letter_id: number; at: string; actor: string }>(
  'issue_run',
  {},
  { letter_id: ref, at: stamp, actor: text(120) },
);

/**
 * Takes the next `many` places of a year's series and answers the first. The series' row stays locked until the
 * change set ends, and a change set that fails gives its places back: the series has no gaps and no number twice.
 */
export async function takePlaces(tx: Transaction, year: number, many: number): Promise<number> {
  // One statement takes the row's exclusive lock at once; asking first would share it, and two sharers deadlock.
  await tx.sql.run(
    'INSERT INTO receipt_series (year, last) VALUES (?, ?) ON DUPLICATE KEY UPDATE last = last + VALUES(last)',
    [year, many],
  );
  const series = await one<{ last: number }>(tx.sql, 'SELECT last FROM receipt_series WHERE year = ?', [year]);
  return (series?.last ?? many) - many + 1;
}
