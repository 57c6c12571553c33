import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, dateOfDay, dayNumber } from '../dates/index.ts';
import { datesBetween, FREQUENCIES } from '../schedule/index.ts';
import type { Frequency } from '../schedule/index.ts';
import { amountOn, expected, isPaused, nextTry, recurringNumber, RETRY_DAYS } from './index.ts';
import type { RecurringPlan } from './index.ts';

const plan = (over: Partial<RecurringPlan> = {}): RecurringPlan => ({
  schedule: { start: '2026-01-31', every: 'month', lastDay: false },
  until: null,
  amounts: [{ from: '2026-01-31', cents: 20_00 }],
  pauses: [],
  ...over,
});
const day = fc.integer({ min: dayNumber('2025-01-01'), max: dayNumber('2029-12-31') }).map(dateOfDay);
const plans: fc.Arbitrary<RecurringPlan> = fc.record({
  schedule: fc.record({
    start: day,
    every: fc.constantFrom(...(Object.keys(FREQUENCIES) as Frequency[])),
    lastDay: fc.boolean(),
  }),
  until: fc.option(day),
  amounts: fc.array(fc.record({ from: day, cents: fc.integer({ min: 1, max: 90_000 }) }), {
    minLength: 1,
    maxLength: 4,
  }),
  pauses: fc.array(
    fc
      .record({ from: day, days: fc.option(fc.nat(200)) })
      .map(({ from, days }) => ({ from, until: days === null ? null : addDays(from, days) })),
    { maxLength: 2 },
  ),
});

describe('amountOn', () => {
  const changed = plan({
    amounts: [
      { from: '2026-01-31', cents: 20_00 },
      { from: '2026-06-01', cents: 35_00 },
      { from: '2026-04-01', cents: 25_00 },
    ],
  });
  it.each([
    ['2025-12-31', 20_00],
    ['2026-01-31', 20_00],
    ['2026-03-31', 20_00],
    ['2026-04-01', 25_00],
    ['2026-05-31', 25_00],
    ['2026-06-01', 35_00],
    ['2030-01-01', 35_00],
  ])('on %s', (date, cents) => expect(amountOn(changed, date)).toBe(cents));
});

describe('isPaused', () => {
  const paused = plan({
    pauses: [
      { from: '2026-03-01', until: '2026-04-30' },
      { from: '2026-09-01', until: null },
    ],
  });
  it.each([
    ['2026-02-28', false],
    ['2026-03-01', true],
    ['2026-04-30', true],
    ['2026-05-01', false],
    ['2031-01-01', true],
  ])('on %s: %s', (date, is) => expect(isPaused(paused, date)).toBe(is));
});

describe('expected', () => {
  it('leaves out pauses, stops at the end, and has the amount of each day', () =>
    expect(
      expected(
        plan({
          until: '2026-07-15',
          amounts: [
            { from: '2026-01-31', cents: 20_00 },
            { from: '2026-06-01', cents: 30_00 },
          ],
          pauses: [{ from: '2026-03-01', until: '2026-04-30' }],
        }),
        '2026-01-01',
        '2026-12-31',
      ),
    ).toEqual([
      { due: '2026-01-31', cents: 20_00 },
      { due: '2026-02-28', cents: 20_00 },
      { due: '2026-05-31', cents: 20_00 },
      { due: '2026-06-30', cents: 30_00 },
    ]));

  it('is within the span, on dates of the schedule, on no paused day, at the amount of the day', () => {
    fc.assert(
      fc.property(plans, day, fc.nat(900), (given, from, days) => {
        const to = addDays(from, days);
        const dates = new Set(datesBetween(given.schedule, from, to));
        const list = expected(given, from, to);
        for (const one of list) {
          expect(dates.has(one.due)).toBe(true);
          expect(isPaused(given, one.due)).toBe(false);
          expect(one.cents).toBe(amountOn(given, one.due));
          expect(given.until === null || one.due <= given.until).toBe(true);
        }
        const left = [...dates].filter((date) => !list.some((one) => one.due === date));
        for (const date of left)
          expect(isPaused(given, date) || (given.until !== null && date > given.until)).toBe(true);
      }),
      { numRuns: 80 },
    );
  });

  it('of two spans that touch is that of both together', () => {
    fc.assert(
      fc.property(plans, day, fc.nat(300), fc.nat(300), (given, from, first, second) => {
        const [middle, to] = [addDays(from, first), addDays(from, first + 1 + second)];
        expect([...expected(given, from, middle), ...expected(given, addDays(middle, 1), to)]).toEqual(
          expected(given, from, to),
        );
      }),
      { numRuns: 60 },
    );
  });
});

describe('nextTry', () => {
  it('asks again after the stated days, then hands over to a person', () =>
    expect([1, 2, 3, 4].map((failures) => nextTry(failures, '2026-02-27'))).toEqual([
      '2026-02-28',
      '2026-03-02',
      '2026-03-06',
      null,
    ]));
  it('has days that grow', () => expect([...RETRY_DAYS].sort((a, b) => a - b)).toEqual([...RETRY_DAYS]));
});

it('is numbered for people', () => expect(recurringNumber(77)).toBe('R-77'));
