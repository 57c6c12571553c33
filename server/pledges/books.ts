import { allocate, installmentsOf, pledgeAt, pledgeNumber } from '@tallystick/core/pledges';
import type { Installment, PledgeBooks, PledgePlan } from '@tallystick/core/pledges';
import { formatDate } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import { supporterNumber } from '@tallystick/core/supporters';
import type { Sql } from '../platform/db.ts';
import { asTheyWere, rowsAt } from '../platform/known.ts';
import { notFound, Problem } from '../platform/problem.ts';
import type { Transaction } from '../platform/transaction.ts';
import type { PledgeRecord } from './pledge.entity.ts';
import { formatsIn } from '../settings/index.ts';
import { InstallmentTable, PledgePaymentTable, PledgeTable, WriteOffTable } from './pledge.entity.ts';

type Row<T> = T & { pledge_id: number };
type PaymentRow = Row<{ id: number; installment_id: number; gift_id: number; cents: number }>;
type WriteOffRow = Row<{ id: number; installment_id: number; date: string; cents: number }>;

/**
 * The books of pledges by their id: installments, payments dated by their gifts, and write-offs. With a revision, as
 * they were recorded by then.
 */
export async function booksOf(
  sql: Sql,
  pledges: readonly { id: number; pledged_on: string }[],
  revision: number | null = null,
): Promise<Map<number, PledgeBooks>> {
  const ids = pledges.map((pledge) => pledge.id);
  if (ids.length === 0) return new Map();
  const of = async <R extends Row<{ id: number }>>(table: { name: string }): Promise<R[]> => {
    // installment_pledge, pledge_payment_pledge, write_off_pledge
    const now = await sql.rows<R>(`SELECT * FROM ${table.name} WHERE pledge_id IN (?)`, [ids]);
    return revision === null ? now : asTheyWere(now, await rowsAt(sql, table, revision));
  };
  const [installments, paid, off] = await Promise.all([
    of<Row<Installment>>(InstallmentTable),
    of<PaymentRow>(PledgePaymentTable),
    of<WriteOffRow>(WriteOffTable),
  ]);
  const dates = await datesOf(
    sql,
    paid.map((row) => row.gift_id),
    revision,
  );
  const payments = paid.map((row) => ({
    ...{ pledge_id: row.pledge_id, installmentId: row.installment_id, cents: row.cents },
    date: dates.get(row.gift_id) ?? '',
  }));
  const writeOffs = off.map((row) => ({ ...row, installmentId: row.installment_id }));
  const by = <T>(rows: readonly Row<T>[]): Map<number, T[]> => {
    const groups = new Map<number, T[]>();
    for (const row of rows) groups.set(row.pledge_id, [...(groups.get(row.pledge_id) ?? []), row]);
    return groups;
  };
  const books = { parts: by(installments), payments: by(payments), writeOffs: by(writeOffs) };
  return new Map(
    pledges.map(({ id, pledged_on }) => [
      id,
      {
        pledgedOn: pledged_on,
        installments: books.parts.get(id) ?? [],
        payments: books.payments.get(id) ?? [],
        writeOffs: books.writeOffs.get(id) ?? [],
      },
    ]),
  );
}

/** What supporters promised, each with what is open of it, the oldest first. */
export async function pledgesOf(sql: Sql, supporterIds: readonly number[]) {
  if (supporterIds.length === 0) return [];
  const rows = await sql.rows<{ id: number; supporter_id: number; fund_id: number; pledged_on: string; cents: number }>(
    `SELECT id, supporter_id, fund_id, pledged_on, cents FROM pledge
     WHERE supporter_id IN (?) AND stage IN ('promised', 'claimed') ORDER BY pledged_on, id`, // pledge_supporter
    [supporterIds],
  );
  const books = await booksOf(sql, rows);
  return rows.map((row) => {
    const found = books.get(row.id);
    return { ...row, open: found ? pledgeAt(found, ALWAYS).balance : 0 };
  });
}

/** The dates of gifts, as they are or as they were at a revision. */
async function datesOf(sql: Sql, ids: readonly number[], revision: number | null): Promise<Map<number, string>> {
  if (ids.length === 0) return new Map();
  const now = await sql.rows<{ id: number; date: string }>('SELECT id, date FROM gift WHERE id IN (?)', [ids]);
  const rows = revision === null ? now : asTheyWere(now, await rowsAt(sql, { name: 'gift' }, revision, { ids }));
  return new Map(rows.map((row) => [row.id, row.date]));
}

