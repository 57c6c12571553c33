import { addDays } from '../dates/index.ts';
import type { IsoDate } from '../dates/index.ts';
import type { Channel, HoldReason, Purpose, SendingSubject, Wish } from './kinds.ts';

const CHANNELS: Record<Channel, { wish: Wish; refused: HoldReason; missing: HoldReason; bad: HoldReason }> = {
  email: { wish: 'no_email', refused: 'wants no e-mail', missing: 'no e-mail address', bad: 'e-mail bounced' },
  mail: { wish: 'no_mail', refused: 'wants no mail', missing: 'no address', bad: 'address is undeliverable' },
  call: { wish: 'no_calls', refused: 'wants no calls', missing: 'no telephone', bad: 'telephone is marked bad' },
};

/**
 * Why a supporter is held back from a way of sending, the weightiest reason first, or null when nothing holds them back.
 */
export function heldBack(
  channel: Channel,
  purpose: Purpose,
  subject: SendingSubject,
  today: IsoDate,
): HoldReason | null {
  const { wish, refused, missing, bad } = CHANNELS[channel];
  const wants = (name: Wish): boolean => subject.wishes.includes(name);
  if (subject.trashed) return 'in the trash';
  if (wants('deceased')) return 'deceased';
  if (wants(wish)) return refused;
  if (purpose !== 'receipt') {
    if (wants('receipts_only')) return 'wants receipts only';
    if (purpose === 'appeal' && wants('no_solicitation')) return 'does not want to be asked';
    if (wants('once_a_year') && subject.lastSentOn !== null && subject.lastSentOn > addDays(today, -365))
      return 'was written to within a year';
  }
  const reach = subject.reach[channel];
  if (reach === null) return missing;
  return reach.bad ? bad : null;
}
