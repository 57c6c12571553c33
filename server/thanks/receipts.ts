import type { Transaction } from '../platform/transaction.ts';
import { one } from '../platform/db.ts';
import { ref, table, text, whole, day, long, maybe, stamp, outside, setUp } from '../platform/tables.ts';
import { isFinal } from '../platform/changes.ts';

declare module '../platform/changes.ts' {
  interface ChangeKinds {
    issue: true;
  }
}
isFinal('issue', 'receipts were numbered and sent; void them instead');

export const ReceiptTable = table(
  'receipt',
  {
    ...{ area: 'thanks', owner: 'supporter_id', topics: ['gifts', 'sent'], erasing: 'keep', undo: 'rows' },
    merging: 'move',
    // What it says of its gift begins with whose it is.
    async mergeOthers({ tx, gone, into }) {
      const rows = await tx.sql.rows<{ id: number; says: string }>(
        'SELECT id, says FROM receipt WHERE supporter_id = ?', // receipt_supporter
        [into],
      );
      for (const { id, says } of rows) {
        const [donor = '', ...rest] = says.split('|');
        if (gone.includes(Number(donor))) await tx.rewrite(ReceiptTable, [id], { says: [into, ...rest].join('|') });
      }
    },
    called: (row) => `Receipt ${String(row['number'])}`,
  },
  {
    year: whole,
    sequence: whole,
    number: text(20),
    gift_id: ref,
    supporter_id: ref,
    issue_run_id: maybe(ref),
    issued_on: day,
    content: long,
    /** What it says of its gift, to tell whether it is still true. */
    says: long,
    voided_on: maybe(day).says('Voided'),
    void_reason: text(300).says('Voided because'),
  },
);
export const IssueRunTable = table('issue_run', setUp('thanks', 'Issue run'), {
  letter_id: ref,
  at: stamp,
  actor: text(120),
});
outside('receipt_series', 'the last number of each year, raised under its own lock with the receipts');

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
