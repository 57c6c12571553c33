import { describe, expect, it } from 'vitest';
import { describeRepeat, nextDue } from './index.ts';
import type { Repeat } from './index.ts';

describe('nextDue', () => {
  it.each<[string, Repeat, number, string | null]>([
    ['2026-11-25', 'never', 25, null],
    ['2026-11-25', 'weekly', 25, '2026-12-02'],
    ['2026-12-25', 'fortnightly', 25, '2027-01-08'],
    ['2026-11-25', 'monthly', 25, '2026-12-25'],
    ['2026-01-31', 'monthly', 31, '2026-02-28'],
    ['2026-02-28', 'monthly', 31, '2026-03-31'],
    ['2028-01-31', 'monthly', 31, '2028-02-29'],
    ['2026-11-30', 'quarterly', 30, '2027-02-28'],
    ['2027-02-28', 'quarterly', 30, '2027-05-30'],
    ['2028-02-29', 'yearly', 29, '2029-02-28'],
    ['2031-02-28', 'yearly', 29, '2032-02-29'],
  ])('%s %s (%i) is %s', (due, repeat, day, next) => expect(nextDue(due, repeat, day)).toBe(next));
});

it.each<[Repeat, number, string]>([
  ['monthly', 25, 'each month, on the 25th'],
  ['monthly', 1, 'each month, on the 1st'],
  ['quarterly', 22, 'each quarter, on the 22nd'],
  ['monthly', 13, 'each month, on the 13th'],
  ['weekly', 3, 'each week'],
])('%s %i reads %s', (repeat, day, text) => expect(describeRepeat(repeat, day)).toBe(text));
