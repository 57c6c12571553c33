import { named } from '@tallystick/core/history';
import type { CreditChoice } from '@tallystick/core/totals';
import { flag, long, maybe, outside, ref, setUp, table, text } from '../platform/tables.ts';
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
  /** JSON of how it is shown. */
  view: long,
  /** The tag that those who match have, as long as they do. */
  tag_id: maybe(ref).says('Standing tag', named('tag')),
  /** Whether everyone sees it, or its owner alone. */
  shared: flag.says('Shared'),
});
outside('segment_count', 'what a segment counted on a day, to tell how that changes');
outside('segment_view', 'how each user looks at a segment');
outside('segment_use', 'when a segment was last used');
outside('segment_favourite', 'what each user likes to see first');

export type SegmentRecord = RowOf<typeof SegmentTable>;
