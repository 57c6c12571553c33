import { formatDate } from '@tallystick/core/dates';
import { giftNumber, sameState } from '@tallystick/core/gifts';
import { bookingsOf } from '@tallystick/core/ledger';
import { pledgeNumber } from '@tallystick/core/pledges';
import type { Booking } from '@tallystick/core/ledger';
import { guard } from '../platform/guards.ts';
import type { About, Breach, Look, Touch } from '../platform/guards.ts';
import { PledgePaymentTable } from '../pledges/index.ts';
import { SupporterTable } from '../supporters/index.ts';
import { closedThrough, formatsIn } from '../settings/index.ts';
import { BatchTable, CorrectionTable, GiftSplitTable, GiftTable } from './gift.entity.ts';
import type { GiftRecord } from './gift.entity.ts';
import { correctionIn, giftRows, stateIn } from './state.ts';
import type { CorrectionRow, GiftRows, SplitRow } from './state.ts';
import { SAYS } from './views.ts';

/** The columns of a gift that its money, what was got for it, and its place in the books are in. */
const MONEY =
  'supporter_id cents date method fund_id campaign_id appeal_id split state booked_on batch_id benefit_cents benefit'.split(
    ' ',
  );

/** The rows that the money of a gift is in. */
const MONEY_OF_GIFTS: readonly About[] = [
  { table: GiftTable, of: 'id', columns: MONEY },
  { table: GiftSplitTable, of: 'gift_id' },
  { table: CorrectionTable, of: 'gift_id' },
];

guard({
  holds: 'A corrected gift is what its last correction made of it',
  code: 'settled',
  about: [
    { table: GiftTable, of: 'id', columns: MONEY, fresh: false },
    { table: GiftSplitTable, of: 'gift_id' },
    { table: CorrectionTable, of: 'gift_id' },
  ],
  async breaches({ sql, among }) {
    const corrected = await sql.rows<{ id: number }>(
      `SELECT DISTINCT gift_id AS id FROM correction WHERE ${among('gift_id')}`, // correction_gift (gift_id, id)
    );
    const rows = await giftRows(
      sql,
      corrected.map((row) => row.id),
    );
    return corrected.flatMap(({ id }): Breach[] => {
      const { gift = null, splits = [], corrections = [] } = rows.get(id) ?? {};
      const chain = corrections.map(correctionIn);
      const holds =
        gift !== null &&
        chain.every(({ after }, at) => sameState(after, chain[at + 1]?.before ?? stateIn(gift, splits)));
      return holds
        ? []
        : [
            {
              subject: id,
              says: `${giftNumber(id)} was corrected, and is what its corrections made of it. Correct it again instead.`,
            },
          ];
    });
  },
});

guard({
  holds: 'What is booked on a closed day stays as it is',
  code: 'books-closed',
  about: MONEY_OF_GIFTS,
  async breaches({ sql, subjects, touched }) {
    const closed = await closedThrough(sql);
    // What a whole database is held against is what the books came to when they were closed; deposits and ledger say so.
    if (closed === null || subjects === null) return [];
    const written = touched(GiftTable);
    // A new gift that is booked later has no other rows of an earlier day.
    const asked = subjects.filter((id) => {
      const [touch] = written.get(id) ?? [];
      return !(touch && touch.before === null && String(touch.after?.['booked_on']) > closed);
    });
    const now = await giftRows(sql, asked);
    const formats = await formatsIn(sql);
    return asked.flatMap((id): Breach[] => {
      const is = now.get(id) ?? { gift: null, splits: [], corrections: [] };
      const [touch] = written.get(id) ?? [];
      const was: GiftRows = {
        gift: touch ? (touch.before as GiftRecord | null) : is.gift,
        splits: rewound(id, is.splits, touched(GiftSplitTable, 'gift_id')).sort((a, b) => a.place - b.place),
        corrections: rewound(id, is.corrections, touched(CorrectionTable, 'gift_id')).sort((a, b) => a.id - b.id),
      };
      const day = differingDay(through(closed, was), through(closed, is));
      return day === null
        ? []
        : [
            {
              subject: id,
              says: `${giftNumber(id)} stands in the books of ${formatDate(day, formats)}, which are closed through ${formatDate(closed, formats)}. Correct it instead: that is booked today.`,
            },
          ];
    });
  },
});