/** Far enough for every payment and write-off to count. */
export const ALWAYS = '9999-12-31';

export async function lockPledge(tx: Transaction, id: number): Promise<PledgeRecord> {
  const row = (await tx.lock(PledgeTable, [id])).get(id);
  if (!row) throw notFound(`Pledge ${pledgeNumber(id)}`);
  return row as unknown as PledgeRecord;
}

const refusal = (field: string, message: string, details?: unknown): Problem =>
  new Problem(details === undefined ? 400 : 409, details === undefined ? 'invalid' : 'overpayment', message, {
    fields: { [field]: message },
    ...(details === undefined ? {} : { details }),
  });

/** The rows that a plan makes of an amount; throws a 400 that says why where it cannot. */
export function planned(cents: number, plan: PledgePlan) {
  const made = installmentsOf(cents, plan);
  if (!made.ok) throw new Problem(400, 'invalid', made.reason, { fields: { plan: made.reason } });
  return made.rows;
}

/**
 * Notes that a gift pays a pledge: the installments chosen, or the oldest open ones. More than is open is refused
 * with the figures (409 `overpayment`) until it is said what becomes of the rest.
 */
export async function payPledge(
  tx: Transaction,
  gift: { id: number; supporterId: number; cents: number; date: string },
  pays: { pledgeId: number; installments: readonly number[]; over: 'ask' | 'beyond' | 'raise'; byOther: boolean },
): Promise<void> {
  const pledge = await lockPledge(tx, pays.pledgeId);
  if (pledge.stage === 'declined' || pledge.stage === 'asked')
    throw refusal('pays', `${pledgeNumber(pledge.id)} is not promised yet; note the award first.`);
  if (pledge.supporter_id !== gift.supporterId && !pays.byOther) {
    const message = `${pledgeNumber(pledge.id)} was promised by ${supporterNumber(pledge.supporter_id)}, and this gift is from ${supporterNumber(gift.supporterId)}. Does it pay that all the same?`;
    throw new Problem(409, 'other-payer', message, { fields: { pays: message } });
  }
  const formats = { ...(await formatsIn(tx.sql)), currency: pledge.currency };
  if (gift.date < pledge.pledged_on)
    throw refusal(
      'pays',
      `The gift is dated ${formatDate(gift.date, formats)}, before the pledge of ${formatDate(pledge.pledged_on, formats)}; correct one of the dates.`,
    );
  const books = (await booksOf(tx.sql, [pledge])).get(pledge.id);
  if (!books) return;
  const { installments, balance } = pledgeAt(books, ALWAYS);
  if (pays.installments.some((id) => !installments.some((one) => one.id === id)))
    throw refusal('pays', `One of the installments chosen is not of ${pledgeNumber(pledge.id)}.`);
  const { parts, over } = allocate(installments, gift.cents, pays.installments);
  if (over > 0 && pays.over === 'ask') {
    const open = gift.cents - over;
    throw refusal(
      'pays',
      `${formatMoney(gift.cents, formats)} is ${formatMoney(over, formats)} more than the ${formatMoney(open, formats)} ${pays.installments.length > 0 ? 'open on the installments chosen' : 'still open'}. Say what becomes of the rest.`,
      { open, over, balance },
    );
  }
  if (over > 0 && pays.over === 'raise') {
    await tx.update(PledgeTable, pledge.id, { cents: pledge.cents + over });
    const raised = await tx.insert(InstallmentTable, {
      supporter_id: pledge.supporter_id,
      pledge_id: pledge.id,
      due: gift.date,
      cents: over,
    });
    parts.push({ installmentId: raised, cents: over });
  }
  await tx.insertAll(
    PledgePaymentTable,
    parts.map((part) => ({
      supporter_id: pledge.supporter_id,
      pledge_id: pledge.id,
      installment_id: part.installmentId,
      gift_id: gift.id,
      cents: part.cents,
    })),
  );
}

