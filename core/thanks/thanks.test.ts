import { describe, expect, it } from 'vitest';
import { receiptChannel, receiptNumber } from './index.ts';

describe('receiptNumber', () => {
  it.each([
    [2026, 1, '2026-000001'],
    [2026, 4117, '2026-004117'],
    [2027, 1_234_567, '2027-1234567'],
  ])('%i, %i is %s', (year, sequence, expected) => expect(receiptNumber(year, sequence)).toBe(expected));
});

const reachable = { email: 'ana@example.org', deceased: false, emailRefused: false, emailBounced: false };
describe('receiptChannel', () => {
  it.each<[Partial<typeof reachable> | { email: null }, unknown]>([
    [{}, { channel: 'email', address: 'ana@example.org' }],
    [{ email: null }, { channel: 'print', because: 'no e-mail address' }],
    [{ emailBounced: true }, { channel: 'print', because: 'e-mail bounced' }],
    [{ emailRefused: true }, { channel: 'print', because: 'wants no e-mail' }],
    [{ deceased: true }, { channel: 'print', because: 'deceased' }],
  ])('%#', (over, expected) => expect(receiptChannel({ ...reachable, ...over })).toEqual(expected));
});