guard({
  holds: 'The money of a deposited gift changes by corrections alone',
  code: 'deposited',
  about: [
    { table: GiftTable, of: 'id', columns: [...MONEY, 'fee_cents'], fresh: false },
    { table: GiftSplitTable, of: 'gift_id' },
  ],
  async breaches({ sql, subjects, touched }) {
    // What stands there now tells nothing of how it came about; the slip of each deposit is held against it as well.
    if (subjects === null) return [];
    const corrected = touched(CorrectionTable, 'gift_id');
    const deposited = await sql.rows<{ id: number; deposit: number }>(
      `SELECT g.id, b.deposit_id AS deposit FROM gift g JOIN batch b ON b.id = g.batch_id
       WHERE g.id IN (?) AND b.deposit_id IS NOT NULL AND b.id NOT IN (?)`,
      [
        [0, ...subjects.filter((id) => !corrected.has(id) && !isOnlyMerged(id, touched))],
        [0, ...touched(BatchTable).keys()],
      ],
    );
    return deposited.map(({ id, deposit }) => ({
      subject: id,
      says: `${giftNumber(id)} is in deposit D-${deposit}. Correct the gift instead, or undo the deposit first.`,
    }));
  },
});

const RECEIPTED: readonly About[] = [
  { table: { name: 'receipt' }, of: 'gift_id' },
  {
    table: GiftTable,
    of: 'id',
    columns: 'supporter_id cents date method fund_id split state benefit_cents benefit details receipt_needs'.split(
      ' ',
    ),
    fresh: false,
  },
  { table: GiftSplitTable, of: 'gift_id' },
];

guard({
  holds: 'A valid receipt says what its gift is, or is known to need another',
  code: 'settled',
  about: RECEIPTED,
  async breaches({ sql, among }) {
    const untrue = await sql.rows<{ subject: number; number: string }>(
      `SELECT g.id AS subject, r.number FROM receipt r JOIN gift g ON g.id = r.gift_id
       WHERE ${among('r.gift_id')} AND r.voided_on IS NULL AND g.receipt_needs = '' AND r.says <> '' AND (g.state <> 'kept' OR r.says <> ${SAYS})`,
    ); // receipt_of_gift (gift_id)
    return untrue.map(({ subject, number }) => ({
      subject,
      says: `Receipt ${number} was issued for ${giftNumber(subject)} and would no longer be true. Correct the gift, or void the receipt first.`,
    }));
  },
});

guard({
  holds: 'What was given in kind is described, and shares come to what the gift is',
  code: 'described',
  about: [{ table: GiftTable, of: 'id', columns: ['method', 'details', 'cents', 'state'] }],
  async breaches({ sql, among, subjects, touched }) {
    const said = (id: number): boolean => {
      const [touch] = touched(GiftTable).get(id) ?? [];
      return touch?.after?.['method'] === 'in_kind' || touch?.after?.['method'] === 'stock';
    };
    if (subjects && !subjects.some(said)) return [];
    const decimal = (field: string): string =>
      `CAST(REPLACE(JSON_VALUE(details, '$.${field}'), ',', '') AS DECIMAL(30, 6))`;
    const odd = await sql.rows<{ subject: number }>(
      `SELECT id AS subject FROM gift WHERE ${among('id')} AND method IN ('in_kind', 'stock') AND cents > 0
       AND (method = 'in_kind' AND COALESCE(JSON_VALUE(details, '$.description'), '') = ''
         OR details IS NOT NULL AND JSON_VALUE(details, '$.kind') <> method
         OR JSON_VALUE(details, '$.kind') = 'stock' AND ROUND(${decimal('shares')} * ${decimal('meanPrice')} * 100) <> cents)`,
    );
    return odd.map(({ subject }) => ({
      subject,
      says: `${giftNumber(subject)} would be stock or in kind without saying rightly what was given.`,
    }));
  },
});

