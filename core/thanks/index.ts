/** `2026-004117`: the year of issue and the place in that year's gapless series. */
export function receiptNumber(year: number, sequence: number): string {
  return `${year}-${String(sequence).padStart(6, '0')}`;
}

/** What decides how a receipt travels. */
export interface ReceiptSubject {
  email: string | null;
  deceased: boolean;
  emailRefused: boolean;
  emailBounced: boolean;
}

export type ReceiptChannel = { channel: 'email'; address: string } | { channel: 'print'; because: string };

/**
 * How a receipt travels. A receipt answers a gift, so 'no e-mail appeals' does not stop it, but a wish for no
 * e-mail does; whoever cannot get it by e-mail gets it on paper.
 */
export function receiptChannel(subject: ReceiptSubject): ReceiptChannel {
  if (subject.deceased) return { channel: 'print', because: 'deceased' };
  if (subject.email === null) return { channel: 'print', because: 'no e-mail address' };
  if (subject.emailBounced) return { channel: 'print', because: 'e-mail bounced' };
  if (subject.emailRefused) return { channel: 'print', because: 'wants no e-mail' };
  return { channel: 'email', address: subject.email };
}
