import { consequence } from '../platform/consequences.ts';
import { chunks } from '../platform/db.ts';
import type { AnyTable } from '../platform/tables.ts';
import { PledgePaymentTable } from '../pledges/index.ts';

/**
 * Facts mark the gifts that rows of a table are about (`MARKS`), and rows may be another's than the donor's: who pays
 * another's pledge, whose receipt it was before a merge. So whatever is written there is told to the donors, too.
 */
export const marksGifts = (table: AnyTable): void =>
  consequence({
    follows: `What facts say of gifts follows from rows of ${table.name}`,
    from: [{ table, of: 'gift_id' }],
    async write(tx, ids) {
      for (const some of chunks(ids)) {
        const donors = await tx.sql.rows<{ id: number }>('SELECT supporter_id AS id FROM gift WHERE id IN (?)', [some]);
        tx.touch(donors.map(({ id }) => id));
      }
    },
  });

marksGifts(PledgePaymentTable);
