import { addDays } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import { sortName } from '@tallystick/core/names';
import type { DraftRow } from '@tallystick/core/intake';
import { summaryOf } from '@tallystick/core/sheets';
import type { CheckedRow } from '@tallystick/core/sheets';
import { bookingDays, insertGifts, newBatch } from '../gifts/index.ts';
import { giftOf, insertSupporters } from '../intake/index.ts';
import type { Actor, Reason } from '../platform/changes.ts';
import { Problem } from '../platform/problem.ts';
import { requireOwn } from '../platform/rights.ts';
import type { Transaction } from '../platform/transaction.ts';
import { syncFields, lockClosedThrough } from '../settings/index.ts';
import { differenceOf, posted, SheetTable } from './sheets.service.ts';
import type { Sheets } from './sheets.service.ts';
import type { Formats } from '@tallystick/core/money';
import { counted } from '@tallystick/core/words';
import { addTags, SupporterTable, AddressTable, EmailTable, PhoneTable } from '../supporters/index.ts';
import type { AnyTable } from '../platform/tables.ts';

/**
 * Writes a sheet whole, in one change set, or (where any row has a problem, or a difference from the control totals
 * has no reason) nothing at all. The gifts land in a batch of their own.
 */
export async function postSheet(sheets: Sheets, actor: Actor, id: number, reason: string, key: Reason['key']) {
  const formats = await sheets.settings.formats();
  const { today } = await sheets.settings.calendar();
  let said = '';
  return sheets.changes.write(actor, { kind: 'sheet', summary: () => said, key: key ?? null }, async (tx) => {
    const locked = (await tx.lock(SheetTable, [id])).get(id);
    if (locked) requireOwn(actor, 'sheets.money', locked.owner_id, 'This sheet');
    if (locked?.state === 'posted') throw posted();
    const { sheet, checked } = await sheets.checked(id, tx.sql);
    const summary = summaryOf(checked);
    refuseUnready(checked, summary.gifts);
    const difference = differenceOf(sheet, summary);
    if (!difference.balanced && reason === '')
      throw new Problem(
        409,
        'not-balanced',
        `The sheet differs from its control totals by ${inWords(difference, formats)}. Say why, or correct it.`,
        { fields: { reason: 'Say why it differs.' }, details: difference },
      );
    const batchId = await newBatch(tx, 'sheet', today, sheet.name, {
      expected: { count: sheet.expected_count, cents: sheet.expected_cents },
      holds: { count: summary.gifts, cents: summary.cents },
      reason,
    });
    const owners = await writePeople(tx, checked, today);
    const books = {
      currency: formats.currency,
      batchId,
      bookedOn: bookingDays(today, await lockClosedThrough(tx.sql)),
    };
    const gifts = checked.flatMap(({ draft: { gift } }, index) =>
      gift ? [giftOf(gift, owners[index] ?? 0, books)] : [],
    );
    const giftIds = await insertGifts(tx, gifts);
    await tx.update(SheetTable, id, { state: 'posted', batch_id: batchId });
    said = `Posted the sheet ${sheet.name}: ${counted(summary.gifts, 'gift')}, ${formatMoney(summary.cents, formats)}`;
    return { batchId, gifts: summary.gifts, cents: summary.cents, newSupporters: summary.new, giftIds };
  });
}

function refuseUnready(checked: readonly CheckedRow[], gifts: number): void {
  const wrong = checked.map((row, index) => ({ row, index })).filter(({ row }) => row.problems.length > 0);
  const [first] = wrong;
  if (first)
    throw new Problem(
      409,
      'has-problems',
      `${counted(wrong.length, 'row has', 'rows have')} something wrong; row ${first.index + 1}: ${first.row.problems[0]?.reason ?? ''} Nothing was posted.`,
    );
  if (gifts === 0) throw new Problem(409, 'nothing-to-post', 'The sheet has no gift yet.');
}

function inWords(difference: { count: number | null; cents: number | null }, formats: Formats): string {
  const more = (value: number): string => (value > 0 ? 'more' : 'less');
  return [
    difference.count ? `${counted(Math.abs(difference.count), 'gift')} ${difference.count > 0 ? 'more' : 'fewer'}` : '',
    difference.cents ? `${formatMoney(Math.abs(difference.cents), formats)} ${more(difference.cents)}` : '',
  ]
    .filter(Boolean)
    .join(' and ');
}

/** Stores who is new and what is to change of who is known; answers the supporter of each row. */
async function writePeople(tx: Transaction, checked: readonly CheckedRow[], today: string): Promise<number[]> {
  const fresh = checked.filter((row) => row.status === 'new' && row.sameAs === null);
  const made = await insertSupporters(
    tx,
    fresh.map((row) => row.draft),
  );
  const madeAt = new Map(fresh.map((row, index) => [row, made[index] ?? 0]));
  const ownerOf = (row: CheckedRow): number => {
    const first = row.sameAs === null ? row : checked[row.sameAs];
    return row.supporterId ?? (first && madeAt.get(first)) ?? 0;
  };
  for (const row of checked) if (row.change.length > 0) await changeKnown(tx, ownerOf(row), row, today);
  await addTags(
    tx,
    checked.filter(({ draft }) => draft.tag !== '').map((row) => ({ supporterId: ownerOf(row), tag: row.draft.tag })),
    'hand',
  );
  return checked.map(ownerOf);
}

/** Changes what was asked for of someone known; the e-mail, telephone or address it was becomes a former one. */
async function changeKnown(tx: Transaction, id: number, row: CheckedRow, today: string): Promise<void> {
  const { draft, change } = row;
  const asked = (field: string): boolean => (change as readonly string[]).includes(field);
  if (asked('wholeName') || asked('organization'))
    await tx.update(SupporterTable, id, { ...nameOf(draft), sort_name: sortName(draft.name) });
  const address = { street: draft.street, city: draft.city, region: draft.region, postal: draft.postal };
  const places = Object.fromEntries(Object.entries(address).filter(([field]) => asked(field)));
  if (asked('email') && draft.email !== null) await replaceWay(tx, EmailTable, id, { address: draft.email }, today);
  if (asked('phone') && draft.phone !== '') await replaceWay(tx, PhoneTable, id, { number: draft.phone }, today);
  if (Object.keys(places).length > 0) await replaceWay(tx, AddressTable, id, places, today);
  if (draft.own.length > 0) await syncFields(tx, 'supporter', { supporter_id: id }, new Map(draft.own));
}

const nameOf = ({ name }: DraftRow) => ({
  prefix: name.prefix,
  first: name.first,
  middle: name.middle,
  last: name.last,
  suffix: name.suffix,
  organization: name.organization,
});

async function replaceWay(
  tx: Transaction,
  table: AnyTable,
  supporterId: number,
  values: Readonly<Record<string, string>>,
  today: string,
): Promise<void> {
  const [had] = await tx.sql.rows<Record<string, string | number | null> & { id: number }>(
    `SELECT * FROM ${table.name} WHERE supporter_id = ? AND preferred = 1 FOR UPDATE`,
    [supporterId],
  );
  if (had && Object.entries(values).every(([column, value]) => had[column] === value)) return;
  if (had) await tx.rewrite(table, [had.id], { preferred: 0, valid_to: addDays(today, -1) });
  const kept =
    table === AddressTable
      ? Object.fromEntries(
          ['street', 'city', 'region', 'postal', 'country'].map((column) => [column, String(had?.[column] ?? '')]),
        )
      : {};
  await tx.insertRows(table, [
    { supporter_id: supporterId, label: String(had?.['label'] ?? 'home'), preferred: 1, ...kept, ...values },
  ]);
}
