import type { Cell, CellType } from '@tallystick/core/segments';
import type { Formats } from '../organization.tsx';
import { bandShown } from './bands.ts';

/** A cell of a table as it is read. */
export function cellShown(type: CellType | null, cell: Cell | undefined, formats: Formats): string {
  if (cell === null || cell === undefined) return '';
  if (type === 'money') return formats.money(Number(cell));
  if (type === 'date') return formats.date(String(cell));
  return type === 'number' ? formats.count(Number(cell)) : String(cell);
}

/** What the rows of a group share: a band of figures, a month, or a word. */
export function groupTitle(type: CellType | null, key: string, formats: Formats): string {
  if (key === '') return 'Nothing on record';
  if (type === 'money') return bandShown(Number(key), 100, formats.money);
  if (type === 'number') return bandShown(Number(key), 1, formats.count);
  return type === 'date' ? formats.month(key) : key;
}
