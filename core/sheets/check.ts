import type { PaymentMethod } from '../gifts/index.ts';
import { fold } from '../names/index.ts';
import { readRow } from '../intake/index.ts';
import type { DraftRow, RowSetting } from '../intake/index.ts';
import type { Cents } from '../money/index.ts';
import { cellOf, isAboutSupporter, isEmptyRow } from './layout.ts';
import type { SheetField, SheetLayout, SheetRow } from './layout.ts';

/** Something about a cell, or (null) about the row: what is wrong, or what to look at twice. */
export interface CellRemark {
  field: SheetField | null;
  reason: string;
}

/** A row with what would be written, what stops it, and what only deserves a look. */
export interface CheckedRow {
  key: string;
  status: 'known' | 'new';
  supporterId: number | null;
  draft: DraftRow;
  change: readonly SheetField[];
  problems: CellRemark[];
  warnings: CellRemark[];
  /** The place of the earlier row that brings the same new supporter, or null. */
  sameAs: number | null;
}

export interface SheetSummary {
  rows: number;
  known: number;
  new: number;
  gifts: number;
  cents: Cents;
  byFund: { fundId: number; count: number; cents: Cents }[];
  byMethod: { method: PaymentMethod; count: number; cents: Cents }[];
  /** Rows with a problem. */
  wrong: number;
}

/** What a check needs besides the rows. `known` answers null for who is gone or in the trash. */
export interface SheetSetting extends RowSetting {
  known(id: number): { name: string; trashed: boolean } | null;
  /** Whether this supporter already has a gift by a check of this number. */
  chequeUsed(supporterId: number, cheque: string): boolean;
}

/**
 * Checks every row of a sheet; empty rows are left out of the answer. Nothing is written. The same new supporter
 * typed twice (same name and e-mail, street and ZIP) becomes one.
 */
export function checkSheet(layout: SheetLayout, rows: readonly SheetRow[], setting: SheetSetting): CheckedRow[] {
  const cheques = new Map<string, number>();
  const fresh = new Map<string, number>();
  const checked: CheckedRow[] = [];
  const own = setting.own.map((field) => field.id);
  for (const row of rows) {
    if (isEmptyRow(row)) continue;
    const known = row.supporterId === null ? null : setting.known(row.supporterId);
    const columns = layout.columns.filter(
      (column) => row.supporterId === null || !isAboutSupporter(column.field, own) || row.change.includes(column.field),
    );
    const cells = columns.map((column) => cellOf(row, column));
    const { draft, problems, warnings } = readRow(
      ['number', ...columns.map((column) => column.field)],
      [row.supporterId === null ? '' : String(row.supporterId), ...cells],
      setting,
    );
    const remarks: CellRemark[] = problems.map(({ field, reason }) => ({
      field: field === 'last' ? 'wholeName' : field,
      reason: field === 'last' ? 'Find who gave in the first cell, or type the name of someone new.' : reason,
    }));
    const remark = (field: SheetField | null, reason: string): void => {
      if (!remarks.some((one) => one.field === field)) remarks.push({ field, reason });
    };
    columns.forEach((column, place) => {
      if (column.required && cells[place] === '') remark(column.field, 'This must be filled in.');
    });
    if (!draft.gift) remark('amount', 'The amount is missing.');
    if (row.supporterId !== null && !known) remark(null, 'This supporter is gone; find them again.');
    if (known?.trashed) remark(null, 'This supporter is in the trash; restore the record first.');
    const place = checked.length;
    const sameAs = row.supporterId === null && remarks.length === 0 ? (fresh.get(nameKey(draft)) ?? null) : null;
    if (row.supporterId === null && sameAs === null) fresh.set(nameKey(draft), place);
    checked.push({
      key: row.key,
      status: row.supporterId === null ? 'new' : 'known',
      supporterId: row.supporterId,
      draft,
      change: row.supporterId === null ? [] : row.change,
      problems: remarks,
      warnings: [...warnings, ...chequeWarnings(row, draft, place, cheques, setting)],
      sameAs,
    });
  }
  return checked;
}

const nameKey = ({ name, email, street, postal }: DraftRow): string =>
  fold([name.organization, name.first, name.middle, name.last, email ?? '', street, postal].join('|'));

function chequeWarnings(
  row: SheetRow,
  draft: DraftRow,
  place: number,
  seen: Map<string, number>,
  setting: SheetSetting,
): CellRemark[] {
  const cheque = draft.gift?.cheque ?? '';
  if (cheque === '' || draft.gift?.method !== 'cheque') return [];
  const key = `${row.supporterId ?? nameKey(draft)}|${cheque}`;
  const before = seen.get(key);
  seen.set(key, place);
  if (before !== undefined)
    return [{ field: 'cheque', reason: `Row ${before + 1} has the same check number for the same donor.` }];
  return row.supporterId !== null && setting.chequeUsed(row.supporterId, cheque)
    ? [{ field: 'cheque', reason: 'This donor already has a gift by a check of this number.' }]
    : [];
}

/** What a sheet comes to, counting the rows that could be written. */
export function summaryOf(checked: readonly CheckedRow[]): SheetSummary {
  const good = checked.filter((row) => row.problems.length === 0);
  const gifts = good.flatMap((row) => row.draft.gift ?? []);
  const by = <K>(keyOf: (gift: (typeof gifts)[number]) => K): { key: K; count: number; cents: Cents }[] => {
    const sums = new Map<K, { key: K; count: number; cents: Cents }>();
    for (const gift of gifts) {
      const key = keyOf(gift);
      const sum = sums.get(key) ?? { key, count: 0, cents: 0 };
      sums.set(key, { key, count: sum.count + 1, cents: sum.cents + gift.cents });
    }
    return [...sums.values()].sort((a, b) => b.cents - a.cents);
  };
  const known = new Set(good.flatMap((row) => row.supporterId ?? []));
  return {
    rows: checked.length,
    known: known.size,
    new: good.filter((row) => row.status === 'new' && row.sameAs === null).length,
    gifts: gifts.length,
    cents: gifts.reduce((sum, gift) => sum + gift.cents, 0),
    byFund: by((gift) => gift.fundId).map(({ key, ...sum }) => ({ fundId: key, ...sum })),
    byMethod: by((gift) => gift.method).map(({ key, ...sum }) => ({ method: key, ...sum })),
    wrong: checked.length - good.length,
  };
}

/** What was expected of a sheet or batch; null where nobody said. */
export interface ControlTotals {
  count: number | null;
  cents: Cents | null;
}

/** How far the gifts are from the control totals, above zero for too many; nulls count as met. */
export function controlDifference(
  control: ControlTotals,
  sum: { count: number; cents: Cents },
): ControlTotals & { balanced: boolean } {
  const count = control.count === null ? null : sum.count - control.count;
  const cents = control.cents === null ? null : sum.cents - control.cents;
  return { count, cents, balanced: (count ?? 0) === 0 && (cents ?? 0) === 0 };
}
