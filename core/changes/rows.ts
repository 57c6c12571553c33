/** One column's value as the database gives it; JSON columns are kept as their text. */
export type Value = string | number | null;
export type Row = Readonly<Record<string, Value>>;

/**
 * What one write did to one row. Inserted: `before` is null and `after` the whole row. Deleted: the reverse.
 * Updated: both hold only the columns that changed, so an unchanged column never blocks an undo.
 */
export interface RowChange {
  table: string;
  id: number;
  before: Row | null;
  after: Row | null;
}
