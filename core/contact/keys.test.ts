import { describe, expect, it } from 'vitest';
import { addressKey, phoneKey, postalKey } from './index.ts';

/* What ways to reach somebody are known by, however they are written. */

describe('is one', () => {
  it.each([
    [phoneKey, '(775) 555-0142', '+1 775 555 0142'],
    [phoneKey, '775.555.0142', '7755550142'],
    [postalKey, '89801-1234', '89801'],
    [postalKey, 'k1a 0b1', 'K1A0B9'],
  ])('%#', (keyOf, one, other) => expect(keyOf(one)).toBe(keyOf(other)));

  const at = (street: string, postal: string, city = 'Elko') => addressKey({ street, postal, city });
  it.each([
    [at('4 Lyra Road', '89801'), at('4 LYRA RD.', '89801-7777')],
    [at('P.O. Box 7', '89801'), at('PO Box 7', '89801')],
    [at('4 Lyra Rd', '', 'Elko'), at('4 Lyra Rd', '', 'ELKO')],
  ])('%s', (one, other) => expect(one).toBe(other));
});

describe('is not', () => {
  const at = (street: string, postal: string, city = 'Elko') => addressKey({ street, postal, city });
  it.each([
    [phoneKey('775-555-0142'), phoneKey('775-555-0143')],
    [at('4 Lyra Rd', '89801'), at('5 Lyra Rd', '89801')],
    [at('4 Lyra Rd', '89801'), at('4 Lyra Rd', '89802')],
    [at('4 Lyra Rd', '', 'Elko'), at('4 Lyra Rd', '', 'Reno')],
  ])('%s', (one, other) => expect(one).not.toBe(other));
});
