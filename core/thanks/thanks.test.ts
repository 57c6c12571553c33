import { describe, expect, it } from 'vitest';
import { receiptNumber } from './index.ts';

describe('receiptNumber', () => {
  it.each([
    [2026, 1, '2026-000001'],
    [2026, 4117, '2026-004117'],
    [2027, 1_234_567, '2027-1234567'],
  ])('%i, %i is %s', (year, sequence, expected) => expect(receiptNumber(year, sequence)).toBe(expected));
});
