import { describe, expect, it } from 'vitest';
import { counted, pluralOf } from './index.ts';

describe('counted', () => {
  it.each([
    [0, 'gift', undefined, '0 gifts'],
    [1, 'gift', undefined, '1 gift'],
    [2, 'gift', undefined, '2 gifts'],
    [2310, 'gift', undefined, '2,310 gifts'],
    [1, 'batch', 'batches', '1 batch'],
    [21, 'batch', 'batches', '21 batches'],
    [1, 'row has', 'rows have', '1 row has'],
    [-1, 'gift', undefined, '-1 gift'],
  ] as const)('%i %s', (count, one, many, expected) => expect(counted(count, one, many)).toBe(expected));
  it('groups digits as the locale does', () => expect(counted(2310, 'gift', undefined, 'de-DE')).toBe('2.310 gifts'));
  it('gives the word alone', () => expect([pluralOf(1, 'gift'), pluralOf(3, 'gift')]).toEqual(['gift', 'gifts']));
});
