/**
 * How a card behaves, by the word its token begins with. `slow` charges and then never answers the first time;
 * `cut` breaks the connection before anything is charged, the first time; `moody` is declined once, then approved.
 */
export const CARDS = {
  good: 'approved',
  declined: 'declined every time',
  expired: 'the card has expired',
  moody: 'declined at first, approved when asked again',
  slow: 'charged, but the first answer never comes',
  cut: 'the connection breaks before the first charge',
  unheard: 'refused as none of the till’s, every time',
  busy: 'too many requests, the first time',
  page: 'a web page in place of an answer, the first time',
} as const;
export type CardKind = keyof typeof CARDS;
