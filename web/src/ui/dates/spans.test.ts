import { describe, expect, it } from 'vitest';
import { namedSpans, spanShown } from './spans.ts';

const calendar = { today: '2026-01-15', fiscalYearStart: 7 };
const spans = Object.fromEntries(namedSpans(calendar));
const shown = (from: string, to: string): string => spanShown({ from, to }, calendar, (day) => `<${day}>`);

describe('spans by name', () => {
  it.each([
    ['This month', '2026-01-01', '2026-01-31'],
    ['Last month', '2025-12-01', '2025-12-31'],
    ['The last 30 days', '2025-12-17', '2026-01-15'],
    ['This fiscal year', '2025-07-01', '2026-06-30'],
    ['Last fiscal year', '2024-07-01', '2025-06-30'],
    ['This calendar year', '2026-01-01', '2026-12-31'],
  ])('%s is from %s to %s, both included', (name, from, to) => expect(spans[name]).toEqual({ from, to }));

  it('end with the month, in February too', () =>
    expect(Object.fromEntries(namedSpans({ today: '2024-02-10', fiscalYearStart: 1 }))['This month']).toEqual({
      from: '2024-02-01',
      to: '2024-02-29',
    }));

  it.each([
    ['2026-01-01', '2026-01-31', 'This month'],
    ['2026-01-02', '2026-01-31', '<2026-01-02> to <2026-01-31>'],
    ['2026-01-02', '2026-01-02', '<2026-01-02>'],
    ['2026-01-02', '', 'from <2026-01-02>'],
    ['', '2026-01-02', 'until <2026-01-02>'],
    ['', '', 'any day'],
  ])('%s to %s reads as %s', (from, to, words) => expect(shown(from, to)).toBe(words));
});
