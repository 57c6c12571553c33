import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';

/* What other areas ask of gifts by the way that they came. */

/** The last gift of a supporter, to be joined as `g`; gift_facts (supporter_id, date, …). */
export const lastGiftOf = (supporter: string): string =>
  `gift g ON g.id = (SELECT x.id FROM gift x WHERE x.supporter_id = ${supporter} ORDER BY x.date DESC, x.id DESC LIMIT 1)`;

/** The gifts that have one of the outside references: each reference as it is kept, with the gift's id. */
export async function giftsByReference(
  sql: Sql,
  references: readonly string[],
): Promise<{ id: number; reference: string }[]> {
  const found: { id: number; reference: string }[] = [];
  for (const slice of chunks(references, 2000))
    // gift_reference (reference)
    found.push(
      ...(await sql.rows<{ id: number; reference: string }>('SELECT id, reference FROM gift WHERE reference IN (?)', [
        slice,
      ])),
    );
  return found;
}

/** The numbers of the checks by which supporters gave, each with whose. */
export async function chequesOf(
  sql: Sql,
  supporterIds: readonly number[],
): Promise<{ supporterId: number; cheque: string }[]> {
  const found: { supporterId: number; cheque: string }[] = [];
  for (const slice of chunks(supporterIds))
    found.push(
      ...(await sql.rows<{ supporterId: number; cheque: string }>(
        `SELECT supporter_id AS supporterId, cheque FROM gift WHERE supporter_id IN (?) AND method = 'cheque' AND cheque <> '' AND cents > 0`,
        [slice],
      )),
    );
  return found;
}
