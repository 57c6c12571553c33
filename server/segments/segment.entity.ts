import type { CreditChoice } from '@tallystick/core/totals';
import { day, flag, long, maybe, ref, setUp, table, text } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';

export const SegmentTable = table('segment', setUp('segments', 'Segment'), {
  name: text(120).says('Name'),
  /** JSON of the group of conditions. */
  conditions: long,
  /** Whose giving counts. */
  credit: text<CreditChoice>(12).says('Credit'),
  note: text(1000).says('Note'),
  folder: text(80).says('Folder'),
  owner_id: maybe(ref),
  /** Whether everyone sees it, or its owner alone. */
  shared: flag.says('Shared'),
  used_on: maybe(day),
});
export type SegmentRecord = RowOf<typeof SegmentTable>;