/** Takes what a gift pays off a pledge; its installments are open again. Answers how much that was, in cents. */
export async function unpayPledge(tx: Transaction, giftId: number, pledgeId: number): Promise<number> {
  await lockPledge(tx, pledgeId);
  const rows = await tx.sql.rows<{ id: number; cents: number }>(
    'SELECT id, cents FROM pledge_payment WHERE gift_id = ? AND pledge_id = ? FOR UPDATE',
    [giftId, pledgeId],
  );
  await tx.removeAll(
    PledgePaymentTable,
    rows.map((row) => row.id),
  );
  return rows.reduce((sum, row) => sum + row.cents, 0);
}

/** A match that was expected for a gift of which nothing is left is not waited for any more, unless part of it came. */
export async function dropMatch(tx: Transaction, giftId: number): Promise<void> {
  const waiting = await tx.sql.rows<{ id: number }>(
    `SELECT id FROM pledge p WHERE for_gift_id = ? AND kind = 'match' AND stage IN ('promised', 'claimed')
     AND NOT EXISTS (SELECT 1 FROM pledge_payment x WHERE x.pledge_id = p.id)`,
    [giftId],
  );
  await tx.updateAll(
    PledgeTable,
    waiting.map((row) => row.id),
    { stage: 'declined' },
  );
}

/** Brings what a gift pays down to what is left of it: the installments it paid last are open again first. */
export async function shrinkPayments(tx: Transaction, giftId: number, cents: number): Promise<void> {
  const rows = await tx.sql.rows<{ id: number; cents: number }>(
    'SELECT id, cents FROM pledge_payment WHERE gift_id = ? ORDER BY id FOR UPDATE',
    [giftId],
  );
  let left = cents;
  for (const row of rows) {
    const kept = Math.min(left, row.cents);
    left -= kept;
    if (kept === 0) await tx.removeAll(PledgePaymentTable, [row.id]);
    else if (kept < row.cents) await tx.update(PledgePaymentTable, row.id, { cents: kept });
  }
}

/** What a pledge comes to in the books. */
export interface PledgeTotals {
  id: number;
  fundId: number;
  pledgedOn: string;
  promised: boolean;
  pledged: number;
  paid: number;
  writtenOff: number;
}

/** What pledges come to, of those that exist; all of them where the ids are null. */
export async function pledgeTotals(sql: Sql, ids: readonly number[] | null): Promise<PledgeTotals[]> {
  if (ids?.length === 0) return [];
  const among = ids ? 'AND pledge_id IN (?)' : '';
  const rows = await sql.rows<
    Record<'id' | 'fund_id' | 'promised' | 'cents' | 'paid' | 'off', number> & { pledged_on: string }
  >(
    // pledge_payment_pledge, write_off_pledge
    `SELECT p.id, p.fund_id, p.pledged_on, p.stage IN ('promised', 'claimed') AS promised, p.cents,
       COALESCE(x.cents, 0) AS paid, COALESCE(w.cents, 0) AS off FROM pledge p
     LEFT JOIN (SELECT pledge_id, SUM(cents) AS cents FROM pledge_payment WHERE TRUE ${among} GROUP BY pledge_id) x ON x.pledge_id = p.id
     LEFT JOIN (SELECT pledge_id, SUM(cents) AS cents FROM write_off WHERE TRUE ${among} GROUP BY pledge_id) w ON w.pledge_id = p.id
     ${ids ? 'WHERE p.id IN (?)' : ''}`,
    ids ? [ids, ids, ids] : [],
  );
  return rows.map((row) => ({
    ...{ id: row.id, fundId: row.fund_id, pledgedOn: row.pledged_on, promised: Number(row.promised) === 1 },
    ...{ pledged: Number(row.cents), paid: Number(row.paid), writtenOff: Number(row.off) },
  }));
}

/** What gifts pay on pledges, each with the fund of its pledge; of pledges that are promised. */
export const paymentsBy = (
  sql: Sql,
  giftIds: readonly number[],
): Promise<{ id: number; giftId: number; pledgeId: number; fundId: number; cents: number }[]> =>
  sql.rows(
    // pledge_payment_gift
    `SELECT x.id, x.gift_id AS giftId, x.pledge_id AS pledgeId, p.fund_id AS fundId, x.cents FROM pledge_payment x
     JOIN pledge p ON p.id = x.pledge_id WHERE x.gift_id IN (?) AND p.stage IN ('promised', 'claimed')`,
    [giftIds],
  );
