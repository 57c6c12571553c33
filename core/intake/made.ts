import { oneLine } from '../names/index.ts';
import { planOf } from './cells.ts';
import type { IntakeColumn } from './fields.ts';

/* Columns that a file does not have and that are made of its own: several joined, or a part of one. */

/** The nth part, counted from the end where it is below zero; all after the first; null: several joined. */
export type MadePart = number | 'rest' | null;

/** A column made of others, which stand before it. */
export interface MadeColumn {
  name: string;
  /** The places of the columns it is made of: those of the file, then those made before it. */
  from: number[];
  /** What stands between the parts. */
  sign: string;
  part: MadePart;
}

export const MOST_MADE = 20;

/** What one made column holds, of the cells before it. */
export function madeOf({ from, sign, part }: Omit<MadeColumn, 'name'>, cells: readonly string[]): string {
  const texts = from.map((at) => oneLine(cells[at] ?? ''));
  if (part === null) return texts.filter((text) => text !== '').join(sign);
  const [text = ''] = texts;
  const space = sign.trim() === '';
  const parts = (space ? text.split(/\s+/) : text.split(sign)).map((one) => one.trim());
  if (part === 'rest') return parts.slice(1).join(space ? ' ' : sign);
  return parts.at(part < 0 ? part : part - 1) ?? '';
}

/**
 * The cells of a row with those that are made of them after the columns of the file; what stands beyond those comes
 * last, so that the row is still too long. A row that was cut off stays as short as it is.
 */
export function withMade(
  made: readonly MadeColumn[],
  cells: readonly string[],
  width: number,
  columns: readonly (IntakeColumn | null)[],
): string[] {
  if (made.length === 0 || isCutOff(columns, cells, width, made)) return [...cells];
  const all = cells.slice(0, width);
  while (all.length < width) all.push('');
  for (const column of made) all.push(madeOf(column, all));
  return [...all, ...cells.slice(width)];
}

/** Whether a row ends before its amount, so that it may have lost it. */
export function isCutOff(
  columns: readonly (IntakeColumn | null)[],
  cells: readonly string[],
  width = columns.length,
  made: readonly MadeColumn[] = [],
): boolean {
  const at = planOf(columns).at.get('amount') ?? -1;
  return lastSource(at, width, made) >= cells.length;
}

/** The last column of the file that a column is made of; itself where it is of the file, -1 where it is neither. */
function lastSource(at: number, width: number, made: readonly MadeColumn[]): number {
  if (at < width) return at;
  const from = made[at - width]?.from ?? [];
  return Math.max(-1, ...from.map((one) => (one < at ? lastSource(one, width, made) : -1)));
}

/** The columns that others are made of which have a place: they are not left out. */
export function usedIn(
  made: readonly MadeColumn[],
  columns: readonly (IntakeColumn | null)[],
  width: number,
): Set<number> {
  const used = new Set<number>();
  for (const [index, { from }] of [...made.entries()].reverse())
    if (columns[width + index] || used.has(width + index)) for (const at of from) used.add(at);
  return used;
}

/** What is wrong with a column that is to be made; null where nothing is. */
export function madeFault(made: readonly MadeColumn[], width: number): string | null {
  for (const [index, { name, from, part }] of made.entries()) {
    if (from.some((at) => at >= width + index)) return `“${name}” is made of a column that does not stand before it.`;
    if (part !== null && from.length !== 1) return `“${name}” is a part of one column; ${from.length} are named.`;
    if (part === 0) return `“${name}” is no part: they are counted from 1.`;
  }
  return null;
}

/** A setting without one of its made columns, and without those made of that; what stands after them moves up. */
export function withoutMade<C>(
  setting: {
    made: readonly MadeColumn[];
    columns: readonly (IntakeColumn | null)[];
    care: Readonly<Record<string, C>>;
  },
  gone: number,
  width: number,
): { made: MadeColumn[]; columns: (IntakeColumn | null)[]; care: Record<string, C> } {
  const away = new Set([width + gone]);
  for (const [index, { from }] of setting.made.entries()) if (from.some((at) => away.has(at))) away.add(width + index);
  const places = [...Array(width + setting.made.length).keys()].filter((at) => !away.has(at));
  const moved = new Map(places.map((before, after) => [before, after]));
  return {
    made: setting.made.flatMap((one, index) =>
      away.has(width + index) ? [] : [{ ...one, from: one.from.map((at) => moved.get(at) ?? at) }],
    ),
    columns: places.map((at) => setting.columns[at] ?? null),
    care: Object.fromEntries(
      places.flatMap((before, after) => {
        const care = setting.care[String(before)];
        return care === undefined ? [] : [[String(after), care]];
      }),
    ),
  };
}
