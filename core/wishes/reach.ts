import type { IsoDate } from '../dates/index.ts';
import { heldBack } from './held.ts';
import type { Channel, HoldReason, Purpose, SendingSubject } from './kinds.ts';

/**
 * How a supporter is reached: by which way and address, with why not by a better one (`instead`), and what is to be
 * looked at before it goes that way (`but`); or why not at all.
 */
export type Reach =
  { by: Channel; address: string; instead: HoldReason | null; but: HoldReason | null } | { held: HoldReason };

/**
 * Whether and how a supporter may be reached for a purpose on a day: the one answer for screens, lists, files, mailings,
 * letters and receipts. Appeals and news go by e-mail, or by the channel that is asked for. A receipt answers a gift,
 * so a wish to get receipts only, or not to be asked, never stops it; whoever cannot get it by e-mail gets it on paper,
 * and what speaks against the post is told with it. Nothing reaches a record in the trash.
 */
export function mayReach(subject: SendingSubject, purpose: Purpose, today: IsoDate, channel: Channel = 'email'): Reach {
  const reason = heldBack(channel, purpose, subject, today);
  if (reason === null) return { by: channel, address: subject.reach[channel]?.address ?? '', instead: null, but: null };
  if (purpose !== 'receipt' || reason === 'in the trash') return { held: reason };
  const but = heldBack('mail', purpose, subject, today);
  return { by: 'mail', address: subject.reach.mail?.address ?? '', instead: reason, but };
}
