import type { Message } from '../platform/mail.ts';
import { maybe, ref, stamp, table, text, whole } from '../platform/tables.ts';
import type { RowOf } from '../platform/tables.ts';

export const DeliveryTable = table(
  'delivery',
  {
    ...{ area: 'outreach', owner: 'supporter_id', topics: ['sent'], merging: 'move', undo: 'rows' },
    called: (row) => `${row['channel'] === 'print' ? 'Letter' : 'E-mail'} “${String(row['subject'])}”`,
    erasing: { blank: { address: '', subject: '', detail: '' } },
  },
  {
    supporter_id: ref,
    /** What it was sent with: the kind of sending and which, as a mailing or an issue of receipts. */
    source_kind: text(20),
    source_id: ref,
    receipt_id: maybe(ref),
    channel: text<'email' | 'print'>(8),
    address: text(254),
    subject: text(200),
    /** queued → sending → sent | bounced | failed | unsure, or queued again; held and print are final from the start. */
    state: text<'queued' | 'sending' | 'sent' | 'bounced' | 'failed' | 'unsure' | 'held' | 'print'>(12).says('State'),
    detail: text(500).says('Detail'),
    /** The job and its attempt that took it last, as `12.1`. */
    taken_by: text(30),
    /** How often the recipient was busy; a server that takes nothing does not count. */
    tries: whole,
    /** When it is tried again; null is at once. */
    due_at: maybe(stamp),
    at: stamp,
    /** When it was first seen to be opened, and whether that is still to be told to those who keep it in memory. */
    opened_at: maybe(stamp),
    untold: whole,
  },
);
export type DeliveryRecord = RowOf<typeof DeliveryTable>;

/** A message, or why it must not go after all. */
export type Composed = { send: Message } | { hold: string };