guard({
  holds: 'A gift pays no more on pledges than it is',
  code: 'overpaid',
  about: [
    { table: PledgePaymentTable, of: 'gift_id' },
    { table: GiftTable, of: 'id', columns: ['cents'], fresh: false },
  ],
  async breaches({ sql, among }) {
    const over = await sql.rows<{ subject: number }>(
      `SELECT g.id AS subject FROM pledge_payment x JOIN gift g ON g.id = x.gift_id
       WHERE ${among('x.gift_id')} GROUP BY g.id HAVING SUM(x.cents) > MAX(g.cents)`,
    );
    return over.map(({ subject }) => ({
      subject,
      says: `${giftNumber(subject)} would pay more on pledges than it is.`,
    }));
  },
});

guard({
  holds: 'A payment is not dated before what it pays',
  code: 'not-promised',
  about: [
    { table: PledgePaymentTable, of: 'gift_id' },
    { table: GiftTable, of: 'id', columns: ['date'], fresh: false },
  ],
  async breaches({ sql, among }) {
    const early = await sql.rows<{ subject: number; pledge: number }>(
      `SELECT g.id AS subject, p.id AS pledge FROM pledge_payment x JOIN pledge p ON p.id = x.pledge_id
       JOIN gift g ON g.id = x.gift_id WHERE ${among('x.gift_id')} AND g.date < p.pledged_on`,
    );
    return early.map(({ subject, pledge }) => ({
      subject,
      says: `${giftNumber(subject)} pays ${pledgeNumber(pledge)} and would be dated before it. Correct one of the dates.`,
    }));
  },
});

/** Whether of a gift nothing else was written than whose it is, since its donor was merged into another, or that was undone. */
function isOnlyMerged(id: number, touched: Look['touched']): boolean {
  const [gift] = touched(GiftTable).get(id) ?? [];
  const rows = [...(gift ? [gift] : []), ...(touched(GiftSplitTable, 'gift_id').get(id) ?? [])];
  const onlyDonor = rows.every(
    ({ before, after }) =>
      before !== null &&
      after !== null &&
      [...MONEY, 'fee_cents', 'place'].every((column) => column === 'supporter_id' || before[column] === after[column]),
  );
  const [was, is] = [Number(gift?.before?.['supporter_id']), Number(gift?.after?.['supporter_id'])];
  const led = (from: number, when: 'before' | 'after'): unknown =>
    touched(SupporterTable).get(from)?.[0]?.[when]?.['merged_into'];
  return onlyDonor && (led(was, 'after') === is || led(is, 'before') === was);
}

/** The rows of a gift as they were before a change set. */
function rewound<R extends SplitRow | CorrectionRow>(
  giftId: number,
  now: readonly R[],
  touched: ReadonlyMap<number, readonly Touch[]>,
): R[] {
  const touches = touched.get(giftId) ?? [];
  const written = new Set(touches.map((touch) => Number((touch.before ?? touch.after)?.['id'])));
  const before = touches.flatMap((touch) => (touch.before?.['gift_id'] === giftId ? [touch.before as R] : []));
  return [...now.filter((row) => !written.has(row.id)), ...before];
}

/** How a gift stands in the books of a day and before. */
const through = (closed: string, { gift, splits, corrections }: GiftRows): Booking[] =>
  gift === null
    ? []
    : bookingsOf(stateIn(gift, splits), gift.booked_on, corrections.map(correctionIn)).filter(
        (booking) => booking.date <= closed,
      );

/** The first day on which two books differ in what a fund got by a method, or null. */
function differingDay(one: readonly Booking[], other: readonly Booking[]): string | null {
  const sums = new Map<string, number>();
  const add = (bookings: readonly Booking[], sign: 1 | -1): void => {
    for (const { date, fundId, method, cents } of bookings) {
      const key = `${date}|${fundId}|${method}`;
      sums.set(key, (sums.get(key) ?? 0) + sign * cents);
    }
  };
  add(one, 1);
  add(other, -1);
  const differing = [...sums].flatMap(([key, cents]) => (cents === 0 ? [] : [key.slice(0, 10)]));
  return differing.sort()[0] ?? null;
}
